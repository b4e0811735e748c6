"""Waiting times (foreperiods): fixed, jittered, or such that they cannot be guessed.

An exponential waiting time has a constant hazard: having waited tells nothing about how long it
will still be (Luce 1986, Response Times, from memory). It has to be cut somewhere; the cut is where
a student could gain, so the size of that gain is worked out too.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from hastatus.core.setting import Fixed, Jittered, Unguessable, Waiting


def draw(waiting: Waiting, count: int, rng: np.random.Generator) -> NDArray[np.float64]:
    """`count` waiting times in seconds.

    Unguessable ones are least + exponential, truncated at most (inverse CDF).
    """
    uniform = rng.random(count)
    if isinstance(waiting, Fixed):
        return np.full(count, waiting.wait_s)
    if isinstance(waiting, Jittered):
        return waiting.least_s + (waiting.most_s - waiting.least_s) * uniform
    kept = 1.0 - _cut(waiting)
    return waiting.least_s - waiting.mean_s * np.log1p(-uniform * kept)


def mean(waiting: Waiting) -> float:
    """Mean waiting time in seconds, with the truncation taken into account."""
    if isinstance(waiting, Fixed):
        return waiting.wait_s
    if isinstance(waiting, Jittered):
        return (waiting.least_s + waiting.most_s) / 2
    room = waiting.most_s - waiting.least_s
    cut = _cut(waiting)
    return waiting.least_s + waiting.mean_s - room * cut / (1.0 - cut)


def least(waiting: Waiting) -> float:
    """The shortest waiting time in seconds."""
    return waiting.wait_s if isinstance(waiting, Fixed) else waiting.least_s


def most(waiting: Waiting) -> float:
    """The longest waiting time in seconds."""
    return waiting.wait_s if isinstance(waiting, Fixed) else waiting.most_s


def guessable_share(waiting: Waiting, lead_s: float = 0.2) -> float:
    """Share of cues that fall into the last `lead_s` seconds before the longest wait.

    Only there could somebody who knows the longest wait act before the cue and gain from it; for
    an unguessable wait the hazard everywhere else is constant to within this share.
    """
    if isinstance(waiting, Fixed):
        return 1.0
    if isinstance(waiting, Jittered):
        return min(1.0, lead_s / (waiting.most_s - waiting.least_s))
    before = math.exp(-(waiting.most_s - lead_s - waiting.least_s) / waiting.mean_s)
    cut = _cut(waiting)
    return min(1.0, (before - cut) / (1.0 - cut))


def _cut(waiting: Unguessable) -> float:
    """Share of an untruncated exponential that would lie beyond the longest wait."""
    return math.exp(-(waiting.most_s - waiting.least_s) / waiting.mean_s)
