"""Reading a film file: its sound and, picture by picture, what moves in its zones.

Nothing but a few numbers a picture is kept, so that a film of half an hour needs no more memory
than one of a minute.
"""

from __future__ import annotations

import io
import os
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import av
import numpy as np
from av.audio.resampler import AudioResampler
from av.container import InputContainer
from av.error import FFmpegError
from av.video.frame import VideoFrame
from av.video.stream import VideoStream
from pydantic import TypeAdapter

from hastatus.core.film.heard_sounds import FILM_RATE, SoundMeter
from hastatus.core.film.scene import Film
from hastatus.core.motion.meter import Luma, MotionMeter
from hastatus.core.motion.zone import Zone

LONGEST_S = 30 * 60.0
SHORTEST_S = 1.0
MOST_BYTES = 2 * 2**30
_PICTURES = ("image2", "gif", "apng")
_LUMA_FIRST = ("yuv420p", "yuvj420p", "nv12", "yuv422p", "yuvj422p", "gray")
"""Layouts whose first plane is the brightness, a byte a pixel."""
_GAP_S = 0.03
_MOST_DAMAGE = 0.5

Progress = Callable[[float], None]
"""Told how much of a film is read, 0 to 1."""


class BadFilm(ValueError):
    """What came is no film that can be read; the message says why."""


@dataclass(frozen=True, slots=True)
class FilmFacts:
    """What a film is. length_s: as far as it can be read; width, height: upright, in pixels.

    rate_hz: pictures a second, in the middle. damaged: packets that could not be read. missing_s:
    by how much it is shorter than it says.
    """

    length_s: float
    width: int
    height: int
    rate_hz: float
    pictures: int
    has_sound: bool
    damaged: int
    missing_s: float


FACTS = TypeAdapter(FilmFacts)


def read_film_file(
    path: Path, zones: Sequence[Zone], progress: Progress = lambda share: None
) -> tuple[Film, FilmFacts]:
    """What a film shows and sounds. Raises `BadFilm`."""
    if path.stat().st_size == 0:
        raise BadFilm("the file is empty")
    try:
        with av.open(str(path), metadata_errors="ignore") as container:
            return _read(container, zones, progress)
    except FFmpegError as error:
        raise BadFilm(_said(path)) from error


def still(path: Path, at_s: float) -> bytes:
    """The first picture of a film at or after `at_s`, upright, as a JPEG. Raises `BadFilm`."""
    try:
        with av.open(str(path), metadata_errors="ignore") as container:
            return _jpeg(_picture_at(container, at_s))
    except FFmpegError as error:
        raise BadFilm(_said(path)) from error


def _picture_at(container: InputContainer, at_s: float) -> VideoFrame:
    stream = open_video(container)
    container.seek(max(0, int(at_s * av.time_base)), backward=True)
    picture: VideoFrame | None = None
    for frame in container.decode(stream):
        picture = frame
        if frame.time is not None and frame.time >= at_s - 1e-3:
            break
    if picture is None:
        raise BadFilm("the film has no picture there")
    return picture


def _jpeg(picture: VideoFrame) -> bytes:
    turned = np.rot90(picture.to_ndarray(format="rgb24"), round(picture.rotation / 90))
    shown = VideoFrame.from_ndarray(turned.astype(np.uint8), format="rgb24")
    with io.BytesIO() as held, av.open(held, "w", format="mjpeg") as out:
        stream = out.add_stream("mjpeg", rate=1)
        stream.width, stream.height, stream.pix_fmt = shown.width, shown.height, "yuvj420p"
        out.mux(stream.encode(shown))
        out.mux(stream.encode())
        return held.getvalue()


def _read(
    container: InputContainer, zones: Sequence[Zone], progress: Progress
) -> tuple[Film, FilmFacts]:
    stream = open_video(container)
    said_s = float(container.duration or 0) / 1e6
    if said_s > LONGEST_S + 1:
        raise BadFilm(
            f"the film lasts {said_s / 60:.0f} minutes; {LONGEST_S / 60:.0f} can be read at most"
        )
    reader = _Reader(zones)
    streams = [stream, *container.streams.audio[:1]]
    for packet in container.demux(streams):
        try:
            for frame in packet.decode():
                reader.take(frame)
        except FFmpegError:
            reader.damaged += 1
        if said_s and packet.dts is not None and packet.time_base is not None:
            progress(min(1.0, float(packet.dts * packet.time_base) / said_s))
        if reader.length_s > LONGEST_S + 1:
            raise BadFilm(f"the film is longer than {LONGEST_S / 60:.0f} minutes")
    motion = reader.meter.motion
    if len(motion.times_s) < 2:
        raise BadFilm("there is no moving picture in it that can be read")
    length_s = reader.length_s
    if length_s < SHORTEST_S:
        raise BadFilm("the film is shorter than a second")
    rises = reader.sound.rises() if container.streams.audio and reader.heard else None
    facts = FilmFacts(
        length_s=length_s,
        width=reader.width,
        height=reader.height,
        rate_hz=(len(motion.times_s) - 1) / float(np.ptp(motion.times_s)),
        pictures=len(motion.times_s),
        has_sound=rises is not None,
        damaged=reader.damaged,
        missing_s=max(0.0, said_s - length_s) if said_s - length_s > 1 else 0.0,
    )
    return Film(length_s, motion, rises), facts


