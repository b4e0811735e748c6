"""Made-up pictures of somebody who waits, sways and moves, for films whose truth is known.

Everything is drawn in brightness alone, with known curves: a movement is a smooth reach (minimum
jerk), as people's hands and heads make them (Flash and Hogan 1985, from memory).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import gaussian_filter

from hastatus.core.motion.zone import BodyPart, CameraPlace, Person, Zone

Array = NDArray[np.float64]
_Gray = NDArray[np.float32]

TALL_M = 1.75
_HEAD_M, _HAND_M, _SHOULDERS_M, _TRUNK_M, _LEG_M = 0.24, 0.13, 0.44, 0.62, 0.85
_PARTS: tuple[BodyPart, ...] = ("feet", "hips", "rear_hand", "lead_hand", "head")
"""In the order in which they are drawn, the ones behind first."""
_PLACES_M: dict[BodyPart, tuple[float, float]] = {
    "head": (0.0, 1.62),
    "lead_hand": (-0.16, 1.38),
    "rear_hand": (0.14, 1.36),
    "hips": (0.0, 1.16),
    "feet": (0.0, 0.44),
}
"""Where the middle of a part is: metres to the right of the body's middle and above the floor."""
_FOLLOWS: dict[BodyPart, dict[BodyPart, float]] = {
    "head": {"hips": 0.35, "lead_hand": 0.5, "rear_hand": 0.5},
    "lead_hand": {},
    "rear_hand": {},
    "hips": {"head": 0.8, "lead_hand": 0.8, "rear_hand": 0.8},
    "feet": {"hips": 0.9, "head": 0.9, "lead_hand": 0.9, "rear_hand": 0.9},
}
"""What goes along with a part that moves, and by how much of it."""


@dataclass(frozen=True, slots=True)
class Move:
    """A part moves and comes back. onset_s, takes_s: of the way out; stays_s: out there; back_s: of
    the way back. to_m: right and up; where two stand in the picture: towards the other and up.
    person: whose, from 0, the one on the left first."""

    part: BodyPart
    onset_s: float
    takes_s: float
    to_m: tuple[float, float]
    stays_s: float = 0.1
    back_s: float = 0.45
    person: int = 0

    @property
    def home_s(self) -> float:
        """When it is back."""
        return self.onset_s + self.takes_s + self.stays_s + self.back_s

    def at(self, time_s: float) -> tuple[float, float]:
        """Where the part is beside its place, in metres right and up."""
        out = _reach((time_s - self.onset_s) / self.takes_s)
        back = _reach((time_s - self.onset_s - self.takes_s - self.stays_s) / self.back_s)
        return self.to_m[0] * (out - back), self.to_m[1] * (out - back)


@dataclass(frozen=True, slots=True)
class Look:
    """How a film looks. tall: the figure's height as a share of the picture's.

    sway_m: how far somebody who waits sways (SD). noise: of a pixel. flicker_hz: of the mains,
    with flicker its depth. exposes: brightness that the camera changes by. shake_px: of the camera.
    bystanders: people who walk by behind. exposure_s: of a picture, over which it is blurred.
    stands: where who is filmed stands, as shares of the picture's width: one, or two who face each
    other, the left one first.
    """

    width: int = 640
    height: int = 360
    tall: float = 0.8
    sway_m: float = 0.008
    noise: float = 2.5
    flicker_hz: float | None = None
    flicker: float = 0.05
    exposes: float = 0.0
    shake_px: float = 0.0
    bystanders: bool = False
    exposure_s: float = 0.01
    stands: tuple[float, ...] = (0.5,)


