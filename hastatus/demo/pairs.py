"""Two simulated partners: what a coach at the mat would have tapped, and what was heard."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import follow
from hastatus.core.plan.feed_sheet import Feed, FeedSheet, Turn
from hastatus.core.run.partner_events import (
    CarriedOver,
    ChanceMissed,
    FreeBegun,
    FreeOver,
    Grade,
    Graded,
    HandLeftHome,
    Mark,
    MarkBatch,
    RoundBegun,
    RoundOver,
    Strike,
    Tagged,
    TempoSet,
    TurnBegun,
    WatchBegun,
    WatchOver,
)

KEPT_OUT: tuple[Grade, ...] = ("countered", "countered", "covered", "deflected")
UNEVEN_S = 0.045
LOST = 0.08
FAULTS = 0.12
HAD_S, HAD_SPREAD_S = 0.56, 0.10
"""Time from the start of an attack to its arrival, where pads tell it."""
NEED_SPREAD_S, NEED_TAIL_S = 0.04, 0.06
FREE_S, CHANCES = 120.0, 14
_A_BATCH = 400


@dataclass(frozen=True, slots=True)
class Pair:
    """Two partners. clean: share of exchanges that they keep out.

    need_s: the time their answers need in the middle, from the start of the attack; with pads this
    decides what is kept out. None: only the room was heard.
    watched_s: from when to when in each round the coach watches, and taps what is not clean alone;
    None: the coach taps each exchange.
    """

    clean: float
    need_s: float | None = None
    watched_s: tuple[float, float] | None = None


def batches(
    drill: PartnerDrill, sheet: FeedSheet, pair: Pair, rng: np.random.Generator
) -> list[MarkBatch]:
    """The marks of a run in the order of their times."""
    marks: list[Mark] = []
    clock_ms = 0.0
    for round_ in sheet.rounds:
        here: list[Mark] = [RoundBegun(at_ms=clock_ms, round=round_.number)]
        for turn in round_.turns:
            here += _turn(sheet, turn, round_.number, clock_ms) if pair.watched_s else ()
            for feed in turn.feeds:
                exchange = _Exchange(drill, sheet, turn, feed, round_.number, clock_ms)
                here += exchange.marks(pair, rng)
        if pair.watched_s:
            from_ms, to_ms = (clock_ms + 1000 * s for s in pair.watched_s)
            here.append(WatchBegun(at_ms=from_ms, round=round_.number))
            here.append(WatchOver(at_ms=to_ms, round=round_.number, by="time"))
        clock_ms += 1000 * round_.duration_s
        here.append(RoundOver(at_ms=clock_ms, round=round_.number))
        clock_ms += 1000 * sheet.rest_s
        marks += sorted(here, key=lambda mark: mark.at_ms)
    marks += _free_round(drill, sheet, pair, clock_ms, rng)
    cut = range(0, len(marks), _A_BATCH)
    return [
        MarkBatch(number=number, marks=tuple(marks[at : at + _A_BATCH]), last=at == cut[-1])
        for number, at in enumerate(cut)
    ]


def _free_round(
    drill: PartnerDrill, sheet: FeedSheet, pair: Pair, clock_ms: float, rng: np.random.Generator
) -> list[Mark]:
    """After the last round: chances of the answers that were drilled, missed more often than in the
    drill."""
    known = [drill.technique(step.technique) for p in drill.passages for step in p.steps
             if step.lane == "defender"]  # fmt: skip
    answers = [technique.key for technique in known if technique and technique.use != "move"][:3]
    marks: list[Mark] = [FreeBegun(at_ms=clock_ms, lasts_s=FREE_S)]
    for at_s in sorted(rng.uniform(0, FREE_S, CHANCES).tolist()):
        used = rng.random() < pair.clean - 0.3
        marks.append(
            (CarriedOver if used else ChanceMissed)(
                at_ms=round(clock_ms + 1000 * at_s, 1),
                round=len(sheet.rounds),
                partner=int(rng.integers(sheet.people)),
                answer=answers[int(rng.integers(len(answers)))] if answers else None,
            )
        )
    return [*marks, FreeOver(at_ms=clock_ms + 1000 * FREE_S)]


def _turn(sheet: FeedSheet, turn: Turn, number: int, clock_ms: float) -> Iterator[Mark]:
    """A turn begins, at the pace of who defends in it."""
    at_ms, who = clock_ms + 1000 * turn.from_s, turn.defender
    yield TurnBegun(at_ms=at_ms, round=number, sheet_s=turn.from_s, defender=who)
    if sheet.tempo_bpm:
        yield TempoSet(at_ms=at_ms, bpm=sheet.tempo_bpm, by="turn", partner=who)


@dataclass(frozen=True, slots=True)
class _Exchange:
    """One exchange in its turn, on a round that began at `clock_ms`."""

    drill: PartnerDrill
    sheet: FeedSheet
    turn: Turn
    feed: Feed
    round: int
    clock_ms: float

    def marks(self, pair: Pair, rng: np.random.Generator) -> Iterator[Mark]:
        """Strikes, and the coach's taps."""
        had_s = max(0.2, float(rng.normal(HAD_S, HAD_SPREAD_S)))
        yield from self._strikes(pair, had_s, rng)
        if pair.need_s is None:
            # What follows an exchange is harder to keep out than the exchange itself.
            clean = rng.random() < pair.clean - 0.15 * (len(self.feed.path) > 1)
        else:
            need_s = rng.normal(pair.need_s, NEED_SPREAD_S) + rng.exponential(NEED_TAIL_S)
            clean = bool(need_s <= had_s)
        taps = list(self._taps(clean, rng))
        if pair.watched_s:
            low, high = pair.watched_s
            tapped = taps[1:] if clean else taps
            taps = tapped if low <= self.feed.at_s <= high else []
        yield from taps

    def _at(self, sheet_s: float) -> float:
        return round(self.clock_ms + 1000 * max(0.0, sheet_s), 1)

    def _strikes(self, pair: Pair, had_s: float, rng: np.random.Generator) -> Iterator[Mark]:
        """Each attack and counter that is heard, a little beside its beat."""
        pads = pair.need_s is not None
        feeder, defender = self.turn.roles(self.feed)
        for step in follow(self.drill, [fed.passage for fed in self.feed.path]).steps:
            off_s = float(rng.normal(0, UNEVEN_S))
            at_s = self.feed.at_s + (step.beat - 1) * self.sheet.beat_s + off_s
            whose = feeder if step.person == "a" else defender
            if not step.strikes or rng.random() <= LOST:
                continue
            if pads and step.beat == 1 and step.lane == "feeder":
                yield HandLeftHome(at_ms=self._at(at_s - had_s), source="pad", partner=whose)
            yield Strike(
                at_ms=self._at(at_s),
                source="pad" if pads else "microphone",
                partner=whose if pads else None,
            )

    def _taps(self, clean: bool, rng: np.random.Generator) -> Iterator[Mark]:
        at_ms = self._at(self.feed.ends_s(self.sheet.beat_s))
        kept_out = KEPT_OUT if self.feed.counter else KEPT_OUT[2:]
        grade: Grade = kept_out[int(rng.integers(len(kept_out)))] if clean else "struck"
        number = self.feed.number
        yield Graded(at_ms=at_ms, round=self.round, number=number, grade=grade)
        if self.drill.watch and rng.random() < FAULTS:
            fault = self.drill.watch[int(rng.integers(len(self.drill.watch)))]
            yield Tagged(at_ms=at_ms, round=self.round, number=number, fault=fault)
