"""When a zone begins to move after a cue, tested against that zone's own idle motion.

Nobody stands still: who waits for a cue sways and breathes. How a zone moves while nothing is asked
is taken as noise that goes together from picture to picture; its autocovariance is learnt from the
film. A movement that begins at t0 and takes T adds the speed of a smooth reach (minimum jerk: Flash
and Hogan 1985, Journal of Neuroscience 5:1688, from memory) or of one that starts at full
acceleration (half a cosine): people do both. The likelihood ratio of "it began at
t0" against "it is idle" tells both whether there is a movement and when it began (a change-point
test: Willsky and Jones 1976, IEEE TAC 21:108, from memory).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise, product
from typing import Literal

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray
from scipy.linalg import cholesky, solve_triangular, toeplitz

from hastatus.core.motion.meter import Array, Motion

BEHIND_S = 0.5
"""How much of the time before is looked at with each picture."""
EARLIEST_S = 0.08
"""No answer to a cue begins sooner; what does was on its way before it (common practice)."""
_LENGTHS_S = (0.2, 0.35, 0.6)
"""How long a movement may take."""
_GRID_S = 0.004
_AFTER_SEEN_S = 0.07
"""A movement is timed by what is seen until so long after it is certain."""
_FAR = 6.0
"""How far a movement goes, in what the motion meter can tell from one picture to the next: about
half of the zone (SD)."""
_OVERSURE = 2.5
"""Compressed pictures are less independent than the likelihood takes them to be (measured)."""
_SUDDEN = -2.0
"""How much less likely a sudden movement is than a smooth one, in nats."""
_EXPOSED_S = 0.005
"""A picture shows what was about so long after its time: half of how long it is exposed."""
_LEAST_RATIO = 12.0
"""Log likelihood ratio from which something moves, and at least `_OVER_IDLE` of idle's own."""
_OVER_IDLE = 1.25
_LEAST_IDLE_S = 2.0
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
class _Grid:
    """A zone's motion on even times. step_s: between them. moved (n, 2): since the one before.
    known (n): whether a picture is near enough. exposed_s: a picture shows what was about so long
    after its time."""

    first_s: float
    step_s: float
    moved: Array
    shaken: Array
    known: NDArray[np.bool_]
    exposed_s: float

    def index(self, at_s: float) -> int:
        """The last time that is not after `at_s`; below zero before the film."""
        return int(np.floor((at_s - self.first_s) / self.step_s + 1e-9))

    def at(self, index: int) -> float:
        return self.first_s + index * self.step_s


