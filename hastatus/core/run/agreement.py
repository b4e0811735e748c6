"""What is agreed before a partner drill, and why one does not start.

Contact level and stop word are agreed first. What is agreed, what each may do and what is worn
tonight lower a rung (see `allowance`); it is refused only where it cannot be lowered. After a head
knock nobody does anything with a partner for a day, whatever is cleared, nor contact work until a
medical clearance is written down (see `medical_hold`).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.fields import Document, Line
from hastatus.core.run.allowance import CONTACT_WORDS, Allowance, Tonight, allowance
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.core.trade.contact import CONTACTS, Contact
from hastatus.core.trade.gear import HELD, Gear

Gears = Annotated[tuple[Gear, ...], Field(max_length=10)]
"""Gear that is worn or held."""


class Agreed(Document):
    """What they have agreed: how hard, and the word that stops everybody at once.

    worn: what each of them wears tonight, in their order; None: all that they are known to have.
    here: what is held for them; None: all that the drill asks for.
    """

    contact: Contact
    stop_word: Annotated[Line, Field(max_length=30)]
    worn: Annotated[tuple[Gears, ...], Field(max_length=3)] | None = None
    here: Gears | None = None


class Settled(Agreed):
    """What was agreed, and what the rung came to by it: kept with the run.

    comes_to: the hardest that lands on a person; None: of a run from before it was kept.
    fastest_bpm, lowered: as in `Allowance`.
    """

    comes_to: Contact | None = None
    fastest_bpm: float | None = None
    lowered: tuple[str, ...] = ()

    @property
    def bare(self) -> bool:
        """Whether somebody wore no gloves."""
        return any("gloves" not in gear for gear in self.worn or ())


@dataclass(frozen=True, slots=True)
class Partner:
    """Somebody who takes part. contact: the hardest they may take part in. hold: after a head
    knock; None: free to take part."""

    name: str
    contact: Contact
    gear: tuple[Gear, ...]
    hold: MedicalHold | None = None


Remedy = Literal["other_person", "clearance", "no_contact", "other_rung", "bench"]
"""What may be done at once about a refusal: choose somebody else, write a medical clearance down,
agree on no contact, choose another rung, or change the drill."""


@dataclass(frozen=True, slots=True)
class Refusal:
    """Why a drill does not start. where: the field or the step. what: in a plain sentence.

    remedies: what may be done about it, the gentlest first.
    """

    where: str
    what: str
    remedies: tuple[Remedy, ...] = ()


@dataclass(frozen=True, slots=True)
class PartnerReadiness:
    """What one who takes part brings to a rung tonight. lacks: asked for here, and not there."""

    name: str
    contact: Contact
    wears: tuple[Gear, ...]
    lacks: tuple[Gear, ...]
    hold: MedicalHold | None


def readiness(
    drill: PartnerDrill, rung: PartnerRung, partners: Sequence[Partner], agreed: Agreed
) -> list[PartnerReadiness]:
    """What each of them brings."""
    asked = asked_gear(drill, rung)
    return [
        PartnerReadiness(
            name=partner.name,
            contact=partner.contact,
            wears=worn,
            lacks=tuple(gear for gear in asked if gear not in worn),
            hold=partner.hold,
        )
        for partner, worn in zip(partners, _worn(partners, agreed), strict=True)
    ]


def asked_gear(drill: PartnerDrill, rung: PartnerRung) -> tuple[Gear, ...]:
    """What each of them wears on a rung."""
    return tuple(item for item in drill.gear_on(rung) if item not in HELD)


def held_gear(drill: PartnerDrill, rung: PartnerRung) -> tuple[Gear, ...]:
    """What the club has and somebody holds on a rung."""
    return tuple(item for item in drill.gear_on(rung) if item in HELD)


def tonight(partners: Sequence[Partner], agreed: Agreed, *, no_touch: bool = False) -> Tonight:
    """What these partners may do tonight. no_touch: nobody in the room is to touch anybody."""
    limits: list[tuple[Contact, str]] = [
        (agreed.contact, f"agreed is {CONTACT_WORDS[agreed.contact]}")
    ]
    if no_touch:
        limits.insert(0, ("none", "no touch tonight, in the whole room"))
    limits += [
        (partner.contact, f"{partner.name} takes part up to {CONTACT_WORDS[partner.contact]}")
        for partner in partners
    ]
    contact, why = min(limits, key=lambda limit: CONTACTS.index(limit[0]))
    names = [partner.name for partner in partners]
    worn = [frozenset(gear) for gear in _worn(partners, agreed)]
    held = HELD if agreed.here is None else agreed.here
    return Tonight(contact, why, tuple(zip(names, worn, strict=True)), frozenset(held))


def settled(partners: Sequence[Partner], agreed: Agreed, comes_to: Allowance) -> Settled:
    """What was agreed, with what each of them wore and what the rung comes to by it."""
    return Settled(
        **{**agreed.model_dump(), "worn": tuple(_worn(partners, agreed))},
        comes_to=comes_to.contact,
        fastest_bpm=comes_to.fastest_bpm,
        lowered=comes_to.lowered,
    )


def refusals(
    drill: PartnerDrill, rung: PartnerRung, partners: Sequence[Partner], may: Tonight
) -> list[Refusal]:
    """Every reason why these partners do not start this rung now; none: they may."""
    comes_to = allowance(drill, rung, may)
    return [
        *_people(drill, partners),
        *_holds(comes_to, partners),
        *(Refusal("rung", what, _of_rung(drill)) for what in comes_to.impossible),
    ]


def _worn(partners: Sequence[Partner], agreed: Agreed) -> list[tuple[Gear, ...]]:
    """What each of them wears tonight; what was not said is what they are known to have."""
    said = agreed.worn or ()
    return [
        said[place] if place < len(said) else partner.gear for place, partner in enumerate(partners)
    ]


def _people(drill: PartnerDrill, partners: Sequence[Partner]) -> Iterator[Refusal]:
    wanted = drill.place.people
    if len(partners) != wanted:
        yield Refusal("partners", f"this drill is for {wanted}; there are {len(partners)}")


def _of_rung(drill: PartnerDrill) -> tuple[Remedy, ...]:
    """What may be done about a rung that cannot be done as it is."""
    return ("other_rung", "bench") if len(drill.rungs) > 1 else ("bench",)


def _holds(comes_to: Allowance, partners: Sequence[Partner]) -> Iterator[Refusal]:
    """Nothing on the day of a head knock, cleared or not; no contact work until it is cleared."""
    contact = comes_to.contact != "none" or comes_to.on_pads
    for index, partner in enumerate(partners):
        if partner.hold is None:
            continue
        on = f"{partner.name} had a head knock on {partner.hold.since:%-d %B}"
        if partner.hold.off_until is not None:
            cleared = ", also with a clearance" if partner.hold.cleared else ""
            yield Refusal(
                f"partners.{index}",
                f"{on}: off the floor, nothing with a partner today{cleared}",
                ("other_person",),
            )
        elif contact and not partner.hold.cleared:
            yield Refusal(
                f"partners.{index}",
                f"{on}: no contact work until a medical clearance is written down",
                ("other_person", "clearance")
                if comes_to.on_pads
                else ("no_contact", "other_person", "clearance"),
            )
