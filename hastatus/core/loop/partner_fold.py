"""Keeping a partner run up to date while it goes on: what its marks suggest, batch by batch.

What a batch costs does not grow with the run: only the last exchanges are kept, which is all that
the rule of the climb looks at. The whole run is read by `exchanges.exchanges_from_events`.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from pydantic import TypeAdapter

from hastatus.core.adapt.tempo_rule import TempoSuggestion, suggested_tempo
from hastatus.core.drill.partner import PartnerRung
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.run.partner_events import (
    NOT_CLEAN,
    CarriedOver,
    ChanceMissed,
    Grade,
    Graded,
    Mark,
    MarkBatch,
    Paused,
    Resumed,
    RoundBegun,
    RoundOver,
    Tagged,
    TapUndone,
    TempoSet,
    Touched,
    TurnBegun,
    WatchBegun,
    WatchOver,
)
from hastatus.core.run.sheet_clock import SAME_S

MOST_TAPS = 120
"""Taps that are kept: three for each of the 40 exchanges that a rule looks back over at most."""

MOST_WATCHED = 60
"""Of one stretch: more than a rule looks back over, and few enough to leave room for its taps."""


@dataclass(frozen=True, slots=True)
class FedSpan:
    """An exchange of a round's sheet: its number, from when to when it is on, s, and who defends in
    its turn."""

    number: int
    from_s: float
    to_s: float
    defender: int


Fed = Sequence[Sequence[FedSpan]]
"""The exchanges of each round, in order."""


def fed_of(sheet: FeedSheet) -> Fed:
    """What a sheet has, round by round."""
    return tuple(
        tuple(
            FedSpan(feed.number, feed.at_s, feed.ends_s(sheet.beat_s), turn.defender)
            for turn in round_.turns
            for feed in turn.every_feed
        )
        for round_ in sheet.rounds
    )


@dataclass(slots=True)
class KeptTap:
    """A tap that stands, or an exchange that was watched and not tapped.

    exchange: round and number; None for a carry-over. grade: None where it is none. bpm: the tempo
    that was set; None: the sheet's own. defender: who defended; None: the run does not say.
    """

    exchange: tuple[int, int] | None
    grade: Grade | None
    bpm: float | None
    defender: int | None = None
    watched: bool = False


@dataclass(slots=True)
class SheetPosition:
    """At `at_ms` the round's sheet stood at `sheet_s`. running: whether it goes on. watched_s: the
    coach watches from there on; None: nobody watches."""

    round: int
    at_ms: float
    sheet_s: float = 0.0
    running: bool = True
    watched_s: float | None = None


@dataclass(slots=True)
class MarkState:
    """Folded state of a partner run; equal to a fold of batches 0 to next_batch − 1.

    next_batch: number of the next batch to fold. last_batch: number of the last batch, once it has
    been folded. bpm: the tempo that was set last; None: the sheet's own. taps: the last that stand.
    defender: of the turn that is on; None: the run does not say. position: of the round that is on.
    """

    next_batch: int = 0
    last_batch: int | None = None
    bpm: float | None = None
    taps: list[KeptTap] = field(default_factory=list)
    defender: int | None = None
    position: SheetPosition | None = None

    @property
    def complete(self) -> bool:
        """Whether every batch up to the last is in."""
        return self.last_batch is not None


MARK_STATE = TypeAdapter(MarkState)
"""Reads and writes a state as JSON."""


def fold_batch(
    state: MarkState, batch: MarkBatch, fed: Fed = (), sheet_bpm: float | None = None
) -> None:
    """Fold the next batch into `state`, in place. fed, sheet_bpm: of the run's sheet."""
    for mark in batch.marks:
        _clock(state, mark, fed, sheet_bpm)
        _fold(state, mark, fed)
    del state.taps[:-MOST_TAPS]
    state.next_batch = batch.number + 1
    if batch.last:
        state.last_batch = batch.number


def fold_again(
    batches: Iterable[MarkBatch], fed: Fed = (), sheet_bpm: float | None = None
) -> MarkState:
    """The state after `batches`, given in number order, up to the first gap."""
    state = MarkState()
    for batch in batches:
        if batch.number != state.next_batch:
            break
        fold_batch(state, batch, fed, sheet_bpm)
    return state


