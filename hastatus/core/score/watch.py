"""When the coach watched: what is not tapped in that time is clean, by exception.

Nobody can tap each attack of a stream. So the coach watches for a while and taps what gets through.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from hastatus.core.run.partner_events import Mark, RoundBegun, RoundOver, WatchBegun, WatchOver


@dataclass(frozen=True, slots=True)
class Watch:
    """A stretch of a round in which the coach watched, ms on the run's clock.

    left_on_ms: how much longer it was left on after the round; that is not counted.
    """

    round: int
    from_ms: float
    to_ms: float
    left_on_ms: float = 0.0


def watches(marks: Iterable[Mark]) -> list[Watch]:
    """Every stretch, in order; one that nobody ended is over with the round, or the last mark.

    One that is begun while another is on goes on with it; outside a round nothing is watched.
    """
    watched: list[Watch] = []
    round_: int | None = None
    from_ms: float | None = None
    ended: int | None = None
    at_ms = 0.0
    for mark in marks:
        at_ms = mark.at_ms
        if isinstance(mark, RoundBegun):
            if round_ is not None and from_ms is not None:
                watched.append(Watch(round_, from_ms, at_ms))
            round_, from_ms, ended = mark.round, None, None
        elif isinstance(mark, WatchBegun) and round_ == mark.round:
            from_ms = at_ms if from_ms is None else from_ms
        elif isinstance(mark, WatchOver | RoundOver) and round_ is not None:
            if from_ms is not None:
                watched.append(Watch(round_, from_ms, at_ms))
                ended = len(watched) - 1 if isinstance(mark, RoundOver) else None
            from_ms = None
            round_ = None if isinstance(mark, RoundOver) else round_
        elif isinstance(mark, WatchOver) and ended is not None:
            last = watched[ended]
            watched[ended] = Watch(last.round, last.from_ms, last.to_ms, at_ms - last.to_ms)
            ended = None
    if round_ is not None and from_ms is not None:
        watched.append(Watch(round_, from_ms, at_ms))
    return watched
