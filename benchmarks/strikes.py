"""Made-up recordings of strikes in rooms, whose onsets are known to the sample."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, cast, get_args

import numpy as np
from numpy.typing import NDArray
from scipy.fft import next_fast_len
from scipy.ndimage import uniform_filter1d
from scipy.signal import fftconvolve, lfilter

from hastatus.core.drill.cue import SoundName
from hastatus.core.sound.tones import RATE, SOUNDS

Samples = NDArray[np.float64]

STRIKES = 50
FRAME = round(0.02 * RATE)
"""Levels are the loudest 20 ms."""
QUIET_S = 1.5
NOMINAL = 0.1
"""Loudest 20 ms RMS of the nominal strike."""


@dataclass(frozen=True)
class Scene:
    """A recording. strikes_s: true onsets. cues: name and time of each cue's sound."""

    samples: Samples
    strikes_s: list[float]
    cues: list[tuple[SoundName, float]]


def scene(seed: int, noise_db: float, *, leak: bool = True) -> Scene:
    """A room with 50 strikes, each a while after a cue.

    Reverberation time 0.3 to 0.8 s, strikes of varied sound and ± 10 dB, the cues' own sound 6 to
    20 dB below the nominal strike, pink noise `noise_db` below it.
    """
    rng = np.random.default_rng((seed, 77))
    decay_s = float(rng.uniform(0.3, 0.8))
    strike_room, cue_room = _room(rng, decay_s), _room(rng, decay_s)
    at_s, strikes, cues = QUIET_S, list[float](), list[tuple[SoundName, float]]()
    placed: list[tuple[int, Samples]] = []
    leaks = {name: -float(rng.uniform(6, 20)) for name in SOUNDS}
    for _ in range(STRIKES):
        name = cast(SoundName, rng.choice(sorted(SOUNDS)))
        if leak:
            cue = _at_level(fftconvolve(SOUNDS[name](), cue_room), leaks[name])
            placed.append((round(at_s * RATE), cue))
            cues.append((name, at_s))
        answer_s = at_s + max(0.2, rng.normal(0.36, 0.06) + rng.exponential(0.11))
        first = round(answer_s * RATE)
        # The level is of the strike itself, so that a long room does not weaken its onset.
        level_db = float(rng.uniform(-10, 10))
        placed.append((first, fftconvolve(_at_level(_strike(rng), level_db), strike_room)))
        strikes.append(first / RATE)
        at_s = answer_s + float(rng.uniform(0.7, 1.6))
    return Scene(_recorded(rng, placed, at_s + 1.0, noise_db), strikes, cues)


def rounds_scene(
    seed: int, strikes_s: Sequence[float], noise_db: float, next_s: Sequence[float] = ()
) -> Scene:
    """A room in which two people strike at these times; pink noise `noise_db` below a strike.

    next_s: when the next pair strikes, 12 dB below.
    """
    rng = np.random.default_rng((seed, 78))
    room = _room(rng, float(rng.uniform(0.3, 0.8)))
    firsts = [round((QUIET_S + at_s) * RATE) for at_s in strikes_s]
    placed = [
        (first, fftconvolve(_at_level(_strike(rng), float(rng.uniform(-6, 6))), room))
        for first in firsts
    ]
    for at_s in next_s:
        level_db = -12 + float(rng.uniform(-6, 6))
        first = round((QUIET_S + at_s) * RATE)
        placed.append((first, fftconvolve(_at_level(_strike(rng), level_db), room)))
    samples = _recorded(rng, placed, firsts[-1] / RATE + 1.0, noise_db)
    return Scene(samples, [first / RATE for first in firsts], [])


def _recorded(
    rng: np.random.Generator, placed: list[tuple[int, Samples]], length_s: float, noise_db: float
) -> Samples:
    """Sounds at their first samples over pink noise, at most full scale."""
    size = round(length_s * RATE)
    samples = _pink(rng, size) * NOMINAL * 10 ** (-noise_db / 20)
    for first, sound in placed:
        kept = sound[: size - first]
        samples[first : first + kept.size] += kept
    return np.asarray(samples / max(1.0, float(np.abs(samples).max())))


