"""How fast a student answers, believed from the measured times, and the window that follows.

A belief is a weight on each of many made-up students (see `believed`) and on the share ε of lapses,
which later practice has seldom found above 6 % (Wichmann and Hill 2001, Perception & Psychophysics
63:1293, memory). Each measured time weighs them anew; an answer that never came weighs them by the
share of theirs that would not have come; older answers fade a little, and where all of the latest
ones are slower or quicker, what came before is moved by as much. Wrong answers say nothing of
speed: their share is counted by itself, and the window is longer by what they leave of the target.
The window is then the one that the whole belief expects to be met with the target probability,
moved a little to where that share of the student's own times lies, since nobody is quite as
believed.

It learns from how quick each answer was, where up-down rules know only whether it was clean, and so
arrives in about a quarter of the cues.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter1d
from scipy.special import ndtr

from hastatus.core.adapt.response_models import BINS, STEP, students
from hastatus.core.plan.prior import START_SPREAD, Prior

Array = NDArray[np.float64]

KEPT = 150
"""Answers that a belief rests on; older ones have faded to a half."""
FADES = 0.997
"""Weight of an answer against the one after it."""

_LAPSES = np.array([0.0075, 0.0225, 0.0375, 0.0525, 0.12])
_LAPSE_WEIGHTS = np.array([0.245, 0.245, 0.245, 0.245, 0.02])
_WRONG, _WRONG_COUNTS = 0.02, 6.0
"""Share of wrong answers before any is seen, and how many answers that counts for."""
_WITHIN_REACH = 0.97
"""The share of right answers that a window is made to hold at the most."""
_MISFIT = 0.04
"""How far off, in ln time, a belief is taken to be because nobody is quite as believed."""
_SMOOTH = 0.03
"""Width, in ln time, over which own times are smoothed."""
_MOST_MOVED = 0.15
_LEAST_DENSITY = 0.3
_CHANGES = (6, 11, 20, 36)
"""How many answers ago the speed may have changed: tired, warm, hurt, another drill partner."""
_CHANGE_COST = 3.5
"""How unlikely that is at any one place, in nats."""
_NEAR = 0.12
"""Width, in ln time, over which students are counted as near a window."""
_TAIL = 5.0
"""Degrees of freedom of the prior over windows: somebody far from all others is soon believed."""


@dataclass(frozen=True, slots=True)
class TimedOutcome:
    """One cue's outcome. came: whether a right answer did.

    ms: its time, less what its chain allows beyond the window; without one, the limit until which
    it was listened for, or None where a wrong or jumped answer came, which says nothing of speed.
    """

    ms: float | None
    came: bool


def window_s(taken: Sequence[TimedOutcome], target: float, prior: Prior) -> float | None:
    """The answer window that a share `target` of the next answers should be inside, seconds.

    prior: what was believed of this window before any answer.
    None before the first right answer: nothing is known of the speed yet.
    """
    taken = taken[-KEPT:]
    if not any(answer.came for answer in taken):
        return None
    ages = np.asarray(FADES ** np.arange(len(taken) - 1, -1, -1), dtype=np.float64)
    # Where mistakes alone put the target nearly out of reach, no window would help.
    right = max(1 - _wrong_share(taken, ages), target / _WITHIN_REACH)
    belief = _belief(taken, ages, target, prior)
    answering = right * ((1 - _LAPSES) @ belief.weights)
    believed = _met(answering, target)
    came = np.array([answer.came for answer in taken])
    own = np.where(came, _log_s(taken) + belief.later, 9.0)
    return float(np.exp(believed + _moved(answering, believed, own, ages, target)))


def _bins(log_s: Array) -> NDArray[np.int64]:
    bins = np.rint((log_s - BINS[0]) / STEP).astype(np.int64)
    held: NDArray[np.int64] = np.clip(bins, 0, len(BINS) - 1)
    return held


@dataclass(frozen=True, slots=True)
class _Believed:
    """Weights by lapses and student, summing to one. later: by how much, in ln time, each answer is
    taken to come later (or sooner, negative) than it did, since the student has changed since."""

    weights: Array
    later: Array


def _belief(taken: Sequence[TimedOutcome], ages: Array, target: float, prior: Prior) -> _Believed:
    """A belief in one speed throughout, and one for each place where it may have changed.

    A change moves all of what came before by as much as the middle has moved; each belief is
    weighted by how likely it makes the answers.
    """
    logs = _log_s(taken)
    timed = np.array([answer.ms is not None for answer in taken])
    shifts = [np.zeros(len(taken))]
    for change in _CHANGES:
        before, since = timed[:-change], timed[-change:]
        if min(before.sum(), since.sum()) >= _CHANGES[0]:
            apart = _apart(logs[:-change][before], logs[-change:][since])
            earlier = np.arange(len(taken)) < len(taken) - change
            shifts.append(np.where(earlier, apart, 0.0))
    ways = np.stack(shifts)
    total = _seen(taken, ages, ways)
    total += (_log_prior(target, prior) + np.log(_LAPSE_WEIGHTS)[:, None]).astype(np.float32)
    shares = total.reshape(len(ways), -1)
    most = shares.max(axis=1)
    shares -= most[:, None]
    np.exp(shares, out=shares)
    summed = shares.sum(axis=1)
    odds = most + np.log(summed)
    odds[1:] -= _CHANGE_COST
    chances = np.exp(odds - odds.max())
    chances /= chances.sum()
    weights = ((chances / summed) @ shares).astype(np.float64).reshape(total.shape[1:])
    return _Believed(weights, chances @ ways)


@lru_cache(maxsize=16)
def _windows(target: float) -> tuple[Array, Array]:
    """The window of each student that holds a share `target` of the answers, ln s; and how many
    students have one near it, as ln weight."""
    first = (students().before < target).sum(axis=0)
    bin_of = np.minimum(first, len(BINS) - 1)
    weight = np.bincount(bin_of, np.exp(students().weight), len(BINS))
    near = gaussian_filter1d(weight, _NEAR / STEP, mode="constant")
    return np.asarray(BINS[bin_of]), np.log(near[bin_of])


def _log_prior(target: float, prior: Prior) -> Array:
    """Log weight of each student.

    Where something is known, windows go by the prior alone and shapes by the kinds of students;
    else both go by what is usual among people, and the window of the start says a little.
    """
    windows, near = _windows(target)
    away = (windows - np.log(prior.window_s)) / prior.spread
    likelihood: Array = -0.5 * (_TAIL + 1) * np.log1p(away**2 / _TAIL)
    known = prior.spread < START_SPREAD
    return students().weight + likelihood - (near if known else 0.0)


def _apart(before: Array, since: Array) -> float:
    """How far the middle has moved, in ln time, drawn towards nothing (James and Stein 1961)."""
    apart = _middle(since) - _middle(before)
    variance = (_squares(before) + _squares(since)) / (len(before) + len(since))
    error = variance * (1 / len(before) + 1 / len(since))
    return apart * max(0.0, 1 - error / max(apart**2, 1e-9))


def _middle(logs: Array) -> float:
    """A mean that a few odd times do not turn: of the middle four fifths."""
    cut = len(logs) // 10
    middle = np.sort(logs)[cut : len(logs) - cut]
    return float(middle.sum()) / len(middle)


def _squares(logs: Array) -> float:
    """The sum of squares about the mean."""
    about = logs - logs.sum() / len(logs)
    return float(about @ about)


def _seen(taken: Sequence[TimedOutcome], ages: Array, shifts: Array) -> Array:
    """How likely each student with each share of lapses makes the answers, in nats.

    shifts: ln time to add to each answer, a row for each way to take them. The result has a row
    for each of these, by lapses and student, in single precision.
    """
    came = np.array([answer.came for answer in taken])
    limited = ~came & np.array([answer.ms is not None for answer in taken])
    bins = _bins(_log_s(taken)[None, :] + shifts)
    hit, weights = _by_bin(bins[:, came], ages[came])
    total: Array = (weights @ students().density[hit])[:, None, :]
    answered = (ages[came].sum() * np.log(1 - _LAPSES))[None, :]
    moved = (shifts[:, came] @ ages[came])[:, None]
    total = total + (answered + moved)[:, :, None].astype(np.float32)
    if limited.any():
        hit, weights = _by_bin(bins[:, limited], ages[limited])
        total += np.tensordot(weights, _not_yet()[hit], 1)
    return total


@lru_cache(maxsize=1)
def _not_yet() -> Array:
    """How likely no answer has come by each bin, in nats: by bin, lapses and student, in single
    precision."""
    later = (1 - students().before)[:, None, :].astype(np.float32)
    lapses = _LAPSES.astype(np.float32)[:, None]
    told: Array = np.log(lapses + (1 - lapses) * later)
    return told


def _by_bin(bins: NDArray[np.int64], ages: Array) -> tuple[NDArray[np.int64], Array]:
    """The bins that times fell into, and the weight of each in each row: fewer than times."""
    rows = len(bins)
    places = (bins + len(BINS) * np.arange(rows)[:, None]).ravel()
    held = np.zeros(rows * len(BINS), dtype=np.float32)
    np.add.at(held, places, np.tile(ages, rows))
    by_row = held.reshape(rows, -1)
    hit: NDArray[np.int64] = np.flatnonzero(by_row.any(axis=0))
    weights: Array = np.asarray(by_row[:, hit])
    return hit, weights


def _wrong_share(taken: Sequence[TimedOutcome], ages: Array) -> float:
    """Share of wrong or jumped answers, drawn towards what is usual."""
    wrong = sum(age for answer, age in zip(taken, ages, strict=True) if _is_wrong(answer))
    return float((wrong + _WRONG * _WRONG_COUNTS) / (ages.sum() + _WRONG_COUNTS))


def _is_wrong(taken: TimedOutcome) -> bool:
    return not taken.came and taken.ms is None


def _log_s(taken: Sequence[TimedOutcome]) -> Array:
    """Times in ln s; 50 ms where there is none, and at least that."""
    ms = np.array([answer.ms or 0.0 for answer in taken])
    logs: Array = np.log(np.maximum(ms, 50.0) / 1000)
    return logs


def _met(answering: Array, target: float) -> float:
    """The window, ln s, that is expected to be met with probability `target`.

    answering: weight of each student, less its lapses.
    """
    low, high = 0, len(BINS) - 1
    while high - low > 1:
        middle = (low + high) // 2
        if float(answering @ students().before[middle]) < target:
            low = middle
        else:
            high = middle
    below, above = (
        float(answering @ students().before[low]),
        float(answering @ students().before[high]),
    )
    into = (target - below) / (above - below) if above > below else 0.5
    return float(BINS[low] + min(max(into, 0.0), 1.0) * STEP)


def _moved(answering: Array, believed: float, logs: Array, ages: Array, target: float) -> float:
    """How far, in ln s, the student's own times move the window: one step of Newton, held short.

    logs: own times in ln s, 9 where none came.
    """
    inside = float((ages * ndtr((believed - logs) / _SMOOTH)).sum() / ages.sum())
    near = _bins(np.array([believed - 2 * STEP, believed + 2 * STEP]))
    met = students().before[near] @ answering
    density = max(float(met[1] - met[0]) / (4 * STEP), _LEAST_DENSITY)
    move = (target - inside) / density
    # Own times are as uncertain as a share of so many; the belief is off by its misfit.
    own = target * (1 - target) / (float(ages.sum()) * density**2)
    trust = _MISFIT**2 / (_MISFIT**2 + own)
    return min(max(move, -_MOST_MOVED), _MOST_MOVED) * trust
