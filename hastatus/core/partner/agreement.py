"""What is agreed before a partner drill, and why one does not start.

Contact level and stop word are agreed first; a drill above what either may do does not start. After
a head knock nobody does anything with a partner for a day, nor contact work until a medical
clearance is written down: off at once, no return the same day, cleared by a medical professional
(consensus statement on concussion in sport, Amsterdam 2022, from memory).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Annotated

from pydantic import Field

from hastatus.core.partner.caps import cap_findings
from hastatus.core.partner.drill import PartnerDrill, PartnerRung
from hastatus.core.partner.finding import Finding
from hastatus.core.partner.gear import GEAR_NAMES, Gear
from hastatus.core.partner.steps import CONTACTS, Contact
from hastatus.core.text import Document, Line

HELD: tuple[Gear, ...] = ("focus_pads", "kick_shield", "paddles")
"""Gear that the club has and somebody holds, not what each brings."""
SAME_DAY = timedelta(hours=24)
"""No return on the day of a head knock: counted in hours, so that it is a day everywhere."""


class Agreed(Document):
    """What the two have agreed: how hard, and the word that stops everybody at once."""

    contact: Contact
    stop_word: Annotated[Line, Field(max_length=30)]


@dataclass(frozen=True, slots=True)
class Partner:
    """Somebody who takes part. contact: the hardest they may take part in. knocked_at: when
    there was a head knock that is not cleared; None: free to take part."""

    name: str
    contact: Contact
    gear: tuple[Gear, ...]
    knocked_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class Refusal:
    """Why a drill does not start. where: the field or the step. what: in a plain sentence."""

    where: str
    what: str


@dataclass(frozen=True, slots=True)
class Brings:
    """What one who takes part brings to a rung, in words. lacks: asked for here, and not there."""

    name: str
    contact: Contact
    wears: tuple[str, ...]
    lacks: tuple[str, ...]
    knocked_at: datetime | None


def brings(drill: PartnerDrill, rung: PartnerRung, partners: Sequence[Partner]) -> list[Brings]:
    """What each of them brings."""
    asked = asked_gear(drill, rung)
    return [
        Brings(
            name=each.name,
            contact=each.contact,
            wears=tuple(GEAR_NAMES[gear] for gear in each.gear),
            lacks=tuple(GEAR_NAMES[gear] for gear in asked if gear not in each.gear),
            knocked_at=each.knocked_at,
        )
        for each in partners
    ]


def on_the_floor(drill: PartnerDrill, rung: PartnerRung) -> list[str]:
    """What the club has and somebody holds on this rung."""
    gear = drill.place.gear if rung.gear is None else rung.gear
    return [GEAR_NAMES[each] for each in gear if each in HELD]


def hardest(drill: PartnerDrill, rung: PartnerRung) -> Contact:
    """The hardest contact that a rung comes to."""
    reached = [rung.capped(step.contact) for each in drill.passages for step in each.steps]
    return max(reached, key=CONTACTS.index, default="none")


def asked_gear(drill: PartnerDrill, rung: PartnerRung) -> tuple[Gear, ...]:
    """What each of them wears on a rung."""
    gear = drill.place.gear if rung.gear is None else rung.gear
    return tuple(each for each in gear if each not in HELD)


def refusals(
    drill: PartnerDrill,
    rung: PartnerRung,
    partners: Sequence[Partner],
    agreed: Agreed,
    *,
    now: datetime,
) -> list[Refusal]:
    """Every reason why these partners do not start this rung now; none: they may."""
    return [
        *_people(drill, partners),
        *_holds(drill, rung, partners, now),
        *_contact(drill, rung, partners, agreed),
        *_gear(drill, rung, partners),
    ]


def _people(drill: PartnerDrill, partners: Sequence[Partner]) -> Iterator[Refusal]:
    wanted = drill.place.people
    if len(partners) != wanted:
        yield Refusal("partners", f"this drill is for {wanted}; there are {len(partners)}")


def _holds(
    drill: PartnerDrill, rung: PartnerRung, partners: Sequence[Partner], now: datetime
) -> Iterator[Refusal]:
    """Nothing for a day after a head knock; no contact work until it is cleared."""
    contact = hardest(drill, rung) != "none"
    for place, each in enumerate(partners):
        if each.knocked_at is None:
            continue
        on = f"{each.name} had a head knock on {each.knocked_at:%-d %B}"
        if now - each.knocked_at < SAME_DAY:
            yield Refusal(f"partners.{place}", f"{on}: off the floor, nothing with a partner today")
        elif contact:
            yield Refusal(
                f"partners.{place}",
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
    for place, each in enumerate(partners):
        if CONTACTS.index(reached) > CONTACTS.index(each.contact):
            yield Refusal(
                f"partners.{place}",
                f"this rung comes to {reached}; {each.name} takes part up to {each.contact}",
            )


def _gear(drill: PartnerDrill, rung: PartnerRung, partners: Sequence[Partner]) -> Iterator[Refusal]:
    """What somebody lacks, where the rung is not gentle enough without it."""
    if not partners:
        return
    both = set(partners[0].gear).intersection(*(each.gear for each in partners))
    only = drill.model_copy(update={"rungs": (rung,)})
    short: list[Finding] = list(cap_findings(only, (*both, *HELD)))
    if not short:
        return
    for place, each in enumerate(partners):
        missing = [GEAR_NAMES[gear] for gear in asked_gear(drill, rung) if gear not in each.gear]
        if missing:
            yield Refusal(
                f"partners.{place}",
                f"{each.name} has no {' and no '.join(missing)}: {short[0].what}",
            )
