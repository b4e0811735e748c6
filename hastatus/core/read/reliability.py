"""How far a repeated test can be trusted, and when a change is more than noise."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.special import fdtri, gammaincinv, stdtrit


def typical_error(tests: Sequence[Sequence[float]]) -> float | None:
    """Standard deviation of one student's repeated tests, in their unit; None without a repeat.

    Hopkins 2000, Sports Med. 30:1: SD of the differences of two trials / √2. tests: for each
    student, or each steady stretch of one, the values in order. Differences of neighbours are
    pooled, so a steady gain from test to test is taken out and does not pass for noise.
    """
    steps = [np.diff(np.asarray(test, dtype=float)) for test in tests if len(test) > 1]
    if not steps:
        return None
    gains = np.concatenate(steps)
    if gains.size < 2:
        return None
    return float(gains.std(ddof=1) / math.sqrt(2))


def smallest_change(error: float, tests: int | None = None) -> float:
    """The smallest change that is real, not noise, at 95 %: 1.96 · √2 · typical error.

    Weir 2005, J. Strength Cond. Res. 19:231. tests: how many of one student the error itself comes
    from, where they are few: Student's t then stands for 1.96, or one steady student in ten would
    be told of a change.
    """
    z = 1.96 if tests is None else float(stdtrit(tests - 2, 0.975))
    return z * math.sqrt(2) * error


@dataclass(frozen=True, slots=True)
class Reliability:
    """Intraclass correlations of single tests (Shrout and Fleiss 1979, Psychol. Bull. 86:420).

    one_way: ICC(1,1). agreement: ICC(2,1), the tests drawn from many. consistency: ICC(3,1), just
    these tests; a gain that all share does not lower it.
    """

    one_way: float
    agreement: float
    consistency: float


Repeatable = Literal["poor", "moderate", "good", "excellent"]


def repeatable(icc: float) -> Repeatable:
    """How repeatable a test is, in a word (Koo and Li 2016, J. Chiropr. Med. 15:155)."""
    if icc < 0.5:
        return "poor"
    if icc < 0.75:
        return "moderate"
    return "good" if icc < 0.9 else "excellent"


def reliability(table: Sequence[Sequence[float]]) -> Reliability | None:
    """From rows of students and columns of tests; None for fewer than two of either."""
    squares = _squares(table)
    if squares is None:
        return None
    students, tests, between, within, trial, error = squares
    if between + within == 0:
        return None
    return Reliability(
        one_way=(between - within) / (between + (tests - 1) * within),
        agreement=(between - error)
        / (between + (tests - 1) * error + tests * (trial - error) / students),
        consistency=(between - error) / (between + (tests - 1) * error),
    )


def _squares(
    table: Sequence[Sequence[float]],
) -> tuple[int, int, float, float, float, float] | None:
    """Students, tests, and the mean squares between students, within them, of tests, of error."""
    values = np.asarray(table, dtype=float)
    if values.ndim != 2 or min(values.shape) < 2:
        return None
    students, tests = values.shape
    rows, columns, grand = values.mean(axis=1), values.mean(axis=0), values.mean()
    between = tests * float(((rows - grand) ** 2).sum()) / (students - 1)
    within = float(((values - rows[:, None]) ** 2).sum()) / (students * (tests - 1))
    trial = students * float(((columns - grand) ** 2).sum()) / (tests - 1)
    residual = values - rows[:, None] - columns[None, :] + grand
    error = float((residual**2).sum()) / ((students - 1) * (tests - 1))
    return students, tests, between, within, trial, error


def agreement_interval(table: Sequence[Sequence[float]]) -> tuple[float, float]:
    """95 % interval of ICC(2,1) (McGraw and Wong 1996, Psychol. Methods 1:30, memory).

    ValueError for fewer than two students or tests.
    """
    squares = _squares(table)
    icc = reliability(table)
    if squares is None or icc is None:
        raise ValueError("an agreement needs two students and two tests")
    n, k, rows, _, columns, error = squares
    rho = min(icc.agreement, 0.999)
    a = k * rho / (n * (1 - rho))
    b = 1 + k * rho * (n - 1) / (n * (1 - rho))
    freedom = (a * columns + b * error) ** 2 / (
        (a * columns) ** 2 / (k - 1) + (b * error) ** 2 / ((n - 1) * (k - 1))
    )
    f_low = float(fdtri(n - 1, freedom, 0.975))
    f_high = float(fdtri(freedom, n - 1, 0.975))
    rest = k * columns + (k * n - k - n) * error
    low = n * (rows - f_low * error) / (f_low * rest + n * rows)
    high = n * (f_high * rows - error) / (rest + n * f_high * rows)
    return low, high


def typical_error_interval(error: float, freedom: int) -> tuple[float, float]:
    """95 % interval of a typical error that rests on `freedom` + 1 differences (χ²)."""
    least, most = (2 * float(gammaincinv(freedom / 2, share)) for share in (0.025, 0.975))
    return error * math.sqrt(freedom / most), error * math.sqrt(freedom / least)