def _fold(state: MarkState, mark: Mark, fed: Fed) -> None:
    if isinstance(mark, TempoSet):
        state.bpm = mark.bpm
    elif isinstance(mark, TurnBegun):
        state.defender = mark.defender
    elif isinstance(mark, TapUndone):
        last = [at for at, tap in enumerate(state.taps) if not tap.watched][-1:]
        for at in last:
            del state.taps[at]
    elif isinstance(mark, Graded):
        _keep(state, (mark.round, mark.number), mark.grade, fed)
    elif isinstance(mark, Tagged):
        _keep(state, (mark.round, mark.number), None, fed)
    elif isinstance(mark, CarriedOver | ChanceMissed | Touched):
        state.taps.append(KeptTap(None, None, state.bpm, state.defender))


def _keep(state: MarkState, exchange: tuple[int, int], grade: Grade | None, fed: Fed) -> None:
    """Keep a tap; just after a switch it may still be for who defended before."""
    round_, number = exchange
    spans = fed[round_ - 1] if round_ <= len(fed) else ()
    known = state.defender is not None and number <= len(spans)
    defender = spans[number - 1].defender if known else state.defender
    state.taps.append(KeptTap(exchange, grade, state.bpm, defender))


def _clock(state: MarkState, mark: Mark, fed: Fed, sheet_bpm: float | None) -> None:
    """Move the round's sheet on to the mark; what was watched until then is kept."""
    if isinstance(mark, RoundBegun):
        state.position = SheetPosition(mark.round, mark.at_ms)
        return
    here = state.position
    if here is None or not isinstance(mark, _MOVES):
        return
    if here.running:
        rate = state.bpm / sheet_bpm if state.bpm and sheet_bpm else 1.0
        here.sheet_s += (mark.at_ms - here.at_ms) / 1000 * rate
    here.at_ms = mark.at_ms
    if here.watched_s is not None and isinstance(
        mark, TempoSet | TurnBegun | WatchOver | RoundOver
    ):
        _keep_watched(state, here, fed)
    if isinstance(mark, TurnBegun):
        here.sheet_s = mark.sheet_s
        here.watched_s = None if here.watched_s is None else mark.sheet_s
    elif isinstance(mark, WatchBegun) and here.watched_s is None:
        here.watched_s = here.sheet_s
    elif isinstance(mark, WatchOver):
        here.watched_s = None
    elif isinstance(mark, Paused | Resumed):
        here.running = isinstance(mark, Resumed)
    elif isinstance(mark, RoundOver):
        state.position = None


_MOVES = (TempoSet, TurnBegun, WatchBegun, WatchOver, Paused, Resumed, RoundOver)


def _keep_watched(state: MarkState, here: SheetPosition, fed: Fed) -> None:
    """Each exchange that was watched whole is kept; the next stretch begins after the last."""
    spans = fed[here.round - 1] if here.round <= len(fed) else ()
    from_s = here.watched_s or 0.0
    whole = [
        span
        for span in spans
        if from_s - SAME_S <= span.from_s and span.to_s <= here.sheet_s + SAME_S
    ]
    tapped = {tap.exchange for tap in state.taps if tap.grade}
    for span in whole[-MOST_WATCHED:]:
        exchange = (here.round, span.number)
        if exchange not in tapped:
            state.taps.append(KeptTap(exchange, None, state.bpm, state.defender, watched=True))
        here.watched_s = span.to_s
    del state.taps[:-MOST_TAPS]


def suggestion(
    rung: PartnerRung, sheet_bpm: float | None, state: MarkState
) -> TempoSuggestion | None:
    """What the rung's rule suggests to the defender of the turn, from their exchanges at the tempo
    that is on.

    None: it stays, it is set by hand, or the feeder feeds on their own time (sheet_bpm None).
    """
    if rung.climb.rule == "by_hand" or sheet_bpm is None:
        return None
    bpm = state.bpm or sheet_bpm
    return suggested_tempo(
        rung, bpm, [clean for _, clean, tempo in lately(state, sheet_bpm) if tempo == bpm]
    )


def lately(state: MarkState, sheet_bpm: float) -> list[tuple[tuple[int, int], bool, float]]:
    """The last exchanges of who defends now, in order: round and number, whether it was clean, and
    the tempo that was on."""
    clean: dict[tuple[int, int], bool] = {}
    tempos: dict[tuple[int, int], float] = {}
    for tap in state.taps:
        if tap.exchange is None or tap.defender != state.defender:
            continue
        tempos.setdefault(tap.exchange, tap.bpm or sheet_bpm)
        if tap.grade:
            clean[tap.exchange] = tap.grade not in NOT_CLEAN  # the second tap is the better one
        elif tap.watched:
            clean.setdefault(tap.exchange, True)
    return [(exchange, clean[exchange], tempos[exchange]) for exchange in sorted(clean)]
