"""The ex-Gaussian: a normal time plus an exponential one, the usual shape of response times.

Density, distribution and moments after Luce 1986, Response Times (memory). The exponential part
holds the slow tail, so a student who is mostly quick and now and then late is told from one who is
slower throughout.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import scipy
from numpy.typing import NDArray
from scipy.special import log_ndtr, ndtr

Times = NDArray[np.float64]

LEAST_TO_FIT = 20
"""Three parameters from fewer answers than this are not worth a line."""
MOST_LAPSES = 0.1
USUAL_LAPSES = 0.02
"""Mean of the belief in lapses before anything is seen: few, unless the limits were generous."""


@dataclass(frozen=True, slots=True)
class ExGaussian:
    """mu, sigma: of the normal part; tau: mean of the exponential part. All in one unit of time."""

    mu: float
    sigma: float
    tau: float

    @property
    def mean(self) -> float:
        """µ + τ."""
        return self.mu + self.tau

    @property
    def variance(self) -> float:
        """σ² + τ²."""
        return self.sigma**2 + self.tau**2

    @property
    def skew(self) -> float:
        """2τ³ / (σ² + τ²)^1.5."""
        return float(2 * self.tau**3 / self.variance**1.5)

    def log_density(self, times: Times) -> Times:
        """Natural logarithm of the density at `times`."""
        mu, sigma, tau = self.mu, self.sigma, self.tau
        late = (times - mu) / tau
        log_tail: Times = log_ndtr((times - mu) / sigma - sigma / tau)
        return -math.log(tau) - late + sigma**2 / (2 * tau**2) + log_tail

    def share_before(self, times: Times) -> Times:
        """The distribution function at `times`, from 0 to 1."""
        mu, sigma, tau = self.mu, self.sigma, self.tau
        late = (times - mu) / tau
        log_tail = log_ndtr((times - mu) / sigma - sigma / tau)
        # The exponent is at most that of a normal density, so far below µ nothing overflows.
        share: Times = ndtr((times - mu) / sigma) - np.exp(
            -late + sigma**2 / (2 * tau**2) + log_tail
        )
        return np.clip(share, 0.0, 1.0)

    def quantile(self, share: float) -> float:
        """The time by which `share` of the answers have come."""
        low, high = self.mu - 8 * self.sigma, self.mu + 8 * self.sigma + 40 * self.tau
        for _ in range(60):
            middle = (low + high) / 2
            if float(self.share_before(np.array([middle]))[0]) < share:
                low = middle
            else:
                high = middle
        return (low + high) / 2


def from_moments(times: Sequence[float]) -> ExGaussian:
    """The ex-Gaussian with the mean, variance and skew of `times`, held to what one can have."""
    values = np.asarray(times, dtype=float)
    spread = float(values.std()) or 1e-3 * float(values.mean())
    skew = float(np.mean(((values - values.mean()) / spread) ** 3))
    tau = spread * (min(max(skew, 0.05), 1.9) / 2) ** (1 / 3)
    return ExGaussian(float(values.mean()) - tau, math.sqrt(spread**2 - tau**2), tau)


def fit(times: Sequence[float], censored: Sequence[float] = ()) -> ExGaussian | None:
    """The likeliest ex-Gaussian; None with fewer than `LEAST_TO_FIT` times.

    censored: limits of answers that had not come yet. Up to `MOST_LAPSES` of all cues may be
    lapses that no slow tail has to explain (Wichmann and Hill 2001, Perception & Psychophysics
    63:1293, memory). σ and τ are held above a hundredth of the spread, where the likelihood would
    follow single answers.
    """
    if len(times) < LEAST_TO_FIT:
        return None
    values, limits = np.asarray(times, dtype=float), np.asarray(censored, dtype=float)
    first = from_moments(times)
    scale = math.sqrt(first.variance)
    likelihood = _Likelihood(values, limits, math.log(0.01 * scale))
    best = None
    for share in (0.3, 0.6, 0.9):
        tau = share * scale
        sigma = math.sqrt(first.variance - tau**2)
        start = np.array([first.mean - tau, math.log(sigma), math.log(tau), 0.0])
        simplex = np.vstack([start, start + np.diag([0.2 * scale, 0.4, 0.4, 1.0])])
        optimum = scipy.optimize.minimize(
            likelihood.cost,
            start,
            method="Nelder-Mead",
            options={"initial_simplex": simplex, "xatol": 1e-4 * scale, "fatol": 1e-6},
        )
        if best is None or optimum.fun < best.fun:
            best = optimum
    assert best is not None
    return likelihood.shape(best.x)


@dataclass(frozen=True, slots=True)
class _Likelihood:
    """Of times and limits, at a place: µ, ln σ, ln τ, and the logit of lapses in their range."""

    times: Times
    limits: Times
    floor: float

    def shape(self, point: Times) -> ExGaussian:
        sigma, tau = (math.exp(max(float(logarithm), self.floor)) for logarithm in point[1:3])
        return ExGaussian(float(point[0]), sigma, tau)

    def cost(self, point: Times) -> float:
        shape = self.shape(point)
        total = float(shape.log_density(self.times).sum())
        if self.limits.size:
            lapses = MOST_LAPSES / (1 + math.exp(-min(max(float(point[3]), -30.0), 30.0)))
            later = 1.0 - shape.share_before(self.limits)
            total += self.times.size * math.log(1 - lapses) - lapses / USUAL_LAPSES
            total += float(np.log(lapses + (1 - lapses) * later + 1e-12).sum())
        return -total
