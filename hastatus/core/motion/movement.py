"""When a zone begins to move after a cue, tested against that zone's own idle motion.

Nobody stands still: who waits for a cue sways and breathes. How a zone moves while nothing is asked
is taken as noise that goes together from picture to picture, with an autocovariance that is learnt.
A movement that begins at t0 and takes T adds the speed of a smooth reach (minimum jerk: Flash and
Hogan 1985, Journal of Neuroscience 5:1688, from memory) or of one that starts at full acceleration
(half a cosine): people do both. The likelihood ratio of "it began at t0" against "it is idle" tells
both whether there is a movement and when it began (a change-point test: Willsky and Jones 1976,
IEEE TAC 21:108, from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from itertools import product
from typing import Literal

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray
from scipy.linalg import cholesky, solve_triangular, toeplitz

from hastatus.core.motion.meter import Array

BEHIND_S = 0.5
"""How much of the time before is looked at with each picture."""
EARLIEST_S = 0.08
"""No answer to a cue begins sooner; what does was on its way before it (common practice)."""
_LENGTHS_S = (0.2, 0.35, 0.6)
"""How long a movement may take."""
_GRID_S = 0.004
TIMED_S = 0.07
"""A movement is timed by what is seen until so long after it is certain."""
_FAR = 6.0
"""How far a movement goes, in what the motion meter can tell from one picture to the next: about
half of the zone (SD)."""
_OVERSURE = 2.5
"""Compressed pictures are less independent than the likelihood takes them to be (measured)."""
_SUDDEN = -2.0
"""How much less likely a sudden movement is than a smooth one, in nats."""
EXPOSED_S = 0.005
"""A picture shows what was about so long after its time: half of how long it is exposed."""
_LEAST_RATIO = 12.0
"""Log likelihood ratio from which something moves, and at least `_OVER_IDLE` of idle's own."""
_OVER_IDLE = 1.25
_FLOOR = 2e-4
"""Idle motion that is taken for granted, as a share of the picture's height a picture."""
_CAMERA_SHAKES = 0.02
"""Shake of the camera, a picture, that hides what moves; as a share of the picture's height."""
_AT_ONCE = 500
_WIDTH = 1.96
"""Half-width of a 95 % interval, in standard deviations."""

Reason = Literal[
    "no_film", "no_idle", "moving_before", "camera_shook", "still", "said_wrong"
]  # fmt: skip
REASON_NAMES: dict[Reason, str] = {
    "no_film": "the film does not show it",
    "no_idle": "there is no quiet moment in the film to compare with",
    "moving_before": "it was moving already when the cue came",
    "camera_shook": "the camera shook",
    "still": "nothing moved",
    "said_wrong": "what was read is wrong, the coach says",
}
"""Why no movement was found, in words."""


@dataclass(frozen=True, slots=True)
class Movement:
    """When a zone began to move. onset_s: on the film's clock; None: none was told, and why.

    spread_s: half-width of its 95 % interval, of the pictures' own times and of the detector.
    """

    onset_s: float | None
    spread_s: float = 0.0
    reason: Reason | None = None


@dataclass(frozen=True, slots=True)
class EvenMotion:
    """A zone's motion on even times. step_s: between them. moved (n, 2): since the one before.
    known (n): whether a picture is near enough. exposed_s: a picture shows what was about so long
    after its time."""

    first_s: float
    step_s: float
    moved: Array
    shaken: Array
    known: NDArray[np.bool_]
    exposed_s: float = EXPOSED_S

    @property
    def window(self) -> int:
        """How many times are looked at with each."""
        return window_of(self.step_s)

    def index(self, at_s: float) -> int:
        """The last time that is not after `at_s`; below zero before the film."""
        return int(np.floor((at_s - self.first_s) / self.step_s + 1e-9))

    def at(self, index: int) -> float:
        """The time at `index`."""
        return self.first_s + index * self.step_s


def window_of(step_s: float) -> int:
    """How many times, so far apart, are looked at with each."""
    return max(4, round(BEHIND_S / step_s))


