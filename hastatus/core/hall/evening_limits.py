"""What somebody may do on an evening, and what a coach is to know of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hastatus.core.hall.attendee import Consent
from hastatus.core.hall.readiness import GATES, READINESS_NAMES, Readiness
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.core.trade.contact import Contact, gentlest, is_harder


@dataclass(frozen=True, slots=True)
class EveningLimits:
    """contact: the hardest they take part in. off: why they work with nobody, in words; empty: they
    may. notes: what else bears on it, in words."""

    contact: Contact
    off: str
    notes: tuple[str, ...]


def evening_limits(
    contact: Contact,
    *,
    hold: MedicalHold | None = None,
    consent: Consent = "not_needed",
    no_touch: bool = False,
    readiness: Readiness = "free",
    spares: str = "",
    senses: str = "",
) -> EveningLimits:
    """What is allowed of somebody who usually takes part up to `contact`.

    hold: after a head knock. no_touch: nobody is to touch them tonight. readiness: the step of the
    ladder, above which there is no contact. spares: what hurts; senses: sight and hearing.
    """
    barred = no_touch or hold is not None or consent == "needed"
    off = "off the floor for the day after a head knock" if hold and hold.off_until else ""
    notes = (
        "no contact until a medical clearance" if hold and not hold.cleared else "",
        "a guardian’s consent is missing: no contact" if consent == "needed" else "",
        f"step: {READINESS_NAMES[readiness]}" if readiness != "free" else "",
        f"spare: {spares}" if spares else "",
        senses,
    )
    return EveningLimits(
        contact="none" if barred else gentlest(contact, GATES[readiness]),
        off=off,
        notes=tuple(filter(None, notes)),
    )


def pair_limit(asked: Contact, allowed: Sequence[Contact], *, no_touch: bool = False) -> str:
    """What a pair has to keep to on a rung, in words; empty: what the rung asks for. allowed: of
    each of them tonight. no_touch: in the whole room."""
    comes_to = "none" if no_touch else gentlest(asked, *allowed)
    if not is_harder(asked, comes_to):
        return ""
    if comes_to == "none":
        return "no contact: stop short, or go beside"
    return f"{comes_to} at most, instead of {asked}"
