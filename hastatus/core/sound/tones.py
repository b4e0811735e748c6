"""Cue sounds as sample arrays. Every sound starts with its first sample: its onset is 0.

Pitches follow ISO 16:1975, A4 = 440 Hz, in equal temperament.
"""

from __future__ import annotations

import io
import wave
from collections.abc import Callable, Mapping
from types import MappingProxyType
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from hastatus.core.drill.cue import SoundName

ClickName = Literal["beat", "first"]
"""A beat of the metronome, and the first one of an exchange."""

RATE = 48_000
"""Samples a second."""

PEAK = 0.89
"""Largest sample, about 1 dB below full scale."""

Samples = NDArray[np.float64]


def pitch(semitones_from_a4: int) -> float:
    """Frequency in Hz, `semitones_from_a4` equal-tempered semitones above A4 (440 Hz)."""
    return float(440.0 * 2.0 ** (semitones_from_a4 / 12))


def tone(frequency: float, seconds: float = 0.18) -> Samples:
    """A sine of `frequency` Hz with a 2 ms rise and a 30 ms fall."""
    times = _times(seconds)
    rise = np.minimum(1.0, (np.arange(times.size) + 1) / (0.002 * RATE))
    fall = np.minimum(1.0, (seconds - times) / 0.03)
    return _levelled(np.cos(2 * np.pi * frequency * times) * rise * fall)


def knock(frequency: float, seconds: float = 0.12) -> Samples:
    """A wooden knock: a few damped modes of a bar (ratios 1, 2.76, 5.40 of a free bar)."""
    times = _times(seconds)
    modes = ((1.0, 1.0, 45.0), (2.76, 0.5, 80.0), (5.40, 0.25, 140.0))
    return _levelled(_damped(times, frequency, modes))


def bell(frequency: float, seconds: float = 0.45) -> Samples:
    """A small bell: slowly damped partials, brighter than a knock."""
    times = _times(seconds)
    modes = ((1.0, 1.0, 9.0), (2.0, 0.6, 12.0), (3.01, 0.45, 16.0), (4.17, 0.3, 24.0))
    fall = np.minimum(1.0, (seconds - times) / 0.03)
    return _levelled(_damped(times, frequency, modes) * fall)


def click(frequency: float, seconds: float = 0.03) -> Samples:
    """A beat of a metronome: a short sine that dies away."""
    times = _times(seconds)
    return _levelled(np.sin(2 * np.pi * frequency * times) * np.exp(-4 * times / seconds))


def bang(seconds: float = 0.16) -> Samples:
    """A bang: a burst of noise from a fixed seed over a low thump, both quickly damped."""
    times = _times(seconds)
    noise = np.random.default_rng(7).standard_normal(times.size) * np.exp(-60.0 * times)
    thump = np.cos(2 * np.pi * 70.0 * times) * np.exp(-28.0 * times)
    fall = np.minimum(1.0, (seconds - times) / 0.03)
    return _levelled((0.6 * noise + thump) * fall)


SOUNDS: Mapping[SoundName, Callable[[], Samples]] = MappingProxyType(
    {
        "low_knock": lambda: knock(pitch(-17)),
        "high_knock": lambda: knock(pitch(2)),
        "bang": bang,
        "bell": lambda: bell(pitch(12)),
        "high_bell": lambda: bell(pitch(19), 0.35),
        "low_tone": lambda: tone(pitch(-12)),
        "tone": lambda: tone(pitch(0)),
        "high_tone": lambda: tone(pitch(12)),
    }
)

CLICKS: Mapping[ClickName, Callable[[], Samples]] = MappingProxyType(
    {"beat": lambda: click(900.0), "first": lambda: click(1400.0)}
)


def named(name: str) -> Samples:
    """The sound of that name, of a drill or of the metronome. KeyError when there is none."""
    return CLICKS[name]() if name in CLICKS else SOUNDS[name]()  # type: ignore[index]


def wav(samples: Samples) -> bytes:
    """16-bit mono RIFF WAVE of `samples` (−1 to 1)."""
    data = io.BytesIO()
    with wave.open(data, "wb") as file:
        file.setnchannels(1)
        file.setsampwidth(2)
        file.setframerate(RATE)
        file.writeframes((np.clip(samples, -1, 1) * 32767).round().astype("<i2").tobytes())
    return data.getvalue()


def _times(seconds: float) -> Samples:
    return np.arange(round(seconds * RATE)) / RATE


def _damped(
    times: Samples, frequency: float, modes: tuple[tuple[float, float, float], ...]
) -> Samples:
    """Sum of cosines: (ratio to `frequency`, amplitude, damping in 1/s) for each mode."""
    waves = [
        amplitude * np.exp(-damping * times) * np.cos(2 * np.pi * ratio * frequency * times)
        for ratio, amplitude, damping in modes
    ]
    return np.asarray(np.sum(waves, axis=0), dtype=np.float64)


def _levelled(samples: Samples) -> Samples:
    return np.asarray(samples * (PEAK / np.abs(samples).max()), dtype=np.float64)
