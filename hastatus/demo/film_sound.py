"""Made-up sound of a film: cues through a room, strikes, other noise."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.signal import fftconvolve, lfilter

RATE = 48_000
Samples = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class Hall:
    """Where it is filmed. decay_s: reverberation time. noise_db: pink noise, below the cues.

    strike_db: strikes, against the cues. music_db: somebody's music, below the cues; None: none.
    """

    decay_s: float = 0.6
    noise_db: float = 25.0
    strike_db: float = 6.0
    music_db: float | None = None


def film_sound(
    length_s: float,
    sounds: Sequence[tuple[float, str]],
    samples: Mapping[str, Samples],
    strikes_s: Sequence[float],
    hall: Hall,
    seed: int,
) -> Samples:
    """The sound of a film at `RATE`. sounds: when each began in the film, and its name."""
    rng = np.random.default_rng((seed, 6))
    total = np.zeros(round(length_s * RATE))
    rooms = _room(rng, hall.decay_s), _room(rng, hall.decay_s)
    wet = {name: fftconvolve(_levelled(samples[name]), rooms[0]) for _, name in sounds}
    for at_s, name in sounds:
        _mix(total, wet[name], at_s)
    gain = 10 ** (hall.strike_db / 20)
    for at_s in strikes_s:
        loud = gain * 10 ** (rng.uniform(-6, 6) / 20)
        _mix(total, loud * fftconvolve(_strike(rng), rooms[1]), at_s)
    total += 10 ** (-hall.noise_db / 20) * _levelled(_pink(rng, len(total)))
    if hall.music_db is not None:
        total += 10 ** (-hall.music_db / 20) * _levelled(_music(rng, len(total)))
    return np.asarray(0.5 * total / max(float(np.abs(total).max()), 1e-9))


def _mix(total: Samples, part: Samples, at_s: float) -> None:
    first = round(at_s * RATE)
    begin, end = max(first, 0), min(first + len(part), len(total))
    if begin < end:
        total[begin:end] += part[begin - first : end - first]


def _levelled(samples: Samples) -> Samples:
    return np.asarray(0.1 * samples / max(float(np.sqrt((samples**2).mean())), 1e-9))


def _room(rng: np.random.Generator, decay_s: float) -> Samples:
    """A direct sound, some early reflections, and a tail that falls by 60 dB in `decay_s`."""
    count = round(1.2 * decay_s * RATE)
    times = np.arange(count) / RATE
    tail = rng.standard_normal(count) * np.exp(-6.91 * times / decay_s)
    tail[: round(0.004 * RATE)] = 0.0
    room = 0.5 * tail / np.sqrt((tail**2).sum())
    room[0] = 1.0
    for at_s in rng.uniform(0.003, 0.03, 6):
        room[round(at_s * RATE)] += rng.uniform(-0.4, 0.4)
    return np.asarray(room)


def _strike(rng: np.random.Generator) -> Samples:
    """A hit on a pad: noise that is gone in some 20 ms, over a thump."""
    times = np.arange(round(0.15 * RATE)) / RATE
    noise = rng.standard_normal(len(times)) * np.exp(-rng.uniform(50, 130) * times)
    thump = np.sin(2 * np.pi * rng.uniform(70, 160) * times) * np.exp(-25 * times)
    both = noise + rng.uniform(0.3, 1.0) * thump
    return np.asarray(0.5 * both / np.abs(both).max())


def _pink(rng: np.random.Generator, count: int) -> Samples:
    """Pink noise (Kellet's filter, from memory)."""
    white = rng.standard_normal(count)
    b, a = [0.049922, -0.095993, 0.050612, -0.004408], [1, -2.494956, 2.017265, -0.522189]
    return np.asarray(lfilter(b, a, white))


def _music(rng: np.random.Generator, count: int) -> Samples:
    """Notes of random pitch every quarter of a second, with a beat."""
    total = np.zeros(count)
    times = np.arange(round(0.5 * RATE)) / RATE
    for first in range(0, count, RATE // 4):
        hz = 220 * 2 ** (rng.integers(0, 24) / 12)
        note = np.sin(2 * np.pi * hz * times) * np.exp(-4 * times)
        if rng.random() < 0.5:
            note = note + 0.5 * rng.standard_normal(len(times)) * np.exp(-40 * times)
        end = min(first + len(note), count)
        total[first:end] += note[: end - first]
    return total
