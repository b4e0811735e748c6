"""Which of the usual cautions a drill calls for. They defer to law, doctors and instructors."""

from __future__ import annotations

from collections.abc import Iterable

from hastatus.core.drill.cue import Step
from hastatus.core.drill.header import Sheet
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.solo import Drill
from hastatus.core.trade.technique import Technique

FLASHING = (
    "Flashing light can trigger seizures. If anybody here is sensitive to it, use sound only."
)
LOUD = "Sounds start quiet. Turn them up only as far as needed."
FLOOR = "Clear the floor before footwork."
EYES_CLOSED = "With eyes closed: clear the floor, and somebody watches."
AGREED = "Agree on contact level and stop word before you start. The word stops everybody at once."
NO_GEAR = "No gear, no hard contact: a pulled touch at drill speed needs none."
BARE_HANDS = "Bare hands: slow. A bare fist on a skull breaks the hand: use the palm."
SHINS = "A shin on an elbow breaks the shin: slow and placed."
THROWN = "Knees and thrown kicks only on a pad or guard."
SWINGING = "A swinging ball or a low ceiling: look who stands behind."
HEAD_KNOCK = (
    "Head knock: stop, off the floor, seen by a medical professional, and no contact work until "
    "cleared."
)
MINORS = "Minors: a guardian's consent and the club's own rules come first."
SELF_DEFENSE = (
    "In self-defense the first choice is distance and leaving; force is for getting away and stops "
    "when the threat stops. What is lawful differs from place to place: ask local law and a "
    "licensed instructor."
)
AID = "This is a training aid, no medical or legal advice."
CAUTIONS: tuple[str, ...] = (
    FLASHING, LOUD, FLOOR, EYES_CLOSED, AGREED, NO_GEAR, BARE_HANDS, SHINS, THROWN, SWINGING,
    HEAD_KNOCK, MINORS, SELF_DEFENSE, AID,
)  # fmt: skip
"""Every caution, as the sign-in page and the account show them."""


def cautions(drill: Drill | PartnerDrill, *, bare: bool = False) -> list[str]:
    """The cautions shown before a drill and on its card. bare: somebody wears no gloves tonight,
    whatever the drill asks for."""
    return _solo(drill) if isinstance(drill, Drill) else _partner(drill, bare)


def _partner(drill: PartnerDrill, bare_tonight: bool) -> list[str]:
    steps = [step for passage in drill.passages for step in passage.steps]
    bare = bare_tonight or any("gloves" not in drill.gear_on(rung) for rung in drill.rungs)
    striking = [technique for technique in _techniques(drill, steps) if technique.strikes]
    limbs = {technique.limb for technique in striking}
    shown = [
        (AGREED, True),
        (NO_GEAR, any(step.contact != "none" for step in steps)),
        (BARE_HANDS, bare),
        (SHINS, "shin" in limbs),
        (THROWN, bool(limbs & {"shin", "foot", "knee"})),
        (HEAD_KNOCK, True),
        (FLOOR, True),
        (EYES_CLOSED, any(rung.eyes_closed for rung in drill.rungs)),
        (SELF_DEFENSE, any(step.technique in ("leave", "shove_off") for step in steps)),
        (MINORS, True),
        (AID, True),
    ]
    return [words for words, wanted in shown if wanted]


def _techniques(drill: Sheet, steps: Iterable[Step | PartnerStep]) -> list[Technique]:
    techniques = (drill.technique(step.technique) for step in steps)
    return [technique for technique in techniques if technique is not None]


def _solo(drill: Drill) -> list[str]:
    channels = {cue.channel for cue in drill.cues}
    steps = [step for cue in drill.cues for chain in cue.asks for step in chain.steps]
    techniques = _techniques(drill, steps)
    moves = any(step.footwork for step in steps) or any(
        technique.limb in ("feet", "foot", "shin", "knee") for technique in techniques
    )
    led = {rung.guide.against for rung in drill.rungs if rung.guide}
    leaves = any(step.technique in ("leave", "shove_off") for step in steps)
    shown = [
        (FLASHING, "see" in channels),
        (LOUD, "hear" in channels or bool(led)),
        (FLOOR, moves or bool(led)),
        (EYES_CLOSED, drill.place.eyes_closed),
        (SWINGING, any(technique.family == "roll" for technique in techniques) or "ball" in led),
        (SELF_DEFENSE, leaves),
        (MINORS, True),
        (AID, True),
    ]
    return [words for words, wanted in shown if wanted]