def _strike(rng: np.random.Generator) -> Samples:
    """A hand or a foot on a pad, or a clap: a burst of noise, duller or brighter, over a thump."""
    times = np.arange(round(0.12 * RATE)) / RATE
    attack = np.minimum(1.0, times / float(rng.uniform(0.0002, 0.0015)))
    noise = rng.standard_normal(times.size) * np.exp(-times / float(rng.uniform(0.004, 0.018)))
    dull = float(rng.uniform(0.0, 0.8))
    noise = lfilter([1 - dull], [1, -dull], noise)
    noise /= np.abs(noise).max()
    pitch = float(rng.uniform(80, 220))
    thump = np.sin(2 * np.pi * pitch * times) * np.exp(-times / float(rng.uniform(0.015, 0.04)))
    return np.asarray(attack * (noise + float(rng.uniform(0.0, 0.6)) * thump), dtype=np.float64)


def _room(rng: np.random.Generator, decay_s: float) -> Samples:
    """Impulse response: the straight way, and a tail of noise that falls by 60 dB in `decay_s`."""
    times = np.arange(round(decay_s * RATE)) / RATE
    tail = rng.standard_normal(times.size) * 10 ** (-3 * times / decay_s)
    tail[: round(0.003 * RATE)] = 0.0
    tail *= 10 ** (-float(rng.uniform(0, 6)) / 20) / np.sqrt(np.sum(tail**2))
    tail[0] = 1.0
    return np.asarray(tail, dtype=np.float64)


def _at_level(sound: Samples, level_db: float) -> Samples:
    power = uniform_filter1d(sound**2, FRAME, mode="constant")
    return np.asarray(
        sound * NOMINAL * 10 ** (level_db / 20) / np.sqrt(power.max()), dtype=np.float64
    )


def _pink(rng: np.random.Generator, size: int) -> Samples:
    """Noise of RMS 1 whose power falls with frequency, from 20 Hz."""
    fast = next_fast_len(size, real=True)
    spectrum = np.fft.rfft(rng.standard_normal(fast))
    frequency = np.fft.rfftfreq(fast, 1 / RATE)
    spectrum *= np.where(frequency >= 20, 1 / np.sqrt(np.maximum(frequency, 20)), 0.0)
    noise = np.fft.irfft(spectrum, fast)[:size]
    return np.asarray(noise / np.sqrt(np.mean(noise**2)), dtype=np.float64)


def busy_scene(seed: int, noise_db: float, *, slowest_s: float = 2.0) -> Scene:
    """A hall in which strikes follow one another by 0.1 to 0.7 s and fall near cues.

    Reverberation time 0.3 s to `slowest_s`; combinations of one to four strikes, each ± 10 dB, cues
    alone and in overlapping pairs from half a second before a strike to just at it.
    """
    rng = np.random.default_rng((seed, 79))
    decay_s = float(np.exp(rng.uniform(np.log(0.3), np.log(slowest_s))))
    strike_room, cue_room = _room(rng, decay_s), _room(rng, decay_s)
    leaks = {name: -float(rng.uniform(6, 20)) for name in SOUNDS}
    strikes, cues = list[float](), list[tuple[SoundName, float]]()
    placed: list[tuple[int, Samples]] = []

    def cue(at_s: float) -> None:
        name = cast(SoundName, rng.choice(sorted(SOUNDS)))
        placed.append(
            (round(at_s * RATE), _at_level(fftconvolve(SOUNDS[name](), cue_room), leaks[name]))
        )
        cues.append((name, at_s))

    at_s = QUIET_S + 0.6
    while len(strikes) < STRIKES:
        cue(at_s - float(rng.uniform(0.0, 0.5)))
        if rng.random() < 0.3:
            cue(at_s + float(rng.uniform(-0.2, 0.3)))
        for _ in range(int(rng.integers(1, 5))):
            first = round(at_s * RATE)
            level_db = float(rng.uniform(-10, 10))
            placed.append((first, fftconvolve(_at_level(_strike(rng), level_db), strike_room)))
            strikes.append(first / RATE)
            at_s += float(rng.uniform(0.1, 0.7))
        at_s += float(rng.uniform(0.5, 1.5))
    cues.sort(key=lambda cue: cue[1])
    return Scene(_recorded(rng, placed, at_s + 1.0, noise_db), strikes, cues)


