"""Keeping a partner run up to date while it goes on: what its marks suggest, batch by batch.

What a batch costs does not grow with the run: only the last taps are kept, which is all that the
rule of the climb looks at. The whole run is read by `exchanges.exchanges_from_events`.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field

from pydantic import TypeAdapter

from hastatus.core.adapt.tempo_rule import TempoSuggestion, suggested_tempo
from hastatus.core.drill.partner import PartnerRung
from hastatus.core.run.partner_events import (
    CarriedOver,
    Grade,
    Graded,
    Mark,
    MarkBatch,
    Tagged,
    TapUndone,
    TempoSet,
)

MOST_TAPS = 120
"""Taps that are kept: three for each of the 40 exchanges that a rule looks back over at most."""


@dataclass(slots=True)
class KeptTap:
    """A tap that stands. bpm: the tempo that was set when it was made; None: the sheet's own.

    grade: None where it is none. exchange: round and number; None for a carry-over.
    """

    exchange: tuple[int, int] | None
    grade: Grade | None
    bpm: float | None


@dataclass(slots=True)
class MarkState:
    """Folded state of a partner run; equal to a fold of batches 0 to next_batch − 1.

    next_batch: number of the next batch to fold. last_batch: number of the last batch, once it has
    been folded. bpm: the tempo that was set last; None: the sheet's own. taps: the last that stand.
    """

    next_batch: int = 0
    last_batch: int | None = None
    bpm: float | None = None
    taps: list[KeptTap] = field(default_factory=list)

    @property
    def complete(self) -> bool:
        """Whether every batch up to the last is in."""
        return self.last_batch is not None


MARK_STATE = TypeAdapter(MarkState)
"""Reads and writes a state as JSON."""


def fold_batch(state: MarkState, batch: MarkBatch) -> None:
    """Fold the next batch into `state`, in place."""
    for mark in batch.marks:
        _fold(state, mark)
    del state.taps[:-MOST_TAPS]
    state.next_batch = batch.number + 1
    if batch.last:
        state.last_batch = batch.number


def fold_again(batches: Iterable[MarkBatch]) -> MarkState:
    """The state after `batches`, given in number order, up to the first gap."""
    state = MarkState()
    for batch in batches:
        if batch.number != state.next_batch:
            break
        fold_batch(state, batch)
    return state


def _fold(state: MarkState, mark: Mark) -> None:
    if isinstance(mark, TempoSet):
        state.bpm = mark.bpm
    elif isinstance(mark, TapUndone):
        del state.taps[-1:]
    elif isinstance(mark, Graded):
        state.taps.append(KeptTap((mark.round, mark.number), mark.grade, state.bpm))
    elif isinstance(mark, Tagged):
        state.taps.append(KeptTap((mark.round, mark.number), None, state.bpm))
    elif isinstance(mark, CarriedOver):
        state.taps.append(KeptTap(None, None, state.bpm))


def suggestion(
    rung: PartnerRung, sheet_bpm: float | None, state: MarkState
) -> TempoSuggestion | None:
    """What the rung's rule suggests, from the grades of the exchanges at the tempo that is on.

    None: it stays, it is set by hand, or the feeder feeds on their own time (sheet_bpm None).
    """
    if rung.climb.rule == "by_hand" or sheet_bpm is None:
        return None
    bpm = state.bpm or sheet_bpm
    grades: dict[tuple[int, int], Grade] = {}
    tempos: dict[tuple[int, int], float] = {}
    for tap in state.taps:
        if tap.exchange is None:
            continue
        tempos.setdefault(tap.exchange, tap.bpm or sheet_bpm)
        if tap.grade:
            grades[tap.exchange] = tap.grade  # a second tap for an exchange is the better one
    return suggested_tempo(
        rung, bpm, [grades[exchange] for exchange in sorted(grades) if tempos[exchange] == bpm]
    )
