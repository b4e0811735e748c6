"""Proportions with Wilson's interval, and how many answers are too few to say."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

TOO_FEW = 8
"""Fewer answers than this are "too few to say"."""

Z_95 = 1.959963984540054
"""Standard errors on either side that hold a normal value in 95 of 100 cases."""

TELL_Z = 2.7
"""A run shows some seven comparisons. One is told as there only where its interval leaves zero out
at this many standard errors (two-sided 0.7 %), so that few runs with nothing in them say something;
all are shown with their 95 % intervals."""


@dataclass(frozen=True, slots=True)
class Interval:
    """A 95 % interval."""

    low: float
    high: float


def wilson(successes: int, trials: int, z: float = Z_95) -> Interval:
    """Wilson score interval for a share (Wilson 1927; Newcombe 1998). ValueError for no trials."""
    if not 0 <= successes <= trials or trials == 0:
        raise ValueError(f"{successes} of {trials} is no share")
    return wilson_of(successes / trials, trials, z)


def wilson_of(share: float, trials: float, z: float = Z_95) -> Interval:
    """Wilson's interval for a share that is as sure as one of so many independent trials."""
    spread = z * math.sqrt(share * (1 - share) / trials + z * z / (4 * trials * trials))
    middle = share + z * z / (2 * trials)
    scale = 1 + z * z / trials
    # At either end the bound is the end itself; rounding would put it just beside it.
    low = (middle - spread) / scale if share > 0 else 0.0
    high = (middle + spread) / scale if share < 1 else 1.0
    return Interval(low, high)


USUAL_RUN = 0.09
"""Correlation of one outcome and the next, clean or not, before any is seen: that of the sides of
normal values whose own is 0.14 (2/π · asin, Sheppard 1899, memory)."""

_USUAL_RUN_COUNTS = 80


def wilson_in_order(outcomes: Sequence[bool]) -> Interval:
    """Wilson's interval for a share of outcomes in their order, of which each is like the next.

    Counts as many as say as much: n · (1 − r)/(1 + r), r drawn towards what is usual. ValueError
    for no outcomes.
    """
    if not outcomes:
        raise ValueError("no outcomes have no share")
    share = sum(outcomes) / len(outcomes)
    off = [outcome - share for outcome in outcomes]
    squares = sum(residual * residual for residual in off)
    run = sum(one * other for one, other in pairwise(off)) / squares if squares else USUAL_RUN
    drawn = len(outcomes) * run + _USUAL_RUN_COUNTS * USUAL_RUN
    together = min(max(drawn / (len(outcomes) + _USUAL_RUN_COUNTS), 0.0), 0.6)
    return wilson_of(share, len(outcomes) * (1 - together) / (1 + together))


def wilson_usual(successes: int, trials: int) -> Interval:
    """The same where the order is not at hand: each as much like the next as is usual."""
    return wilson_of(successes / trials, trials * (1 - USUAL_RUN) / (1 + USUAL_RUN))
