"""The drill every club starts with: two sounds to block, two lights to strike."""

from __future__ import annotations

from hastatus.core.drill import (
    Answer,
    Cue,
    Drill,
    Light,
    Mark,
    Overlap,
    Rounds,
    Rung,
    Sound,
    Waiting,
)


def block_on_sound_strike_on_light() -> Drill:
    """High blocks on two sounds, straights on two lights; slow and apart, faster, overlapping."""
    return Drill(
        title="Block the sound, strike the light",
        notes=(
            "High block: hand from brow to crown, elbow up. Hand home before the next cue. "
            "Look at the middle of the screen, not at one side."
        ),
        cues=(
            Cue(
                key="low_knock",
                stimulus=Sound(sound="low_knock"),
                mark=Mark(shape="circle", colour="blue"),
                answer=Answer(technique="high_block", side="lead"),
            ),
            Cue(
                key="bell",
                stimulus=Sound(sound="bell"),
                mark=Mark(shape="diamond", colour="purple"),
                answer=Answer(technique="high_block", side="rear"),
            ),
            Cue(
                key="lead_light",
                stimulus=Light(place="lead"),
                mark=Mark(shape="triangle", colour="vermillion"),
                answer=Answer(technique="straight", side="lead"),
            ),
            Cue(
                key="rear_light",
                stimulus=Light(place="rear"),
                mark=Mark(shape="square", colour="orange"),
                answer=Answer(technique="straight", side="rear"),
            ),
            Cue(
                key="hold_light",
                stimulus=Light(place="middle"),
                mark=Mark(shape="ring", colour="sky"),
            ),
        ),
        rungs=(
            Rung(
                name="slow and apart",
                window_s=1.4,
                goal_window_s=0.9,
                waiting=Waiting(least_s=1.0, mean_s=0.9, most_s=5.0),
                catch_share=0.1,
            ),
            Rung(
                name="faster",
                window_s=1.0,
                goal_window_s=0.75,
                waiting=Waiting(least_s=0.5, mean_s=0.6, most_s=4.0),
                catch_share=0.1,
            ),
            Rung(
                name="overlapping",
                window_s=1.0,
                goal_window_s=0.7,
                waiting=Waiting(least_s=0.5, mean_s=0.6, most_s=4.0),
                overlap=Overlap(share=0.25, least_gap_s=0.15, most_gap_s=0.45),
                catch_share=0.1,
            ),
        ),
        rounds=Rounds(count=3, duration_s=60, rest_s=30, rehearse=True),
    )
