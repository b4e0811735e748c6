"""Which of the usual cautions a drill calls for. They defer to law, doctors and instructors."""

from __future__ import annotations

from hastatus.core.drill import Drill
from hastatus.core.safety import (
    AID,
    EYES_CLOSED,
    FLASHING,
    FLOOR,
    LOUD,
    MINORS,
    SELF_DEFENSE,
)


def cautions(drill: Drill) -> list[str]:
    """The cautions shown before a drill and on its card."""
    channels = {cue.channel for cue in drill.cues}
    steps = [step for cue in drill.cues for chain in cue.asks for step in chain.steps]
    techniques = [drill.technique(step.technique) for step in steps]
    moves = any(step.footwork for step in steps) or any(
        technique is not None and technique.limb in ("feet", "foot", "shin", "knee")
        for technique in techniques
    )
    leaves = any(step.technique in ("leave", "shove_off") for step in steps)
    shown = [
        (FLASHING, "see" in channels),
        (LOUD, "hear" in channels),
        (FLOOR, moves),
        (EYES_CLOSED, drill.place.eyes_closed),
        (SELF_DEFENSE, leaves),
        (MINORS, True),
        (AID, True),
    ]
    return [words for words, wanted in shown if wanted]
