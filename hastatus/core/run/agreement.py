"""What is agreed before a partner drill, and why one does not start.

Contact level and stop word are agreed first; a drill above what either may do does not start. After
a head knock nobody does anything with a partner for a day, whatever is cleared, nor contact work
until a medical clearance is written down (see `hold`).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from hastatus.core.drill.checks.contact import cap_findings
from hastatus.core.drill.checks.finding import Finding
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.fields import Document, Line
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.core.trade.contact import CONTACTS, Contact
from hastatus.core.trade.gear import GEAR_NAMES, Gear

HELD: tuple[Gear, ...] = ("focus_pads", "kick_shield", "paddles")
"""Gear that the club has and somebody holds, not what each brings."""


class Agreed(Document):
    """What the two have agreed: how hard, and the word that stops everybody at once."""

    contact: Contact
    stop_word: Annotated[Line, Field(max_length=30)]


@dataclass(frozen=True, slots=True)
class Partner:
    """Somebody who takes part. contact: the hardest they may take part in. hold: after a head
    knock; None: free to take part."""

    name: str
    contact: Contact
    gear: tuple[Gear, ...]
    hold: MedicalHold | None = None


@dataclass(frozen=True, slots=True)
class Refusal:
    """Why a drill does not start. where: the field or the step. what: in a plain sentence."""

    where: str
    what: str


@dataclass(frozen=True, slots=True)
class PartnerReadiness:
    """What one who takes part brings to a rung, in words. lacks: asked for here, and not there."""

    name: str
    contact: Contact
    wears: tuple[str, ...]
    lacks: tuple[str, ...]
    hold: MedicalHold | None


def readiness(
    drill: PartnerDrill, rung: PartnerRung, partners: Sequence[Partner]
) -> list[PartnerReadiness]:
    """What each of them brings."""
    asked = asked_gear(drill, rung)
    return [
        PartnerReadiness(
            name=partner.name,
            contact=partner.contact,
            wears=tuple(GEAR_NAMES[gear] for gear in partner.gear),
            lacks=tuple(GEAR_NAMES[gear] for gear in asked if gear not in partner.gear),
            hold=partner.hold,
        )
        for partner in partners
    ]


def on_the_floor(drill: PartnerDrill, rung: PartnerRung) -> list[str]:
    """What the club has and somebody holds on this rung."""
    gear = drill.gear_on(rung)
    return [GEAR_NAMES[item] for item in gear if item in HELD]


def hardest(drill: PartnerDrill, rung: PartnerRung) -> Contact:
    """The hardest contact that a rung comes to."""
    reached = [rung.capped(step.contact) for passage in drill.passages for step in passage.steps]
    return max(reached, key=CONTACTS.index, default="none")


def asked_gear(drill: PartnerDrill, rung: PartnerRung) -> tuple[Gear, ...]:
    """What each of them wears on a rung."""
    gear = drill.gear_on(rung)
    return tuple(item for item in gear if item not in HELD)


def refusals(
    drill: PartnerDrill,
    rung: PartnerRung,
    partners: Sequence[Partner],
    agreed: Agreed,
) -> list[Refusal]:
    """Every reason why these partners do not start this rung now; none: they may."""
    return [
        *_people(drill, partners),
        *_holds(drill, rung, partners),
        *_contact(drill, rung, partners, agreed),
        *_gear(drill, rung, partners),
    ]


def _people(drill: PartnerDrill, partners: Sequence[Partner]) -> Iterator[Refusal]:
    wanted = drill.place.people
    if len(partners) != wanted:
        yield Refusal("partners", f"this drill is for {wanted}; there are {len(partners)}")


def _holds(
    drill: PartnerDrill, rung: PartnerRung, partners: Sequence[Partner]
) -> Iterator[Refusal]:
    """Nothing on the day of a head knock, cleared or not; no contact work until it is cleared."""
    contact = hardest(drill, rung) != "none"
    for index, partner in enumerate(partners):
        if partner.hold is None:
            continue
        on = f"{partner.name} had a head knock on {partner.hold.since:%-d %B}"
        if partner.hold.off_until is not None:
            cleared = ", also with a clearance" if partner.hold.cleared else ""
            yield Refusal(
                f"partners.{index}", f"{on}: off the floor, nothing with a partner today{cleared}"
            )
        elif contact and not partner.hold.cleared:
            yield Refusal(
                f"partners.{index}",
                f"{on}: no contact work until a medical clearance is written down",
            )


def _contact(
    drill: PartnerDrill, rung: PartnerRung, partners: Sequence[Partner], agreed: Agreed
) -> Iterator[Refusal]:
    reached = hardest(drill, rung)
    if CONTACTS.index(reached) > CONTACTS.index(agreed.contact):
        yield Refusal(
            "agreement.contact", f"this rung comes to {reached}, agreed is {agreed.contact}"
        )
    for index, partner in enumerate(partners):
        if CONTACTS.index(reached) > CONTACTS.index(partner.contact):
            yield Refusal(
                f"partners.{index}",
                f"this rung comes to {reached}; {partner.name} takes part up to {partner.contact}",
            )


def _gear(drill: PartnerDrill, rung: PartnerRung, partners: Sequence[Partner]) -> Iterator[Refusal]:
    """What somebody lacks, where the rung is not gentle enough without it."""
    if not partners:
        return
    both = set(partners[0].gear).intersection(*(partner.gear for partner in partners))
    only = drill.model_copy(update={"rungs": (rung,)})
    short: list[Finding] = list(cap_findings(only, (*both, *HELD)))
    if not short:
        return
    for index, partner in enumerate(partners):
        missing = [GEAR_NAMES[gear] for gear in asked_gear(drill, rung) if gear not in partner.gear]
        if missing:
            yield Refusal(
                f"partners.{index}",
                f"{partner.name} has no {' and no '.join(missing)}: {short[0].what}",
            )
