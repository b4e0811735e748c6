"""Populations of simulated response times, for trying controllers out.

`ex_gaussian` is the usual shape; `gamma` and `two_speed` are there so that nothing is tuned to it.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hastatus.core.adapt import ControllerState, fold_outcome
from hastatus.core.drill import Pace

Times = NDArray[np.float64]
Draw = Callable[[np.random.Generator, int], Times]


@dataclass(frozen=True, slots=True)
class Subject:
    """A simulated student: response times in seconds from `draw`, and a share of lapses."""

    draw: Draw
    lapses: float

    def quantile(self, share: float, rng: np.random.Generator) -> float:
        """The window met with probability `share`: the share/(1 − lapses) quantile."""
        times = self.draw(rng, 20_000)
        return float(np.quantile(times, min(1.0, share / (1.0 - self.lapses))))


def ex_gaussian(rng: np.random.Generator) -> Subject:
    """µ 0.3–0.6 s, σ 0.03–0.08 s, τ 0.05–0.2 s, lapses 0–6 %."""
    mu, sigma, tau = rng.uniform(0.3, 0.6), rng.uniform(0.03, 0.08), rng.uniform(0.05, 0.2)
    return Subject(
        lambda generator, count: (
            generator.normal(mu, sigma, count) + generator.exponential(tau, count)
        ),
        rng.uniform(0, 0.06),
    )


def gamma(rng: np.random.Generator) -> Subject:
    """A shifted gamma: shift 0.2–0.4 s, shape 2–6, scale 0.02–0.06 s, lapses 0–6 %."""
    shift, shape, scale = rng.uniform(0.2, 0.4), rng.uniform(2, 6), rng.uniform(0.02, 0.06)
    return Subject(
        lambda generator, count: shift + generator.gamma(shape, scale, count),
        rng.uniform(0, 0.06),
    )


def two_speed(rng: np.random.Generator) -> Subject:
    """Mostly quick answers and, one time in five, slow ones by 0.1–0.25 s."""
    quick, slower, sigma = rng.uniform(0.35, 0.6), rng.uniform(0.1, 0.25), rng.uniform(0.03, 0.06)
    return Subject(
        lambda generator, count: (
            generator.normal(quick, sigma, count) + slower * (generator.random(count) < 0.2)
        ),
        rng.uniform(0, 0.06),
    )


@dataclass(frozen=True, slots=True)
class Tracking:
    """Clean share of cues 21–60, and 90th percentile of |ln(window / true quantile)| at the end."""

    clean_share: float
    error_p90: float


def track(
    population: Callable[[np.random.Generator], Subject],
    pace: Pace,
    *,
    students: int,
    seed: int,
    start_s: float,
    cues: int = 60,
) -> Tracking:
    """Run `students` of a population under `pace`; each outcome arrives one cue late."""
    rng = np.random.default_rng(seed)
    shares, errors = [], []
    for _ in range(students):
        subject = population(rng)
        state = ControllerState(window_s=start_s)
        times = subject.draw(rng, cues)
        lapsed = rng.random(cues) < subject.lapses
        outcomes: list[bool] = []
        for cue in range(cues):
            if cue >= 2:  # the window of this cue was committed before the last outcome came back
                fold_outcome(state, pace, clean=outcomes[cue - 2])
            outcomes.append(bool(times[cue] <= state.window_s and not lapsed[cue]))
        for outcome in outcomes[-2:]:
            fold_outcome(state, pace, clean=outcome)
        shares.append(np.mean(outcomes[20:60]))
        errors.append(abs(np.log(state.window_s / subject.quantile(pace.target, rng))))
    return Tracking(float(np.mean(shares)), float(np.quantile(errors, 0.9)))
