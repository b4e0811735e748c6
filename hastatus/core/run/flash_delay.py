"""Measuring a camera: how much later than a flash of the screen its picture of it is dated.

The screen flashes at times that the browser confirms, and the camera sees it, in a mirror or as it
looks at the screen. What lies between is the delay of the display and of the camera: they cannot
be told apart from here, and both are taken off.
"""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from hastatus.core.run.calibration import CannotCalibrate, Measured

FLASH_S = 0.35
GAPS_S = (
    0.833, 0.96, 0.983, 1.042, 0.828, 0.846, 0.826, 0.905,
    0.816, 0.991, 0.977, 0.855, 0.884, 0.891, 0.994,
)  # fmt: skip
"""From one flash to the next: drawn so that cameras of 15 to 60 pictures a second meet the flashes
all over from one picture to the next."""
LONGEST_S = 0.45
EARLIEST_S = 0.07
"""The longest delay that is looked for; and how much too early a quick camera's picture, dated by
half a picture too soon, may seem."""
LEAST_RATE_HZ = 12
"""Pictures a second with which a camera tells enough."""
LEAST_LIKENESS = 0.6
"""A part of the picture counts as lit where its brightness goes with the flashes like that
(correlation)."""
LEAST_RISE = 6.0
"""Brightness, of 255, by which a flash has to rise to be placed."""
LEAST_SEEN = 0.6
MOST_SPREAD_MS = 45.0
_STEP_S = 0.005

Array = NDArray[np.float64]


def flash_starts_s() -> list[float]:
    """When each flash begins, seconds after the first."""
    return [round(float(onset), 4) for onset in np.cumsum([0.0, *GAPS_S])]


def camera_delay(
    times_ms: Sequence[float], cells: Sequence[Sequence[int]], shown_ms: Sequence[float]
) -> Measured:
    """The delay of a camera that saw the screen flash.

    times_ms (n): when each picture is said to have been taken. cells (n, k): brightness, 0 to 255,
    of parts of each. shown_ms: when each flash was shown. Raises `CannotCalibrate`.
    """
    times, flashed = np.array(times_ms) / 1000, np.array(shown_ms) / 1000
    if len(times) < 2 or len(times) / max(times[-1] - times[0], 1e-9) < LEAST_RATE_HZ:
        raise CannotCalibrate(
            f"The camera gives fewer than {LEAST_RATE_HZ} pictures a second. Put a lamp on, "
            "close other programs that use it, then try again."
        )
    bright = _brightness(times, np.array(cells, dtype=np.float64), flashed)
    delays = [
        delay for at_s in flashed if (delay := _delay(times, bright, float(at_s))) is not None
    ]
    if len(delays) < LEAST_SEEN * len(flashed):
        raise CannotCalibrate(
            f"Only {len(delays)} of {len(flashed)} flashes were seen. Hold the camera so that the "
            "screen fills most of its picture, or a mirror that shows it, then try again."
        )
    found = 1000 * np.array(delays)
    low, high = np.quantile(found, (0.05, 0.95))
    spread = float(high - low) / 2
    if spread > MOST_SPREAD_MS:
        raise CannotCalibrate(
            f"The camera's delay varies by ± {spread:.0f} ms. Put a lamp on, close other programs, "
            "then try again."
        )
    # Each is off by up to half a picture, evenly; the mean of many is surer than any one of them.
    middle = found[(found >= low) & (found <= high)]
    picture_ms = 1000 * float(np.median(np.diff(times)))
    sure = 2 * max(float(middle.std()), picture_ms / np.sqrt(12)) / np.sqrt(len(middle))
    return Measured(
        round(float(middle.mean()), 1), round(float(sure), 1), len(delays), len(flashed)
    )


def _brightness(times: Array, seen: Array, flashed: Array) -> Array:
    """Brightness of what the flashes light. Raises `CannotCalibrate` where they light nothing."""
    risen = seen - _slow(times, seen)
    best, likeness = 0.0, np.zeros(seen.shape[1])
    for delay_s in np.arange(0.0, LONGEST_S, _STEP_S):
        lit = _lit(times, flashed + delay_s)
        lit = lit - _slow(times, lit[:, None])[:, 0]
        size = np.sqrt((lit**2).sum() * (risen**2).sum(axis=0)) + 1e-9
        alike = (lit @ risen) / size
        if alike.max() > best:
            best, likeness = float(alike.max()), alike
    chosen = likeness > max(LEAST_LIKENESS, 0.8 * best)
    if not chosen.any():
        raise CannotCalibrate(
            "The camera did not see the screen flash. Turn it to the screen, or hold up a mirror, "
            "then try again."
        )
    return np.asarray(seen[:, chosen].mean(axis=1))


def _slow(times: Array, values: Array) -> Array:
    """What changes slowly: the mean over two seconds around each time."""
    total = np.concatenate([np.zeros((1, values.shape[1])), np.cumsum(values, axis=0)])
    first = np.searchsorted(times, times - 1.0)
    last = np.searchsorted(times, times + 1.0, side="right")
    return np.asarray((total[last] - total[first]) / (last - first)[:, None])


def _lit(times: Array, flashed: Array) -> Array:
    since = times[:, None] - flashed[None, :]
    return np.asarray(((since >= 0) & (since < FLASH_S)).any(axis=1), dtype=np.float64)


def _delay(times: Array, bright: Array, at_s: float) -> float | None:
    """From a flash to when the pictures have half its brightness; None where it is not clear."""
    near = (times > at_s - 0.2) & (times < at_s + LONGEST_S + FLASH_S)
    dark = (times > at_s - 0.2) & (times < at_s)
    if near.sum() < 4 or not dark.any():
        return None
    when, level = times[near], bright[near]
    base, top = float(np.median(bright[dark])), float(np.quantile(level, 0.8))
    if top - base < LEAST_RISE:
        return None
    over = np.flatnonzero(level >= (base + top) / 2)
    over = over[when[over] > at_s - EARLIEST_S]
    if not len(over) or over[0] == 0:
        return None
    place = int(over[0])
    low, high = level[place - 1], level[place]
    if low >= high:
        return None
    share = ((base + top) / 2 - low) / (high - low)
    found = when[place - 1] + share * (when[place] - when[place - 1]) - at_s
    return float(found) if -EARLIEST_S <= found <= LONGEST_S else None
