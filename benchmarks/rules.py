"""The rules that move the answer window, on simulated students: the core alone."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial

import numpy as np

from benchmarks.figure import Figure
from hastatus.core.drill.solo import Pace
from hastatus.demo.population import (
    Subject,
    Tracking,
    autocorrelated,
    ex_gaussian,
    gamma,
    lognormal,
    narrow,
    track,
    two_speed,
    wald,
    wide,
)

STUDENTS, LOOSE_STUDENTS = 400, 100
MEASURED, LOOSE_MEASURED = 200, 12
"""Of these each cue weighs a whole grid of students."""
EARLY = {0.7: 0.11, 0.84: 0.15, 0.9: 0.20}
"""Bound of the measured rule's error after 15 cues, by target."""
Population = Callable[[np.random.Generator], Subject]
ERROR = "90th percentile of |ln(window / true quantile)|"


def figures(loose: bool) -> Iterator[Figure]:
    """Follow students of each population under each rule."""
    with ProcessPoolExecutor(2) as pool:
        many = (LOOSE_STUDENTS, LOOSE_MEASURED) if loose else (STUDENTS, MEASURED)
        tracked = pool.map(_track, _trials(*many))
        for trial, found in zip(_trials(*many), tracked, strict=True):
            # Of twelve students the 90th percentile is about the second.
            yield from _judged(trial, found, 2.0 if loose else 1.0)


@dataclass(frozen=True)
class Trial:
    """Students of a population under a rule. within: how near the clean share comes to the target;
    early, late: bounds of the window's error after 15 and 60 cues; None: nothing is promised."""

    name: str
    population: Population
    pace: Pace
    students: int
    within: float | None = None
    early: float | None = None
    late: float | None = None
    drift: float = 0.0
    step: float = 0.0


def _trials(students: int, measured: int) -> Iterator[Trial]:
    """The rules, populations and targets. Other shapes may be off by 0.05 more.

    measured: how many students the measured rule is given; students: how many the other.
    """
    for population in (ex_gaussian, gamma, two_speed):
        name = population.__name__.replace("_", "-")
        weighted = Pace(rule="weighted")
        yield Trial(f"weighted, {name}", population, weighted, students, 0.02, late=0.25)
        more = 0.0 if population is ex_gaussian else 0.05
        for target, early in EARLY.items():
            yield Trial(
                f"measured, {name}, {target}",
                population,
                Pace(rule="measured", target=target),
                measured,
                within=0.02,
                early=early + more,
                late=0.10 + more,
            )
    for target, early in EARLY.items():
        pace = Pace(rule="measured", target=target)
        name = f"measured, drifting by 5 %, {target}"
        yield Trial(name, ex_gaussian, pace, measured, early=early, late=0.15, drift=0.05)
    pace = Pace(rule="measured")
    for wrong in (0.03, 0.06, 0.09):
        population = partial(_mistaken, wrong=wrong)
        yield Trial(f"measured, {100 * wrong:g} % wrong", population, pace, measured, 0.02)
    for shape in (lognormal, wald, narrow, wide, autocorrelated):
        # Of answers very far apart sixty do not tell enough: -0.05 is as near as it comes.
        within = 0.06 if shape is wide else 0.03
        yield Trial(f"measured, {shape.__name__}", shape, pace, measured, within)
    for population in (ex_gaussian, gamma, two_speed):
        name = population.__name__.replace("_", "-")
        yield Trial(f"measured, {name}, slower by 25 % at once", population, pace, measured,
                    0.04, step=float(np.log(1.25)))  # fmt: skip


def _track(trial: Trial) -> Tracking:
    return track(
        trial.population,
        trial.pace,
        students=trial.students,
        seed=3,
        start_s=1.0,
        drift=trial.drift,
        step=trial.step,
    )


def _judged(trial: Trial, found: Tracking, slack: float) -> Iterator[Figure]:
    if trial.within is not None:
        since = "11 on after it" if trial.step else "11-60"
        off = found.clean_share - trial.pace.target
        name = f"{trial.name}: clean share of cues {since} from {trial.pace.target} ({off:+.3f})"
        yield Figure(name, abs(off), "", trial.within, slack)
    if trial.early is not None:
        yield Figure(f"{trial.name}: {ERROR} after 15", found.early_p90, "", trial.early, slack)
    if trial.late is not None:
        yield Figure(f"{trial.name}: {ERROR} after 60", found.error_p90, "", trial.late, slack)


def _mistaken(rng: np.random.Generator, wrong: float) -> Subject:
    """A student of the usual shape who gives a share of wrong answers."""
    usual = ex_gaussian(rng)
    return Subject(usual.draw, usual.lapses, wrong)
