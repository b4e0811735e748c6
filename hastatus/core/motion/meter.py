"""How far what is in each zone has moved from one picture of a film to the next.

The movement between two pictures is the shift that explains their difference best, in least
squares, beside a change of brightness (Lucas and Kanade 1981, IJCAI 674, with the gain and offset
of Hager and Belhumeur 1998, IEEE PAMI 20:1025; both from memory). Brightness takes care of lamps
that flicker and of a camera that adjusts its exposure. What the whole picture does outside the
zones is the camera's own shake, and is taken off.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from hastatus.core.motion.zone import Zone

Array = NDArray[np.float64]
Luma = NDArray[np.uint8]
"""An upright picture's brightness, 0 to 255, rows by columns."""
_Small = NDArray[np.float32]

_ZONE_PX, _PICTURE_PX = 12, 64
"""Longest side, in pixels, to which a zone and the whole picture are reduced."""
_NOISE = 1.5
"""Brightness of a reduced pixel that is the camera's own noise: steadies flat zones."""
_ROUNDS = 2
"""How often what does not move as the rest does, which is somebody else, is left out anew."""
_BANDS = 4
"""Bands across a picture that lamps may brighten each in its own way (rolling shutter)."""


@dataclass(frozen=True, slots=True)
class Motion:
    """What moved in a film. times_s (n): of each picture, ascending, on the film's own clock.

    moved (n, zones, 2): to the right and down since the picture before, as a share of the
    picture's height; the camera's shake is taken off. shaken (n, 2): that shake. most (zones): what
    moves by more between two pictures is told too small.
    """

    times_s: Array
    moved: Array
    shaken: Array
    most: Array


class MotionMeter:
    """Takes the pictures of a film one by one and keeps a few numbers of each."""

    def __init__(self, zones: Sequence[Zone]) -> None:
        self._zones = tuple(zones)
        self._boxes: list[_Box] = []
        self._whole: _Box | None = None
        self._before: list[_Small] = []
        self._shape: tuple[int, int] | None = None
        self._times: list[float] = []
        self._moved: list[Array] = []

    def add(self, time_s: float, luma: Luma) -> None:
        """The next picture, at `time_s`. Another size than before begins anew; a time that is not
        after the last one is left out, as a damaged film has them."""
        if self._times and time_s <= self._times[-1]:
            return
        if self._shape != luma.shape:
            self._begin(luma.shape[0], luma.shape[1])
        assert self._whole is not None
        now = [box.reduced(luma) for box in (*self._boxes, self._whole)]
        self._times.append(time_s)
        if self._before:
            pairs = zip((*self._boxes, self._whole), self._before, now, strict=True)
            moved = [box.moved(before, after) for box, before, after in pairs]
        else:
            moved = [np.zeros(2) for _ in now]
        self._moved.append(np.stack(moved))
        self._before = now

    @property
    def motion(self) -> Motion:
        """What has moved in all pictures so far."""
        moved = np.array(self._moved).reshape(-1, len(self._zones) + 1, 2)
        shaken = moved[:, -1]
        most = np.array([box.most for box in self._boxes])
        return Motion(np.array(self._times), moved[:, :-1] - shaken[:, None], shaken, most)

    def _begin(self, rows: int, columns: int) -> None:
        self._shape = (rows, columns)
        self._boxes = [_Box.of_zone(zone, rows, columns) for zone in self._zones]
        self._whole = _Box.of_picture(self._boxes, rows, columns)
        self._before = []


def most_of(zone: Zone, rows: int, columns: int) -> float:
    """What moves by more between two pictures of that size is told too small; see `Motion`."""
    return _Box.of_zone(zone, rows, columns).most