@dataclass
class Painter:
    """Draws the pictures of one film."""

    look: Look
    moves: Sequence[Move]
    seed: int
    _sprites: list[dict[BodyPart, tuple[_Gray, _Gray]]] = field(init=False)

    def __post_init__(self) -> None:
        self._rng = np.random.default_rng((self.seed, 5))
        look = self.look
        self._px_m = look.tall * look.height / TALL_M
        self._floor = 0.5 * look.height * (1 + look.tall)
        self._pad = int(np.ceil(4 * look.shake_px)) + 2
        self._room = self._background()
        self._sprites = [{part: self._sprite(part) for part in _PARTS}]
        self._passer = self._body(0.7)
        self._noise = [
            self._rng.normal(0, look.noise, (look.height + 64, look.width + 64)).astype(np.float32)
            for _ in range(4)
        ]
        self._waves = {(0, part): self._sways() for part in (*_PARTS, "body", "shake")}
        self._passes = list(np.cumsum(self._rng.uniform(4.0, 9.0, 400)))
        self._steps = self._rng.uniform(-1, 1, 400)
        for person in range(1, len(look.stands)):
            self._sprites.append({part: self._sprite(part) for part in _PARTS})
            self._waves |= {(person, part): self._sways() for part in (*_PARTS, "body")}

    def place(self) -> CameraPlace:
        """The zones that a coach would draw: around each part, with a little to spare."""
        people = range(len(self.look.stands))
        zones = [self._zone(person, part) for person in people for part in _PARTS]
        return CameraPlace(name="corner by the door", zones=tuple(zones))

    def at(self, time_s: float) -> NDArray[np.uint8]:
        """The picture at a moment."""
        look = self.look
        inside = (0.0, look.exposure_s) if self._moves_at(time_s) else (0.5 * look.exposure_s,)
        picture = np.mean([self._drawn(time_s + later) for later in inside], axis=0)
        picture = picture * self._light(time_s)
        row, column = self._rng.integers(0, 64, 2)
        noise = self._noise[int(self._rng.integers(4))]
        picture += noise[row : row + look.height, column : column + look.width]
        return np.asarray(np.clip(picture, 0, 255).astype(np.uint8))

    def _moves_at(self, time_s: float) -> bool:
        return any(move.onset_s - 0.1 < time_s < move.home_s for move in self.moves)

    def _drawn(self, time_s: float) -> _Gray:
        canvas = self._room.copy()
        if self.look.bystanders:
            self._pass_by(canvas, time_s)
        for person, sprites in enumerate(self._sprites):
            for part in _PARTS:
                x, y = self._where(person, part, time_s)
                _paint(canvas, *sprites[part], x + self._pad, y + self._pad)
        if not self.look.shake_px:
            return canvas[self._pad : -self._pad, self._pad : -self._pad]
        shake = self.look.shake_px * self._wave(0, "shake", time_s * 3)
        return _shifted(canvas, self._pad + shake[0], self._pad + shake[1], self.look)

    def _where(self, person: int, part: BodyPart, time_s: float) -> tuple[float, float]:
        """The middle of a part, in pixels."""
        right, up = self._stands(person, part)
        sway = self.look.sway_m * (
            self._wave(person, "body", time_s) * min(1.0, up)
            + 0.3 * self._wave(person, part, time_s)
        )
        right, up = right + sway[0], up + 0.4 * sway[1]
        if part != "feet":
            up += 0.003 * np.sin(2 * np.pi * 0.25 * time_s + self.seed + person)  # breath
        for move in self.moves:
            share = 1.0 if move.part == part else _FOLLOWS[move.part].get(part, 0.0)
            if share and move.person == person:
                out = move.at(time_s)
                right, up = right + share * self._faces(person) * out[0], up + share * out[1]
        middle = self.look.stands[person] * self.look.width
        return middle + self._px_m * right, self._floor - self._px_m * up

    def _stands(self, person: int, part: BodyPart) -> tuple[float, float]:
        """Where a part is while somebody waits: metres right of the body's middle, and up."""
        right, up = _PLACES_M[part]
        return (-right if self._faces(person) > 0 and len(self.look.stands) > 1 else right), up

    def _faces(self, person: int) -> float:
        """1: to the right, where the other one stands or where somebody alone moves to."""
        return -1.0 if person else 1.0

    def _light(self, time_s: float) -> _Gray | float:
        look, light = self.look, 1.0
        if look.exposes:
            step = int(time_s / 3.0)
            into = min(1.0, (time_s - 3.0 * step) / 0.6)
            before, now = self._steps[step % 400], self._steps[(step + 1) % 400]
            light = 1 + look.exposes * (before + into * (now - before))
        if look.flicker_hz is None:
            return light
        rows = time_s + 0.02 * np.arange(look.height) / look.height
        wave = np.sin(2 * np.pi * 2 * look.flicker_hz * rows)
        return np.asarray(light * (1 + look.flicker * wave), dtype=np.float32)[:, None]

    def _pass_by(self, canvas: _Gray, time_s: float) -> None:
        for number, begins_s in enumerate(self._passes):
            gone = time_s - begins_s
            across = 1.3 * self._px_m * 0.8 * gone - 40
            if gone < 0 or across > self.look.width + 40:
                continue
            x = across if number % 2 else self.look.width - across
            body, alpha = self._passer
            bob = 0.02 * self._px_m * np.sin(2 * np.pi * 1.8 * gone)
            y = self._floor - self._px_m * 0.85 + bob - 0.08 * self.look.height
            _paint(canvas, body, alpha, x + self._pad, y + self._pad)

    def _zone(self, person: int, part: BodyPart) -> Zone:
        right, up = self._stands(person, part)
        tall, wide = _size(part)
        look, px_m = self.look, self._px_m
        width, height = 1.25 * wide * px_m / look.width, 1.15 * tall * px_m / look.height
        left = look.stands[person] + right * px_m / look.width - width / 2
        top = (self._floor - up * px_m) / look.height - height / 2
        top, bottom = max(0.0, top), min(1.0, top + height)
        side: Person | None = None
        if len(look.stands) > 1:
            side = "right" if person else "left"
        return Zone(part=part, person=side, left=left, top=top, width=width, height=bottom - top)

    def _background(self) -> _Gray:
        rows = self.look.height + 2 * self._pad
        columns = self.look.width + 2 * self._pad
        room = (
            110
            + 25 * _texture(self._rng, rows, columns, 12)
            + 8 * _texture(self._rng, rows, columns, 2)
        )
        for _ in range(7):
            top, left = self._rng.integers(0, rows - 30), self._rng.integers(0, columns - 30)
            tall, wide = self._rng.integers(15, rows // 2), self._rng.integers(10, columns // 4)
            room[top : top + tall, left : left + wide] += self._rng.uniform(-45, 45)
        return room.astype(np.float32)

    def _sprite(self, part: BodyPart) -> tuple[_Gray, _Gray]:
        tall, wide = _size(part)
        rows, columns = max(4, round(tall * self._px_m)), max(4, round(wide * self._px_m))
        level = {"head": 165, "lead_hand": 190, "rear_hand": 185, "hips": 80, "feet": 60}[part]
        return _blob(self._rng, rows, columns, level, box=part in ("hips", "feet"))

    def _body(self, scale: float) -> tuple[_Gray, _Gray]:
        rows, columns = round(1.6 * scale * self._px_m), round(0.45 * scale * self._px_m)
        return _blob(self._rng, rows, max(columns, 4), 140, box=True)

    def _sways(self) -> Array:
        """Five slow waves in each direction: amplitude, Hz, phase."""
        amplitude = self._rng.normal(0, 1, (5, 2))
        amplitude /= np.sqrt((amplitude**2).sum(axis=0) / 2)
        hz = self._rng.uniform(0.15, 0.9, (5, 2))
        return np.stack([amplitude, hz, self._rng.uniform(0, 6.28, (5, 2))])

    def _wave(self, person: int, name: str, time_s: float) -> Array:
        amplitude, hz, phase = self._waves[person, name]
        return np.asarray((amplitude * np.sin(2 * np.pi * hz * time_s + phase)).sum(axis=0))


def _size(part: BodyPart) -> tuple[float, float]:
    """Height and width of a part, m."""
    if part == "head":
        return _HEAD_M, 0.18
    if part == "hips":
        return _TRUNK_M, _SHOULDERS_M
    if part == "feet":
        return _LEG_M, 0.42
    return _HAND_M, _HAND_M


def _reach(share: float) -> float:
    held = min(max(share, 0.0), 1.0)
    return held**3 * (10 - 15 * held + 6 * held**2)


def _texture(rng: np.random.Generator, rows: int, columns: int, smooth: float) -> Array:
    noise = gaussian_filter(rng.standard_normal((rows, columns)), smooth)
    return np.asarray(noise / max(float(noise.std()), 1e-9))


def _blob(
    rng: np.random.Generator, rows: int, columns: int, level: float, *, box: bool
) -> tuple[_Gray, _Gray]:
    """A rounded thing with folds and shade, and how much of it covers each pixel."""
    down, across = np.mgrid[-1 : 1 : complex(0, rows), -1 : 1 : complex(0, columns)]
    round_ = np.abs(down) ** 6 + np.abs(across) ** 6 if box else down**2 + across**2
    alpha = np.clip((1 - round_) * min(rows, columns) / 4, 0, 1)
    look = level + 14 * _texture(rng, rows, columns, max(1.5, rows / 18)) - 22 * across
    padded = [np.pad(one, 2, mode="edge") for one in (look, np.pad(alpha, 1)[1:-1, 1:-1])]
    padded[1][:2], padded[1][-2:], padded[1][:, :2], padded[1][:, -2:] = 0, 0, 0, 0
    return padded[0].astype(np.float32), padded[1].astype(np.float32)


def _paint(canvas: _Gray, look: _Gray, alpha: _Gray, x: float, y: float) -> None:
    """Lay a sprite over the canvas, its middle at (x, y), between pixels too."""
    rows, columns = look.shape
    left, top = x - columns / 2, y - rows / 2
    column, row = int(np.floor(left)), int(np.floor(top))
    into_x, into_y = left - column, top - row
    cover, shown = _between(alpha, into_x, into_y), _between(look * alpha, into_x, into_y)
    first_row, first_column = max(row, 0), max(column, 0)
    last_row = min(row + cover.shape[0], canvas.shape[0])
    last_column = min(column + cover.shape[1], canvas.shape[1])
    if first_row >= last_row or first_column >= last_column:
        return
    part = np.s_[first_row - row : last_row - row, first_column - column : last_column - column]
    place = np.s_[first_row:last_row, first_column:last_column]
    canvas[place] = canvas[place] * (1 - cover[part]) + shown[part]


def _between(image: _Gray, x: float, y: float) -> _Gray:
    """An image moved right and down by less than a pixel (bilinear)."""
    out = np.zeros((image.shape[0] + 1, image.shape[1] + 1), dtype=np.float32)
    out[:-1, :-1] += (1 - x) * (1 - y) * image
    out[:-1, 1:] += x * (1 - y) * image
    out[1:, :-1] += (1 - x) * y * image
    out[1:, 1:] += x * y * image
    return out


def _shifted(canvas: _Gray, x: float, y: float, look: Look) -> _Gray:
    """The part of the canvas that a camera sees which is moved by so much."""
    column, row = int(np.floor(x)), int(np.floor(y))
    column = min(max(column, 0), canvas.shape[1] - look.width - 1)
    row = min(max(row, 0), canvas.shape[0] - look.height - 1)
    into_x, into_y = min(max(x - column, 0), 1), min(max(y - row, 0), 1)
    part = canvas[row : row + look.height + 1, column : column + look.width + 1]
    upper = (1 - into_x) * part[:-1, :-1] + into_x * part[:-1, 1:]
    lower = (1 - into_x) * part[1:, :-1] + into_x * part[1:, 1:]
    return np.asarray((1 - into_y) * upper + into_y * lower, dtype=np.float32)
