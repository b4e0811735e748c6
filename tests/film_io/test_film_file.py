"""Film files as phones write them, and as they should not be."""

from __future__ import annotations

import io
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from av.video.frame import VideoFrame

from hastatus.core.motion.zone import Zone
from hastatus.demo.film import Camera, write_film
from hastatus.demo.film_sound import RATE
from hastatus.film_io.film_file import BadFilm, read_film_file, upright
from hastatus.film_io.head_blur import blur_heads

ZONES = (Zone(part="head", left=0.3, top=0.2, width=0.4, height=0.4),)
ROWS, COLUMNS = 90, 160


def picture(time_s: float) -> np.ndarray:
    """Stripes that go to the right by 30 px a second."""
    across = np.arange(COLUMNS) - 30 * time_s
    return np.tile(128 + 80 * np.sin(across / 6), (ROWS, 1)).astype(np.uint8)


def film(path: Path, *, sound: bool = True, length_s: float = 4.0, **camera: object) -> Path:
    beep = np.zeros(round(length_s * RATE))
    beep[RATE : RATE + 4800] = np.sin(np.arange(4800) / 5)[: max(0, len(beep) - RATE)]
    write_film(path, length_s, picture, beep if sound else None, Camera(**camera), 1)  # type: ignore[arg-type]
    return path


@pytest.mark.parametrize("ending", ["mp4", "mov", "mkv"])
def test_a_film_tells_its_pictures_and_its_sound(tmp_path: Path, ending: str) -> None:
    progress: list[float] = []
    read, facts = read_film_file(film(tmp_path / f"a.{ending}"), ZONES, progress.append)
    assert (facts.width, facts.height, facts.pictures) == (COLUMNS, ROWS, 120)
    assert facts.rate_hz == pytest.approx(30, abs=0.1)
    assert facts.has_sound
    assert not facts.damaged
    # All of it goes to the right: that is the camera, and nothing moves in a zone.
    assert np.median(read.motion.shaken[1:, 0]) * ROWS == pytest.approx(1.0, abs=0.15)
    assert abs(np.median(read.motion.moved[1:, 0, 0])) * ROWS < 0.15
    assert read.rises is not None
    assert read.rises.sum(axis=1).argmax() * 0.002 == pytest.approx(1.0, abs=0.02)
    assert progress == sorted(progress)
    assert progress[-1] > 0.9


def test_uneven_pictures_keep_their_own_times(tmp_path: Path) -> None:
    read, facts = read_film_file(film(tmp_path / "a.mp4", uneven=True), ZONES)
    apart = np.diff(read.motion.times_s)
    assert apart.std() > 0.003
    assert facts.pictures < 120


def test_without_sound_it_says_so(tmp_path: Path) -> None:
    read, facts = read_film_file(film(tmp_path / "a.mp4", sound=False), ZONES)
    assert read.rises is None
    assert not facts.has_sound


@pytest.mark.parametrize("turned", [0, 90, 180, 270])
def test_a_picture_stands_upright(turned: int) -> None:
    luma = np.zeros((4, 6), np.uint8)
    luma[0, 0] = 200
    frame = VideoFrame.from_ndarray(luma, format="gray")
    assert frame.rotation == 0
    assert upright(frame)[0, 0] == 200

    class Turned:
        """A frame as a phone writes it that was held another way."""

        def __getattr__(self, name: str) -> object:
            return turned if name == "rotation" else getattr(frame, name)

    told = upright(Turned())  # type: ignore[arg-type]
    assert told.shape == ((4, 6) if turned % 180 == 0 else (6, 4))
    corner = {0: (0, 0), 90: (-1, 0), 180: (-1, -1), 270: (0, -1)}[turned]
    assert told[corner] == 200


