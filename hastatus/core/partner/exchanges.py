"""From marks to exchanges: what was fed, what became of it, at which tempo, by whom."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from hastatus.core.partner.clock import RoundClock, round_clock
from hastatus.core.partner.feed import Feed, FeedSheet, Turn
from hastatus.core.partner.marks import (
    CarriedOver,
    Grade,
    Graded,
    HeadKnock,
    Mark,
    MarkBatch,
    Strike,
    Tagged,
    TempoSet,
    Undone,
)
from hastatus.core.text import Key

EARLY_MS = 150.0
"""A strike this long before an exchange starts still belongs to it."""

Tap = Graded | Tagged | CarriedOver


@dataclass(frozen=True, slots=True)
class Exchange:
    """One exchange that has a grade or a fault.

    path: its passages; empty where the feeder chose. feeder, defender: partners, from 0.
    tempo_bpm: None on the feeder's own time. grade: None where only a fault was tagged. strikes_ms:
    of this exchange, from its start.
    """

    round: int
    number: int
    path: tuple[Key, ...]
    feeder: int
    defender: int
    tempo_bpm: float | None
    grade: Grade | None
    faults: tuple[str, ...]
    strikes_ms: tuple[float, ...] = ()

    @property
    def clean(self) -> bool | None:
        """Whether nothing got through; None where it has no grade."""
        return None if self.grade is None else self.grade != "struck"


@dataclass(slots=True)
class Told:
    """Everything that the marks of a run tell. knocked: partners who were knocked on the head."""

    exchanges: list[Exchange] = field(default_factory=list)
    carried_over: list[CarriedOver] = field(default_factory=list)
    knocked: list[int] = field(default_factory=list)
    tempos: list[TempoSet] = field(default_factory=list)


def tell(sheet: FeedSheet, batches: Iterable[MarkBatch]) -> Told:
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
    strikes = sorted(mark.at_ms for mark in marks if isinstance(mark, Strike))
    tempos = [mark for mark in marks if isinstance(mark, TempoSet)]
    told = Told(
        carried_over=[tap for tap in standing if isinstance(tap, CarriedOver)],
        knocked=[mark.partner for mark in marks if isinstance(mark, HeadKnock)],
        tempos=tempos,
    )
    for key in sorted(first):
        grade = grades.get(key)
        turn, feed = _fed(sheet, *key)
        told.exchanges.append(
            Exchange(
                round=key[0],
                number=key[1],
                path=tuple(each.passage for each in feed.path) if feed else (),
                feeder=turn.feeder if turn else 0,
                defender=turn.defender if turn else 1,
                tempo_bpm=_tempo(sheet, tempos, first[key]),
                grade=grade.grade if grade else None,
                faults=tuple(faults.get(key, ())),
                strikes_ms=_during(clocks.get(key[0]), feed, sheet.beat_s, strikes),
            )
        )
    return told


def _standing(marks: Sequence[Mark]) -> list[Tap]:
    """The taps that were not taken back, in order."""
    taps: list[Tap] = []
    for mark in marks:
        if isinstance(mark, Undone):
            if taps:
                taps.pop()
        elif isinstance(mark, Graded | Tagged | CarriedOver):
            taps.append(mark)
    return taps


def _fed(sheet: FeedSheet, round_: int, number: int) -> tuple[Turn | None, Feed | None]:
    """The turn and the feed of an exchange; a free one is in the turn that was on."""
    if not 1 <= round_ <= len(sheet.rounds):
        return None, None
    turns = sheet.rounds[round_ - 1].turns
    for turn in turns:
        for feed in turn.feeds:
            if feed.number == number:
                return turn, feed
    return (turns[0] if turns else None), None


def _tempo(sheet: FeedSheet, tempos: Sequence[TempoSet], at_ms: float) -> float | None:
    if sheet.tempo_bpm is None:
        return None
    set_before = [each.bpm for each in tempos if each.at_ms <= at_ms]
    return set_before[-1] if set_before else sheet.tempo_bpm


def _during(
    clock: RoundClock | None, feed: Feed | None, beat_s: float, strikes: Sequence[float]
) -> tuple[float, ...]:
    """Strikes from the start of an exchange to its end, in ms from its start."""
    if feed is None or clock is None:
        return ()
    start, end = clock.at_ms(feed.at_s), clock.at_ms(feed.ends_s(beat_s))
    return tuple(round(at - start, 1) for at in strikes if start - EARLY_MS <= at < end)
