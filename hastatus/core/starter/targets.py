"""Starter drills that begin with sounds, lights and targets."""

from __future__ import annotations

from hastatus.core.drill.settings import Announce, Overlap, Rounds, Stacking, Unguessable
from hastatus.core.drill.solo import Drill, Place, Rung
from hastatus.core.starter.build import against, chain, counter, flashed, heard, pictured, step
from hastatus.core.starter.school_lines import follows


def block_on_sound_strike_on_light() -> Drill:
    """High blocks on two sounds, straights on two lights; slow and apart, faster, overlapping."""
    rounds = Rounds(count=3, duration_s=60, rest_s=30, rehearse=True)
    return Drill(
        title="Block the sound, strike the light",
        notes=(
            "High block: hand from brow to crown, elbow up. Hand home before the next cue. "
            "Look at the middle of the screen, not at one side."
        ),
        look="At the middle of the screen.",
        guard="Hands home, a gap of less than a fist.",
        warm_up="Shoulders; ten high blocks and ten straights a side without cues.",
        reason="Ears block and eyes strike, so the two do not wait for each other.",
        schools=follows("order random", "pace measured"),
        watch=("hand not home", "elbow flares", "anticipates"),
        focus=("blocking", "switching"),
        cues=(
            heard("low_knock", "low_knock", "circle blue", chain(step("lead high_block"))),
            heard("bell", "bell", "diamond purple", chain(step("rear high_block"))),
            flashed("lead_light", "lead", "triangle vermillion", chain(step("lead straight"))),
            flashed("rear_light", "rear", "square orange", chain(step("rear straight"))),
            flashed("hold_light", "middle", "ring sky"),
        ),
        rungs=(
            Rung(name="slow and apart", window_s=1.4, goal_window_s=0.9, catch_share=0.1,
                 waiting=Unguessable(least_s=1.0, mean_s=0.9, most_s=5.0), rounds=rounds),
            Rung(name="faster", window_s=1.0, goal_window_s=0.75, catch_share=0.1,
                 waiting=Unguessable(least_s=0.5, mean_s=0.6, most_s=4.0), rounds=rounds),
            Rung(name="overlapping", window_s=1.0, goal_window_s=0.7, catch_share=0.1,
                 waiting=Unguessable(least_s=0.5, mean_s=0.6, most_s=4.0),
                 overlap=Overlap(share=0.25, least_gap_s=0.15, most_gap_s=0.45), rounds=rounds),
        ),
    )  # fmt: skip


def high_and_low() -> Drill:
    """Two targets, two answers, three deliveries; called and shown, later only shown."""

    def rounds(count: int) -> Rounds:
        return Rounds(count=count, duration_s=60, calls=("ten_seconds", "time"))

    return Drill(
        title="High and low targets",
        notes=(
            "The other hand guards. Three deliveries: on the spot, going in, and moving back while "
            "the target comes on."
        ),
        look="At the chest of an imagined partner.",
        warm_up="Footwork along three metres, forward and back.",
        reason="Two heights and two hands: the answer is chosen while the feet move.",
        schools=follows("announce said", "pace measured"),
        watch=("drops the other hand", "extra step up", "cocks the strike first"),
        focus=("targets", "footwork"),
        place=Place(floor_m=3),
        cues=(
            pictured("high_spot", "head_target", "triangle vermillion",
                     chain(step("lead straight", footwork="stay")), announce="high"),
            pictured("low_spot", "body_target", "square orange",
                     chain(step("rear body_straight", footwork="stay")), announce="low"),
            flashed("high_in", "high", "diamond purple",
                    chain(step("lead straight", footwork="advance")), announce="high, in"),
            flashed("low_in", "low", "circle blue",
                    chain(step("rear body_straight", footwork="advance")), announce="low, in"),
            flashed("high_back", "rear_high", "bar green",
                    chain(step("lead straight", footwork="retreat")), announce="high, back"),
            flashed("low_back", "rear_low", "ring sky",
                    chain(step("rear body_straight", footwork="retreat")), announce="low, back"),
        ),
        rungs=(
            Rung(name="called and shown", window_s=1.5, goal_window_s=1.1, lead_in=Announce(),
                 cues=("high_spot", "low_spot"), flash_s=0.8, rounds=rounds(2)),
            Rung(name="only shown", window_s=1.3, goal_window_s=0.9, flash_s=0.6,
                 cues=("high_spot", "low_spot"), rounds=rounds(2)),
            Rung(name="going in", window_s=1.3, goal_window_s=0.95, flash_s=0.6,
                 cues=("high_in", "low_in"), rounds=rounds(3)),
            Rung(name="moving back", window_s=1.3, goal_window_s=0.9, flash_s=0.5,
                 cues=("high_back", "low_back"), rounds=rounds(3)),
        ),
    )  # fmt: skip


def one_thing_more() -> Drill:
    """Slip; slip and parry; with a step; with a counter: five of each, counted aloud."""

    def grows(side: str, back: str) -> tuple[object, ...]:
        return (
            step(f"{side} slip"),
            step(f"{back} parry", within={"value": 1, "unit": "beat"}),
            step(f"{side} step_off", within={"value": 1, "unit": "beat"}),
            counter(f"{back} straight", beats=1),
        )

    counted = Rounds(count=2, ends="count", cues=20, rest_s=30)
    return Drill(
        title="One thing more",
        notes=(
            "Five slips, then five with a parry, five with a step too, five with the counter, "
            "counted aloud. Look at your feet between sets."
        ),
        look="Past the imagined glove, at the shoulder.",
        reason="One thing more at a time: what was learned stays clean.",
        schools=follows("end count", "pace measured"),
        watch=("reaches too far from the body", "hand not home"),
        focus=("slipping", "building up"),
        place=Place(floor_m=2),
        cues=(
            heard("lead_in", "high_knock", "circle blue",
                  chain(*grows("lead", "rear")),  # type: ignore[arg-type]
                  attack=against("straight", "rear")),
            heard("rear_in", "low_knock", "square orange",
                  chain(*grows("rear", "lead")),  # type: ignore[arg-type]
                  attack=against("straight")),
        ),
        rungs=(
            Rung(name="on the beat", window_s=1.4, goal_window_s=1.0, stacking=Stacking(each=5),
                 rounds=counted),
            Rung(name="quicker beat", window_s=1.1, goal_window_s=0.8, tempo_bpm=90,
                 stacking=Stacking(each=5), rounds=counted),
        ),
    )  # fmt: skip
