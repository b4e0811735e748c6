"""New students of a club: how soon the measured rule has their window, from what the club knows."""

from __future__ import annotations

from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from benchmarks.figure import Figure
from hastatus.core.adapt import ladder
from hastatus.core.drill.solo import Pace
from hastatus.core.plan.prior import FirstRun, Prior, of_club
from hastatus.demo.population import (
    Subject,
    autocorrelated,
    ex_gaussian,
    follow_subject,
    gamma,
    lognormal,
    two_speed,
    wald,
)

PACE = Pace(rule="measured")
CUES = 15
SETTLED_ERROR = 0.06
"""How far a first run's settled window lies from the right one, SD of ln time."""
DAY_ERROR = 0.12
"""The same from run to run, since nobody is alike on all days."""
NO_EVIDENCE = ladder.RunEvidence(1, None, None, None, None, answers=60, answered=60, inside=0, of=0)
AFTER = (5, 10, 15)
"""Cues after which the window is looked at."""
BOUNDS = {
    "tested": ("first runs and tests", (0.17, 0.165, 0.155)),
    # Five answers and a club's middle tell no more: a line of the two does no better than 0.19.
    "club": ("first runs, no tests", (0.21, 0.165, 0.155)),
    "own": ("the student's last run", (0.17, 0.165, 0.155)),
    # What it was before a club said anything.
    "alone": ("nothing: a club of one", (0.22, 0.20, 0.18)),
}
"""What was known, and bounds of the 90th percentile of the window's error, ln time."""
KINDS = (ex_gaussian, gamma, two_speed, lognormal, wald, autocorrelated)
RUNG_S = 1.0
"""The window that the drill's first rung starts with, s."""


@dataclass(frozen=True, slots=True)
class Newcomer:
    """|ln(window / right one)| after each of `AFTER`, by what was known before the first answer.

    tested: the club's first runs and tests, and the student's own; club: first runs alone; own:
    where an earlier run of the same student settled; alone: nothing but the rung's window.
    """

    tested: list[float]
    club: list[float]
    own: list[float]
    alone: list[float]


def _newcomers(seed: int, clubs: int) -> list[Newcomer]:
    rng = np.random.default_rng(seed)
    return [_newcomer(rng) for _ in range(clubs)]


def _newcomer(rng: np.random.Generator) -> Newcomer:
    """One new student of a club of six to twenty-five who have run the drill once."""
    slower = float(np.exp(rng.normal(0, 0.12)))
    by_test = float(np.exp(rng.normal(0, 0.08)))
    runs = []
    for _ in range(int(rng.integers(6, 26))):
        subject = _member(rng, slower)
        # Where sixty cues settle: see the error after 60 in `rules`.
        settled = subject.quantile(PACE.target, rng) * float(np.exp(rng.normal(0, SETTLED_ERROR)))
        runs.append(
            FirstRun(settled, _tested(subject, rng, by_test) if rng.random() < 0.6 else None)
        )
    new = _member(rng, slower)
    tested = _tested(new, rng, by_test)
    times, lapsed = new.draw(rng, CUES), rng.random(CUES) < new.lapses
    right = new.quantile(PACE.target, rng)

    def errors(prior: Prior) -> list[float]:
        """The same answers, whatever was known before."""
        never = np.zeros(CUES, dtype=bool)
        windows, _ = follow_subject(PACE, prior.window_s, prior, times, lapsed, never)
        return [abs(float(np.log(windows[after] / right))) for after in AFTER]

    nothing = Prior(window_s=RUNG_S)
    last_s = right * float(np.exp(rng.normal(0, DAY_ERROR)))
    evidence = replace(NO_EVIDENCE, settled_window_s=last_s)
    return Newcomer(
        tested=errors(of_club(runs, tested) or nothing),
        club=errors(of_club(runs, None) or nothing),
        own=errors(ladder.prior([evidence], 1) or nothing),
        alone=errors(nothing),
    )


def _member(rng: np.random.Generator, slower: float) -> Subject:
    subject = KINDS[int(rng.integers(len(KINDS)))](rng)
    return Subject(lambda generator, count: slower * subject.draw(generator, count), subject.lapses)


def _tested(subject: Subject, rng: np.random.Generator, by_test: float) -> float:
    """What a test makes of the drill: the median, off by day and by what the drill asks."""
    return float(np.median(subject.draw(rng, 400)) * by_test * np.exp(rng.normal(0, 0.06)))


def figures(loose: bool) -> Iterator[Figure]:
    """Measure new students of many clubs."""
    clubs = 40 if loose else 500
    with ProcessPoolExecutor(2) as pool:
        parts = pool.map(partial(_newcomers, clubs=clubs), (71, 72))
        found = [student for part in parts for student in part]
    slack = 1.6 if loose else 1.0
    for known, (name, bounds) in BOUNDS.items():
        errors = np.array([getattr(student, known) for student in found])
        for after, bound, own in zip(AFTER, bounds, errors.T, strict=True):
            p90 = float(np.quantile(own, 0.9))
            what = f"known beforehand: {name}; 90th percentile of the window's error after {after}"
            yield Figure(what, p90, "", bound, slack)
