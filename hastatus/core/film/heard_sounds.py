"""Where known sounds are heard in a film, by how their bands rise.

A room goes on sounding after a sound, and a phone's microphone turns its gain up and down; what
both leave alone is the moment at which each band of frequencies rises, and in which order the bands
do. A sound is looked for by the rises of its own bands over its first third of a second (spectral
flux: Bello et al. 2005, IEEE TSAP 13:1035, from memory).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import scipy
from numpy.typing import NDArray
from scipy.fft import rfft
from scipy.ndimage import maximum_filter1d, uniform_filter1d

from hastatus.core.sound import tones

FILM_RATE = 16_000
"""Samples a second to which a film's sound is reduced."""
_HOP = 32
HOP_S = _HOP / FILM_RATE
_FRAME, _FFT = 160, 256
_BANDS = 20
_LOWEST_HZ, _HIGHEST_HZ = 150.0, 7000.0
_RISE_HOPS = 4
_MOST_RISE = 3.0
_LENGTH_S = 0.35
_LIKE = 0.3
"""Least likeness of what is taken for a sound, 0 to 1."""
_APART_S = 0.08
_BLOCK = 20 * FILM_RATE
_PART = 2000
_LEAST_LOG = -18.0
"""ln energy of silence: below the noise of 16 bits."""

Samples = NDArray[np.float32]
Rises = NDArray[np.float32]
"""How much each band rises (hops, bands), in nats."""


@dataclass(frozen=True, slots=True)
class Heard:
    """Places where a sound may be. times_s: of its first sample, ascending. likeness: 0 to 1."""

    times_s: NDArray[np.float64]
    likeness: NDArray[np.float64]


def film_sound(samples: NDArray[np.float64]) -> Samples:
    """A sound of the app (at `tones.RATE`) as a film's sound is kept."""
    return np.asarray(
        scipy.signal.resample_poly(samples, 1, tones.RATE // FILM_RATE), dtype=np.float32
    )


class SoundMeter:
    """Takes a film's sound piece by piece and keeps the level of each band, which is a tenth."""

    def __init__(self) -> None:
        self._rest = np.zeros(0, dtype=np.float32)
        self._levels: list[NDArray[np.float16]] = []

    def add(self, samples: Samples) -> None:
        """The next samples, at `FILM_RATE`."""
        together = np.concatenate([self._rest, samples])
        if len(together) < _BLOCK:
            self._rest = together
            return
        self._rest = self._take(together)

    def rises(self) -> Rises:
        """The rises of all that was taken, over each band's own usual level."""
        self._rest = self._take(self._rest)
        if not self._levels:
            return np.zeros((0, _BANDS), dtype=np.float32)
        logs = np.concatenate(self._levels)
        usual = np.median(logs[:: max(1, len(logs) // 50_000)].astype(np.float32), axis=0)
        self._levels = [logs]
        return _rises(logs, np.maximum(usual, _LEAST_LOG) + np.log(4.0))

    def _take(self, samples: Samples) -> Samples:
        """Measure whole frames; the samples that are left, from the next frame's first one."""
        if len(samples) < _FRAME:
            return samples
        logs = _logs(samples)
        self._levels.append(logs.astype(np.float16))
        return samples[len(logs) * _HOP :]


LEADS_S = (_RISE_HOPS * _HOP + _FRAME) / FILM_RATE
"""Silence that is put before a known sound, so that its own rises are whole."""


def rises_of_sound(samples: Samples, length_s: float = _LENGTH_S) -> Rises:
    """The rises of the beginning of a known sound, as if it stood 30 dB over the noise."""
    held = samples[: round(length_s * FILM_RATE)]
    before = np.zeros(_RISE_HOPS * _HOP + _FRAME, dtype=np.float32)
    after = np.zeros(_FRAME, dtype=np.float32)
    logs = _logs(np.concatenate([before, held, after]))
    return _rises(logs, np.full(_BANDS, float(logs.max()) - np.log(1000.0), dtype=np.float32))


def find(rises: Rises, sound: Rises, most: int) -> Heard:
    """The `most` likeliest places of a sound in a film."""
    if len(rises) < len(sound):
        return Heard(np.zeros(0), np.zeros(0))
    match = np.zeros(len(rises) - len(sound) + 1)
    for band in np.flatnonzero(sound.max(axis=0) > 0.1 * sound.max()):
        match += scipy.signal.oaconvolve(rises[:, band], sound[::-1, band], mode="valid")
    energy = uniform_filter1d(
        (rises**2).sum(axis=1).astype(np.float64), len(sound), mode="constant"
    )
    middle = len(sound) // 2
    around = energy[middle : middle + len(match)] * len(sound)
    own = float((sound**2).sum())
    likeness = match / np.sqrt(own * np.maximum(around, 0.15 * own))
    apart = 2 * round(_APART_S / HOP_S) + 1
    peaks = (likeness == maximum_filter1d(likeness, apart, mode="constant")) & (likeness > _LIKE)
    where = np.flatnonzero(peaks)
    where = np.sort(where[np.argsort(-likeness[where])[:most]])
    exact = np.array([_vertex(likeness, int(index)) for index in where], dtype=np.float64)
    return Heard(exact * HOP_S + LEADS_S, np.minimum(likeness[where], 1.0))


def _vertex(values: NDArray[np.float64], index: int) -> float:
    """The top of the parabola through a peak and its neighbours."""
    if not 0 < index < len(values) - 1:
        return float(index)
    before, top, after = values[index - 1 : index + 2]
    bend = before - 2 * top + after
    return index + float(0.5 * (before - after) / bend) if bend < 0 else float(index)


def _rises(logs: NDArray[Any], floor: NDArray[np.float32]) -> Rises:
    """How much each band rises over `_RISE_HOPS`; what lies below the floor is pressed to it."""
    over = np.logaddexp(0.0, logs.astype(np.float32) - floor, dtype=np.float32)
    rises = np.zeros_like(over)
    np.subtract(over[_RISE_HOPS:], over[:-_RISE_HOPS], out=rises[_RISE_HOPS:])
    np.clip(rises, 0.0, _MOST_RISE, out=rises)
    return np.asarray(rises)


def _logs(samples: Samples) -> NDArray[np.float32]:
    """ln energy of each band in each whole frame (hops, bands)."""
    frames = np.lib.stride_tricks.sliding_window_view(samples, _FRAME)[::_HOP]
    window = np.hanning(_FRAME).astype(np.float32)
    groups = _groups()
    logs = np.empty((len(frames), _BANDS), dtype=np.float32)
    for start in range(0, len(frames), _PART):
        spectrum = rfft(frames[start : start + _PART] * window, _FFT, axis=1)
        energy = (spectrum.real**2 + spectrum.imag**2) @ groups
        logs[start : start + _PART] = np.log(np.maximum(energy, np.exp(_LEAST_LOG)))
    return logs


def _groups() -> NDArray[np.float32]:
    """Which bin of the spectrum is in which band (bins, bands); bands are even in ln Hz."""
    hz = np.fft.rfftfreq(_FFT, 1 / FILM_RATE)
    edges = np.geomspace(_LOWEST_HZ, _HIGHEST_HZ, _BANDS + 1)
    groups = np.zeros((len(hz), _BANDS), dtype=np.float32)
    for band in range(_BANDS):
        middle = np.sqrt(edges[band] * edges[band + 1])
        width = max(edges[band + 1] - edges[band], hz[1])
        groups[:, band] = np.clip(1 - np.abs(hz - middle) / width, 0.0, 1.0)
    return groups
