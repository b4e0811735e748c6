"""Measuring a device: what its loudspeaker, microphone, keys and pads add to a time.

Short chirps are played and heard again. What lies between is the way out plus the way in, and that
is what an answer heard by the microphone has to lose. A key that is struck so that it can be heard
is then compared with the microphone, and so gets a correction of its own.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hastatus.core.sound.tones import RATE, Samples

CHIRP_S = 0.02
CHIRP_HZ = (2000.0, 9000.0)
CHIRPS = 24
GAPS_S = (0.23, 0.29, 0.26, 0.35, 0.24, 0.31, 0.27, 0.38, 0.25, 0.33, 0.28)
"""Between chirps; uneven, so that a delay longer than a gap cannot be taken for a shorter one."""
LONGEST_S = 0.6
"""The longest way out and in that is looked for."""
NEAR_S = 0.012
FIRST_PEAK = 0.6
"""The straight way is the first peak of this share of the highest one; echoes come later."""
LEAST_CLARITY = 8.0
"""A chirp is heard when its peak is this many times the usual size of the correlation."""
LEAST_HEARD = 0.6
MOST_SPREAD_MS = 8.0
WIRELESS_FROM_MS = 120.0
"""A way out and in that long is usual for wireless headphones or loudspeakers only (common
practice, no source)."""

OPENING_MS = 10.0
"""How far the way in differs, half-width, each time a microphone is opened anew: the browser hands
its sound over in pieces of that length (seen in Chromium: 9 and 11 ms between openings)."""

LEAST_STRIKES = 8
PAIRED_MS = 250.0
MOST_STRIKE_SPREAD_MS = 15.0


class CannotCalibrate(ValueError):
    """The measurement says nothing. The sentence says why and what to do."""


@dataclass(frozen=True, slots=True)
class Measured:
    """A measured latency. ms: median. spread_ms: half-width that holds nine of ten, and of a
    microphone what another opening of it may change.

    used, of: measurements that counted, and how many there were. wireless: so long that the sound
    is likely to go through the air as radio, which varies from day to day.
    """

    ms: float
    spread_ms: float
    used: int
    of: int
    wireless: bool = False


def chirp() -> Samples:
    """20 ms that rise from 2 to 9 kHz, softly begun and ended; its first sample is its onset."""
    times = np.arange(round(CHIRP_S * RATE)) / RATE
    low, high = CHIRP_HZ
    phase = 2 * np.pi * (low * times + (high - low) * times**2 / (2 * CHIRP_S))
    shape = np.sin(np.pi * (np.arange(times.size) + 0.5) / times.size) ** 0.5
    return np.asarray(0.7 * np.sin(phase) * shape, dtype=np.float64)


def starts_s() -> list[float]:
    """When each chirp begins, seconds after the first."""
    gaps = [GAPS_S[index % len(GAPS_S)] for index in range(CHIRPS - 1)]
    return [round(float(onset), 4) for onset in np.cumsum([0.0, *gaps])]


def loopback(samples: NDArray[np.float32], rate: int, played_s: Sequence[float]) -> Measured:
    """The way from loudspeaker to microphone, from a recording of the chirps.

    played_s: when each chirp was played, seconds from the first sample. Matched filter; a sum over
    all chirps finds roughly where they lie, then each is placed by its first peak. Raises
    `CannotCalibrate`.
    """
    if rate != RATE:
        raise CannotCalibrate(f"The recording has {rate} samples a second and needs {RATE}.")
    if samples.size < RATE // 2 or not np.isfinite(samples).all():
        raise CannotCalibrate("There is no recording. Allow the microphone and try again.")
    if float(np.abs(samples).max()) < 1e-5:
        raise CannotCalibrate(
            "The microphone gives silence. Check that it is not muted, then try again."
        )
    sharp = _matched(samples.astype(np.float64))
    windows = _windows(sharp, played_s)
    roughly = int(np.argmax(windows.mean(axis=0)))
    heard = [peak for row in windows if (peak := _first_peak(row, roughly)) is not None]
    if len(heard) < LEAST_HEARD * len(played_s):
        raise CannotCalibrate(
            f"Only {len(heard)} of {len(played_s)} sounds were heard clearly. Make it louder, "
            "bring the microphone nearer or the room to rest, then try again."
        )
    ms = float(np.median(heard)) / RATE * 1000
    spread = _spread(np.asarray(heard) / RATE * 1000)
    if spread > MOST_SPREAD_MS:
        raise CannotCalibrate(
            f"The delay varies by ± {spread:.0f} ms. Close other programs that play sound, "
            "take wired sound, then try again."
        )
    total = float(np.hypot(spread, OPENING_MS))
    return Measured(round(ms, 2), round(total, 2), len(heard), len(played_s), ms > WIRELESS_FROM_MS)


def against_microphone(
    struck_ms: Sequence[float], heard_ms: Sequence[float], microphone: Measured
) -> Measured:
    """What a key or pad adds: its times against those of the strikes that were heard.

    heard_ms: already corrected by the latency of the same opening of the microphone; what that was
    measured to is added, what another opening would change is not. Raises `CannotCalibrate`.
    """
    free = sorted(heard_ms)
    offsets = []
    for struck in sorted(struck_ms):
        near = [heard for heard in free if abs(struck - heard) <= PAIRED_MS]
        if near:
            nearest = min(near, key=lambda heard: abs(struck - heard))
            free.remove(nearest)
            offsets.append(struck - nearest)
    if len(offsets) < LEAST_STRIKES:
        raise CannotCalibrate(
            f"{len(offsets)} strikes were both felt and heard, and {LEAST_STRIKES} are needed. "
            "Strike harder, one at a time, near the microphone."
        )
    spread = _spread(np.asarray(offsets))
    if spread > MOST_STRIKE_SPREAD_MS:
        raise CannotCalibrate(
            f"The strikes differ by ± {spread:.0f} ms, which is too much to tell a latency from. "
            "Try again where it is quieter."
        )
    of_microphone = max(0.0, microphone.spread_ms**2 - OPENING_MS**2) ** 0.5
    total = float(np.hypot(spread, of_microphone))
    ms = float(np.median(offsets))
    return Measured(round(ms, 2), round(max(total, 0.5), 2), len(offsets), len(struck_ms))


def _matched(samples: Samples) -> Samples:
    """Size of the correlation with the chirp, at each sample that it may begin with.

    The envelope: the chirp turned by a quarter is taken beside it, so that a peak is one peak.
    """
    sent = chirp()
    size = 1 << int(np.ceil(np.log2(samples.size + sent.size)))
    spectrum = np.fft.fft(samples, size) * np.conj(np.fft.fft(sent, size))
    spectrum[size // 2 :] = 0  # the analytic signal: no negative frequencies
    return np.asarray(np.abs(np.fft.ifft(spectrum))[: samples.size], dtype=np.float64)


def _windows(sharp: Samples, played_s: Sequence[float]) -> Samples:
    """What follows each chirp's start, one row a chirp, each over its own usual size."""
    length = round((LONGEST_S + NEAR_S) * RATE)
    rows = np.zeros((len(played_s), length))
    for row, at_s in zip(rows, played_s, strict=True):
        first = round(at_s * RATE)
        part = sharp[max(0, first) : first + length]
        row[: part.size] = part / max(float(np.median(part)) if part.size else 0.0, 1e-12)
    return rows


def _first_peak(row: Samples, roughly: int) -> float | None:
    """Where the straight way arrives, in samples; None when the chirp is not clear."""
    near = round(NEAR_S * RATE)
    low = max(0, roughly - near)
    part = row[low : roughly + near + 1]
    top = float(part.max()) if part.size else 0.0
    if top < LEAST_CLARITY:
        return None
    peaks = np.flatnonzero((part[1:-1] >= part[:-2]) & (part[1:-1] > part[2:])) + 1
    early = [int(peak) for peak in peaks if part[peak] >= FIRST_PEAK * top]
    return float(low + early[0]) if early else None


def _spread(values: NDArray[np.float64]) -> float:
    """Half of what lies between the twentieth from below and from above."""
    low, high = np.quantile(values, (0.05, 0.95))
    return float(high - low) / 2
