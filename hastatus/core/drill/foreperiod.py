"""Waiting times (foreperiods): fixed, jittered, or unpredictable.

An exponential waiting time has a constant hazard: having waited tells nothing about how long it
will still be (Luce 1986, Response Times, from memory). It has to be cut somewhere; the cut is where
a student could gain, so the size of that gain is worked out too.
"""

from __future__ import annotations

import math

import numpy as np
from numpy.typing import NDArray

from hastatus.core.drill.settings import Fixed, Jittered, Unguessable, Waiting

TAP_S = 0.3
"""How far apart the taps are of somebody who taps along."""


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


def blind_press(waiting: Waiting, cut_s: float, window_s: float) -> float:
    """Share of cues that one press meets which is made at the best moment without any cue.

    It meets a cue that came more than `cut_s` (sooner is jumped) and at most `window_s` before it.
    """
    moments = np.linspace(least(waiting) + cut_s, most(waiting) + window_s, 2000)
    met = _before(waiting, moments - cut_s) - _before(waiting, moments - window_s - 1e-9)
    return float(max(met.max(), 0.0))


def tapping(cut_s: float, window_s: float) -> float:
    """Share of cues that come out clean for somebody who taps every `TAP_S` without listening.

    The first tap after a cue counts as its answer, so a tap within the cut spoils it.
    """
    return max(0.0, min(window_s, TAP_S) - cut_s) / TAP_S


def _before(waiting: Waiting, times: NDArray[np.float64]) -> NDArray[np.float64]:
    """Share of waits that are over by each of these times."""
    if isinstance(waiting, Fixed):
        return np.where(times >= waiting.wait_s, 1.0, 0.0)
    if isinstance(waiting, Jittered):
        room = max(waiting.most_s - waiting.least_s, 1e-9)
        return np.clip((times - waiting.least_s) / room, 0.0, 1.0)
    waited = np.clip(times - waiting.least_s, 0.0, waiting.most_s - waiting.least_s)
    return -np.expm1(-waited / waiting.mean_s) / (1.0 - _cut(waiting))


def _cut(waiting: Unguessable) -> float:
    """Share of an untruncated exponential that would lie beyond the longest wait."""
    return math.exp(-(waiting.most_s - waiting.least_s) / waiting.mean_s)
