"""How fast a student answers, believed from the measured times, and the window that follows.

A belief is a weight on each of a grid of ex-Gaussian students: level µ, shape (σ/µ and τ/µ), and
share ε of lapses, which later practice has seldom found above 6 % (Wichmann and Hill 2001,
Perception & Psychophysics 63:1293, memory). Each measured time weighs them anew; an answer that
never came weighs them by the share of theirs that would not have come; older answers fade. The
window is then the one that the whole belief expects to be met with the target probability, moved a
little to where that share of the student's own times lies, since nobody is quite ex-Gaussian.

It learns from how quick each answer was, where up-down rules know only whether it was clean, and so
arrives in about a quarter of the cues.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr

from hastatus.core.exgauss import ExGaussian

Array = NDArray[np.float64]

KEPT = 150
"""Answers that a belief rests on; older ones have faded to a fifth."""
FADES = 0.99
"""Weight of an answer against the one after it."""

_STEP = 0.02
_BINS = np.arange(np.log(0.05), np.log(12.0), _STEP)
"""Times in ln s, and how finely they are told apart."""
_LEVELS = np.arange(np.log(0.15), np.log(2.5), 0.06)
"""Values of µ in ln s."""
_SIGMAS = {0.05: 0.2, 0.09: 0.35, 0.14: 0.3, 0.2: 0.15}
_TAUS = {0.06: 0.1, 0.12: 0.2, 0.2: 0.3, 0.3: 0.25, 0.42: 0.15}
_LAPSES = np.array([0.01, 0.03, 0.05, 0.12])
_LAPSE_WEIGHTS = np.array([0.3, 0.35, 0.3, 0.05])
_ODD = 0.005
"""Density per s of times that fit no student: one of them does not turn a belief."""
_OWN_TIMES = 80.0
"""At this many answers the student's own times count half against the belief's shape."""
_SMOOTH = 0.06
"""Width, in ln time, over which own times are smoothed."""
_MOST_MOVED = 0.15
_WINDOW_TO_LEVEL = 1.5
"""A usual window is about this many times µ."""
_START_SPREAD = 0.5
"""How far, in ln s, the window of the start may be wrong."""


@dataclass(frozen=True, slots=True)
class Taken:
    """One cue's outcome. came: whether a right answer did.

    ms: its time, less what its chain allows beyond the window; without one, the limit until which
    it was listened for, or None where a wrong or jumped answer came, which says nothing of speed.
    """

    ms: float | None
    came: bool


def window_s(taken: Sequence[Taken], target: float, start_s: float) -> float | None:
    """The answer window that a share `target` of the next answers should be inside, seconds.

    start_s: the window that was thought right before any answer; a weak belief, soon outweighed.
    None before the first right answer: nothing is known of the speed yet.
    """
    taken = taken[-KEPT:]
    if not any(each.came for each in taken):
        return None
    ages = np.asarray(FADES ** np.arange(len(taken) - 1, -1, -1), dtype=np.float64)
    answering = (_belief(taken, ages, start_s) * (1 - _LAPSES)).sum(axis=1)
    believed = _met(answering, target)
    return float(np.exp(believed + _moved(answering, believed, taken, ages, target)))


def _tables() -> tuple[Array, Array, Array]:
    """For each bin of ln time, by student (shape and level): log density per s, and distribution.

    Last, the log weight of each student before anything is seen, but for the level.
    """
    shapes = [ExGaussian(1.0, sigma, tau) for sigma in _SIGMAS for tau in _TAUS]
    weights = np.outer(list(_SIGMAS.values()), list(_TAUS.values())).ravel()
    # No µ so small or large that the exponent of a far time would overflow.
    times = np.exp(np.clip(_BINS[:, None] - _LEVELS[None, :], -3.0, 4.0))
    density = np.stack([shape.log_density(times) for shape in shapes], axis=1)
    density = np.maximum(density - _LEVELS[None, None, :], np.log(_ODD))
    before = np.stack([shape.share_before(times) for shape in shapes], axis=1)
    students = len(shapes) * len(_LEVELS)
    return (
        density.reshape(len(_BINS), students),
        before.reshape(len(_BINS), students),
        np.repeat(np.log(weights), len(_LEVELS)),
    )


_DENSITY, _BEFORE, _SHAPES = _tables()


def _bins(log_s: Array) -> NDArray[np.int64]:
    bins = np.rint((log_s - _BINS[0]) / _STEP).astype(np.int64)
    held: NDArray[np.int64] = np.clip(bins, 0, len(_BINS) - 1)
    return held


def _belief(taken: Sequence[Taken], ages: Array, start_s: float) -> Array:
    """Weights by student and lapses, summing to one."""
    level = -0.5 * ((_LEVELS - np.log(start_s / _WINDOW_TO_LEVEL)) / _START_SPREAD) ** 2
    total = (_SHAPES + np.tile(level, len(_SHAPES) // len(level)))[:, None]
    total = total + np.log(_LAPSE_WEIGHTS)[None, :]
    came = np.array([each.came for each in taken])
    limited = ~came & np.array([each.ms is not None for each in taken])
    bins = _bins(np.array([np.log(max(each.ms or 0.0, 50.0) / 1000) for each in taken]))
    if came.any():
        total += (ages[came] @ _DENSITY[bins[came]])[:, None]
        total += ages[came].sum() * np.log(1 - _LAPSES)
    if limited.any():
        later = 1 - _BEFORE[bins[limited]][..., None]
        total += np.tensordot(ages[limited], np.log(_LAPSES + (1 - _LAPSES) * later), 1)
    total += ages[~came & ~limited].sum() * np.log(_LAPSES)
    weights = np.exp(total - total.max())
    result: Array = weights / weights.sum()
    return result


def _met(answering: Array, target: float) -> float:
    """The window, ln s, that is expected to be met with probability `target`.

    answering: weight of each student, less its lapses.
    """
    low, high = 0, len(_BINS) - 1
    while high - low > 1:
        middle = (low + high) // 2
        if float(answering @ _BEFORE[middle]) < target:
            low = middle
        else:
            high = middle
    below, above = float(answering @ _BEFORE[low]), float(answering @ _BEFORE[high])
    into = (target - below) / (above - below) if above > below else 0.5
    return float(_BINS[low] + min(max(into, 0.0), 1.0) * _STEP)


def _moved(
    answering: Array, believed: float, taken: Sequence[Taken], ages: Array, target: float
) -> float:
    """How far, in ln s, the student's own times move the window: one step of Newton, held short."""
    logs = np.array(
        [np.log(max(each.ms or 50.0, 50.0) / 1000) if each.came else 9.0 for each in taken]
    )
    inside = float((ages * ndtr((believed - logs) / _SMOOTH)).sum() / ages.sum())
    near = _bins(np.array([believed - 2 * _STEP, believed + 2 * _STEP]))
    met = _BEFORE[near] @ answering
    density = float(met[1] - met[0]) / (4 * _STEP)
    move = (target - inside) / max(density, 0.3)
    trust = float(ages.sum()) / (float(ages.sum()) + _OWN_TIMES)
    return min(max(move, -_MOST_MOVED), _MOST_MOVED) * trust
