"""The students that a belief in speed is spread over, and what each makes of a time.

Four kinds of them, since nobody is quite like a formula:

- *usual*: ex-Gaussian, with the µ, σ and τ of people who answer a cue of a few (Luce 1986, Response
  Times, memory, for the shape; the ranges are common practice, no source).
- *any*: ex-Gaussian of any level from 0.15 to 2.5 s, σ and τ in proportion to µ.
- *narrow*: ex-Gaussian again, whose answers are all about as quick.
- *two-speed*: mostly quick, now and then slower by a part of the quick time.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr

from hastatus.core.read.exgaussian import ExGaussian

Array = NDArray[np.float64]
Single = NDArray[np.float32]

STEP = 0.02
BINS = np.arange(np.log(0.05), np.log(12.0), STEP)
"""Times in ln s, and how finely they are told apart."""

_USUAL_MU = np.arange(0.23, 0.72, 0.02)
_USUAL_SIGMA = (0.025, 0.045, 0.065)
_USUAL_TAU = (0.04, 0.065, 0.09, 0.115, 0.14, 0.165, 0.19)
_LEVELS = np.arange(np.log(0.15), np.log(2.5), 0.09)
"""Values of µ in ln s, for the other kinds."""
_SIGMAS = {0.05: 0.2, 0.09: 0.35, 0.14: 0.3, 0.2: 0.15}
_TAUS = {0.06: 0.1, 0.12: 0.2, 0.2: 0.3, 0.3: 0.22, 0.42: 0.14, 0.65: 0.04}
"""Of students of any level, as shares of µ, with their weights."""
_SLOW_SHARE = (0.12, 0.28)
_SLOWER_BY = (0.22, 0.36, 0.55)
_QUICK_SIGMA = (0.07, 0.12)
"""Of students of two speeds, as shares of the quick one."""
_NARROW_LEVELS = np.arange(np.log(0.15), np.log(1.2), 0.035)
_NARROW = ((0.03, 0.03), (0.03, 0.06), (0.06, 0.04), (0.06, 0.08))
"""σ and τ, as shares of µ, of those whose answers hardly differ."""
_KINDS = {"usual": 0.44, "any": 0.25, "two_speed": 0.27, "narrow": 0.04}
_ODD = 0.005
"""Density per s of times that fit no student: one of them does not turn a belief."""


@dataclass(frozen=True, slots=True)
class ResponseModels:
    """Students, one a column. density: log density per s at each bin, in single precision,
    which is finer than a belief; before: share of answers before it. weight: log weight before
    anything is seen.
    """

    density: Single
    before: Array
    weight: Array


def _ex_gaussian(mu: float, sigma: float, tau: float) -> tuple[Array, Array]:
    # No µ so small or large that the exponent of a far time would overflow.
    times = np.exp(np.clip(BINS - np.log(mu), -3.0, 4.0))
    shape = ExGaussian(1.0, sigma / mu, tau / mu)
    return shape.log_density(times) - np.log(mu), shape.share_before(times)


def _two_speed(mu: float, sigma: float, share: float, slower: float) -> tuple[Array, Array]:
    early = (np.exp(BINS) / mu - 1) / sigma
    late = early - slower / sigma
    bell = (1 - share) * np.exp(-(early**2) / 2) + share * np.exp(-(late**2) / 2)
    density = bell / (np.sqrt(2 * np.pi) * sigma * mu)
    return np.log(np.maximum(density, 1e-300)), (1 - share) * ndtr(early) + share * ndtr(late)


@cache
def students() -> ResponseModels:
    """All of them: made when they are first asked for, which takes a moment."""
    made: list[tuple[Array, Array]] = []
    weights = list[float]()

    def add(student: tuple[Array, Array], weight: float) -> None:
        made.append(student)
        weights.append(weight)

    weight = _KINDS["usual"] / (len(_USUAL_MU) * len(_USUAL_SIGMA) * len(_USUAL_TAU))
    for mu in _USUAL_MU.tolist():
        for sigma in _USUAL_SIGMA:
            for tau in _USUAL_TAU:
                add(_ex_gaussian(mu, sigma, tau), weight)
    for level in _LEVELS.tolist():
        mu = float(np.exp(level))
        for sigma, sigma_share in _SIGMAS.items():
            for tau, tau_share in _TAUS.items():
                share = _KINDS["any"] * sigma_share * tau_share / len(_LEVELS)
                add(_ex_gaussian(mu, sigma * mu, tau * mu), share)
    weight = _KINDS["narrow"] / (len(_NARROW_LEVELS) * len(_NARROW))
    for level in _NARROW_LEVELS.tolist():
        mu = float(np.exp(level))
        for sigma, tau in _NARROW:
            add(_ex_gaussian(mu, sigma * mu, tau * mu), weight)
    shapes = [(s, p, d) for s in _QUICK_SIGMA for p in _SLOW_SHARE for d in _SLOWER_BY]
    weight = _KINDS["two_speed"] / (len(_LEVELS) * len(shapes))
    for level in _LEVELS.tolist():
        for sigma, slow, slower in shapes:
            student = _two_speed(float(np.exp(level)), sigma, slow, slower)
            add(student, weight)
    density = np.stack([student[0] for student in made], axis=1)
    return ResponseModels(
        density=np.maximum(density, np.log(_ODD)).astype(np.float32),
        before=np.stack([student[1] for student in made], axis=1),
        weight=np.log(weights),
    )
