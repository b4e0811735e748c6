"""From marks to exchanges: what was fed, what became of it, at which tempo, by whom."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from hastatus.core.drill.partner import OWN_TIME_BPM
from hastatus.core.fields import PassageKey
from hastatus.core.plan.feed_sheet import Feed, FeedSheet, Turn
from hastatus.core.run.partner_events import (
    NOT_CLEAN,
    CarriedOver,
    ChanceMissed,
    Grade,
    Graded,
    HandLeftHome,
    Mark,
    MarkBatch,
    Strike,
    Tagged,
    TapUndone,
    TempoSet,
    Touched,
)
from hastatus.core.run.sheet_clock import SAME_S, TIMING, RoundClock, round_clock
from hastatus.core.score.strike_fusion import strikes_of
from hastatus.core.score.watch import Watch, watches

EARLY_MS = 150.0
"""A strike this long before an exchange starts still belongs to it."""
SET_OFF_MS = 2000.0
"""A hand leaves its home pad at most this long before its strike lands."""
SAME_MS = 1000 * SAME_S
"""Two moments nearer than this are one."""

Tap = Graded | Tagged | Touched | CarriedOver | ChanceMissed


@dataclass(frozen=True, slots=True)
class Hit:
    """A strike that landed, or a hand that left its home pad.

    at_ms: from the start of the exchange. partner: whose hand; None: nobody can tell. simulated:
    by the stand-in for pads.
    """

    at_ms: float
    kind: Literal["strike", "set_off"] = "strike"
    partner: int | None = None
    simulated: bool = False


@dataclass(frozen=True, slots=True)
class Exchange:
    """One exchange that has a grade or a fault, or was watched.

    path: its passages; empty where the feeder chose. feeder, defender: partners, from 0.
    tempo_bpm: None on the feeder's own time. grade: None where none was tapped. hits: of this
    exchange, in order, set-offs from a little before its start. watched: the coach watched it, so
    that it was clean if no grade says otherwise.
    """

    round: int
    number: int
    path: tuple[PassageKey, ...]
    feeder: int
    defender: int
    tempo_bpm: float | None
    grade: Grade | None
    faults: tuple[str, ...]
    hits: tuple[Hit, ...] = ()
    watched: bool = False

    @property
    def clean(self) -> bool | None:
        """Whether it was kept out, or answered right and in time; None: nobody can say."""
        if self.grade is None:
            return True if self.watched else None
        return self.grade not in NOT_CLEAN

    @property
    def beat_s(self) -> float:
        """Seconds a beat as it was done, the feeder's own time counted like on the sheet."""
        return 60.0 / (self.tempo_bpm or OWN_TIME_BPM)


@dataclass(slots=True)
class PartnerRecord:
    """Everything that the marks of a run tell. touches: where both hunt. chances: of
    free rounds. fed: exchanges of the
    sheet that were done whole. watches: the stretches that were watched."""

    exchanges: list[Exchange] = field(default_factory=list)
    chances: list[CarriedOver | ChanceMissed] = field(default_factory=list)
    tempos: list[TempoSet] = field(default_factory=list)
    touches: list[Touched] = field(default_factory=list)
    fed: int = 0
    watches: list[Watch] = field(default_factory=list)


def exchanges_from_events(sheet: FeedSheet, batches: Iterable[MarkBatch]) -> PartnerRecord:
    """What became of each exchange. The same marks in whatever batches tell the same."""
    marks = [mark for batch in sorted(batches, key=lambda b: b.number) for mark in batch.marks]
    standing = _standing(marks)
    grades: dict[tuple[int, int], Graded] = {}
    faults: dict[tuple[int, int], dict[str, None]] = {}
    first: dict[tuple[int, int], float] = {}
    for tap in standing:
        if isinstance(tap, CarriedOver | ChanceMissed | Touched):
            continue
        key = (tap.round, tap.number)
        first.setdefault(key, tap.at_ms)
        if isinstance(tap, Graded):
            grades[key] = tap  # a second tap for the same exchange is the better one
        else:
            faults.setdefault(key, {})[tap.fault] = None
    clocks = _clocks(sheet, marks)
    done = _done(sheet, clocks)
    watched = watches(marks)
    tapped = {key: (at_ms, at_ms) for key, at_ms in first.items()}
    seen = _inside(watched, done) | _inside(watched, tapped)
    landed: list[Strike | HandLeftHome] = [
        *strikes_of(marks),
        *(mark for mark in marks if isinstance(mark, HandLeftHome)),
    ]
    landed.sort(key=lambda mark: mark.at_ms)
    times = [mark.at_ms for mark in landed]
    tempos = [mark for mark in marks if isinstance(mark, TempoSet)]
    record = PartnerRecord(
        chances=[tap for tap in standing if isinstance(tap, CarriedOver | ChanceMissed)],
        touches=[tap for tap in standing if isinstance(tap, Touched)],
        tempos=tempos,
        fed=len(done),
        watches=watched,
    )
    for key in sorted(seen | set(first)):
        grade = grades.get(key)
        clock = clocks.get(key[0])
        at_ms = first.get(key, done[key][0] if key in done else 0.0)
        turn, feed = _fed(sheet, *key, at_s=clock.sheet_s(at_ms) if clock else 0.0)
        feeder, defender = turn.roles(feed) if turn else (0, 1)
        record.exchanges.append(
            Exchange(
                round=key[0],
                number=key[1],
                path=tuple(fed.passage for fed in feed.path) if feed else (),
                feeder=feeder,
                defender=defender,
                tempo_bpm=_tempo(sheet, tempos, at_ms),
                grade=grade.grade if grade else None,
                faults=tuple(faults.get(key, ())),
                hits=_during(clock, feed, sheet, landed, times),
                watched=key in seen,
            )
        )
    return record


