"""A zone of a film: its idle motion is learnt from the whole of it, then its movements are told."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise

import numpy as np
from numpy.lib.stride_tricks import sliding_window_view
from numpy.typing import NDArray

from hastatus.core.motion.meter import Array, Motion
from hastatus.core.motion.movement import (
    EXPOSED_S,
    TIMED_S,
    Detector,
    EvenMotion,
    Movement,
    threshold_over,
)

SETTLES_S = 1.7
"""After a cue a zone is idle again at the latest."""
_LEAST_IDLE_S = 2.0
_STRETCHES = 9


class ZoneWatch:
    """A zone's film, and what idle motion it has."""

    def __init__(self, motion: Motion, zone: int, cues_s: Sequence[float]) -> None:
        """cues_s: when the cues came, on the film's clock."""
        self._motion = _even(motion, zone)
        self._window = self._motion.window
        self._idle = self._idle_times(sorted(cues_s))
        self._detector: Detector | None = None
        if self._idle.any():
            most = float(motion.most[zone])
            self._detector = Detector(self._motion.step_s, self._covariance(), most)
            self._ratios = self._detector.ratios(self._motion.moved)
            self._threshold = threshold_over(self._reached())

    def after(self, cue_s: float, until_s: float) -> Movement:
        """The first movement that begins after a cue and is seen before `until_s`."""
        motion = self._motion
        first, last = motion.index(cue_s), motion.index(until_s)
        if first - self._window < -1 or first >= len(motion.moved):
            return Movement(None, reason="no_film")
        lost = np.flatnonzero(~motion.known[first : last + 1])
        if len(lost):  # only what is certain and timed before the first lost picture is told
            until_s = motion.at(first + int(lost[0]) - 1) - TIMED_S
        if until_s < cue_s:
            return Movement(None, reason="no_film")
        if self._detector is None:
            return Movement(None, reason="no_idle")
        found = self._detector.after(motion, self._ratios, self._threshold, cue_s, until_s)
        return Movement(None, reason="no_film") if len(lost) and found.reason == "still" else found

    def _idle_times(self, cues_s: Sequence[float]) -> NDArray[np.bool_]:
        """Where nothing is asked: before the first cue, and once an answer must be over."""
        motion = self._motion
        times = motion.first_s + motion.step_s * np.arange(len(motion.moved))
        idle = motion.known.copy()
        for cue_s in cues_s:
            idle &= ~((times > cue_s) & (times < cue_s + SETTLES_S))
        if idle.sum() * motion.step_s < _LEAST_IDLE_S:
            idle[:] = False
        return idle

    def _covariance(self) -> Array:
        """Idle motion's covariance over a window, lag by lag.

        Covariances are medians over stretches, so that somebody who walks by once, or a step to the
        side, does not make the zone restless for the whole film.
        """
        moved = np.where(self._idle[:, None], self._motion.moved, np.nan)
        where = np.flatnonzero(self._idle)
        stretches = max(1, min(_STRETCHES, int(where.size * self._motion.step_s / 2)))
        edges = np.linspace(0, where.size, stretches + 1).astype(int)
        estimates = []
        for begin, end in pairwise(edges):
            part = moved[where[begin] : where[end - 1] + 1]
            estimates.append([_covariance(part, lag) for lag in range(self._window)])
        return np.asarray(np.median(np.array(estimates), axis=0))

    def _reached(self) -> float | None:
        """The ratio that idle motion itself seldom reaches."""
        if len(self._idle) < self._window:
            return None
        whole = sliding_window_view(self._idle, self._window).all(axis=1)
        reached = self._ratios[self._window - 1 :][whole]
        return float(np.quantile(reached, 0.98)) if len(reached) else None


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


def _even(motion: Motion, zone: int) -> EvenMotion:
    """A zone's motion on even times, a median picture apart: where it is, taken linearly."""
    times = motion.times_s
    if len(times) < 3:
        nothing = np.zeros((0, 2))
        return EvenMotion(0.0, 1 / 30, nothing, nothing, np.zeros(0, dtype=np.bool_), 0.0)
    step = float(np.median(np.diff(times)))
    even = np.arange(times[0], times[-1] + 1e-9, step)
    nearest = np.searchsorted(times, even)
    gap = times[np.minimum(nearest, len(times) - 1)] - times[np.maximum(nearest - 1, 0)]
    return EvenMotion(
        float(times[0]),
        step,
        _per_step(times, motion.moved[:, zone], even),
        _per_step(times, motion.shaken, even),
        gap < max(2.5 * step, 0.1),
        EXPOSED_S if times[0] >= 0 else -EXPOSED_S,  # below zero: the film runs backwards
    )


def _per_step(times: Array, moved: Array, even: Array) -> Array:
    path = np.cumsum(moved, axis=0)
    there = np.stack([np.interp(even, times, path[:, axis]) for axis in (0, 1)], axis=1)
    return np.diff(there, axis=0, prepend=there[:1])
