"""Files that claim more than they are: refused by their head, in little time and memory."""

from __future__ import annotations

import io
import struct
import time
import tracemalloc

import numpy as np
import pytest
import soundfile

from hastatus.core.sound.tones import RATE
from hastatus.sound_io.upload import BadUpload, read


def tone(rate: int, seconds: float, channels: int = 1, kind: str = "WAV", **rest: str) -> bytes:
    """A tone of 440 Hz that begins after a tenth of silence, as a file."""
    at = np.arange(round(rate * seconds)) / rate
    wave = 0.5 * np.sin(2 * np.pi * 440 * at) * (at > 0.1 * seconds)
    file = io.BytesIO()
    soundfile.write(file, np.stack([wave] * channels, axis=1), rate, format=kind, **rest)
    return file.getvalue()


def raw_wav(rate: int, samples: bytes, claimed: int | None = None, kind: int = 1) -> bytes:
    """A WAV with a head of our own. kind: 1 of whole numbers of 16 bits, 3 of floats."""
    width = 2 if kind == 1 else 4
    size = len(samples) if claimed is None else claimed
    form = struct.pack("<HHIIHH", kind, 1, rate, rate * width & 0xFFFFFFFF, width, 8 * width)
    body = b"WAVEfmt " + struct.pack("<I", 16) + form + b"data" + struct.pack("<I", size) + samples
    return b"RIFF" + struct.pack("<I", len(body)) + body


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (raw_wav(3_000_000, bytes(48_000)), "samples a second"),
        (raw_wav(4_000, bytes(48_000)), "samples a second"),
        (tone(48_000, 0.5, channels=4), "channels"),
        (tone(8_000, 600.0, kind="FLAC"), "lasts 10 minutes"),
        (raw_wav(48_000, np.full(9_600, np.nan, "<f4").tobytes(), kind=3), "no numbers"),
        (raw_wav(48_000, np.full(9_600, np.inf, "<f4").tobytes(), kind=3), "no numbers"),
    ],
    ids=["3 MHz", "4 kHz", "four channels", "ten minutes", "not a number", "endless"],
)
def test_a_file_that_is_a_bomb_is_refused_at_once(data: bytes, says: str) -> None:
    tracemalloc.start()
    began = time.perf_counter()
    with pytest.raises(BadUpload, match=says):
        read(data)
    assert time.perf_counter() - began < 1.0
    assert tracemalloc.get_traced_memory()[1] < 50 * 2**20
    tracemalloc.stop()


@pytest.mark.parametrize("rate", [8_000, 22_050, 44_100, 47_999, 191_999])
def test_any_rate_in_use_keeps_its_pitch_and_takes_little_time(rate: int) -> None:
    began = time.perf_counter()
    kept = read(tone(rate, 5.0))
    assert time.perf_counter() - began < 2.0
    samples, made = soundfile.read(io.BytesIO(kept.data))
    assert made == RATE
    assert kept.length_s == pytest.approx(4.5, abs=0.05)
    spectrum = np.abs(np.fft.rfft(samples))
    assert spectrum.argmax() * RATE / samples.size == pytest.approx(440, abs=0.3)