@dataclass(frozen=True, slots=True)
class _Box:
    """A part of the picture. step: pixels, on both sides, that are reduced to one. weights: of the
    reduced pixels; None: all alike. bands: brightness that changes alone, as columns."""

    top: int
    bottom: int
    left: int
    right: int
    step: int
    rows: int
    weights: _Small | None
    bands: _Small

    @classmethod
    def of_zone(cls, zone: Zone, rows: int, columns: int) -> _Box:
        top, left = round(zone.top * rows), round(zone.left * columns)
        tall = max(4, round(zone.height * rows))
        wide = max(4, round(zone.width * columns))
        top, left = min(top, max(rows - tall, 0)), min(left, max(columns - wide, 0))
        step = max(1, round(max(tall, wide) / _ZONE_PX))
        tall, wide = _whole_steps(min(tall, rows - top), min(wide, columns - left), step)
        bands = _bands(tall // step, wide // step)
        return cls(top, top + tall, left, left + wide, step, rows, None, bands)

    @classmethod
    def of_picture(cls, zones: Sequence[_Box], rows: int, columns: int) -> _Box:
        """The whole picture without its zones and what is close around them."""
        step = max(1, round(max(rows, columns) / _PICTURE_PX))
        tall, wide = _whole_steps(rows, columns, step)
        weights = np.ones((tall // step, wide // step), dtype=np.float32)
        for box in zones:
            aside, above = (box.right - box.left) // 2, (box.bottom - box.top) // 2
            weights[
                max(0, box.top - above) // step : (box.bottom + above) // step + 1,
                max(0, box.left - aside) // step : (box.right + aside) // step + 1,
            ] = 0.0
        inner = weights[1:-1, 1:-1]
        return cls(0, tall, 0, wide, step, rows, inner, _bands(tall // step, wide // step))

    @property
    def most(self) -> float:
        """The longest shift between two pictures that is told, as a share of their height."""
        return self.step / self.rows

    def reduced(self, luma: Luma) -> _Small:
        """The box with `step` times `step` pixels averaged into one; of the whole picture, whose
        pixels are many, a row in `step` is enough."""
        part = luma[self.top : self.bottom, self.left : self.right]
        step = self.step
        if step == 1:
            return part.astype(np.float32)
        tall, wide = part.shape[0] // step, part.shape[1] // step
        if self.weights is not None:
            part = part[step // 2 :: step][:tall]
            return np.asarray(part.reshape(tall, wide, step).mean(axis=2, dtype=np.float32))
        return np.asarray(part.reshape(tall, step, wide, step).mean(axis=(1, 3), dtype=np.float32))

    def moved(self, before: _Small, after: _Small) -> Array:
        """The shift from one reduced picture to the next, as a share of the picture's height."""
        half = np.float32(0.5)
        middle: _Small = half * (before + after)
        across: _Small = half * (middle[1:-1, 2:] - middle[1:-1, :-2])
        down: _Small = half * (middle[2:, 1:-1] - middle[:-2, 1:-1])
        changed = (after - before)[1:-1, 1:-1]
        explained = np.concatenate(
            [
                np.stack([-across.ravel(), -down.ravel()], axis=1),
                self.bands * (middle[1:-1, 1:-1].ravel() / np.float32(128))[:, None],
                np.ones((changed.size, 1), np.float32),
            ],
            axis=1,
        )
        weights = None if self.weights is None else self.weights.ravel()
        fitted = _least_squares(explained, changed.ravel(), weights)
        for _ in range(_ROUNDS if weights is not None else 0):
            assert weights is not None
            off = np.abs(changed.ravel() - explained @ fitted.astype(np.float32))
            usual = max(float(np.median(off[weights > 0])) if weights.any() else 0.0, _NOISE)
            fitted = _least_squares(explained, changed.ravel(), weights * (off < 3 * usual))
        return fitted[:2] * (self.step / self.rows)


def _whole_steps(tall: int, wide: int, step: int) -> tuple[int, int]:
    return tall - tall % step, wide - wide % step


def _bands(tall: int, wide: int) -> _Small:
    """Smooth bands across the inside of a reduced picture: a level and a few waves down it."""
    down = (np.arange(1, tall - 1) / max(tall - 1, 1)).astype(np.float32)
    waves = [np.cos(np.pi * wave * down) for wave in range(_BANDS)]
    return np.stack([np.repeat(wave, max(wide - 2, 0)) for wave in waves], axis=1)


def _least_squares(explained: _Small, changed: _Small, weights: _Small | None) -> Array:
    """What explains `changed` best: first the shift, right and down, in reduced pixels."""
    weighted = explained if weights is None else explained * weights[:, None]
    normal = (weighted.T @ explained).astype(np.float64)
    # A flat zone tells no shift; brightness is told by any.
    steadied = np.full(len(normal), 1e-3)
    steadied[:2] = _NOISE**2 * np.sqrt(changed.size)
    normal[np.diag_indices(len(normal))] += steadied
    return np.asarray(
        np.linalg.solve(normal, (weighted.T @ changed).astype(np.float64)), dtype=np.float64
    )
