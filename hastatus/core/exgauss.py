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
from numpy.typing import NDArray
from scipy.optimize import minimize
from scipy.special import log_ndtr, ndtr

Times = NDArray[np.float64]

LEAST_TO_FIT = 20
"""Three parameters from fewer answers than this are not worth a line."""


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

    censored: limits of answers that had not come yet. σ and τ are held above a hundredth of the
    spread, where the likelihood would follow single answers.
    """
    if len(times) < LEAST_TO_FIT:
        return None
    values, limits = np.asarray(times, dtype=float), np.asarray(censored, dtype=float)
    first = from_moments(times)
    floor = math.log(0.01 * math.sqrt(first.variance))

    def shape(place: Times) -> ExGaussian:
        return ExGaussian(
            float(place[0]), math.exp(max(place[1], floor)), math.exp(max(place[2], floor))
        )

    def cost(place: Times) -> float:
        found = shape(place)
        total = float(found.log_density(values).sum())
        if limits.size:
            later = np.maximum(1.0 - found.share_before(limits), 1e-12)
            total += float(np.log(later).sum())
        return -total

    starts = [
        ExGaussian(first.mean - share * math.sqrt(first.variance), 0.0, 0.0)
        for share in (0.3, 0.6, 0.9)
    ]
    best = None
    for start in starts:
        tau = first.mean - start.mu
        sigma = math.sqrt(max(first.variance - tau**2, 0.01 * first.variance))
        place = np.array([start.mu, math.log(sigma), math.log(tau)])
        scale = math.sqrt(first.variance)
        simplex = np.vstack([place, place + np.diag([0.2 * scale, 0.4, 0.4])])
        found = minimize(
            cost,
            place,
            method="Nelder-Mead",
            options={"initial_simplex": simplex, "xatol": 1e-4 * scale, "fatol": 1e-6},
        )
        if best is None or found.fun < best.fun:
            best = found
    assert best is not None
    return shape(best.x)
