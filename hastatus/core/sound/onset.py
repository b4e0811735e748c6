"""Finding where a sound begins, so that timing can start there."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from hastatus.core.sound.tones import RATE

BELOW_PEAK_DB = 38.0
"""A sound has begun where it comes within this of its peak."""

_FRAME = round(0.001 * RATE)
_SUSTAINED = 6
"""Frames of 1 ms, most of which must be loud, so that a click is not taken for a word."""

Samples = NDArray[np.float64]


class Silent(ValueError):
    """There is nothing to be heard."""


def find(samples: Samples) -> tuple[int, int]:
    """First and one past the last audible sample of `samples` at `RATE`. Raises `Silent`.

    Audible is what comes within `BELOW_PEAK_DB` of the loudest millisecond and stands well over
    the noise in between, taken as the quietest tenth of the sound.
    """
    levels = _levels(samples)
    if levels.size == 0 or levels.max() < 1e-4:
        raise Silent("there is nothing to be heard in it")
    noise = float(np.quantile(levels, 0.1))
    threshold = max(levels.max() * 10 ** (-BELOW_PEAK_DB / 20), 4.0 * noise)
    loud = levels > min(threshold, 0.5 * levels.max())
    first = _sustained(loud)
    last = loud.size - _sustained(loud[::-1])
    return max(0, first * _FRAME), min(samples.size, last * _FRAME)


def trim(samples: Samples, tail_s: float = 0.03) -> Samples:
    """`samples` from their onset to a little after their end, faded out there."""
    first, last = find(samples)
    kept = samples[first : min(samples.size, last + round(tail_s * RATE))].copy()
    fade = min(kept.size, round(tail_s * RATE))
    kept[kept.size - fade :] *= np.linspace(1.0, 0.0, fade)
    return kept


def _levels(samples: Samples) -> Samples:
    """Root mean square of each millisecond."""
    whole = samples[: samples.size - samples.size % _FRAME].reshape(-1, _FRAME)
    return np.asarray(np.sqrt((whole**2).mean(axis=1)), dtype=np.float64)


def _sustained(loud: NDArray[np.bool_]) -> int:
    """The first loud frame that most of the following ones are as loud as."""
    for sample in np.flatnonzero(loud):
        ahead = loud[sample : sample + _SUSTAINED]
        if ahead.mean() > 0.5:
            return int(sample)
    return int(np.argmax(loud))