def _clocks(sheet: FeedSheet, marks: Sequence[Mark]) -> dict[int, RoundClock]:
    """The clocks of the rounds that were begun."""
    timing = [mark for mark in marks if isinstance(mark, TIMING)]
    numbers = range(1, len(sheet.rounds) + 1)
    clocks = {number: round_clock(timing, number, sheet.tempo_bpm) for number in numbers}
    return {number: clock for number, clock in clocks.items() if clock}


_Spans = dict[tuple[int, int], tuple[float, float]]


def _done(sheet: FeedSheet, clocks: Mapping[int, RoundClock]) -> _Spans:
    """From when to when each exchange was on that was done whole, by round and number."""
    return {
        (number, feed.number): reached
        for number, clock in clocks.items()
        for turn in sheet.rounds[number - 1].turns
        for feed in turn.every_feed
        if (reached := clock.reached(feed.at_s, feed.ends_s(sheet.beat_s)))
    }


def _inside(watched: Sequence[Watch], spans: _Spans) -> set[tuple[int, int]]:
    """Which of them the coach watched from beginning to end."""
    return {
        key
        for key, (from_ms, to_ms) in spans.items()
        if any(
            watch.round == key[0]
            and watch.from_ms - SAME_MS <= from_ms
            and to_ms <= watch.to_ms + SAME_MS
            for watch in watched
        )
    }


def _standing(marks: Sequence[Mark]) -> list[Tap]:
    """The taps that were not taken back, in order."""
    taps: list[Tap] = []
    for mark in marks:
        if isinstance(mark, TapUndone):
            if taps:
                taps.pop()
        elif isinstance(mark, Graded | Tagged | Touched | CarriedOver | ChanceMissed):
            taps.append(mark)
    return taps


def _fed(
    sheet: FeedSheet, round_: int, number: int, *, at_s: float
) -> tuple[Turn | None, Feed | None]:
    """The turn and the feed of an exchange; a free one is in the turn that was on at `at_s`."""
    if not 1 <= round_ <= len(sheet.rounds):
        return None, None
    turns = sheet.rounds[round_ - 1].turns
    for turn in turns:
        for feed in turn.every_feed:
            if feed.number == number:
                return turn, feed
    return next((turn for turn in turns if at_s < turn.to_s), turns[-1] if turns else None), None


def _tempo(sheet: FeedSheet, tempos: Sequence[TempoSet], at_ms: float) -> float | None:
    if sheet.tempo_bpm is None:
        return None
    set_before = [tempo.bpm for tempo in tempos if tempo.at_ms <= at_ms]
    return set_before[-1] if set_before else sheet.tempo_bpm


def _during(
    clock: RoundClock | None,
    feed: Feed | None,
    sheet: FeedSheet,
    landed: Sequence[Strike | HandLeftHome],
    times: Sequence[float],
) -> tuple[Hit, ...]:
    """What landed from the start of an exchange to its end, in ms from its start. times: of them.

    On the feeder's own time an exchange may be late by as much as it is long.
    """
    if feed is None or clock is None:
        return ()
    late_s = 0.0 if sheet.tempo_bpm else feed.beats * sheet.beat_s
    start, end = clock.at_ms(feed.at_s), clock.at_ms(feed.ends_s(sheet.beat_s) + late_s)
    return tuple(
        Hit(round(mark.at_ms - start, 1), mark.kind, mark.partner, mark.source == "simulated")
        for mark in landed[bisect_left(times, start - SET_OFF_MS) : bisect_left(times, end)]
        if start - (EARLY_MS if mark.kind == "strike" else SET_OFF_MS) <= mark.at_ms < end
    )
