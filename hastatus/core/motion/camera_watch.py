"""Zones before a live camera: their idle motion is learnt as a run goes on, picture by picture.

It is the test of `movement` on what has been seen so far. The state is small, for it is kept with a
run from batch to batch: the last seconds of motion, and a few sums of each zone's idle motion.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from hastatus.core.motion.meter import Array, most_of
from hastatus.core.motion.movement import (
    Detector,
    EvenMotion,
    Movement,
    threshold_over,
    window_of,
)
from hastatus.core.motion.zone import Zone
from hastatus.core.motion.zone_watch import SETTLES_S

STEP_S = 1 / 30
"""Motion is looked at on times so far apart, whatever the camera gives."""
LONGEST_GAP_S = 0.125
"""Pictures farther apart than this say nothing of what was between them."""
LONGEST_S = 8.0
"""So long after its cue a movement is still looked for."""
UNIT = 1e-5
"""Motion is sent in this, as a share of the picture's height."""
_ESTIMATE = 30
"""Idle times of which one estimate of the autocovariance is made: a second."""
_LEAST_ESTIMATES = 3
_MOST_ESTIMATES = 9
_MOST_REACHED = 30
_UNUSUAL = 0.25
"""Share of the estimates, the most restless, that are left out: somebody stepped aside."""
_SWAY = 8e-4
_SWAY_S = 0.3
_SWAY_COUNTS = 3
"""How somebody sways who waits is believed before it is seen: SD from one even time to the next, as
a share of the picture's height; how long it goes on; and how many estimates that counts for."""
_RARE = 0.8
"""Of a second's highest ratio. An answer that came very late is among a few of them."""
_WINDOW = window_of(STEP_S)


@dataclass(slots=True)
class Idle:
    """How a zone moves while nothing is asked. sums: of products, lag by lag, for the estimate that
    is being made; estimates: earlier ones; reached: the highest ratio of idle seconds."""

    sums: list[float] = field(default_factory=lambda: [0.0] * _WINDOW)
    estimates: list[list[float]] = field(default_factory=list)
    reached: list[float] = field(default_factory=list)


@dataclass(slots=True)
class CameraState:
    """What a camera has shown so far.

    last_s: time of the last picture; None: none yet. path: where zones and camera are, since the
    pictures began. even: where they were at the last even time. first: number of the first even
    time that is kept. rows: motion from one even time to the next, zone by zone right and down,
    then of the camera. asked_s: when the last cue came. run: even times in a row, up to the last,
    at which nothing was asked. counts: products in each lag's sum. rows_px, columns_px: the size of
    the pictures.
    """

    last_s: float | None = None
    path: list[float] = field(default_factory=list)
    even: list[float] | None = None
    first: int = 0
    rows: list[list[float]] = field(default_factory=list)
    asked_s: float | None = None
    run: int = 0
    counts: list[int] = field(default_factory=lambda: [0] * _WINDOW)
    idle: dict[int, Idle] = field(default_factory=dict)
    rows_px: int = 0
    columns_px: int = 0


