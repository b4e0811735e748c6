"""The baseline that every club starts with: five kinds of rounds, three of each, five minutes."""

from __future__ import annotations

from hastatus.core.drill.settings import Balanced, Rounds, Unguessable
from hastatus.core.drill.solo import Drill, Judging, Pace, Place, Rung
from hastatus.core.starter.build import chain, flashed, heard, step
from hastatus.core.starter.school_lines import follows


def five_minute_test() -> Drill:
    """One sound, one light, two sounds, four sounds, a sound to leave alone; three times by turns.

    Rounds wander, so one long round of each kind would not tell what choice costs from that.
    """
    turns = (
        ("knock",),
        ("flash",),
        ("knock", "bell"),
        ("knock", "bell", "bang", "beep"),
        ("knock", "leave_it"),
    )
    rounds = Rounds(
        count=15, duration_s=17, rest_s=4, turns=turns, calls=("switch", "time"), rehearse=True
    )
    return Drill(
        title="Five-minute test",
        purpose="baseline",
        notes=(
            "Every few weeks, rested and before the class. Answer as fast as you can be sure of. "
            "The same place, the same device, the same keys."
        ),
        look="At the middle of the screen.",
        guard="Hands home after each answer.",
        warm_up="Two minutes of anything that warms hands and shoulders.",
        reason="The same five minutes each time show what has changed.",
        schools=follows("order random", "pace eye"),
        watch=("anticipates", "hand not home"),
        focus=("reaction", "choice"),
        place=Place(floor_m=1.5),
        pace=Pace(rule="hold"),
        judging=Judging(grace_s=0.3),
        cues=(
            heard("knock", "low_knock", "circle blue", chain(step("lead straight"))),
            heard("bell", "bell", "diamond purple", chain(step("rear straight"))),
            heard("bang", "bang", "square green", chain(step("lead high_block"))),
            heard("beep", "high_tone", "bar orange", chain(step("rear high_block"))),
            flashed("flash", "middle", "triangle vermillion", chain(step("lead straight"))),
            heard("leave_it", "high_knock", "ring sky"),
        ),
        rungs=(
            Rung(
                name="the test",
                window_s=1.2,
                goal_window_s=0.5,
                catch_share=0.3,
                order=Balanced(repeat_cap=4, bag=10),
                waiting=Unguessable(least_s=0.6, mean_s=0.5, most_s=3.0),
                rounds=rounds,
            ),
        ),
    )