Disturbance = Literal["shouts", "squeaks", "pumping gain", "neighbour"]
DISTURBANCES: tuple[Disturbance, ...] = get_args(Disturbance)


def disturbed_scene(seed: int, kind: Disturbance) -> Scene:
    """A room as in `scene`, with what is no strike of the student's: shouts, squeaking soles, gain
    control that pumps, or somebody else's strikes 12 dB below."""
    made = scene(seed, 20.0)
    rng = np.random.default_rng((seed, 80, DISTURBANCES.index(kind)))
    samples = made.samples.copy()
    if kind == "pumping gain":
        level = np.sqrt(uniform_filter1d(samples**2, round(0.1 * RATE), mode="constant"))
        samples *= np.minimum(6.0, 0.05 / np.maximum(level, 1e-4))
        return Scene(samples / max(1.0, float(np.abs(samples).max())), made.strikes_s, made.cues)
    makes = {"shouts": _shout, "squeaks": _squeak, "neighbour": _strike}
    every_s = {"shouts": 4.0, "squeaks": 2.5, "neighbour": 1.5}[kind]
    level_db = {"shouts": 0.0, "squeaks": -6.0, "neighbour": -12.0}[kind]
    room = _room(rng, 0.7)
    at_s = QUIET_S
    while at_s < samples.size / RATE - 2:
        sound = fftconvolve(_at_level(makes[kind](rng), level_db), room)
        first = round(at_s * RATE)
        kept = sound[: samples.size - first]
        samples[first : first + kept.size] += kept
        at_s += float(rng.exponential(every_s))
    return Scene(samples / max(1.0, float(np.abs(samples).max())), made.strikes_s, made.cues)


def _shout(rng: np.random.Generator) -> Samples:
    """A voice: harmonics of a pitch that glides, in two formants, swelling within 20 to 60 ms."""
    times = np.arange(round(float(rng.uniform(0.2, 0.6)) * RATE)) / RATE
    pitch = float(rng.uniform(130, 320)) * (1 - 0.3 * times / times[-1])
    phase = 2 * np.pi * np.cumsum(pitch) / RATE
    voice = sum(
        np.sin(number * phase)
        * sum(np.exp(-(((number * pitch - at) / 250) ** 2)) for at in (700, 1400))
        for number in range(1, 14)
    )
    swell = np.minimum(1, times / float(rng.uniform(0.02, 0.06))) * np.exp(-3 * times / times[-1])
    return np.asarray(voice * swell, dtype=np.float64)


def _squeak(rng: np.random.Generator) -> Samples:
    """A sole on the floor: a tone of 2 to 4 kHz that glides, within some milliseconds."""
    times = np.arange(round(float(rng.uniform(0.05, 0.15)) * RATE)) / RATE
    tone = float(rng.uniform(2000, 4000)) * (1 + float(rng.uniform(-0.2, 0.2)) * times / times[-1])
    phase = 2 * np.pi * np.cumsum(tone) / RATE
    swell = np.minimum(1, times / 0.008) * np.minimum(1, (times[-1] - times) / 0.02)
    return np.asarray((np.sin(phase) + 0.4 * np.sin(2 * phase)) * swell, dtype=np.float64)
