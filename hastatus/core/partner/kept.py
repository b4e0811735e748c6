"""The tempo that was kept in each round against the one that was asked, and who ran ahead of it.

Where the metronome is heard, each one's own strikes are held against it, so that one who runs ahead
alone is told. Without a kept pulse the two only have each other: that they ran ahead can be told,
who began cannot.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import inf

from hastatus.core.partner.arrivals import NEAR_BEATS
from hastatus.core.partner.clock import RoundClock, Stretch, round_clock
from hastatus.core.partner.drill import PartnerDrill
from hastatus.core.partner.feed import FeedRound, FeedSheet
from hastatus.core.partner.marks import Mark, RoundOver, Strike
from hastatus.core.partner.once import strikes_of
from hastatus.core.partner.rhythm import RanAhead, Rhythm, rhythm
from hastatus.core.partner.walk import follow

_ONE_BEAT = 0.25
"""Of two steps about as near to a strike as this, in beats, it may be either's."""


@dataclass(frozen=True, slots=True)
class OwnAhead:
    """One who ran ahead of the pulse. partner: from 0."""

    partner: int
    ran: RanAhead


@dataclass(frozen=True, slots=True)
class KeptTempo:
    """The rhythm of a stretch of a round in which one tempo was asked.

    from_s: where it begins on the round's sheet. pulse: whether the beat was heard. alone: who ran
    ahead by their own strikes; empty without a pulse, for then it cannot be told. Beats are counted
    from the first strike of the stretch.
    """

    round: int
    asked_bpm: float
    from_s: float
    rhythm: Rhythm
    pulse: bool
    alone: tuple[OwnAhead, ...]


def kept(drill: PartnerDrill, sheet: FeedSheet, marks: Sequence[Mark]) -> list[KeptTempo]:
    """Every stretch in which enough was heard; none on the feeder's own time."""
    if sheet.tempo_bpm is None:
        return []
    found = []
    every = strikes_of(marks)
    over = {mark.round: mark.at_ms for mark in marks if isinstance(mark, RoundOver)}
    for round_ in sheet.rounds:
        clock = round_clock(marks, round_.number, sheet.tempo_bpm)
        if clock is None:
            continue
        begun_ms, over_ms = clock.stretches[0].at_ms, over.get(round_.number, inf)
        strikes = [mark for mark in every if begun_ms <= mark.at_ms <= over_ms]
        owned = _owned(drill, sheet, round_, clock, strikes)
        for stretch, until_s in _tempos(clock):
            here = [each for each in owned if stretch.sheet_s <= each.sheet_s < until_s]
            told = _kept(drill, sheet, round_, stretch, here)
            if told:
                found.append(told)
    return found


@dataclass(frozen=True, slots=True)
class _Owned:
    """A strike on the round's sheet. partner: None where it may be either's."""

    sheet_s: float
    partner: int | None


def _kept(
    drill: PartnerDrill,
    sheet: FeedSheet,
    round_: FeedRound,
    stretch: Stretch,
    strikes: Sequence[_Owned],
) -> KeptTempo | None:
    pulse = drill.rungs[sheet.rung - 1].metronome
    halves = any(step.beat % 1 for passage in drill.passages for step in passage.steps)
    beat_s = sheet.beat_s / stretch.rate

    def told(own: Sequence[_Owned]) -> Rhythm | None:
        times_s = [each.sheet_s / stretch.rate for each in own]
        return rhythm(times_s, beat_s, parts=2 if halves else 1, pulse=pulse)

    together = told(strikes)
    if together is None:
        return None
    alone = []
    for partner in range(sheet.people) if pulse else ():
        own = told([each for each in strikes if each.partner == partner])
        if own and own.ran_ahead:
            alone.append(OwnAhead(partner, own.ran_ahead))
    return KeptTempo(
        round=round_.number,
        asked_bpm=round(60 / beat_s, 2),
        from_s=round(stretch.sheet_s, 1),
        rhythm=together,
        pulse=pulse,
        alone=tuple(alone),
    )


def _tempos(clock: RoundClock) -> Iterator[tuple[Stretch, float]]:
    """Each tempo that was asked in turn, and until where on the sheet; a pause takes no time."""
    running = [each for each in clock.stretches if each.rate]
    changes = [
        each
        for place, each in enumerate(running)
        if place == 0 or each.rate != running[place - 1].rate
    ]
    for place, each in enumerate(changes):
        yield each, changes[place + 1].sheet_s if place + 1 < len(changes) else inf


def _owned(
    drill: PartnerDrill,
    sheet: FeedSheet,
    round_: FeedRound,
    clock: RoundClock,
    strikes: Sequence[Strike],
) -> list[_Owned]:
    """The strikes on the sheet, each with its owner as pads know it, or else as the score says."""
    asked = sorted(_asked(drill, sheet, round_))
    times = [sheet_s for sheet_s, _ in asked]
    owned = []
    for mark in strikes:
        sheet_s = clock.sheet_s(mark.at_ms)
        partner = mark.partner
        if partner is None:
            near = NEAR_BEATS * sheet.beat_s
            low, high = bisect_left(times, sheet_s - near), bisect_right(times, sheet_s + near)
            partner = _nearest(sheet_s, asked[low:high], _ONE_BEAT * sheet.beat_s)
        owned.append(_Owned(sheet_s, partner))
    return owned


def _asked(drill: PartnerDrill, sheet: FeedSheet, round_: FeedRound) -> Iterator[tuple[float, int]]:
    """Every strike that the sheet asks for, and of whom."""
    for turn in round_.turns:
        for feed in turn.feeds:
            feeder, defender = turn.roles(feed)
            for step in follow(drill, [each.passage for each in feed.path]).steps:
                if step.strikes:
                    at_s = feed.at_s + (step.beat - 1) * sheet.beat_s
                    yield at_s, feeder if step.person == "a" else defender


def _nearest(sheet_s: float, near: Sequence[tuple[float, int]], same_s: float) -> int | None:
    """Whose asked strike is the nearest; None where another's is about as near, or none is."""
    if not near:
        return None
    best = min(abs(at_s - sheet_s) for at_s, _ in near)
    whose = {partner for at_s, partner in near if abs(at_s - sheet_s) <= best + same_s}
    return whose.pop() if len(whose) == 1 else None
