"""The tempo that was kept in each round against the one that was asked, and who ran ahead of it.

Where the metronome is heard, each one's own strikes are held against it, so that one who runs ahead
alone is told. Without a kept pulse the two only have each other: that they ran ahead can be told,
who began cannot.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import inf

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import follow
from hastatus.core.plan.feed_sheet import FeedRound, FeedSheet
from hastatus.core.read.rhythm import RanAhead, Rhythm, rhythm
from hastatus.core.run.partner_events import Mark
from hastatus.core.run.sheet_clock import RoundClock, round_clock
from hastatus.core.score.strike_fusion import strikes_of


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


def tempos(drill: PartnerDrill, sheet: FeedSheet, marks: Sequence[Mark]) -> list[KeptTempo]:
    """Every stretch in which enough was heard; none on the feeder's own time."""
    if sheet.tempo_bpm is None:
        return []
    tempos = []
    every = strikes_of(marks)
    for round_ in sheet.rounds:
        clock = round_clock(marks, round_.number, sheet.tempo_bpm)
        if clock is None:
            continue
        begun_ms, over_ms = clock.stretches[0].at_ms, clock.over_ms
        strikes = [
            _OnSheet(clock.sheet_s(mark.at_ms), mark.partner)
            for mark in every
            if begun_ms <= mark.at_ms <= over_ms
        ]
        end_ms = over_ms if over_ms < inf else max((mark.at_ms for mark in every), default=begun_ms)
        for stretch in _tempos(clock, end_ms):
            here = [
                strike for strike in strikes if stretch.from_s <= strike.sheet_s <= stretch.until_s
            ]
            tempo = _kept(drill, sheet, round_, stretch, here)
            if tempo:
                tempos.append(tempo)
    return tempos


def _kept(
    drill: PartnerDrill,
    sheet: FeedSheet,
    round_: FeedRound,
    stretch: _Stretch,
    strikes: Sequence[_OnSheet],
) -> KeptTempo | None:
    pulse = drill.rungs[sheet.rung - 1].metronome
    halves = any(step.beat % 1 for passage in drill.passages for step in passage.steps)
    beat_s = sheet.beat_s / stretch.rate
    asked = [
        (at_s, partner)
        for at_s, partner in asked_strikes(drill, sheet, round_)
        if stretch.from_s <= at_s < stretch.until_s
    ]

    def told(times_s: Sequence[float], asked_s: Sequence[float]) -> Rhythm | None:
        return rhythm(
            [(at_s - stretch.from_s) / stretch.rate for at_s in times_s],
            beat_s,
            parts=2 if halves else 1,
            pulse=pulse,
            asked=[(at_s - stretch.from_s) / sheet.beat_s for at_s in asked_s],
        )

    together = told([strike.sheet_s for strike in strikes], sorted({at_s for at_s, _ in asked}))
    if together is None:
        return None
    alone = []
    for partner in range(sheet.people) if pulse else ():
        # Where the room was listened to, any strike may be theirs that is on a beat of theirs.
        own = told(
            [strike.sheet_s for strike in strikes if strike.partner in (None, partner)],
            sorted({at_s for at_s, whose in asked if whose == partner}),
        )
        if own and own.ran_ahead:
            alone.append(OwnAhead(partner, own.ran_ahead))
    return KeptTempo(
        round=round_.number,
        asked_bpm=round(60 / beat_s, 2),
        from_s=round(stretch.from_s, 1),
        rhythm=together,
        pulse=pulse,
        alone=tuple(alone),
    )


@dataclass(frozen=True, slots=True)
class _OnSheet:
    """A strike on the round's sheet. partner: None where it may be either's."""

    sheet_s: float
    partner: int | None


@dataclass(frozen=True, slots=True)
class _Stretch:
    """A stretch of the sheet in one tempo. rate: how many times as fast as the sheet."""

    from_s: float
    until_s: float
    rate: float


def _tempos(clock: RoundClock, end_ms: float) -> Iterator[_Stretch]:
    """Each tempo that was asked in turn; a pause takes no time, a turn begins another stretch."""
    here: _Stretch | None = None
    ends = [stretch.at_ms for stretch in clock.stretches[1:]] + [end_ms]
    for stretch, until_ms in zip(clock.stretches, ends, strict=True):
        if not stretch.rate:
            continue
        until_s = stretch.sheet_s + (until_ms - stretch.at_ms) / 1000 * stretch.rate
        onward = here and here.rate == stretch.rate and abs(here.until_s - stretch.sheet_s) < 1e-6
        if here and not onward:
            yield here
        from_s = here.from_s if here and onward else stretch.sheet_s
        here = _Stretch(from_s, until_s, stretch.rate)
    if here:
        yield here


def asked_strikes(
    drill: PartnerDrill, sheet: FeedSheet, round_: FeedRound
) -> list[tuple[float, int]]:
    """Every strike that the sheet asks for, in order: when, in s on the sheet, and of whom."""
    return sorted(
        (
            feed.at_s + (step.beat - 1) * sheet.beat_s,
            turn.roles(feed)[0 if step.person == "a" else 1],
        )
        for turn in round_.turns
        for feed in turn.every_feed
        for step in follow(drill, [fed.passage for fed in feed.path]).steps
        if step.strikes
    )
