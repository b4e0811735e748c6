"""How much slower one group of answers is than another, with its interval.

The shift of Hodges and Lehmann 1963 (memory): the median of all differences between an answer of
one group and one of the other. Its 95 % interval turns the rank test of Mann and Whitney 1947
(memory) around. Neither asks for a shape of the times, and a slow tail moves neither much.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hastatus.core.read.proportion import TELL_Z, TOO_FEW, Z_95


@dataclass(frozen=True, slots=True)
class Difference:
    """How much more time `second` takes than `first`, ms; above zero: slower.

    low_ms, high_ms: 95 % interval. answers: how many of the smaller group it rests on. told:
    whether it is said to be there, by the stricter level of `proportion.TELL_Z`.
    """

    first: str
    second: str
    middle_ms: float
    low_ms: float
    high_ms: float
    answers: int
    told: bool = False


@dataclass(frozen=True, slots=True)
class Group:
    """Times of right answers, ms, and the limits of those that never came, under one name."""

    name: str
    times: Sequence[float]
    censored: Sequence[float] = ()

    def __len__(self) -> int:
        return len(self.times) + len(self.censored)


def difference(first: Group, second: Group, widening: float = 1.0) -> Difference | None:
    """From `first` to `second`; None where either has too few answers to say.

    widening: standard error against independent answers (see `dependence`).

    An answer that never came is later than all that did; two of them are not compared.
    """
    if min(len(first), len(second)) < TOO_FEW or not first.times or not second.times:
        return None
    late = 1e9
    ours = np.concatenate([np.asarray(first.times), np.full(len(first.censored), late)])
    theirs = np.concatenate([np.asarray(second.times), np.full(len(second.censored), 2 * late)])
    gaps = np.sort((theirs[:, None] - ours[None, :]).ravel())
    neither = len(first.censored) * len(second.censored)
    if neither:  # of these pairs nobody knows the order
        gaps = gaps[np.abs(gaps - late) > late / 4]
    pairs = gaps.size
    spread = math.sqrt(pairs * (len(first) + len(second) + 1) / 12)
    low, high = _ends(gaps, Z_95 * widening * spread)
    sure_low, sure_high = _ends(gaps, TELL_Z * widening * spread)
    if max(abs(low), abs(high)) > late / 4:
        return None  # so much never came that one end is open
    return Difference(
        first.name,
        second.name,
        float(np.median(gaps)),
        low,
        high,
        min(len(first), len(second)),
        sure_low > 0 or sure_high < 0,
    )


def _ends(gaps: NDArray[np.float64], reach: float) -> tuple[float, float]:
    """The gaps so many ranks from either end of the middle."""
    cut = max(0, math.floor(gaps.size / 2 - reach))
    return float(gaps[cut]), float(gaps[gaps.size - 1 - cut])
