"""A film written anew with its heads made unknowable, for clubs that keep films.

A head moves out of its zone when it slips, so the zone is grown by its own size on each side. In it
only coarse blocks are left: the mean of what was there.
"""

from __future__ import annotations

from collections.abc import Sequence
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
from av.error import FFmpegError
from av.video.frame import VideoFrame

from hastatus.core.motion.zone import Zone
from hastatus.film_io.film_file import BadFilm, open_video

_BLOCKS = 3
"""A head is so many blocks wide: fewer than a face can be known by (common practice, no source)."""
_QUALITY: dict[str, object] = {"crf": "26", "preset": "ultrafast", "threads": "1"}
Picture = np.ndarray[Any, np.dtype[np.uint8]]


def blur_heads(path: Path, into: Path, zones: Sequence[Zone]) -> None:
    """Write a film into another file, upright, its sound as it was. Raises `BadFilm`."""
    heads = [zone for zone in zones if zone.part == "head"]
    try:
        with av.open(str(path), metadata_errors="ignore") as film, _new(into) as out:
            _write(film, out, heads)
    except (FFmpegError, ValueError) as error:
        raise BadFilm("the film cannot be written anew") from error


def _new(into: Path) -> av.container.OutputContainer:
    return av.open(str(into), "w", format="matroska")


def _write(
    film: av.container.InputContainer, out: av.container.OutputContainer, heads: Sequence[Zone]
) -> None:
    seen = open_video(film)
    sounds = film.streams.audio[:1]
    heard = [out.add_stream_from_template(sound) for sound in sounds]
    video = out.add_stream("libx264", rate=seen.average_rate or 30)
    video.pix_fmt, video.options = "yuv420p", _QUALITY
    video.codec_context.time_base = seen.time_base or Fraction(1, 90_000)
    first = next(film.decode(seen), None)
    if first is None:
        raise BadFilm("the film has no picture")
    shown = _blurred(first, heads)
    video.width, video.height = shown.width, shown.height
    film.seek(0)
    for packet in film.demux([seen, *sounds]):
        if packet.stream is not seen:
            if packet.dts is not None:
                packet.stream = heard[0]
                out.mux(packet)
            continue
        for frame in _frames(packet):
            out.mux(video.encode(_blurred(frame, heads)))
    out.mux(video.encode())


def _frames(packet: Any) -> list[VideoFrame]:
    try:
        return [frame for frame in packet.decode() if frame.pts is not None]
    except FFmpegError:
        return []  # a damaged packet, as in reading


def _blurred(frame: VideoFrame, heads: Sequence[Zone]) -> VideoFrame:
    turned = np.rot90(frame.to_ndarray(format="rgb24"), round(frame.rotation / 90))
    rows, columns = turned.shape[0] // 2 * 2, turned.shape[1] // 2 * 2  # as H.264 wants them
    picture = np.ascontiguousarray(turned[:rows, :columns], dtype=np.uint8)
    for zone in heads:
        _coarsen(picture, zone)
    made = VideoFrame.from_ndarray(picture, format="rgb24")
    made.pts, made.time_base = frame.pts, frame.time_base
    return made


def _coarsen(picture: Picture, zone: Zone) -> None:
    """Leave only blocks of a head and what is around it, in place."""
    rows, columns = picture.shape[:2]
    step = max(2, round(zone.width * columns / _BLOCKS))
    top, bottom = ((zone.top + share * zone.height) * rows for share in (-1, 2))
    left, right = ((zone.left + share * zone.width) * columns for share in (-1, 2))
    for y in range(max(0, round(top)), min(rows, round(bottom)), step):
        for x in range(max(0, round(left)), min(columns, round(right)), step):
            block = picture[y : y + step, x : x + step]
            block[:] = block.mean(axis=(0, 1)).astype(np.uint8)
