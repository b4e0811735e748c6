"""Starter drills about structure, footwork and distance."""

from __future__ import annotations

from math import ceil

from hastatus.core.drill.guide import Count, Hold
from hastatus.core.drill.settings import FirstOrder, Fixed, Jittered, Rotating, Rounds, SetOrder
from hastatus.core.drill.solo import Drill, Pace, Place, Rung
from hastatus.core.starter.build import (
    against,
    called,
    chain,
    counter,
    leave,
    pictured,
    pointed,
    step,
)
from hastatus.core.starter.school_lines import follows

_ON_THE_SPOT = Pace(rule="hold", most_s=5)


def base() -> Drill:
    """Pivots, steps, strikes, step and strike: ten of each, counted aloud, the feet checked between
    sets. A group, or somebody at home, follows along; nothing is timed."""
    pivots = ("pivot, lead foot", "pivot, rear foot", "pivot, both feet")
    steps = ("step forward", "step back", "step, lead side", "step, rear side")
    strikes = ("lead straight", "rear straight", "lead, then rear")
    stepping = ("step and lead", "step, lead, rear")

    def tens(name: str, things: tuple[str, ...], every_s: float) -> Rung:
        guide = Count(of=things, to=10, every_s=every_s, after="check your feet", pause_s=5)
        set_s = 11 * every_s + guide.pause_s
        return Rung(name=name, window_s=2, goal_window_s=2, guide=guide,
                    rounds=Rounds(count=2, duration_s=ceil(set_s * len(things)),
                                  stances="in_turn", calls=("switch", "time")))  # fmt: skip

    return Drill(
        title="Base, by the count, alone",
        notes=(
            "Feet shoulder-wide, a line from heel to toe. The other hand stays at the face. Ten of "
            "each, slow; between sets look at your feet. The second round is the other stance."
        ),
        look="Forward; at your own feet between sets only.",
        guard="Hands come to the face when going in.",
        warm_up="Joints from the neck down, then a ladder or steps in place.",
        reason="Everything later stands on these steps.",
        schools=follows("foot near", "pace eye"),
        watch=("extra step up", "hand not home", "drops the other hand"),
        focus=("base", "feet"),
        place=Place(floor_m=2),
        pace=_ON_THE_SPOT,
        rungs=(
            tens("pivots", pivots, 2.4),
            tens("steps in four directions", steps, 2.4),
            tens("strikes", strikes, 2.4),
            tens("step and strike", stepping, 3.0),
            tens("all of it, faster", (*pivots, *steps, *strikes, *stepping), 1.6),
        ),
    )


def frame_and_step() -> Drill:
    """Hold the arm frame, let go of tension, step to a mark; then step and punch together."""
    return Drill(
        title="Hold the frame, step to the mark",
        notes=(
            "Hold the frame and let go of everything that does not carry it. On the call step to "
            "the mark; later step and punch together. Up to five minutes in all."
        ),
        look="At the mark, then through it.",
        warm_up="Shoulders, hips, ankles.",
        reason="A frame that carries without effort is there when it is needed.",
        schools=follows("upper_body upright", "end count"),
        watch=("leans in / hunches (structure drills)", "cocks the strike first"),
        focus=("structure", "footwork"),
        place=Place(floor_m=2, gear=("tape for a mark",)),
        pace=_ON_THE_SPOT,
        cues=(
            called("hold", "frame", "bar sky", chain(step("arm_frame", hold_s=30))),
            called("mark", "mark", "circle blue", chain(step("step_to_mark"))),
            called("punch", "punch", "triangle vermillion",
                   chain(step("rear straight", footwork="step_to_mark"))),
        ),
        rungs=(
            Rung(name="hold", window_s=3, goal_window_s=3,
                 guide=Hold(start="frame up", every_s=20,
                            let_go=("let go of the shoulders", "let go of the jaw",
                                    "let go of the hands", "breathe out")),
                 rounds=Rounds(count=1, duration_s=300)),
            Rung(name="hold and step", window_s=2.5, goal_window_s=2.5, cues=("hold", "mark"),
                 order=SetOrder(sequence=("hold", "mark", "mark", "mark")),
                 rounds=Rounds(count=1, ends="count", cues=16, calls=("time",))),
            Rung(name="step and punch", window_s=2, goal_window_s=2,
                 order=SetOrder(sequence=("hold", "punch", "punch", "mark", "punch")),
                 rounds=Rounds(count=2, ends="first", duration_s=300, cues=20, calls=("time",))),
        ),
    )  # fmt: skip


