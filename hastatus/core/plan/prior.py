"""What is believed of a student's window on a drill before the first answer, and from whom.

A club learns it from its own students: where their first runs of the drill settled and, of those
who were tested, how that goes with the level of the test. Both are regressed as in any textbook
(a normal line whose slope is drawn towards one and whose spread towards what is usual: Gelman et
al. 2013, Bayesian Data Analysis, chapter 14, memory); with few students the spread stays wide.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

from pydantic import Field

from hastatus.core.fields import Document, Seconds

START_SPREAD = 0.8
"""How far, in ln time, the window of a start that rests on nothing may be wrong."""
LEAST_STUDENTS = 3
"""Fewer first runs say nothing of a club."""
WINDOW_TO_MEDIAN = 1.4
"""A window that most answers are inside is about this many medians (common practice, no source)."""

_USUAL_SPREAD, _USUAL_COUNTS = 0.25, 3.0
"""Spread of a club's students, ln time, before any is seen, and how many these count for."""
_TEST_SPREAD = 0.4
"""The same for what a test alone says of a drill."""
_SLOPE_SPREAD = 0.4
"""How far from one a slope over the tests may lie."""
_LEAST_SPREAD = 0.1


class Prior(Document):
    """A belief in the window that is met with the target probability: about `window_s`, seconds,
    with a spread in ln time."""

    window_s: Annotated[Seconds, Field(gt=0)]
    spread: Annotated[float, Field(gt=0, le=2)] = START_SPREAD


@dataclass(frozen=True, slots=True)
class FirstRun:
    """Where a student's first run of a drill settled, s, and what the student's test makes of it
    (see `start.tested`), s; None without a test."""

    window_s: float
    tested_s: float | None = None


def of_club(runs: Sequence[FirstRun], tested_s: float | None) -> Prior | None:
    """The prior for one more student of a club; tested_s: by the student's own test.

    None where nothing is known: fewer than three first runs, and no test.
    """
    both = [(math.log(run.window_s), math.log(run.tested_s)) for run in runs if run.tested_s]
    if tested_s is not None and len(both) >= LEAST_STUDENTS:
        return _of_line(both, math.log(tested_s))
    if tested_s is not None:
        return Prior(window_s=WINDOW_TO_MEDIAN * tested_s, spread=_TEST_SPREAD)
    if len(runs) < LEAST_STUDENTS:
        return None
    logs = [math.log(run.window_s) for run in runs]
    middle = _mean(logs)
    return _prior(middle, sum((log - middle) ** 2 for log in logs), len(logs), 0.0)


def _of_line(both: Sequence[tuple[float, float]], at: float) -> Prior:
    """A line through windows over tests, and where it lies at a test."""
    middle, tested = _mean([y for y, _ in both]), _mean([x for _, x in both])
    drawn = (_USUAL_SPREAD / _SLOPE_SPREAD) ** 2
    across = sum((x - tested) ** 2 for _, x in both) + drawn
    slope = (sum((x - tested) * (y - middle) for y, x in both) + drawn) / across
    left = sum((y - middle - slope * (x - tested)) ** 2 for y, x in both)
    return _prior(middle + slope * (at - tested), left, len(both), (at - tested) ** 2 / across)


def _prior(middle: float, squares: float, count: int, lever: float) -> Prior:
    """squares: sum of squares about the line; lever: what being far from its middle adds."""
    freedom = count - 1 + _USUAL_COUNTS
    variance = (squares + _USUAL_COUNTS * _USUAL_SPREAD**2) / freedom
    spread = math.sqrt(variance * (1 + 1 / count + lever))
    return Prior(window_s=math.exp(middle), spread=max(spread, _LEAST_SPREAD))


def _mean(values: Sequence[float]) -> float:
    return sum(values) / len(values)
