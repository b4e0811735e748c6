"""Two runs set against each other: what was clean, and how much slower one was than the other.

The interval of a difference is that of these two runs: it has their answers' spread and going
together in it (see `dependence`), and says nothing of how much one evening differs from another.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from math import sqrt

from hastatus.core.drill.solo import Drill
from hastatus.core.read.dependence import Dependence
from hastatus.core.read.difference import Difference, Group, difference
from hastatus.core.read.solo_run import comparable
from hastatus.core.read.summary import (
    Summary,
    places_of,
    right_times,
    summarise,
    time_dependence,
)
from hastatus.core.score.response import Response

Of = Callable[[Response], bool]


@dataclass(frozen=True, slots=True)
class ScoredRun:
    """What is compared of a run. calibrated: its device's delays were measured."""

    drill: Drill
    rung: int
    calibrated: bool
    responses: Sequence[Response]

    @property
    def inputs(self) -> set[str]:
        """What its answers were timed with."""
        return {response.timed_with for response in self.responses if response.timed_with}


@dataclass(frozen=True, slots=True)
class ComparedGroup:
    """One kind of answer in both runs. key: "all", a side, a channel, or a technique and its side.

    found: how much slower the other run's are; None: too few to say.
    """

    key: str
    one: Summary
    other: Summary
    found: Difference | None


@dataclass(frozen=True, slots=True)
class Comparison:
    """groups: of what both runs ask for. doubts: why they can hardly be set against each other."""

    groups: list[ComparedGroup]
    doubts: list[str]


def compare_runs(one: ScoredRun, other: ScoredRun) -> Comparison:
    """The other run against the first, kind by kind; kinds that only one of them has are left out.

    Summaries are of all that counts; differences of what can be compared (`comparable`).
    """
    groups = [
        ComparedGroup(
            key,
            summarise([response for response in one.responses if of(response)]),
            summarise([response for response in other.responses if of(response)]),
            _difference(one, other, of),
        )
        for key, of in _kinds(one, other)
    ]
    return Comparison(groups, _doubts(one, other))


def _kinds(one: ScoredRun, other: ScoredRun) -> list[tuple[str, Of]]:
    asked = [
        {
            (response.asked_technique, response.asked_side)
            for response in run.responses
            if response.asked_technique is not None
        }
        for run in (one, other)
    ]
    kinds: list[tuple[str, Of]] = [("all", lambda response: response.asked_technique is not None)]
    kinds += [(side, _of("asked_side", side)) for side in ("lead", "rear")]
    kinds += [(channel, _of("channel", channel)) for channel in ("hear", "see")]
    for technique, side in sorted(asked[0] & asked[1], key=str):
        kinds.append((f"{technique} {side}", _asks(technique, side)))
    return [
        (key, of)
        for key, of in kinds
        if any(map(of, one.responses)) and any(map(of, other.responses))
    ]


def _of(field: str, value: str) -> Of:
    def holds(response: Response) -> bool:
        return response.asked_technique is not None and getattr(response, field) == value

    return holds


def _asks(technique: str | None, side: str | None) -> Of:
    return lambda response: (response.asked_technique, response.asked_side) == (technique, side)


def _difference(one: ScoredRun, other: ScoredRun, of: Of) -> Difference | None:
    groups, widenings, sizes = [], [], []
    for name, run in (("one", one), ("other", other)):
        counted = comparable(run.drill, run.responses)
        kind = [response for response in counted if of(response)]
        times, censored = right_times(kind)
        timed = [response for response in kind if response.right_ms is not None]
        groups.append(Group(name, times, censored))
        widenings.append(_widening(time_dependence(counted), timed))
        sizes.append(max(1, len(timed)))
    # The variance of a difference is the sum of both: each run's own counts by its share of it.
    shares = [1 / size for size in sizes]
    squares = sum(share * wide**2 for share, wide in zip(shares, widenings, strict=True))
    return difference(groups[0], groups[1], sqrt(squares / sum(shares)))


def _widening(together: Dependence, timed: Sequence[Response]) -> float:
    """As wide as the answers' going together makes a middle of them."""
    if not timed:
        return 1.0
    ranks = Dependence(0.9 * together.lag, 0.8 * together.rounds)
    return max(1.0, ranks.widening([1.0] * len(timed), places_of(timed)))


def _doubts(one: ScoredRun, other: ScoredRun) -> list[str]:
    doubts = []
    if one.drill.title != other.drill.title:
        doubts.append("they are runs of different drills")
    elif one.rung != other.rung:
        doubts.append(f"one is on rung {one.rung}, the other on rung {other.rung}")
    if one.inputs and other.inputs and one.inputs != other.inputs:
        doubts.append("their answers were timed by different inputs, each with a delay of its own")
    if not (one.calibrated and other.calibrated) and one.inputs != other.inputs:
        doubts.append("not both devices were measured")
    return doubts