class Detector:
    """Tells movements from idle motion.

    step_s: between two times. covariance (window): of idle motion, lag by lag. most: what moves by
    more from one time to the next is told too small.
    """

    def __init__(self, step_s: float, covariance: Array, most: float) -> None:
        self._step_s, self._most = step_s, most
        self._window = len(covariance)
        whitening = _whitening(covariance)
        templates, self._onsets, self._usual = _templates(self._window, step_s)
        whitened = solve_triangular(whitening, templates, lower=True)
        self._energy = (whitened**2).sum(axis=0)
        self._filters = solve_triangular(whitening, whitened, lower=True, trans="T").T

    def ratios(self, moved: Array) -> Array:
        """How far what is seen until each time is from idle, as a log likelihood ratio; 0 where too
        little was seen."""
        ratios = np.zeros(len(moved))
        if len(moved) >= self._window:
            ends = np.arange(self._window - 1, len(moved))
            for part in np.array_split(ends, len(ends) // _AT_ONCE + 1):
                fits = self._fits(moved, part)
                ratios[part] = ((fits**2).sum(axis=1) / (2 * self._energy)).max(axis=1)
        return ratios

    def after(
        self, motion: EvenMotion, ratios: Array, threshold: float, from_s: float, until_s: float
    ) -> Movement:
        """The first movement that begins after a moment and is seen before another; ratios: of
        `motion`. Idle motion itself seldom reaches `threshold`."""
        first, last = motion.index(from_s), min(motion.index(until_s), len(motion.moved) - 1)
        if np.abs(motion.shaken[first : last + 1]).max(initial=0.0) > _CAMERA_SHAKES:
            return Movement(None, reason="camera_shook")
        for index in range(max(first, 0), last + 1):
            if ratios[index] > threshold:
                found = self._timed(motion, index)
                if found.onset_s is not None and found.onset_s < from_s + EARLIEST_S:
                    return Movement(None, reason="moving_before")
                return found
        return Movement(None, reason="still")

    def _timed(self, motion: EvenMotion, index: int) -> Movement:
        """When the movement began that is certain at `index`: the mean of what is likely.

        How far it goes is believed to be about as much as the zone is large (normal, mean zero).
        """
        later = self._told_until(motion, index)
        far = (_FAR * self._most) ** 2
        fits = self._fits(motion.moved, np.array([later]))[0]
        evidence = far * (fits**2).sum(axis=0) / (2 * (1 + far * self._energy))
        evidence += self._usual - np.log1p(far * self._energy)
        likely = np.exp((evidence - evidence.max()) / _OVERSURE)
        likely /= likely.sum()
        mean = float(likely @ self._onsets)
        spread = likely @ (self._onsets - mean) ** 2 + self._step_s**2 / 12 + EXPOSED_S**2
        onset_s = motion.at(later) + mean + motion.exposed_s
        return Movement(onset_s, _WIDTH * float(np.sqrt(spread)))

    def _told_until(self, motion: EvenMotion, index: int) -> int:
        """The last picture by which a movement is timed that is certain at `index`."""
        last = min(index + round(TIMED_S / self._step_s), len(motion.moved) - 1)
        while index < last and np.linalg.norm(motion.moved[index]) < self._most:
            index += 1
        return index

    def _fits(self, moved: Array, ends: NDArray[np.int64]) -> Array:
        """How well each movement fits what is seen until each of `ends`, as (ends, 2, movements);
        2: right and down."""
        seen = sliding_window_view(moved, self._window, axis=0)
        return np.asarray(seen[ends - self._window + 1] @ self._filters.T)


def threshold_over(reached: float | None) -> float:
    """From which ratio on something moves. reached: what idle motion seldom reaches; None: not
    known."""
    return _LEAST_RATIO if reached is None else max(_LEAST_RATIO, _OVER_IDLE * reached)


def _whitening(covariance: Array) -> Array:
    """The Cholesky factor of idle motion's covariance over a window."""
    lags = np.arange(len(covariance))
    together = covariance.copy()
    together[0] = max(together[0], 0.0) + _FLOOR**2
    together *= np.cos(0.5 * np.pi * lags / len(covariance)) ** 2  # keeps it positive
    values, vectors = np.linalg.eigh(toeplitz(together))
    values = np.maximum(values, _FLOOR**2)
    return np.asarray(cholesky((vectors * values) @ vectors.T, lower=True))


@lru_cache(maxsize=16)
def _templates(window: int, step_s: float) -> tuple[Array, Array, Array]:
    """Speeds of movements (window, movements), a column for each shape, length and onset; the
    onsets, in s before the window's last picture (below zero); and how usual each is, in nats."""
    ends = step_s * np.arange(-window + 1, 1)
    onsets = np.arange(-(window - 3) * step_s, -0.5 * step_s, _GRID_S)
    columns, begun, usual = [], [], []
    for (shape, nats), length in product(((_smooth, 0.0), (_sudden, _SUDDEN)), _LENGTHS_S):
        for onset in onsets:
            columns.append(shape((ends - onset) / length) - shape((ends - step_s - onset) / length))
            begun.append(onset)
            usual.append(nats)
    return np.array(columns).T, np.array(begun), np.array(usual)


def _sudden(share: Array) -> Array:
    """Where a movement is that starts at full acceleration: 0 before it, 1 after it."""
    return np.asarray(0.5 - 0.5 * np.cos(np.pi * np.clip(share, 0.0, 1.0)))


def _smooth(share: Array) -> Array:
    """Where a smooth reach is after a share of its time: 0 before it, 1 after it."""
    held = np.clip(share, 0.0, 1.0)
    return np.asarray(held**3 * (10 - 15 * held + 6 * held**2))
