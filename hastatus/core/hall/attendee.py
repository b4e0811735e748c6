"""Somebody who is here tonight, as far as it bears on who they work with."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Final, Literal, get_args

from hastatus.core.drill.header import Level
from hastatus.core.trade.contact import Contact
from hastatus.core.trade.gear import Gear
from hastatus.core.trade.technique import Stance

Consent = Literal["not_needed", "needed", "given"]
"""Of a guardian: of grown-ups none is needed."""
CONSENT_NAMES: Final[dict[Consent, str]] = {
    "not_needed": "not needed", "needed": "needed, not here yet", "given": "given",
}  # fmt: skip
LEVELS: Final[tuple[Level, ...]] = get_args(Level)
"""From the lowest to the highest."""


@dataclass(frozen=True, slots=True)
class Attendee:
    """One who is here.

    key: who it is; name: what they are called. height_m, arm_m: None where nobody has measured.
    contact: the hardest they take part in tonight. gear: what they have on or with them.
    off: why they work with nobody tonight, in words; empty: they may.
    """

    key: str
    name: str
    stance: Stance = "left_lead"
    level: Level = "new"
    height_m: float | None = None
    arm_m: float | None = None
    contact: Contact = "touch"
    gear: frozenset[Gear] = frozenset()
    off: str = ""

    @property
    def rank(self) -> int:
        """The level as a number, from 0."""
        return LEVELS.index(self.level)
