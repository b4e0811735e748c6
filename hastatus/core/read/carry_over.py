"""Carry-over: how often a drilled answer turned up in a free round, of the chances that it had."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from hastatus.core.fields import Key
from hastatus.core.read.proportion import Interval, wilson_usual
from hastatus.core.run.partner_events import CarriedOver, ChanceMissed, FreeBegun, FreeOver, Mark


@dataclass(frozen=True, slots=True)
class Chances:
    """What a partner, from 0, had chances for in free rounds. answer: the technique; None: any.
    used: how often it turned up. missed: chances in which it did not."""

    partner: int
    answer: Key | None
    used: int
    missed: int


@dataclass(frozen=True, slots=True)
class CarryOver:
    """Chances of one answer. interval: of the share used, 95 % (Wilson); None: where no chance that
    was missed was counted, uses alone are no share."""

    answer: Key | None
    used: int
    of: int
    interval: Interval | None


def chances_of(taps: Iterable[CarriedOver | ChanceMissed]) -> tuple[Chances, ...]:
    """The chances that were tapped, by partner and answer, in the order of the first tap."""
    counted: dict[tuple[int, Key | None], Counter[str]] = {}
    for tap in taps:
        counted.setdefault((tap.partner, tap.answer), Counter())[tap.kind] += 1
    return tuple(
        Chances(partner, answer, kinds["carried_over"], kinds["chance_missed"])
        for (partner, answer), kinds in counted.items()
    )


def carry_over(chances: Sequence[Chances]) -> CarryOver | None:
    """All of these together; None: there was no chance."""
    used, missed = sum(one.used for one in chances), sum(one.missed for one in chances)
    if not used + missed:
        return None
    return _share(None, used, missed)


def by_answer(chances: Sequence[Chances]) -> list[CarryOver]:
    """Each answer by itself, the one with the most chances first."""
    used, missed = Counter[Key | None](), Counter[Key | None]()
    for one in chances:
        used[one.answer] += one.used
        missed[one.answer] += one.missed
    shares = [_share(answer, used[answer], missed[answer]) for answer in used | missed]
    return sorted(shares, key=lambda share: -share.of)


def _share(answer: Key | None, used: int, missed: int) -> CarryOver:
    of = used + missed
    return CarryOver(answer, used, of, wilson_usual(used, of) if missed else None)


def free_s(marks: Iterable[Mark]) -> float:
    """How long free rounds lasted in all, s; one that nothing ended lasted to its last tap."""
    total_ms, began_ms, last_ms = 0.0, None, 0.0
    for mark in marks:
        if isinstance(mark, FreeBegun):
            if began_ms is not None:
                total_ms += last_ms - began_ms
            began_ms = last_ms = mark.at_ms
        elif began_ms is not None and isinstance(mark, CarriedOver | ChanceMissed):
            last_ms = mark.at_ms
        elif began_ms is not None and isinstance(mark, FreeOver):
            total_ms += mark.at_ms - began_ms
            began_ms = None
    return (total_ms + (last_ms - began_ms if began_ms is not None else 0.0)) / 1000
