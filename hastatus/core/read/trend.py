"""Slopes over time: within a run, over weeks, over the gap between two cues.

Robust slopes are those of Theil 1950 and Sen 1968: the median of the slopes of all pairs, with the
interval of Sen's rank test; one bad day does not turn them.
"""

from __future__ import annotations

import math
import warnings
from collections.abc import Hashable, Sequence
from dataclasses import dataclass

import numpy as np
import scipy
from scipy.special import stdtrit

from hastatus.core.read.proportion import TELL_Z, TOO_FEW, Z_95


@dataclass(frozen=True, slots=True)
class Slope:
    """A line through points. Slopes in units of y for one of x, with a 95 % interval.

    told: whether it is said to rise or fall, by a stricter level than that of the interval.
    """

    slope: float
    low: float
    high: float
    intercept: float
    points: int
    told: bool = False


COURSE_SHARE = 0.9988
TESTS_SHARE = 0.995
"""A course over the weeks is looked at again and again, for several skills: it is told as rising or
falling only where it leaves level out at 99.76 %, two-sided; tests, which are few, at 99 %."""


def slope_of(
    slope: float,
    error: float,
    freedom: float,
    intercept: float,
    points: int,
    sure_share: float = COURSE_SHARE,
) -> Slope:
    """A course's slope with its standard error, which is known with `freedom` degrees of it."""
    reach, sure = (float(stdtrit(freedom, share)) * error for share in (0.975, sure_share))
    return Slope(slope, slope - reach, slope + reach, intercept, points, abs(slope) > sure)


def course_slope(
    weeks: Sequence[float], values: Sequence[float], groups: Sequence[Hashable]
) -> Slope | None:
    """The common slope of several groups of points, each with a level of its own (least squares).

    None where fewer than two degrees of freedom are left to know its error by.
    """
    x, y = np.asarray(weeks, dtype=float), np.asarray(values, dtype=float)
    of = list(dict.fromkeys(groups))
    for group in of:
        here = np.array([label == group for label in groups])
        x[here] -= x[here].mean()
        y[here] -= y[here].mean()
    freedom, across = len(x) - len(of) - 1, float((x**2).sum())
    if freedom < 2 or across < 1e-9:
        return None
    slope = float((x * y).sum()) / across
    error = math.sqrt(float(((y - slope * x) ** 2).sum()) / freedom / across)
    level = float(np.mean(values)) - slope * float(np.mean(weeks))
    return slope_of(slope, error, freedom, level, len(x))


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
        fit = scipy.stats.theilslopes(y, x, alpha=0.95)
    if not math.isfinite(fit.low_slope + fit.high_slope):
        return None  # so many points share their x that Sen's test says nothing
    slope, below, above = (
        float(slope) for slope in (fit.slope, fit.slope - fit.low_slope, fit.high_slope - fit.slope)
    )
    sure = widening * TELL_Z / Z_95
    return Slope(
        slope,
        slope - widening * below,
        slope + widening * above,
        float(fit.intercept),
        len(x),
        slope - sure * below > 0 or slope + sure * above < 0,
    )
