"""A round's time on its sheet against the run's clock: pauses, and another tempo."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import inf
from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.fields import DAY_S, Document, Seconds, Tempo
from hastatus.core.run.partner_events import (
    Mark,
    Paused,
    Resumed,
    RoundBegun,
    RoundOver,
    TempoSet,
    TurnBegun,
)

SAME_S = 1e-3
"""Two moments on a sheet nearer than this are one."""


class Stands(Document):
    """Where a round stands at the mat. sheet_s: on the round's sheet; bpm: the tempo that is on."""

    phase: Literal["ready", "round", "paused", "rest", "over", "knocked"]
    round: Annotated[int, Field(ge=1, le=40)]
    sheet_s: Seconds
    bpm: Tempo | None = None

    def after(self, passed_s: float, sheet_bpm: float | None) -> Stands:
        """Where it stands `passed_s` later, a day on the sheet at most; while it does not run, at
        the same place.

        passed_s: below 0 where a clock was set back: none has passed.
        """
        if self.phase != "round":
            return self
        rate = self.bpm / sheet_bpm if self.bpm and sheet_bpm else 1.0
        sheet_s = min(float(DAY_S), self.sheet_s + max(0.0, passed_s) * rate)
        return self.model_copy(update={"sheet_s": sheet_s})


@dataclass(frozen=True, slots=True)
class Stretch:
    """From `at_ms` on the sheet stands at `sheet_s` and goes `rate` times as fast as the clock."""

    at_ms: float
    sheet_s: float
    rate: float


@dataclass(frozen=True, slots=True)
class RoundClock:
    """One round's stretches, in order. over_ms: when it was over; infinite: nothing says so."""

    stretches: tuple[Stretch, ...]
    over_ms: float = inf

    def reached(self, from_s: float, to_s: float) -> tuple[float, float] | None:
        """When the sheet came to `from_s` and to `to_s`, in ms; None: it did not come to both, or a
        turn went past what lies between them."""
        start: float | None = None
        for stretch, until_ms in self._until():
            if not stretch.rate:
                continue
            until_s = stretch.sheet_s + (until_ms - stretch.at_ms) / 1000 * stretch.rate
            if start is None and stretch.sheet_s <= from_s + SAME_S and from_s < until_s:
                start = stretch.at_ms + 1000 * (from_s - stretch.sheet_s) / stretch.rate
            elif start is not None and stretch.sheet_s > to_s + SAME_S:
                return None  # the next turn began before it was through
            if start is not None and to_s <= until_s + SAME_S:
                return start, stretch.at_ms + 1000 * (to_s - stretch.sheet_s) / stretch.rate
        return None

    def _until(self) -> Iterator[tuple[Stretch, float]]:
        """Each stretch, and when it was over."""
        ends = [stretch.at_ms for stretch in self.stretches[1:]] + [self.over_ms]
        return zip(self.stretches, ends, strict=True)

    def at_ms(self, sheet_s: float) -> float:
        """When the sheet came to `sheet_s`, in ms on the run's clock."""
        last = next(
            (
                stretch
                for stretch in reversed(self.stretches)
                if stretch.sheet_s <= sheet_s and stretch.rate
            ),
            self.stretches[0],
        )
        return last.at_ms + 1000 * (sheet_s - last.sheet_s) / (last.rate or 1.0)

    def sheet_s(self, at_ms: float) -> float:
        """Where the sheet stood at `at_ms`; before the round, negative."""
        begun = [stretch for stretch in self.stretches if stretch.at_ms <= at_ms]
        last = begun[-1] if begun else self.stretches[0]
        return last.sheet_s + (at_ms - last.at_ms) / 1000 * last.rate


TIMING = (RoundBegun, RoundOver, Paused, Resumed, TempoSet, TurnBegun)
"""The marks that a round's clock is made of."""


def round_clock(marks: Sequence[Mark], number: int, sheet_bpm: float | None) -> RoundClock | None:
    """The clock of a round; None where it was never begun. Begun again, the last time counts."""
    bpm, rate, running = sheet_bpm, 1.0, False
    stretches: list[Stretch] = []
    here = False
    over_ms = inf
    for mark in marks:
        if isinstance(mark, TempoSet):
            bpm = mark.bpm
        elif isinstance(mark, RoundBegun):
            here = mark.round == number
            running = True
            if here:
                stretches, over_ms = [], inf
        elif isinstance(mark, RoundOver):
            if here and mark.round == number:
                here, over_ms = False, mark.at_ms
            continue
        elif isinstance(mark, Paused):
            running = False
        elif isinstance(mark, Resumed):
            running = True
        elif not isinstance(mark, TurnBegun):
            continue
        if here:
            sheet_s = 0.0
            if isinstance(mark, TurnBegun):
                sheet_s = mark.sheet_s
            elif stretches:
                last = stretches[-1]
                sheet_s = last.sheet_s + (mark.at_ms - last.at_ms) / 1000 * last.rate
            rate = bpm / sheet_bpm if bpm and sheet_bpm else 1.0
            stretches.append(Stretch(mark.at_ms, sheet_s, rate if running else 0.0))
    return RoundClock(tuple(stretches), over_ms) if stretches else None
