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
"""Step of the grid in ln(time / µ)."""
_LEVELS = np.arange(np.log(0.15), np.log(2.5), 3 * _STEP)
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
    answering = (_belief(taken, ages, start_s) * (1 - _LAPSES)).sum(axis=2)
    believed = _met(answering, target)
    return float(np.exp(believed + _moved(answering, believed, taken, ages, target)))


def _tables() -> tuple[Array, Array, Array]:
    """Log density and distribution by shape and ln(time / µ), and the weight of each shape."""
    times = np.exp(np.arange(-3.0, 4.0 + _STEP / 2, _STEP))
    shapes = [ExGaussian(1.0, sigma, tau) for sigma in _SIGMAS for tau in _TAUS]
    weights = np.outer(list(_SIGMAS.values()), list(_TAUS.values())).ravel()
    density = np.array([shape.log_density(times) for shape in shapes])
    return density, np.array([shape.share_before(times) for shape in shapes]), weights


_DENSITY, _BEFORE, _SHAPES = _tables()


def _places(log_s: Array) -> NDArray[np.int64]:
    """Where times (ln s) stand in the tables for each level; shape (times, levels)."""
    places = np.rint((log_s[:, None] - _LEVELS[None, :] + 3.0) / _STEP).astype(np.int64)
    return np.clip(places, 0, _DENSITY.shape[1] - 1)


def _belief(taken: Sequence[Taken], ages: Array, start_s: float) -> Array:
    """Weights by shape, level and lapses, summing to one."""
    before = -0.5 * ((_LEVELS - np.log(start_s / _WINDOW_TO_LEVEL)) / _START_SPREAD) ** 2
    total = np.log(_SHAPES)[:, None, None] + np.log(_LAPSE_WEIGHTS)[None, None, :]
    total = total + before[None, :, None]
    came = np.array([each.came for each in taken])
    times = np.array([np.log(max(each.ms or 0.0, 50.0) / 1000) for each in taken])
    if came.any():
        found = _DENSITY[:, _places(times[came])] - _LEVELS[None, None, :]
        found = np.maximum(found, np.log(_ODD))
        total += np.einsum("stl,t->sl", found, ages[came])[:, :, None]
        total += ages[came].sum() * np.log(1 - _LAPSES)
    limited = ~came & np.array([each.ms is not None for each in taken])
    if limited.any():
        later = 1 - _BEFORE[:, _places(times[limited])][..., None]
        lost = np.log(_LAPSES + (1 - _LAPSES) * later)
        total += np.einsum("stle,t->sle", lost, ages[limited])
    total += ages[~came & ~limited].sum() * np.log(_LAPSES)
    weights = np.exp(total - total.max())
    result: Array = weights / weights.sum()
    return result


def _share_met(answering: Array, log_s: float) -> float:
    """Share of answers expected inside a window of ln s. answering: weights less the lapses."""
    before = _BEFORE[:, _places(np.array([log_s]))[0]]
    return float((answering * before).sum())


def _met(answering: Array, target: float) -> float:
    """The window, ln s, that is expected to be met with probability `target`."""
    low, high = float(np.log(0.1)), float(np.log(10.0))
    for _ in range(14):
        middle = (low + high) / 2
        if _share_met(answering, middle) < target:
            low = middle
        else:
            high = middle
    return (low + high) / 2


def _moved(
    answering: Array, believed: float, taken: Sequence[Taken], ages: Array, target: float
) -> float:
    """How far, in ln s, the student's own times move the window: one step of Newton, held short."""
    logs = np.array(
        [np.log(max(each.ms or 50.0, 50.0) / 1000) if each.came else 9.0 for each in taken]
    )
    inside = float((ages * ndtr((believed - logs) / _SMOOTH)).sum() / ages.sum())
    reach = 2 * _STEP
    density = _share_met(answering, believed + reach) - _share_met(answering, believed - reach)
    move = (target - inside) / max(density / (2 * reach), 0.3)
    trust = ages.sum() / (ages.sum() + _OWN_TIMES)
    return float(np.clip(move, -_MOST_MOVED, _MOST_MOVED) * trust)