def test_a_film_cut_short_is_read_as_far_as_it_goes(tmp_path: Path) -> None:
    whole = film(tmp_path / "a.mkv").read_bytes()
    (tmp_path / "b.mkv").write_bytes(whole[: len(whole) // 2])
    _, facts = read_film_file(tmp_path / "b.mkv", ZONES)
    assert 0 < facts.pictures < 120
    assert facts.length_s + facts.missing_s == pytest.approx(4.0, abs=0.2)


def test_a_damaged_film_is_read_around_the_damage(tmp_path: Path) -> None:
    data = bytearray(film(tmp_path / "a.mkv").read_bytes())
    middle = len(data) // 2
    data[middle : middle + 400] = np.random.default_rng(1).bytes(400)
    (tmp_path / "b.mkv").write_bytes(data)
    _, facts = read_film_file(tmp_path / "b.mkv", ZONES)
    assert facts.pictures > 20
    assert facts.damaged or facts.missing_s


def png() -> bytes:
    held = io.BytesIO()
    with av.open(held, "w", format="image2pipe") as container:
        stream = container.add_stream("png", rate=1)
        stream.width, stream.height, stream.pix_fmt = COLUMNS, ROWS, "gray"
        container.mux(stream.encode(VideoFrame.from_ndarray(picture(0), format="gray")))
        container.mux(stream.encode())
    return held.getvalue()


def of_sound_only() -> bytes:
    held = io.BytesIO()
    with av.open(held, "w", format="wav") as container:
        stream = container.add_stream("pcm_s16le", rate=RATE, layout="mono")
        heard = av.AudioFrame.from_ndarray(np.zeros((1, RATE), np.int16), "s16", "mono")
        heard.sample_rate = RATE
        container.mux(stream.encode(heard))
    return held.getvalue()


@pytest.mark.parametrize(
    ("data", "said"),
    [
        (lambda whole: b"", "the file is empty"),
        (lambda whole: b"this is my film", "no film that can be read"),
        (lambda whole: whole[: len(whole) // 2], "cut short: its end is missing"),
        (lambda whole: png(), "a picture, not a film"),
        (lambda whole: of_sound_only(), "there is no picture in it"),
    ],
    ids=["empty", "text", "cut short", "picture", "sound"],
)
def test_what_is_no_film_says_why(tmp_path: Path, data: object, said: str) -> None:
    whole = film(tmp_path / "a.mp4").read_bytes()
    bad = tmp_path / "b.mp4"
    bad.write_bytes(data(whole))  # type: ignore[operator]
    with pytest.raises(BadFilm, match=said):
        read_film_file(bad, ZONES)


def test_a_film_of_half_a_second_is_too_short(tmp_path: Path) -> None:
    with pytest.raises(BadFilm, match="shorter than a second"):
        read_film_file(film(tmp_path / "a.mp4", length_s=0.5), ZONES)


@pytest.mark.parametrize("how", [{}, {"turned": 90}, {"uneven": True}, {"sound": False}])
def test_only_blocks_are_left_of_a_head_and_the_rest_stays(
    tmp_path: Path, how: dict[str, Any]
) -> None:
    whole, blurred = film(tmp_path / "a.mp4", **how), tmp_path / "b"
    head = Zone(part="head", left=0.4, top=0.4, width=0.2, height=0.2)
    blur_heads(whole, blurred, (head,))
    (read, facts), (again, made) = (read_film_file(one, ()) for one in (whole, blurred))
    assert (made.width, made.height) == (facts.width, facts.height)
    assert np.allclose(again.motion.times_s, read.motion.times_s, atol=0.002)
    assert made.has_sound == facts.has_sound
    with av.open(str(whole)) as one, av.open(str(blurred)) as other:
        old, new = (upright(next(it.decode(video=0))).astype(int) for it in (one, other))
    rows, columns = old.shape
    there = (slice(round(0.2 * rows), round(0.8 * rows)),
             slice(round(0.2 * columns), round(0.8 * columns)))  # fmt: skip
    changed = np.abs(new - old)
    assert changed[there].mean() > 15
    changed[there] = 0
    assert np.quantile(changed, 0.95) < 15