def three_kicks_back() -> Drill:
    """For each of three kicks the foot that steps and the arm that meets the calf."""
    return Drill(
        title="Three kicks, one step each",
        notes=(
            "Three kicks in a fixed set: in place, stepping, spinning. One: the front foot steps "
            "back, so the stance changes, and the hand that is now in front drops to the calf. "
            "Two: the front foot crosses back, guard up, step out, the same arm. Three: the front "
            "foot steps round behind, the other arm. Sides are named by the stance you start in. "
            "Never show the back. For sport only; alone it is footwork; no touch without gear."
        ),
        look="At the hip of an imagined partner.",
        warm_up="Hips and ankles; the three steps slowly, five of each.",
        reason="The feet have to know the step before a kick comes.",
        schools=follows("order known", "answer evade"),
        watch=("shows the back", "leg left where it is", "extra step up"),
        level="settled",
        focus=("kicks", "footwork"),
        place=Place(floor_m=3),
        cues=(
            called("in_place", "one", "circle blue",
                   chain(step("rear calf_meet", footwork="step_back")),
                   attack=against("side_kick")),
            called("stepping", "two", "square orange",
                   chain(step("rear calf_meet", footwork="retreat")), attack=against("side_kick")),
            called("spinning", "three", "triangle vermillion",
                   chain(step("lead calf_meet", footwork="turn_out")),
                   attack=against("back_kick", "rear")),
        ),
        rungs=(
            Rung(name="one, two, three", window_s=1.6, goal_window_s=1.2, order=SetOrder(),
                 waiting=Jittered(least_s=0.8, most_s=1.6),
                 rounds=Rounds(count=2, ends="count", cues=15)),
            Rung(name="rotating", window_s=1.5, goal_window_s=1.1, order=Rotating(),
                 rounds=Rounds(count=2, ends="count", cues=18)),
            Rung(name="at random", window_s=1.4, goal_window_s=1.0, order=FirstOrder(),
                 rounds=Rounds(count=3, duration_s=60, stances="in_turn", calls=("switch",))),
        ),
    )  # fmt: skip


def side_roll() -> Drill:
    """Side to side structure roll on a pivot; pressure hold against a wall."""
    return Drill(
        title="Side roll on the spot",
        notes=(
            "Roll the structure from side to side on the pivot of the foot. Then press against the "
            "wall and hold it without leaning. With a partner, being held is the cue."
        ),
        warm_up="Ankles, hips, spine.",
        reason="A structure that turns as one is not pulled apart.",
        schools=follows("upper_body upright", "order known"),
        watch=("leans in / hunches (structure drills)", "standing heel not turned"),
        focus=("structure", "rolling"),
        place=Place(floor_m=1.5, gear=("a wall",)),
        pace=_ON_THE_SPOT,
        cues=(
            pointed("to_lead", "lead", "triangle vermillion", chain(step("lead side_roll"))),
            pointed("to_rear", "rear", "square orange", chain(step("rear side_roll"))),
            called("press", "wall", "bar sky", chain(step("wall_pressure", hold_s=15))),
        ),
        rungs=(
            Rung(name="side to side", window_s=2, goal_window_s=2, cues=("to_lead", "to_rear"),
                 order=SetOrder(), waiting=Fixed(wait_s=1), flash_s=0.8,
                 rounds=Rounds(count=2, duration_s=60)),
            Rung(name="at random", window_s=1.6, goal_window_s=1.6, cues=("to_lead", "to_rear"),
                 flash_s=0.6, rounds=Rounds(count=2, duration_s=60)),
            Rung(name="with the wall", window_s=1.6, goal_window_s=1.6, flash_s=0.6,
                 rounds=Rounds(count=2, duration_s=120, stances="in_turn", calls=("switch",))),
            Rung(name="held against the wall", window_s=1.6, goal_window_s=1.6,
                 guide=Hold(against="wall", start="press, and do not lean", every_s=15,
                            let_go=("let go of the shoulders", "let go of the neck",
                                    "let go of the other arm"), change_s=60),
                 rounds=Rounds(count=1, duration_s=240)),
        ),
    )  # fmt: skip


def keep_the_distance() -> Drill:
    """Somebody steps in: step out. Somebody withdraws: leave. Time is what it buys."""
    return Drill(
        title="Keep your distance",
        notes=(
            "Cues of trouble are fists, raised hands and a step into stance. Step out, hands up "
            "and open. When the other one turns away: leave. Time is what distance buys, and "
            "leaving is the first choice."
        ),
        look="At the whole person: hands, then feet.",
        guard="Hands open, in front, as if to say stop.",
        warm_up="Steps in all four directions, hands up.",
        reason="Distance is time, and time is what gets somebody home.",
        schools=follows("early react", "order random"),
        watch=("stands still", "hands spread", "waits for the partner"),
        focus=("distance", "reading"),
        place=Place(floor_m=4),
        cues=(
            pictured("step_in", "into_stance", "triangle vermillion",
                     chain(step("step_back"), counter("hands_up", beats=1))),
            pictured("fists", "fists", "square orange",
                     chain(step("step_back"), counter("hands_up", beats=1))),
            pictured("raised", "raised_hands", "diamond purple",
                     chain(step("step_off"), counter("hands_up", beats=1))),
            pictured("swing", "swing", "circle blue",
                     chain(step("step_back"), counter("shove_off", beats=1),
                           leave("leave", beats=2))),
            pictured("away", "turned_away", "bar green", chain(step("leave"))),
            pictured("open", "open_hands", "ring sky"),
        ),
        rungs=(
            Rung(name="shown long", window_s=2, goal_window_s=1.4, flash_s=1.5, catch_share=0.2,
                 cues=("step_in", "away", "open"), rounds=Rounds(count=2, duration_s=60)),
            Rung(name="more signs", window_s=1.8, goal_window_s=1.2, flash_s=1.0, catch_share=0.25,
                 rounds=Rounds(count=3, duration_s=60)),
            Rung(name="a glimpse", window_s=1.5, goal_window_s=1.0, flash_s=0.4, catch_share=0.3,
                 rounds=Rounds(count=3, duration_s=60)),
        ),
    )  # fmt: skip
