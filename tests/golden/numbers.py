"""Numbers that no hand works out: windows believed of made-up students, rhythms of rounds."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import asdict

import numpy as np

from hastatus.core.adapt.window_belief import TimedOutcome, window_s
from hastatus.core.plan.prior import START_SPREAD, Prior
from hastatus.core.read.rhythm import rhythm

Numbers = dict[str, float]
"""By name; -1 where nothing can be told."""

PRIORS = {
    "start": Prior(window_s=1.0, spread=START_SPREAD),
    "club": Prior(window_s=0.7, spread=0.25),
    "own": Prior(window_s=0.5, spread=0.12),
}


def windows() -> Iterator[tuple[str, Numbers]]:
    """The window after each of several lengths of a course, by target and prior."""
    for name, course in _courses().items():
        for of, prior in PRIORS.items():
            for target in (0.7, 0.84, 0.95):
                yield (
                    f"window {name}, {of}, {target}",
                    {
                        str(length): window_s(course[:length], target, prior) or -1
                        for length in (1, 4, 12, 13, 31, 60, 151, 170)
                    },
                )


def _courses() -> dict[str, list[TimedOutcome]]:
    rng = np.random.default_rng(4)
    usual = 350 + 60 * rng.standard_normal(170) + rng.exponential(120, 170)
    change = np.where(np.arange(170) < 25, 1.0, 1.3) * usual
    return {
        "usual": _with(usual, rng, lapses=0.03, wrong=0.05),
        "changed": _with(change, rng, lapses=0.0, wrong=0.0),
        "careless": _with(usual[::-1], rng, lapses=0.12, wrong=0.22),
        "slow": _with(2.2 * usual, rng, lapses=0.05, wrong=0.0),
        "in no time": _with(0.05 * usual, rng, lapses=0.0, wrong=0.0),
    }


def _with(
    times: np.ndarray, rng: np.random.Generator, *, lapses: float, wrong: float
) -> list[TimedOutcome]:
    """Outcomes of these times: some never came, listened for 1.2 s, and some were wrong."""
    course = []
    for ms in times:
        drawn = rng.random()
        if drawn < lapses:
            course.append(TimedOutcome(1200.0, came=False))
        elif drawn < lapses + wrong:
            course.append(TimedOutcome(None, came=False))
        else:
            course.append(TimedOutcome(float(ms), came=True))
    return course


def rhythms() -> Iterator[tuple[str, Numbers]]:
    """What is told of rounds that are uneven, lossy and crowded each in a way of its own."""
    for number in range(16):
        rng = np.random.default_rng([7, number])
        beat_s, beats = float(rng.uniform(0.45, 1.0)), int(rng.integers(20, 110))
        parts, pulse = 1 + number % 2, number % 3 == 0
        times, asked = _round(rng, beat_s, beats, ahead=number % 4 == 0)
        on_sheet = asked if pulse and number % 2 else None
        told = rhythm(times, beat_s, parts=parts, pulse=pulse, asked=on_sheet)
        yield f"rhythm {number}", _flat(asdict(told)) if told else {}


def _round(
    rng: np.random.Generator, beat_s: float, beats: int, *, ahead: bool
) -> tuple[list[float], list[float]]:
    """Strikes around a beat that wanders, some lost and some extra; and the beats asked for."""
    intervals = beat_s * (1 + rng.choice([0.0, 0.01, 0.04]) * rng.standard_normal(beats))
    if ahead:
        start = int(rng.integers(4, max(5, beats - 14)))
        intervals[start : start + 8] *= float(rng.uniform(0.8, 0.95))
    on = np.cumsum(intervals) - intervals[0]
    struck = on + rng.choice([0.0, 0.01, 0.03]) * rng.standard_normal(beats)
    struck = struck[rng.random(beats) > rng.choice([0.0, 0.1, 0.25])]
    extra = rng.uniform(0, on[-1], int(beats * rng.choice([0.0, 0.1, 0.4])))
    gap = on[-1] + 5 * beat_s
    second = gap + beat_s * np.arange(int(rng.integers(0, 12)))
    asked = [float(beat) for beat in range(beats)]
    return sorted([*struck.tolist(), *extra.tolist(), *second.tolist()]), asked


def _flat(told: dict[str, object]) -> Numbers:
    ran = told.pop("ran_ahead")
    inner = {f"ran {key}": value for key, value in ran.items()} if isinstance(ran, dict) else {}
    return {
        key: -1 if value is None else float(value)  # type: ignore[arg-type]
        for key, value in {**told, **inner}.items()
    }
