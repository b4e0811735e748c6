"""A simulated mat: the marks it writes down while turns go by at the pace of who defends."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from hastatus.core.plan.feed_sheet import Feed, FeedRound, FeedSheet, Turn
from hastatus.core.run.partner_events import (
    Grade,
    Graded,
    Mark,
    RoundBegun,
    RoundOver,
    TempoSet,
    TurnBegun,
    WatchBegun,
    WatchOver,
)
from hastatus.core.run.sheet_clock import SAME_S


@dataclass(frozen=True)
class Done:
    """An exchange that was done whole: by whom defended, from when to when, ms."""

    round: int
    feed: Feed
    defender: int
    from_ms: float
    to_ms: float


@dataclass
class SimulatedMat:
    """Rounds by the clock. paces: of each partner as defender, BPM. watch_s: from when to when in
    each round the coach watches. grade: what is tapped for an exchange; None: nothing."""

    sheet: FeedSheet
    paces: Sequence[float]
    watch_s: tuple[float, float] | None = None
    grade: Callable[[Done], Grade | None] = lambda done: None

    def __post_init__(self) -> None:
        self.done: list[Done] = []
        self.marks = sorted(self._rounds(), key=lambda mark: mark.at_ms)

    def attacks_a_minute(self) -> Mapping[int, float]:
        """Of each defender, over the turns in which they defend."""
        lasted = dict.fromkeys(range(len(self.paces)), 0.0)
        for round_ in self.sheet.rounds:
            for turn in round_.turns:
                lasted[turn.defender] += turn.lasts_s or round_.duration_s
        return {
            who: 60 * sum(len(each.feed.path) for each in self.done if each.defender == who) / s
            for who, s in lasted.items()
        }

    def _rounds(self) -> Iterator[Mark]:
        at_ms = 0.0
        for round_ in self.sheet.rounds:
            yield RoundBegun(at_ms=at_ms, round=round_.number)
            yield from self._turns(round_, at_ms)
            if self.watch_s:
                from_ms, to_ms = (at_ms + 1000 * s for s in self.watch_s)
                yield WatchBegun(at_ms=from_ms, round=round_.number)
                yield WatchOver(at_ms=to_ms, round=round_.number, by="time")
            at_ms += 1000 * round_.duration_s
            yield RoundOver(at_ms=at_ms, round=round_.number)
            at_ms += 1000 * self.sheet.rest_s

    def _turns(self, round_: FeedRound, at_ms: float) -> Iterator[Mark]:
        over_ms = at_ms + 1000 * round_.duration_s
        for turn in round_.turns:
            defender, bpm = turn.defender, self.paces[turn.defender]
            yield TurnBegun(
                at_ms=at_ms, round=round_.number, sheet_s=turn.from_s, defender=defender
            )
            yield TempoSet(at_ms=at_ms, bpm=bpm, by="turn", partner=defender)
            ends_ms = at_ms + 1000 * turn.lasts_s if turn.lasts_s else over_ms
            yield from self._feeds(round_, turn, at_ms, ends_ms)
            at_ms = ends_ms

    def _feeds(self, round_: FeedRound, turn: Turn, at_ms: float, ends_ms: float) -> Iterator[Mark]:
        assert self.sheet.tempo_bpm is not None
        rate = self.paces[turn.defender] / self.sheet.tempo_bpm
        for feed in turn.every_feed:
            from_ms = at_ms + 1000 * (feed.at_s - turn.from_s) / rate
            to_ms = at_ms + 1000 * (feed.ends_s(self.sheet.beat_s) - turn.from_s) / rate
            if to_ms > ends_ms + 1000 * SAME_S / rate:
                return
            one = Done(round_.number, feed, turn.defender, from_ms, to_ms)
            self.done.append(one)
            grade = self.grade(one)
            if grade:
                at = (from_ms + to_ms) / 2
                yield Graded(at_ms=at, round=round_.number, number=feed.number, grade=grade)
