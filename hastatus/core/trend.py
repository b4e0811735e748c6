"""Slopes over time: within a run, over weeks, over the gap between two cues.

Robust slopes are those of Theil 1950 and Sen 1968: the median of the slopes of all pairs, with the
interval of Sen's rank test; one bad day does not turn them.
"""

from __future__ import annotations

import math
import warnings
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from scipy import stats as scipy_stats

from hastatus.core.stats import TOO_FEW


@dataclass(frozen=True, slots=True)
class Slope:
    """A line through points. Slopes in units of y for one of x, with a 95 % interval."""

    slope: float
    low: float
    high: float
    intercept: float
    points: int

    @property
    def real(self) -> bool:
        """Whether the interval leaves a level line out."""
        return self.low > 0 or self.high < 0


def robust_slope(
    x: Sequence[float], y: Sequence[float], least: int = TOO_FEW, widening: float = 1.0
) -> Slope | None:
    """Theil's and Sen's slope; None for fewer than `least` points, or nearly all at one x.

    widening: standard error against independent points (see `dependence`).
    """
    if len(x) < least or len(set(x)) < 2:
        return None
    with warnings.catch_warnings():
        warnings.simplefilter("ignore", RuntimeWarning)  # nearly everything at one x: see below
        found = scipy_stats.theilslopes(y, x, alpha=0.95)
    if not math.isfinite(found.low_slope + found.high_slope):
        return None  # so many points share their x that Sen's test says nothing
    return Slope(
        float(found.slope),
        float(found.slope - widening * (found.slope - found.low_slope)),
        float(found.slope + widening * (found.high_slope - found.slope)),
        float(found.intercept),
        len(x),
    )


@dataclass(frozen=True, slots=True)
class Line:
    """Intercept and slope of a line by least squares."""

    intercept: float
    slope: float


def line(x: Sequence[float], y: Sequence[float]) -> Line:
    """The least-squares line. ValueError for fewer than two places."""
    if len(set(x)) < 2:
        raise ValueError("a line needs two different places")
    slope, intercept = np.polyfit(np.asarray(x, dtype=float), np.asarray(y, dtype=float), 1)
    return Line(float(intercept), float(slope))


def mean_line(people: Sequence[tuple[Sequence[float], Sequence[float]]]) -> Line:
    """The mean of each person's own line: with equal designs, what a mixed model finds for all.

    Bates et al. 2015, J. Stat. Softw. 67(1), on the data of Belenky et al. 2003.
    """
    lines = [line(x, y) for x, y in people]
    return Line(
        float(np.mean([each.intercept for each in lines])),
        float(np.mean([each.slope for each in lines])),
    )
