"""Pictures that move by a formula, and what the meter tells: the page's own is held to it."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from hastatus.core.motion.camera_watch import UNIT
from hastatus.core.motion.meter import MotionMeter
from hastatus.core.motion.zone import BodyPart, Zone

FIXTURE = Path(__file__).parents[2] / "ui/src/run/seeing/meter.fixture.json"
PICTURES = 4
SIZES = ((120, 160), (240, 320), (217, 389))
ZONES: tuple[tuple[BodyPart, float, float, float, float], ...] = (
    ("head", 0.4, 0.1, 0.2, 0.25),
    ("feet", 0.3, 0.7, 0.35, 0.3),
)


def picture(rows: int, columns: int, zones: list[Zone], number: int) -> NDArray[np.uint8]:
    """A pattern that moves inside each zone at another speed, while it gets brighter."""
    y, x = np.mgrid[0:rows, 0:columns].astype(float)
    speed = np.ones((rows, columns)) * 0
    for place, zone in reversed(list(enumerate(zones))):
        inside = (
            (x >= zone.left * columns)
            & (x < (zone.left + zone.width) * columns)
            & (y >= zone.top * rows)
            & (y < (zone.top + zone.height) * rows)
        )
        speed[inside] = place + 1
    right, down = 0.4 * speed * number, -0.3 * speed * number
    light = 120 + 3 * number
    wave = 50 * np.sin(0.11 * (x - right) + 0.03 * (y - down))
    wave += 40 * np.cos(0.13 * (y - down) - 0.05 * (x - right))
    return np.asarray(np.floor(light + wave), dtype=np.uint8)


def scenes() -> dict[str, Any]:
    """Each scene's size, zones and motion, in `UNIT`."""
    zones = [
        Zone(part=part, left=left, top=top, width=width, height=height)
        for part, left, top, width, height in ZONES
    ]
    made = []
    for rows, columns in SIZES:
        meter = MotionMeter(zones)
        for number in range(PICTURES):
            meter.add(number / 30, picture(rows, columns, zones, number))
        motion = meter.motion
        raw = motion.moved + motion.shaken[:, None]
        told = np.concatenate([raw.reshape(PICTURES, -1), motion.shaken], axis=1)
        made.append(
            {
                "rows": rows,
                "columns": columns,
                "zones": [
                    zone.model_dump(include={"left", "top", "width", "height"}) for zone in zones
                ],
                "moved": np.round(told / UNIT).astype(int).tolist(),
            }
        )
    return {"scenes": made}


def text() -> str:
    """The fixture as it is kept."""
    return json.dumps(scenes()) + "\n"
