"""How far the answers of one run go together, and what that does to an interval.

Answers of one person are not independent: a slow one is followed by slow ones more often than not
(a lag-1 correlation of about 0.3 is usual; Gilden 2001, Psychol. Rev. 108:33, memory), and whole
rounds are slower than others. Intervals made for independent answers are then too narrow. Here the
correlation and the spread between rounds are estimated from the run itself, each drawn towards
what is usual, since a run is short; the standard error of any weighted sum of the answers follows.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtri

Values = NDArray[np.float64]

USUAL_LAG = 0.2
LAG_COUNTS = 10
"""Correlation of an answer and the next that is expected before any is seen, and how many answers
that expectation counts for."""
USUAL_ROUND_MS = 8.0
ROUNDS_COUNT = 5
"""Standard deviation between rounds, ms, that is expected, and for how many rounds it counts."""
_CLIP = 3.0
"""Answers further from the middle than so many spreads are drawn in: one lapse is no wander."""


@dataclass(frozen=True, slots=True)
class Place:
    """Where an answer stands in a run: its round, and its number among the cues of that round."""

    round: int
    number: int


@dataclass(frozen=True, slots=True)
class Dependence:
    """lag: correlation of an answer and the next one. rounds: variance between rounds as a share
    of the variance of single answers within one."""

    lag: float
    rounds: float

    def widening(self, weights: Sequence[float], places: Sequence[Place]) -> float:
        """Standard error of the sum of answers times `weights`, against independent answers."""
        total = 0.0
        of = np.asarray(weights, dtype=np.float64)
        squares = float((of**2).sum())
        if squares == 0:
            return 1.0
        numbers = np.array([place.number for place in places])
        rounds = np.array([place.round for place in places])
        for number in np.unique(rounds):
            here = rounds == number
            apart = np.abs(numbers[here][:, None] - numbers[here][None, :])
            together = self.lag**apart + self.rounds
            total += float(of[here] @ together @ of[here])
        return math.sqrt(max(total / squares, 0.1))

    @property
    def of_sides(self) -> Dependence:
        """The same of which side of a quantile answers lie on: for normal values the correlation
        of their signs is 2/π · asin r (Sheppard 1899, memory)."""
        return Dependence(2 / math.pi * math.asin(min(0.99, self.lag)), 0.65 * self.rounds)


INDEPENDENT = Dependence(0.0, 0.0)


def dependence(values_ms: Sequence[float], places: Sequence[Place], fitted: int = 0) -> Dependence:
    """From answers, ms, less what is usual of their kind, in any order.

    fitted: slopes over the rounds that were taken out of them before.
    """
    return _dependence(tuple(values_ms), tuple(places), fitted)


@lru_cache(maxsize=32)
def _dependence(values_ms: tuple[float, ...], places: tuple[Place, ...], fitted: int) -> Dependence:
    """The same; kept, since what is told of a run asks for it several times over."""
    if len(values_ms) < 3:
        return Dependence(USUAL_LAG, 0.0)
    values = np.asarray(values_ms, dtype=np.float64)
    middle = float(np.median(values))
    spread = float(np.median(np.abs(values - middle))) * 1.4826 or 1.0
    values = np.clip(values - middle, -_CLIP * spread, _CLIP * spread)
    rounds = _by_round(values, places)
    _, within = _lag(rounds)
    # A slow tail hides how far answers go together; their normal scores do not.
    scores = ndtri((ranks(values) - 0.5) / values.size)
    lag, _ = _lag(_by_round(scores, places))
    between = _between(rounds, lag, within, fitted) / within if within > 0 else 0.0
    return Dependence(lag, between)


def ranks(values: Values) -> Values:
    """The place of each among all, from 1; equal values share the middle one of their places."""
    _, which, counts = np.unique(values, return_inverse=True, return_counts=True)
    middles: Values = np.cumsum(counts) - (counts - 1) / 2
    return middles[which]


def _by_round(values: Values, places: Sequence[Place]) -> list[list[tuple[int, float]]]:
    """Numbers and values of each round, in order."""
    by_round: dict[int, list[tuple[int, float]]] = {}
    for value, place in zip(values.tolist(), places, strict=True):
        by_round.setdefault(place.round, []).append((place.number, value))
    return [sorted(in_round) for in_round in by_round.values()]


def _lag(rounds: Sequence[Sequence[tuple[int, float]]]) -> tuple[float, float]:
    """Correlation of neighbours, drawn towards the usual one; and the variance within rounds."""
    products, pairs, squares, count = 0.0, 0, 0.0, 0
    for in_round in rounds:
        mean = sum(value for _, value in in_round) / len(in_round)
        off = [(number, value - mean) for number, value in in_round]
        squares += sum(value * value for _, value in off)
        count += len(off) - 1
        for (number, value), (following, after) in itertools.pairwise(off):
            if following - number == 1:
                products, pairs = products + value * after, pairs + 1
    within = squares / count if count > 0 else 0.0
    if not pairs or within <= 0:
        return USUAL_LAG, within
    # The mean of a round is taken from its own answers, which makes neighbours look contrary.
    correlation = products / pairs / within + len(rounds) / max(count, 1)
    drawn = (pairs * correlation + LAG_COUNTS * USUAL_LAG) / (pairs + LAG_COUNTS)
    return min(max(drawn, -0.2), 0.8), within


def _between(
    rounds: Sequence[Sequence[tuple[int, float]]], lag: float, within: float, fitted: int
) -> float:
    """Variance between rounds, drawn towards the usual one."""
    usual = USUAL_ROUND_MS**2
    kept = [in_round for in_round in rounds if len(in_round) > 1]
    freedom = len(kept) - 1 - fitted
    if freedom < 1:
        return usual
    means = np.array([sum(value for _, value in in_round) / len(in_round) for in_round in kept])
    alone = [
        within / len(in_round) * Dependence(lag, 0.0).widening(
            [1.0] * len(in_round), [Place(0, number) for number, _ in in_round]
        ) ** 2
        for in_round in kept
    ]  # fmt: skip
    between = float(means.var(ddof=1 + fitted)) - sum(alone) / len(alone)
    return max(0.0, (freedom * between + ROUNDS_COUNT * usual) / (freedom + ROUNDS_COUNT))
