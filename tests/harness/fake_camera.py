"""Chromium's fake camera: it shows a generated file, from the beginning each time it is opened."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
from av.video.frame import VideoFrame
from numpy.typing import NDArray
from playwright.sync_api import Browser, BrowserType

from tests.harness.chromium import CHROMIUM, FLAGS

RATE_HZ = 30
"""Chromium plays a file of JPEG pictures at this rate."""

OPENED = """
(() => {
  const devices = navigator.mediaDevices;
  const real = devices.getUserMedia.bind(devices);
  devices.getUserMedia = async (wanted) => {
    const stream = await real(wanted);
    if (wanted.video) window.cameraOpened_ms = performance.now();
    return stream;
  };
})();
"""
"""Script for `add_init_script`: when the camera, and so the film, began."""


MIRROR = """
(() => {
  const canvas = new OffscreenCanvas(160, 120);
  const pen = canvas.getContext('2d');
  const shown = [];
  const look = () => {
    const now = performance.now();
    shown.push([now, document.querySelector('.flashing-layer .flash') !== null]);
    while (shown.length > 1 && shown[1][0] <= now - DELAY_MS) shown.shift();
    pen.fillStyle = '#444';
    pen.fillRect(0, 0, 160, 120);
    pen.fillStyle = shown[0][0] <= now - DELAY_MS && shown[0][1] ? '#ddd' : '#555';
    pen.fillRect(40, 30, 60, 60);
  };
  navigator.mediaDevices.getUserMedia = async () => {
    const generator = new MediaStreamTrackGenerator({ kind: 'video' });
    const writer = generator.writable.getWriter();
    setInterval(look, 4);
    setInterval(() => {
      const timestamp = 1000 * performance.now();
      void writer.write(new VideoFrame(canvas, { timestamp }));
    }, 1000 / 30);
    return new MediaStream([generator]);
  };
})();
"""
"""Script for `add_init_script`: a camera that sees the screen flash `DELAY_MS` later."""


def mirror(delay_ms: float) -> str:
    """The script, for one delay."""
    return MIRROR.replace("DELAY_MS", str(delay_ms))


def write_camera_film(
    path: Path, length_s: float, picture: Callable[[float], NDArray[np.uint8]]
) -> None:
    """A file of JPEG pictures, one after the other."""
    rows, columns = picture(0.0).shape
    with av.open(str(path), "w", format="mjpeg") as container:
        video = container.add_stream("mjpeg", rate=Fraction(RATE_HZ))
        video.width, video.height, video.pix_fmt = columns, rows, "yuvj420p"
        video.options = {"qmin": "3", "qmax": "3"}
        for number in range(round(length_s * RATE_HZ)):
            gray = picture(number / RATE_HZ)
            frame = VideoFrame.from_ndarray(np.repeat(gray[..., None], 3, axis=2), format="rgb24")
            container.mux(video.encode(frame))
        container.mux(video.encode())


@contextmanager
def camera_browser(kind: BrowserType, film: Path) -> Iterator[Browser]:
    """A browser with even sound, whose camera shows a film."""
    made = kind.launch(
        executable_path=CHROMIUM, args=[*FLAGS, f"--use-file-for-fake-video-capture={film}"]
    )
    yield made
    made.close()
