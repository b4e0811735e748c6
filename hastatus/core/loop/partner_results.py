"""What the marks of a partner run amount to, whoever took part: kept once the run is closed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from pydantic import TypeAdapter

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.read.carry_over import Chances, chances_of, free_s
from hastatus.core.read.kept_tempo import KeptTempo, tempos
from hastatus.core.read.partner_figures import last_paces
from hastatus.core.read.partner_run import PartnerReading, read
from hastatus.core.run.partner_events import MarkBatch
from hastatus.core.score.exchanges import Exchange, exchanges_from_events
from hastatus.core.score.landings import CountersHeard, arrivals, counters


@dataclass(frozen=True, slots=True)
class PartnerResult:
    """exchanges: graded or tagged, in order. reading: of them, the partners by number. counters:
    those that were heard. rhythms: the tempo that was kept. missing: numbers of the batches that
    are still to come, before the last that came. paces: the tempo that each had come to as
    defender, BPM. chances: of free rounds, which lasted free_s in all.
    """

    exchanges: tuple[Exchange, ...]
    reading: PartnerReading
    counters: CountersHeard
    rhythms: tuple[KeptTempo, ...]
    missing: tuple[int, ...]
    paces: tuple[float | None, ...] = ()
    chances: tuple[Chances, ...] = ()
    free_s: float = 0.0


PARTNER_RESULT = TypeAdapter(PartnerResult)
"""Reads and writes a result as JSON."""


def partner_result(
    drill: PartnerDrill, sheet: FeedSheet, batches: Sequence[MarkBatch]
) -> PartnerResult:
    """The result of a run whose batches are given in number order. The same always has the same."""
    record = exchanges_from_events(sheet, batches)
    numbers = {batch.number for batch in batches}
    emptied = {batch.number for batch in batches if batch.emptied}
    return PartnerResult(
        exchanges=tuple(record.exchanges),
        reading=read(drill, sheet.rung, record),
        counters=counters(arrivals(drill, exchange) for exchange in record.exchanges),
        rhythms=tuple(tempos(drill, sheet, [mark for batch in batches for mark in batch.marks])),
        missing=tuple(sorted(set(range(max(numbers, default=-1))) - numbers | emptied)),
        paces=last_paces(record.tempos, sheet.people),
        chances=chances_of(record.chances),
        free_s=free_s(mark for batch in batches for mark in batch.marks),
    )
