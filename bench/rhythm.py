"""The tempo of made-up rounds of two, and running ahead that was planted in them.

What the detector does to a strike (15 dB over the noise) is measured on some rounds as recordings;
the errors it makes there are then given to the strikes of all of them.
"""

from __future__ import annotations

import tempfile
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial
from pathlib import Path
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from bench.figure import Figure
from bench.hearing import Found, Outside
from bench.strikes import rounds_scene
from hastatus.core.partner.rhythm import rhythm

Way = Literal["around a kept pulse", "adding up", "half and half"]
BEATS = 128
NOISE_DB = 15.0
LOST = 0.05
AHEAD_BEATS = 8
UNEVEN: dict[Way, tuple[float, float]] = {
    "around a kept pulse": (0.0, 0.08),
    "adding up": (0.04, 0.0),
    "half and half": (0.04 / np.sqrt(2), 0.04 / np.sqrt(2)),
}
"""Standard deviations of the beat and of a strike beside it, in beats."""
FASTER: dict[Way, float] = {
    "around a kept pulse": 0.06,
    "adding up": 0.18,
    "half and half": 0.12,
}


@dataclass(frozen=True)
class Round:
    """A made-up round. strikes_s: those that are not lost. mean_s: of the beats outside the
    stretch."""

    beat_s: float
    strikes_s: NDArray[np.float64]
    mean_s: float
    ahead_from: int | None


@dataclass(frozen=True)
class Judged:
    """What came of a round. off: error of the mean beat, as a share."""

    off: float
    found: bool


def make_round(seed: int, way: Way, *, ahead: bool) -> Round:
    """A round of 128 beats at 60 to 140 a minute, the two striking in turn."""
    rng = np.random.default_rng((seed, list(UNEVEN).index(way), int(ahead)))
    beat_s = 60 / float(rng.uniform(60, 140))
    clock, motor = UNEVEN[way]
    intervals = beat_s * (1 + clock * rng.standard_normal(BEATS - 1))
    start = int(rng.integers(8, BEATS - 24)) if ahead else None
    outside = np.ones(BEATS - 1, dtype=bool)
    if start is not None:
        intervals[start : start + AHEAD_BEATS] *= 1 - FASTER[way]
        outside[start : start + AHEAD_BEATS] = False
    times = np.concatenate([[0.0], np.cumsum(intervals)])
    times = times + beat_s * motor * rng.standard_normal(BEATS)
    mean_s = float(np.diff(times)[outside].mean())
    kept = rng.random(BEATS) >= LOST
    return Round(beat_s, times[kept] - times[kept][0], mean_s, start)


def heard_errors(count: int) -> tuple[NDArray[np.float64], float]:
    """What the detector makes of some rounds: errors of its onsets in s, share it misses."""
    found = Found()
    with tempfile.TemporaryDirectory() as folder:
        detector = Outside(Path(folder))
        for number in range(count):
            made = make_round(number, list(UNEVEN)[number % 3], ahead=number % 2 == 1)
            recording = rounds_scene(number, list(made.strikes_s), NOISE_DB)
            found.add(recording.strikes_s, detector.hear(recording))
    errors = np.asarray(found.errors_ms) / 1000
    return errors, 1 - len(errors) / found.strikes


def judge(seed: int, way: Way, ahead: bool, errors: NDArray[np.float64], missed: float) -> Judged:
    """A round as it would be heard, against what it was."""
    made = make_round(seed, way, ahead=ahead)
    rng = np.random.default_rng((seed, 3))
    strikes = made.strikes_s[rng.random(made.strikes_s.size) >= missed]
    strikes = np.sort(strikes + rng.choice(errors, strikes.size))
    told = rhythm(strikes.tolist(), made.beat_s)
    assert told is not None
    ran, start = told.ran_ahead, made.ahead_from
    # Beats are counted from the first that was heard, which may not be the first there was.
    there = (
        ran is not None
        and start is not None
        and ran.from_beat < start + AHEAD_BEATS
        and ran.from_beat + ran.beats > start - 4
    )
    return Judged(
        abs(told.beat_s / made.mean_s - 1), there if start is not None else ran is not None
    )


def figures(loose: bool) -> Iterator[Figure]:
    """Judge 200 rounds of each way, with and without running ahead; the suite takes fewer."""
    rounds = 30 if loose else 200
    errors, missed = heard_errors(1 if loose else 6)
    yield Figure("strikes of two over noise by 15 dB, missed", 100 * missed, "%", 4.0)
    with ProcessPoolExecutor(2) as pool:
        for way in UNEVEN:
            judged = {
                ahead: list(
                    pool.map(
                        partial(judge, way=way, ahead=ahead, errors=errors, missed=missed),
                        range(rounds),
                        chunksize=5,
                    )
                )
                for ahead in (False, True)
            }
            every = judged[False] + judged[True]
            off = 100 * float(np.mean([each.off > 0.01 for each in every]))
            unfound = 100 * float(np.mean([not each.found for each in judged[True]]))
            false = 100 * float(np.mean([each.found for each in judged[False]]))
            name = f"uneven {way}, {rounds} rounds"
            yield Figure(f"{name}, tempo off by more than 1 %", off, "%", 5)
            yield Figure(f"{name}, running ahead not found", unfound, "%", 5)
            yield Figure(f"{name}, running ahead told where none was", false, "%", 2, 2)
