"""Which of the usual cautions a drill calls for. They defer to law, doctors and instructors."""

from __future__ import annotations

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.flash_limit import (
    AGREED,
    AID,
    BARE_HANDS,
    EYES_CLOSED,
    FLASHING,
    FLOOR,
    HEAD_KNOCK,
    LOUD,
    MINORS,
    NO_GEAR,
    SELF_DEFENSE,
)


def cautions(drill: Drill | PartnerDrill) -> list[str]:
    """The cautions shown before a drill and on its card."""
    return _solo(drill) if isinstance(drill, Drill) else _partner(drill)


def _partner(drill: PartnerDrill) -> list[str]:
    steps = [step for passage in drill.passages for step in passage.steps]
    bare = any("gloves" not in drill.gear_on(rung) for rung in drill.rungs)
    shown = [
        (AGREED, True),
        (NO_GEAR, any(step.contact != "none" for step in steps)),
        (BARE_HANDS, bare),
        (HEAD_KNOCK, True),
        (FLOOR, True),
        (EYES_CLOSED, any(rung.eyes_closed for rung in drill.rungs)),
        (SELF_DEFENSE, any(step.technique in ("leave", "shove_off") for step in steps)),
        (MINORS, True),
        (AID, True),
    ]
    return [words for words, wanted in shown if wanted]


def _solo(drill: Drill) -> list[str]:
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
