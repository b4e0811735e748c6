"""Starter drills about structure, footwork and distance."""

from __future__ import annotations

from hastatus.core.drill.settings import FirstOrder, Fixed, Jittered, Rotating, Rounds, SetOrder
from hastatus.core.drill.solo import Drill, Pace, Place, Rung
from hastatus.core.starter.build import (
    called,
    chain,
    counter,
    leave,
    pictured,
    pointed,
    step,
)

_ON_THE_SPOT = Pace(rule="hold", most_s=5)


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
            Rung(name="hold", window_s=3, goal_window_s=3, cues=("hold",), order=SetOrder(),
                 waiting=Fixed(wait_s=2),
                 rounds=Rounds(count=1, ends="count", cues=4, calls=("time",))),
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
            "Three kicks in a fixed set: in place, stepping, spinning. Learn for each the foot "
            "that steps and the arm that meets the calf: the same arm for two of them, the other "
            "for the third. Never show the back. For sport only; alone it is footwork; no touch "
            "without gear."
        ),
        look="At the hip of an imagined partner.",
        warm_up="Hips and ankles; the three steps slowly, five of each.",
        watch=("shows the back", "leg left where it is", "extra step up"),
        level="settled",
        focus=("kicks", "footwork"),
        place=Place(floor_m=3),
        cues=(
            called("in_place", "one", "circle blue",
                   chain(step("lead calf_meet", footwork="step_off")), attack=_kick("body_kick")),
            called("stepping", "two", "square orange",
                   chain(step("lead calf_meet", footwork="retreat")), attack=_kick("side_kick")),
            called("spinning", "three", "triangle vermillion",
                   chain(step("rear calf_meet", footwork="turn_out")), attack=_kick("back_kick")),
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


def _kick(technique: str) -> dict[str, str]:
    return {"technique": technique, "side": "rear"}


def side_roll() -> Drill:
    """Side to side structure roll on a pivot; pressure hold against a wall."""
    return Drill(
        title="Side roll on the spot",
        notes=(
            "Roll the structure from side to side on the pivot of the foot. Then press against the "
            "wall and hold it without leaning. With a partner, being held is the cue."
        ),
        warm_up="Ankles, hips, spine.",
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
