"""From marks to exchanges: what was fed, what became of it, at which tempo, by whom."""

from __future__ import annotations

from bisect import bisect_left
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Literal

from hastatus.core.drill.partner import OWN_TIME_BPM
from hastatus.core.fields import Key
from hastatus.core.plan.feed_sheet import Feed, FeedSheet, Turn
from hastatus.core.run.partner_events import (
    CarriedOver,
    Grade,
    Graded,
    HandLeftHome,
    Mark,
    MarkBatch,
    Strike,
    Tagged,
    TapUndone,
    TempoSet,
)
from hastatus.core.run.sheet_clock import RoundClock, round_clock
from hastatus.core.score.strike_fusion import strikes_of

EARLY_MS = 150.0
"""A strike this long before an exchange starts still belongs to it."""
SET_OFF_MS = 2000.0
"""A hand leaves its home pad at most this long before its strike lands."""

Tap = Graded | Tagged | CarriedOver


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
    """One exchange that has a grade or a fault.

    path: its passages; empty where the feeder chose. feeder, defender: partners, from 0.
    tempo_bpm: None on the feeder's own time. grade: None where only a fault was tagged. hits: of
    this exchange, in order, set-offs from a little before its start.
    """

    round: int
    number: int
    path: tuple[Key, ...]
    feeder: int
    defender: int
    tempo_bpm: float | None
    grade: Grade | None
    faults: tuple[str, ...]
    hits: tuple[Hit, ...] = ()

    @property
    def clean(self) -> bool | None:
        """Whether nothing got through; None where it has no grade."""
        return None if self.grade is None else self.grade != "struck"

    @property
    def beat_s(self) -> float:
        """Seconds a beat as it was done, the feeder's own time counted like on the sheet."""
        return 60.0 / (self.tempo_bpm or OWN_TIME_BPM)


@dataclass(slots=True)
class PartnerRecord:
    """Everything that the marks of a run tell."""

    exchanges: list[Exchange] = field(default_factory=list)
    carried_over: list[CarriedOver] = field(default_factory=list)
    tempos: list[TempoSet] = field(default_factory=list)


def exchanges_from_events(sheet: FeedSheet, batches: Iterable[MarkBatch]) -> PartnerRecord:
    """What became of each exchange. The same marks in whatever batches tell the same."""
    marks = [mark for batch in sorted(batches, key=lambda b: b.number) for mark in batch.marks]
    standing = _standing(marks)
    grades: dict[tuple[int, int], Graded] = {}
    faults: dict[tuple[int, int], dict[str, None]] = {}
    first: dict[tuple[int, int], float] = {}
    for tap in standing:
        if isinstance(tap, CarriedOver):
            continue
        key = (tap.round, tap.number)
        first.setdefault(key, tap.at_ms)
        if isinstance(tap, Graded):
            grades[key] = tap  # a second tap for the same exchange is the better one
        else:
            faults.setdefault(key, {})[tap.fault] = None
    clocks = {
        number: clock
        for number in {key[0] for key in first}
        if (clock := round_clock(marks, number, sheet.tempo_bpm))
    }
    landed: list[Strike | HandLeftHome] = [
        *strikes_of(marks),
        *(mark for mark in marks if isinstance(mark, HandLeftHome)),
    ]
    landed.sort(key=lambda mark: mark.at_ms)
    times = [mark.at_ms for mark in landed]
    tempos = [mark for mark in marks if isinstance(mark, TempoSet)]
    record = PartnerRecord(
        carried_over=[tap for tap in standing if isinstance(tap, CarriedOver)],
        tempos=tempos,
    )
    for key in sorted(first):
        grade = grades.get(key)
        clock = clocks.get(key[0])
        turn, feed = _fed(sheet, *key, at_s=clock.sheet_s(first[key]) if clock else 0.0)
        feeder, defender = turn.roles(feed) if turn else (0, 1)
        record.exchanges.append(
            Exchange(
                round=key[0],
                number=key[1],
                path=tuple(fed.passage for fed in feed.path) if feed else (),
                feeder=feeder,
                defender=defender,
                tempo_bpm=_tempo(sheet, tempos, first[key]),
                grade=grade.grade if grade else None,
                faults=tuple(faults.get(key, ())),
                hits=_during(clock, feed, sheet, landed, times),
            )
        )
    return record


def _standing(marks: Sequence[Mark]) -> list[Tap]:
    """The taps that were not taken back, in order."""
    taps: list[Tap] = []
    for mark in marks:
        if isinstance(mark, TapUndone):
            if taps:
                taps.pop()
        elif isinstance(mark, Graded | Tagged | CarriedOver):
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
        for feed in turn.feeds:
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