class CameraWatch:
    """Follows some zones of a camera. zones: all that are drawn; watched: the places of those that
    answers are seen in."""

    def __init__(self, zones: Sequence[Zone], watched: Sequence[int]) -> None:
        self._zones, self._watched = tuple(zones), tuple(watched)

    def asked(self, state: CameraState, at_s: float) -> None:
        """A cue came, or the round stands still: what moves now is not idle."""
        state.asked_s, state.run = at_s, 0

    def add(
        self, state: CameraState, at_s: float, moved: Sequence[int], rows: int, columns: int
    ) -> None:
        """Take a picture. moved: as in `rows`, since the picture before, in `UNIT`; rows, columns:
        size of the picture in pixels. What does not follow on the last picture begins anew."""
        row = [UNIT * one for one in moved]
        size = (rows, columns)
        gone = state.last_s is None or at_s - state.last_s > LONGEST_GAP_S
        if gone or len(row) != len(state.path) or size != (state.rows_px, state.columns_px):
            self._begin(state, at_s, len(row), size)
            return
        assert state.last_s is not None
        if at_s <= state.last_s:
            return
        before, after = state.path, [old + new for old, new in zip(state.path, row, strict=True)]
        for number in range(_number(state.last_s) + 1, _number(at_s) + 1):
            share = (number * STEP_S - state.last_s) / (at_s - state.last_s)
            there = [old + share * (new - old) for old, new in zip(before, after, strict=True)]
            self._add_even(state, number, there)
        state.path, state.last_s = after, at_s

    def after(self, state: CameraState, zone: int, from_s: float, until_s: float) -> Movement:
        """The first movement of a zone that begins after a moment and is seen before another."""
        motion = self._motion(state, zone)
        until_s = min(until_s, from_s + LONGEST_S)
        missing_s = STEP_S * (motion.index(until_s) + 1 - len(motion.moved))
        if motion.index(from_s) - _WINDOW < -1 or missing_s > LONGEST_GAP_S:
            return Movement(None, reason="no_film")
        idle = state.idle.get(zone)
        if idle is None or len(idle.estimates) < _LEAST_ESTIMATES:
            return Movement(None, reason="no_idle")
        detector = self._detector(state, zone, idle)
        ratios = detector.ratios(motion.moved)
        return detector.after(motion, ratios, _threshold(idle), from_s, until_s)

    def forget(self, state: CameraState, before_s: float) -> None:
        """Drop motion that is not needed for what comes after `before_s`."""
        unneeded = _number(before_s) - 2 * _WINDOW - state.first
        if unneeded > 0:
            del state.rows[:unneeded]
            state.first += unneeded

    def _begin(self, state: CameraState, at_s: float, width: int, size: tuple[int, int]) -> None:
        state.last_s, state.path, state.even = at_s, [0.0] * width, None
        state.rows, state.run = [], 0
        if size != (state.rows_px, state.columns_px):
            state.idle = {}
        state.rows_px, state.columns_px = size

    def _add_even(self, state: CameraState, number: int, there: list[float]) -> None:
        before, state.even = state.even, there
        if before is None:
            state.first = number + 1
            return
        shaken = [there[-2] - before[-2], there[-1] - before[-1]]
        row = [
            round(now - then - shaken[place % 2], 7)
            for place, (now, then) in enumerate(zip(there[:-2], before[:-2], strict=True))
        ]
        state.rows.append([*row, *(round(one, 7) for one in shaken)])
        at_s = number * STEP_S
        if state.asked_s is not None and at_s < state.asked_s + SETTLES_S:
            state.run = 0
            return
        state.run += 1
        self._learn(state)

    def _learn(self, state: CameraState) -> None:
        """Add the last even time to the sums; make an estimate of them once they are enough."""
        lags = min(state.run, _WINDOW, len(state.rows))
        for lag in range(lags):
            state.counts[lag] += 1
        now = state.rows[-1]
        for zone in self._watched:
            idle = state.idle.setdefault(zone, Idle())
            x, y = now[2 * zone], now[2 * zone + 1]
            for lag in range(lags):
                then = state.rows[-1 - lag]
                idle.sums[lag] += 0.5 * (x * then[2 * zone] + y * then[2 * zone + 1])
        if state.counts[0] >= _ESTIMATE:
            for zone in self._watched:
                self._conclude(state, zone)
            state.counts = [0] * _WINDOW

    def _conclude(self, state: CameraState, zone: int) -> None:
        idle = state.idle[zone]
        whole = min(state.run, len(state.rows))
        if idle.estimates and whole >= _WINDOW:
            ratios = self._detector(state, zone, idle).ratios(self._motion(state, zone).moved)
            reached = float(ratios[-1 - (whole - _WINDOW) :].max())
            idle.reached = [*idle.reached, round(reached, 3)][-_MOST_REACHED:]
        made = [
            float(f"{total / count:.5g}") if count else 0.0
            for total, count in zip(idle.sums, state.counts, strict=True)
        ]
        idle.estimates = [*idle.estimates, made][-_MOST_ESTIMATES:]
        idle.sums = [0.0] * _WINDOW

    def _detector(self, state: CameraState, zone: int, idle: Idle) -> Detector:
        calm = sorted(idle.estimates, key=lambda estimate: estimate[0])
        calm = calm[: len(calm) - int(_UNUSUAL * len(calm))]
        believed = _SWAY_COUNTS * _SWAY**2 * np.exp(-STEP_S * np.arange(_WINDOW) / _SWAY_S)
        covariance: Array = (believed + np.sum(calm, axis=0)) / (_SWAY_COUNTS + len(calm))
        most = most_of(self._zones[zone], state.rows_px, state.columns_px)
        return Detector(STEP_S, covariance, most)

    def _motion(self, state: CameraState, zone: int) -> EvenMotion:
        rows = np.array(state.rows).reshape(len(state.rows), 2 * len(self._zones) + 2)
        return EvenMotion(
            state.first * STEP_S,
            STEP_S,
            rows[:, 2 * zone : 2 * zone + 2],
            rows[:, -2:],
            np.ones(len(rows), dtype=np.bool_),
        )


def _threshold(idle: Idle) -> float:
    reached = float(np.quantile(idle.reached, _RARE)) if idle.reached else None
    return threshold_over(reached)


def _number(at_s: float) -> int:
    """The last even time that is not after `at_s`."""
    return int(np.floor(at_s / STEP_S + 1e-9))
