"""The medical hold after a head knock.

Off at once, no return the same day, no contact work until a medical professional has cleared it
(consensus statement on concussion in sport, Amsterdam 2022, from memory). A clearance that is
written down on the day of the head knock therefore ends the second of these, never the first.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

SAME_DAY = timedelta(hours=24)
"""No return on the day of a head knock: counted in hours, so that it is a day everywhere."""


@dataclass(frozen=True, slots=True)
class Knock:
    """A head knock that stands. cleared_at: when a medical clearance was written down."""

    at: datetime
    cleared_at: datetime | None = None


@dataclass(frozen=True, slots=True)
class MedicalHold:
    """What a student may not do.

    since: the newest head knock that holds. off_until: until then nothing with a partner, cleared
    or not; None: that day is over. cleared: whether every head knock has a medical clearance;
    without one there is no contact work.
    """

    since: datetime
    off_until: datetime | None
    cleared: bool


def medical_hold(knocks: Sequence[Knock], now: datetime) -> MedicalHold | None:
    """The hold that `knocks` of one student amount to at `now`; None: free to take part."""
    holding = [knock for knock in knocks if knock.cleared_at is None or now - knock.at < SAME_DAY]
    if not holding:
        return None
    newest = max(knock.at for knock in holding)
    return MedicalHold(
        since=newest,
        off_until=newest + SAME_DAY if now - newest < SAME_DAY else None,
        cleared=all(knock.cleared_at is not None for knock in knocks),
    )