def open_video(container: InputContainer) -> VideoStream:
    """The film's picture. Raises `BadFilm` where it has none."""
    if container.format.name.endswith("_pipe") or container.format.name in _PICTURES:
        raise BadFilm("this is a picture, not a film")
    videos = [one for one in container.streams.video if not one.disposition & _COVER]
    if not videos:
        raise BadFilm("there is no picture in it, only sound")
    stream = videos[0]
    stream.thread_type = "AUTO"
    stream.codec_context.options = {"skip_loop_filter": "all"}
    return stream


_COVER = av.stream.Disposition.attached_pic


class _Reader:
    """Takes frames of both kinds in the order in which a file has them."""

    def __init__(self, zones: Sequence[Zone]) -> None:
        self.meter = MotionMeter(zones)
        self.sound = SoundMeter()
        self.width = self.height = self.damaged = 0
        self.heard = False
        self.length_s = 0.0
        self._resampler = AudioResampler(format="flt", layout="mono", rate=FILM_RATE)
        self._sounded = 0

    def take(self, frame: Any) -> None:
        if isinstance(frame, VideoFrame):
            self._see(frame)
        else:
            self._hear(frame)

    def _see(self, frame: VideoFrame) -> None:
        if frame.time is None:
            return
        luma = upright(frame)
        self.height, self.width = luma.shape
        self.meter.add(float(frame.time), luma)
        self.length_s = max(self.length_s, float(frame.time))

    def _hear(self, frame: Any) -> None:
        """Sound at its own time: a gap is silence; what is before the film's beginning is cut."""
        if frame.time is not None:
            gap_s = float(frame.time) - self._sounded / FILM_RATE
            if gap_s > _GAP_S:
                self._add(np.zeros(min(round(gap_s * FILM_RATE), 60 * FILM_RATE), np.float32))
        for part in self._resampler.resample(frame):
            samples = part.to_ndarray().ravel()
            if not self._sounded and frame.time is not None and frame.time < 0:
                samples = samples[round(-float(frame.time) * FILM_RATE) :]
            self._add(np.nan_to_num(samples))
            self.heard = True

    def _add(self, samples: np.ndarray[Any, np.dtype[np.float32]]) -> None:
        self.sound.add(samples)
        self._sounded += len(samples)


def upright(frame: VideoFrame) -> Luma:
    """A picture's brightness, turned as the phone was held."""
    if frame.format.name not in _LUMA_FIRST:
        frame = frame.reformat(format="gray")
    plane = frame.planes[0]
    rows = np.frombuffer(memoryview(plane), np.uint8).reshape(-1, plane.line_size)
    luma = rows[: frame.height, : frame.width]
    return np.rot90(luma, round(frame.rotation / 90)) if frame.rotation else luma


def _said(path: Path) -> str:
    if _is_cut_short(path):
        return "the film is cut short: its end is missing, where a phone writes how to read it"
    return "this is no film that can be read (MP4, MOV, WebM or MKV), or it is damaged"


def _is_cut_short(path: Path) -> bool:
    """Whether a file begins as MP4 or MOV and has no index ("moov", ISO/IEC 14496-12, 8.2.1)."""
    with open(path, "rb") as file:
        begins_as_one = False
        while len(head := file.read(8)) == 8:
            size, kind = int.from_bytes(head[:4], "big"), head[4:]
            begins_as_one = begins_as_one or kind == b"ftyp"
            if not begins_as_one or kind == b"moov":
                return False
            if size == 1:  # the size follows, in eight bytes
                size = int.from_bytes(file.read(8), "big") - 8
            if size < 8:
                break
            file.seek(size - 8, os.SEEK_CUR)
    return begins_as_one