class ZoneWatch:
    """A zone's film, and what idle motion it has."""

    SETTLES_S = 1.7
    """After a cue a zone is idle again at the latest."""

    def __init__(self, motion: Motion, zone: int, cues_s: Sequence[float]) -> None:
        """cues_s: when the cues came, on the film's clock."""
        self._grid = _even(motion, zone)
        self._most = float(motion.most[zone]) if len(motion.most) else 0.0
        self._window = max(4, round(BEHIND_S / self._grid.step_s)) if len(motion.times_s) else 4
        self._idle = self._idle_samples(sorted(cues_s))
        self._whitening = self._learn() if self._idle.any() else None
        if self._whitening is not None:
            self._learn_movements(self._whitening)

    def after(self, cue_s: float, until_s: float) -> Movement:
        """The first movement that begins after a cue and is seen before `until_s`."""
        first, last = self._grid.index(cue_s), self._grid.index(until_s)
        if first - self._window < -1 or first >= len(self._grid.moved):
            return Movement(None, reason="no_film")
        last = min(last, len(self._grid.moved) - 1)
        if not self._grid.known[max(first, 0) : last + 1].all():
            return Movement(None, reason="no_film")
        if self._whitening is None:
            return Movement(None, reason="no_idle")
        if np.abs(self._grid.shaken[first : last + 1]).max(initial=0.0) > _CAMERA_SHAKES:
            return Movement(None, reason="camera_shook")
        for index in range(first, last + 1):
            if self._ratios[index] > self._threshold:
                found = self._timed(index)
                if found.onset_s is not None and found.onset_s < cue_s + EARLIEST_S:
                    return Movement(None, reason="moving_before")
                return found
        return Movement(None, reason="still")

    def _timed(self, index: int) -> Movement:
        """When the movement began that is certain at `index`: the mean of what is likely.

        How far it goes is believed to be about as much as the zone is large (normal, mean zero).
        """
        grid = self._grid
        later = self._told_until(index)
        far = (_FAR * self._most) ** 2
        fits = self._fits(np.array([later]))[0]
        evidence = far * (fits**2).sum(axis=0) / (2 * (1 + far * self._energy))
        evidence += self._usual - np.log1p(far * self._energy)
        likely = np.exp((evidence - evidence.max()) / _OVERSURE)
        likely /= likely.sum()
        mean = float(likely @ self._onsets)
        spread = likely @ (self._onsets - mean) ** 2 + grid.step_s**2 / 12 + _EXPOSED_S**2
        onset_s = grid.at(later) + mean + grid.exposed_s
        return Movement(onset_s, _WIDTH * float(np.sqrt(spread)))

    def _told_until(self, index: int) -> int:
        """The last picture by which a movement is timed that is certain at `index`."""
        last = min(index + round(_AFTER_SEEN_S / self._grid.step_s), len(self._grid.moved) - 1)
        while index < last and np.linalg.norm(self._grid.moved[index]) < self._most:
            index += 1
        return index

    def _learn_movements(self, whitening: Array) -> None:
        """Each movement as it is told from idle motion, and how far the film is from idle."""
        templates, self._onsets, self._usual = _templates(self._window, self._grid.step_s)
        whitened = solve_triangular(whitening, templates, lower=True)
        self._energy = (whitened**2).sum(axis=0)
        self._filters = solve_triangular(whitening, whitened, lower=True, trans="T").T
        self._ratios = np.zeros(len(self._grid.moved))
        if len(self._grid.moved) >= self._window:
            ends = np.arange(self._window - 1, len(self._grid.moved))
            for part in np.array_split(ends, len(ends) // _AT_ONCE + 1):
                fits = self._fits(part)
                self._ratios[part] = ((fits**2).sum(axis=1) / (2 * self._energy)).max(axis=1)
        self._threshold = self._learn_threshold()

    def _fits(self, ends: NDArray[np.int64]) -> Array:
        """How well each movement fits what is seen until each of `ends`, as (ends, 2, movements);
        2: right and down."""
        seen = sliding_window_view(self._grid.moved, self._window, axis=0)
        return np.asarray(seen[ends - self._window + 1] @ self._filters.T)

    def _idle_samples(self, cues_s: Sequence[float]) -> NDArray[np.bool_]:
        """Where nothing is asked: before the first cue, and once an answer must be over."""
        grid = self._grid
        times = grid.first_s + grid.step_s * np.arange(len(grid.moved))
        idle = grid.known.copy()
        for cue_s in cues_s:
            idle &= ~((times > cue_s) & (times < cue_s + self.SETTLES_S))
        if idle.sum() * grid.step_s < _LEAST_IDLE_S:
            idle[:] = False
        return idle

    def _learn(self) -> Array:
        """The Cholesky factor of idle motion's covariance over a window.

        Covariances are medians over stretches, so that somebody who walks by once, or a step to the
        side, does not make the zone restless for the whole film.
        """
        moved = np.where(self._idle[:, None], self._grid.moved, np.nan)
        lags = np.arange(self._window)
        pieces = max(1, min(9, int(self._idle.sum() * self._grid.step_s / 2)))
        edges = np.linspace(0, np.flatnonzero(self._idle).size, pieces + 1).astype(int)
        where = np.flatnonzero(self._idle)
        estimates = []
        for begin, end in pairwise(edges):
            part = moved[where[begin] : where[end - 1] + 1]
            estimates.append([_covariance(part, lag) for lag in range(self._window)])
        together = np.median(np.array(estimates), axis=0)
        together[0] = max(together[0], 0.0) + _FLOOR**2
        together *= np.cos(0.5 * np.pi * lags / self._window) ** 2  # keeps it positive
        matrix = toeplitz(together)
        values, vectors = np.linalg.eigh(matrix)
        values = np.maximum(values, _FLOOR**2)
        return np.asarray(cholesky((vectors * values) @ vectors.T, lower=True))

    def _learn_threshold(self) -> float:
        """What idle motion itself seldom reaches."""
        if len(self._idle) < self._window:
            return _LEAST_RATIO
        whole = sliding_window_view(self._idle, self._window).all(axis=1)
        reached = self._ratios[self._window - 1 :][whole]
        if not len(reached):
            return _LEAST_RATIO
        return max(_LEAST_RATIO, _OVER_IDLE * float(np.quantile(reached, 0.98)))


def backwards(motion: Motion) -> Motion:
    """The same film run backwards: its times are below zero."""
    moved = np.roll(motion.moved[::-1], 1, axis=0)
    shaken = np.roll(motion.shaken[::-1], 1, axis=0)
    if len(moved):
        moved[0], shaken[0] = 0.0, 0.0
    return Motion(-motion.times_s[::-1], -moved, -shaken, motion.most)


def _covariance(moved: Array, lag: int) -> float:
    """Mean product of what is `lag` apart, over both directions; 0 where nothing is."""
    products = moved[lag:] * moved[: len(moved) - lag]
    known = ~np.isnan(products)
    return float(products[known].mean()) if known.any() else 0.0


def _even(motion: Motion, zone: int) -> _Grid:
    """A zone's motion on even times, a median picture apart: where it is, taken linearly."""
    times = motion.times_s
    if len(times) < 3:
        nothing = np.zeros((0, 2))
        return _Grid(0.0, 1 / 30, nothing, nothing, np.zeros(0, dtype=np.bool_), 0.0)
    step = float(np.median(np.diff(times)))
    even = np.arange(times[0], times[-1] + 1e-9, step)
    nearest = np.searchsorted(times, even)
    gap = times[np.minimum(nearest, len(times) - 1)] - times[np.maximum(nearest - 1, 0)]
    return _Grid(
        float(times[0]),
        step,
        _per_step(times, motion.moved[:, zone], even),
        _per_step(times, motion.shaken, even),
        gap < max(2.5 * step, 0.1),
        _EXPOSED_S if times[0] >= 0 else -_EXPOSED_S,  # below zero: the film runs backwards
    )


def _per_step(times: Array, moved: Array, even: Array) -> Array:
    path = np.cumsum(moved, axis=0)
    there = np.stack([np.interp(even, times, path[:, axis]) for axis in (0, 1)], axis=1)
    return np.diff(there, axis=0, prepend=there[:1])


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
