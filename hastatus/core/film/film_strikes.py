"""Strikes heard in a film: sounds that rise in most bands at once and are none of the app's own."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import scipy
from numpy.typing import NDArray
from scipy.ndimage import maximum_filter1d, median_filter

from hastatus.core.film.heard_sounds import HOP_S, Rises

_LEAST_BANDS = 0.45
"""Share of the bands that a strike makes rise."""
_RISES = 0.4
"""Rise, in nats, of a band that takes part."""
_LEAST = 9.0
_OVER_USUAL = 4.0
_USUAL_S = 1.0
_APART_S = 0.08
_ECHO_S, _ECHO_UNDER = 0.35, 2.2
"""What follows a rise within this, and is so much smaller, is its echo."""
_OWN_SHARE = 1.6
"""A strike at a moment of an own sound rises by this much more than that sound does."""
_BEGINS_S = 0.0071
"""From where it has half risen to the sound's first sample (measured)."""
STRIKE_SPREAD_S = 0.004
"""95 % of strikes are found within this (see the benchmark `film`)."""

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class OwnSound:
    """A sound of the app in a film. at_s: its first sample. rises: as of the sound alone."""

    at_s: float
    rises: Rises


def strikes_heard(rises: Rises, own: Sequence[OwnSound]) -> Array:
    """The onsets of strikes, in s from the film's beginning, ascending."""
    if not len(rises):
        return np.zeros(0)
    total = rises.sum(axis=1).astype(np.float64)
    broad = (rises > _RISES).mean(axis=1)
    usual = median_filter(total, max(3, round(_USUAL_S / HOP_S)), mode="nearest")
    expected = _expected(len(rises), own)
    needed = np.maximum(_LEAST, _OVER_USUAL * usual) + _OWN_SHARE * expected
    peaks, _ = scipy.signal.find_peaks(total, height=_LEAST, distance=round(_APART_S / HOP_S))
    strikes = [
        peak
        for peak in peaks
        if total[peak] > needed[peak]
        and broad[peak] > _LEAST_BANDS
        and not _is_echo(total, peaks, int(peak))
    ]
    return np.array([_half_risen(total, int(peak)) * HOP_S + _BEGINS_S for peak in strikes])


def _is_echo(total: Array, peaks: NDArray[np.int64], peak: int) -> bool:
    """Whether a much larger rise came shortly before: a room answers it."""
    before = peaks[(peaks < peak) & (peaks > peak - round(_ECHO_S / HOP_S))]
    return bool((total[before] > _ECHO_UNDER * total[peak]).any())


def _half_risen(total: Array, peak: int) -> float:
    """Where the rise to a peak passes half of it, between two hops."""
    half, at = 0.5 * total[peak], peak
    while at > 0 and total[at - 1] >= half:
        at -= 1
    if at == 0:
        return 0.0
    return at - float((total[at] - half) / (total[at] - total[at - 1]))


def _expected(count: int, own: Sequence[OwnSound]) -> Array:
    """How much the app's own sounds rise at each hop; a little before and after, too, since a room
    smears them."""
    expected = np.zeros(count)
    for sound in own:
        first = round(sound.at_s / HOP_S) - 9
        rises = maximum_filter1d(sound.rises.sum(axis=1).astype(np.float64), 9)
        begin, end = max(first, 0), min(first + len(rises), count)
        if begin < end:
            part = expected[begin:end]
            np.maximum(part, rises[begin - first : end - first], out=part)
    return expected
