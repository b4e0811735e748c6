"""Writing a made-up film: pictures and sound into one file, as a phone would."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.audio.frame import AudioFrame
from av.video.frame import VideoFrame
from numpy.typing import NDArray

from hastatus.demo.film_sound import RATE, Samples

_CLOCK = 90_000
"""Steps a second of the pictures' times, as MPEG has them."""


@dataclass(frozen=True, slots=True)
class Camera:
    """How a phone records. rate_hz: pictures a second. uneven: whether their times vary and some
    are lost. crf: how strongly it is compressed (H.264; 23 is usual). turned: degrees by which the
    phone was held."""

    rate_hz: float = 30.0
    uneven: bool = False
    crf: int = 26
    turned: int = 0


def write_film(
    path: Path,
    length_s: float,
    picture: Callable[[float], NDArray[np.uint8]],
    sound: Samples | None,
    camera: Camera,
    seed: int,
) -> None:
    """Write a film. picture: brightness at a moment. sound: at 48 kHz, None: without."""
    times = _times(length_s, camera, np.random.default_rng((seed, 7)))
    rows, columns = picture(0.0).shape
    with av.open(str(path), "w") as container:
        video = container.add_stream("libx264", rate=Fraction(round(camera.rate_hz * 1000), 1000))
        video.width, video.height, video.pix_fmt = columns, rows, "yuv420p"
        video.codec_context.time_base = Fraction(1, _CLOCK)
        video.options = {"crf": str(camera.crf), "preset": "ultrafast", "threads": "1"}
        audio = container.add_stream("aac", rate=RATE, layout="mono") if sound is not None else None
        for time_s in times:
            frame = _frame(picture(time_s))
            frame.pts, frame.time_base = round(time_s * _CLOCK), Fraction(1, _CLOCK)
            container.mux(video.encode(frame))
        container.mux(video.encode())
        if audio is not None and sound is not None:
            for first in range(0, len(sound), 1024):
                part = sound[first : first + 1024].astype(np.float32)[None]
                heard = AudioFrame.from_ndarray(part, format="fltp", layout="mono")
                heard.sample_rate, heard.pts = RATE, first
                heard.time_base = Fraction(1, RATE)
                container.mux(audio.encode(heard))
            container.mux(audio.encode())


def _frame(luma: NDArray[np.uint8]) -> VideoFrame:
    rows, columns = luma.shape
    gray = np.full((rows // 2, columns), 128, dtype=np.uint8)
    return VideoFrame.from_ndarray(np.concatenate([luma, gray]), format="yuv420p")


def _times(length_s: float, camera: Camera, rng: np.random.Generator) -> list[float]:
    times = np.arange(0.0, length_s, 1 / camera.rate_hz)
    if camera.uneven:
        times = times + rng.uniform(-0.15, 0.15, len(times)) / camera.rate_hz
        times = times[rng.random(len(times)) > 0.04]
    return [float(time_s) for time_s in np.maximum(times, 0.0)]
