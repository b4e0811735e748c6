"""A simulated camera before a simulated student: what its page would send of each zone's motion."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np

from hastatus.core.motion.camera_watch import UNIT
from hastatus.core.motion.meter import Array
from hastatus.core.motion.zone import Zone
from hastatus.core.run.events import MotionSeen

ROWS_PX, COLUMNS_PX = 480, 640
_TOGETHER = 10
"""Pictures of one event."""
_SWAYS = 6


@dataclass(frozen=True, slots=True)
class Slip:
    """A movement of a zone out and back. onset_ms: when it begins. takes_ms: each way. far: how
    far, as a share of the picture's height, to the right and down."""

    zone: int
    onset_ms: float
    takes_ms: float
    far: tuple[float, float]


@dataclass(slots=True)
class SimulatedCamera:
    """Somebody who sways before a camera, and moves where `slips` say so.

    delay_ms: how much later than it was taken a picture is said to be. sway: of somebody who
    stands still, SD, as a share of the picture's height. noise: of each picture's reading, too.
    """

    zones: Sequence[Zone]
    rng: np.random.Generator
    rate_hz: float = 30.0
    delay_ms: float = 0.0
    sway: float = 0.004
    noise: float = 2e-4
    slips: list[Slip] = field(default_factory=list)
    _sways: Array = field(init=False)
    _last_ms: float = 0.0
    _before: Array | None = None

    def __post_init__(self) -> None:
        count = len(self.zones)
        hz = self.rng.uniform(0.1, 0.7, (_SWAYS, count, 2))
        phase = self.rng.uniform(0, 2 * np.pi, (_SWAYS, count, 2))
        self._sways = np.stack([2 * np.pi * hz, phase])

    def until(self, t_ms: float) -> list[MotionSeen]:
        """The pictures that were taken up to a moment and not told of yet."""
        every_ms = 1000 / self.rate_hz
        count = int((t_ms - self._last_ms) / every_ms)
        times: Array = self._last_ms + every_ms * np.arange(1.0, count + 1)
        if not count:
            return []
        self._last_ms = float(times[-1])
        where = self._where(times) + self.rng.normal(0, self.noise, (count, len(self.zones), 2))
        before = where[:1] if self._before is None else self._before
        moved = np.diff(np.concatenate([before, where]), axis=0)
        self._before = where[-1:]
        rows = np.round(moved.reshape(count, -1) / UNIT).astype(int)
        return [
            _event(times[part] + self.delay_ms, rows[part])
            for part in np.array_split(np.arange(count), -(-count // _TOGETHER))
        ]

    def _where(self, times_ms: Array) -> Array:
        turning, phase = self._sways
        seconds = (times_ms / 1000)[:, None, None, None]
        where = np.sin(turning * seconds + phase).sum(axis=1) * self.sway * (2 / _SWAYS) ** 0.5
        for slip in self.slips:
            out = np.clip((times_ms - slip.onset_ms) / slip.takes_ms, 0, 1)
            back = np.clip((times_ms - slip.onset_ms) / slip.takes_ms - 1.3, 0, 1)
            path = 0.5 * (np.cos(np.pi * back) - np.cos(np.pi * out))
            where[:, slip.zone] += path[:, None] * np.array(slip.far)
        return np.asarray(where)


def _event(times_ms: Array, rows: Array) -> MotionSeen:
    # The camera itself stands still.
    return MotionSeen(
        t_ms=float(times_ms[-1]),
        times_ms=tuple(float(t_ms) for t_ms in times_ms),
        moved=tuple((*(int(one) for one in row), 0, 0) for row in rows),
        rows=ROWS_PX,
        columns=COLUMNS_PX,
    )
