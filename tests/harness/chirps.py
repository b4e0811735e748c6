"""Recordings of chirps that a loudspeaker let out, as a device would send them."""

from __future__ import annotations

import base64
from functools import cache
from typing import Any

import numpy as np

from hastatus.core.run import calibration
from hastatus.core.sound.tones import RATE

PLAYED = [0.2 + each for each in calibration.starts_s()]


@cache
def recording(delay_ms: float, gain: float = 0.2) -> dict[str, Any]:
    rng = np.random.default_rng(5)
    samples = rng.normal(0, 0.003, round((PLAYED[-1] + 1.2) * RATE))
    sent = gain * calibration.chirp()
    for at_s in PLAYED:
        first = round((at_s + delay_ms / 1000) * RATE)
        samples[first : first + sent.size] += sent
    data = (samples * 32767).astype("<i2").tobytes()
    return {"rate": RATE, "samples": base64.b64encode(data).decode(), "played_s": PLAYED}
