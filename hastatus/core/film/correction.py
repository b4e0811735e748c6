"""What a coach has corrected in a film's reading, looking at it picture by picture.

The reading stays as it was read; corrections are kept beside it, with who made them and why, and
are laid over it whenever it is shown.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.fields import Document, Line
from hastatus.core.film.exchange_seen import Began, ExchangeSeen, defended
from hastatus.core.film.pair_reading import PairFilmReading
from hastatus.core.film.reading import CueSeen, FilmReading, ZoneSeen
from hastatus.core.motion.zone import BodyPart

Whose = Literal["fed", "answered", "counter"]


class OnsetCorrection(Document):
    """One onset, corrected. round, number: of the cue (its slot) or the exchange. part: the zone of
    a solo film's cue. whose: what of an exchange. at_ms: when it really began, after the cue or the
    exchange's time on the sheet; None: what was read is wrong, and there is no time. why: in the
    coach's words."""

    round: Annotated[int, Field(ge=1, le=40)]
    number: Annotated[int, Field(ge=0, le=5000)]
    part: BodyPart | None = None
    whose: Whose | None = None
    at_ms: Annotated[float, Field(ge=-5000, le=60_000, allow_inf_nan=False)] | None = None
    why: Line


def corrected(
    reading: FilmReading, corrections: Sequence[OnsetCorrection], rate_hz: float
) -> FilmReading:
    """A reading with what was corrected, the latest last. rate_hz: pictures a second, of which one
    is as near as anybody sees."""
    cues = {(cue.round, cue.slot): cue for cue in reading.cues}
    for one in corrections:
        key = (one.round, one.number)
        if key in cues and one.part is not None:
            cues[key] = _cue(cues[key], one, 500 / rate_hz)
    return reading.model_copy(update={"cues": tuple(cues.values())})


def corrected_pair(
    reading: PairFilmReading, corrections: Sequence[OnsetCorrection], rate_hz: float
) -> PairFilmReading:
    """The same of a partner run; what it tells of each partner follows."""
    exchanges = {(one.round, one.number): one for one in reading.exchanges}
    for one in corrections:
        key = (one.round, one.number)
        if key in exchanges and one.whose is not None:
            exchanges[key] = _exchange(exchanges[key], one, 500 / rate_hz)
    kept = tuple(exchanges.values())
    partners = tuple(defended(kept, partner.partner) for partner in reading.partners)
    return reading.model_copy(update={"exchanges": kept, "partners": partners})


def _cue(cue: CueSeen, one: OnsetCorrection, spread_ms: float) -> CueSeen:
    zones = tuple(
        _zone(zone, one, spread_ms) if zone.part == one.part else zone for zone in cue.zones
    )
    return cue.model_copy(update={"zones": zones})


def _zone(zone: ZoneSeen, one: OnsetCorrection, spread_ms: float) -> ZoneSeen:
    if one.at_ms is None:
        return ZoneSeen(part=zone.part, reason="said_wrong", corrected=True)
    return zone.model_copy(
        update={"onset_ms": one.at_ms, "spread_ms": spread_ms, "reason": None, "corrected": True}
    )


def _exchange(seen: ExchangeSeen, one: OnsetCorrection, spread_ms: float) -> ExchangeSeen:
    assert one.whose is not None
    before: Began | None = getattr(seen, one.whose)
    part = before.part if before else None
    if one.at_ms is None:
        began = Began(part=part, reason="said_wrong", corrected=True)
    else:
        began = Began(part=part, at_ms=one.at_ms, spread_ms=spread_ms, corrected=True)
    return seen.model_copy(update={one.whose: began}).reckoned()
