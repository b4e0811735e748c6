"""Starter drills against swings."""

from __future__ import annotations

from hastatus.core.drill.guide import Count
from hastatus.core.drill.settings import (
    Bursts,
    Jittered,
    ReadySignal,
    Rounds,
    SetOrder,
    Unguessable,
)
from hastatus.core.drill.solo import Drill, Judging, Place, Rung
from hastatus.core.starter.build import against, called, chain, counter, heard, leave, step
from hastatus.core.starter.school_lines import follows


def wide_swing() -> Drill:
    """Four answers to a wide swing; a second swing follows and must be beaten."""
    answers = (
        chain(step("lead forearm_block"), counter("rear straight", beats=1)),
        chain(step("duck"), leave("angle_off", beats=1), counter("rear straight", beats=1)),
        chain(step("double_cover"), counter("shove_off", beats=1)),
        chain(step("rear straight")),
    )
    mirrored = (
        chain(step("rear forearm_block"), counter("lead straight", beats=1)),
        chain(step("duck"), leave("rear angle_off", beats=1), counter("lead straight", beats=1)),
        chain(step("double_cover"), counter("shove_off", beats=1)),
        chain(step("lead straight")),
    )
    return Drill(
        title="Against the wide swing",
        notes=(
            "Any of the answers will do: block and hit, duck and angle off, cover and drive in, or "
            "the straight that is there first. A second swing follows; the hit has to beat it. "
            "Work as the smaller person: inside, or off the line."
        ),
        look="At the chest: a rear swing shows sooner than a lead one.",
        guard="Forearm more than a right angle at the elbow.",
        warm_up="Hips and shoulders; ten blocks a side without cues.",
        reason="A straight line is shorter than a swing, and a second swing is coming.",
        schools=follows("early intent", "look chest"),
        watch=("stands upright in the roll", "waits for the partner", "only blocks, no counter"),
        level="settled",
        focus=("swings", "countering"),
        place=Place(floor_m=3),
        judging=Judging(early="asked"),
        cues=(
            heard("swing_lead", "high_knock", "circle blue", *answers,
                  attack=against("wide_swing")),
            heard("swing_rear", "low_knock", "diamond purple", *mirrored,
                  attack=against("wide_swing", "rear")),
            called("calm", "easy", "ring sky"),
        ),
        rungs=(
            Rung(name="one swing", window_s=1.4, goal_window_s=1.0, chain="answer",
                 rounds=Rounds(count=2, duration_s=60, stances="in_turn", calls=("switch",))),
            Rung(name="hit back", window_s=1.2, goal_window_s=0.9, catch_share=0.1,
                 rounds=Rounds(count=4, duration_s=60, stances="in_turn", calls=("switch",))),
            Rung(name="second swing", window_s=1.2, goal_window_s=0.9, catch_share=0.1,
                 bursts=Bursts(share=0.6, least=2, most=2, inner_s=1.4, extra_share=0.2),
                 waiting=Unguessable(least_s=1.2, mean_s=0.8, most_s=5),
                 rounds=Rounds(count=4, duration_s=60, stances="in_turn", calls=("switch",))),
        ),
    )  # fmt: skip


def under_the_swing() -> Drill:
    """Rolls to both sides under a swinging ball or hook cues: two and stop."""
    return Drill(
        title="Roll under, two and stop",
        notes=(
            "Roll under each hook cue, to the side it comes from. Two and stop. The knees bend and "
            "the upper body stays rounded, never upright. A ball on a string is its own cue: the "
            "app only counts; it drifts and slows after about four, so start it again. The hit at "
            "the end shows how quick the roll was."
        ),
        look="Forward through the whole roll, never at the floor.",
        guard="Hands at the head while the knees bend.",
        warm_up="Knees and hips; ten slow rolls.",
        reason="Knees bend faster than a head can be carried away from a hook.",
        schools=follows("answer evade", "upper_body rounded"),
        watch=("stands upright in the roll", "drops the other hand", "eyes shut / flinches"),
        focus=("swings", "rolling"),
        place=Place(floor_m=2, gear=("ball on a string or a rope, if there is one",)),
        cues=(
            heard("hook_lead", "high_knock", "circle blue",
                  chain(step("rear roll_under"), counter("rear hook", beats=1)),
                  attack=against("hook")),
            heard("hook_rear", "low_knock", "square orange",
                  chain(step("lead roll_under"), counter("lead hook", beats=1)),
                  attack=against("hook", "rear")),
        ),
        rungs=(
            Rung(name="one at a time", window_s=1.4, goal_window_s=1.0, order=SetOrder(),
                 waiting=Jittered(least_s=0.8, most_s=1.8),
                 lead_in=ReadySignal(), rounds=Rounds(count=2, duration_s=45)),
            Rung(name="at random", window_s=1.3, goal_window_s=0.9,
                 rounds=Rounds(count=3, duration_s=60)),
            Rung(name="two and stop", window_s=1.2, goal_window_s=0.85, tempo_bpm=80,
                 bursts=Bursts(least=2, most=2, inner_s=1.6),
                 waiting=Unguessable(least_s=1.5, mean_s=0.7, most_s=5),
                 rounds=Rounds(count=3, duration_s=60)),
            Rung(name="under a ball: two, and stop", window_s=1.2, goal_window_s=1.2,
                 guide=Count(against="ball", to=2, every_s=1.6, after="stop", pause_s=4),
                 rounds=Rounds(count=3, duration_s=60, calls=("time",))),
            Rung(name="under a ball: four, then start it again", window_s=1.2, goal_window_s=1.2,
                 guide=Count(against="ball", to=4, every_s=1.4, after="start the ball", pause_s=5),
                 rounds=Rounds(count=3, duration_s=60, calls=("time",))),
            Rung(name="along a rope", window_s=1.2, goal_window_s=1.2,
                 guide=Count(against="rope", of=("forward under the rope", "back under the rope"),
                             to=4, every_s=1.4, after="check your knees", pause_s=4),
                 rounds=Rounds(count=3, duration_s=60, calls=("time",))),
        ),
    )  # fmt: skip
