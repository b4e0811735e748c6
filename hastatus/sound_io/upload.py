"""Reading what a coach uploads: a recorded call, a picture, a clip."""

from __future__ import annotations

import hashlib
import io
from dataclasses import dataclass
from fractions import Fraction
from typing import Literal

import numpy as np
import scipy
import soundfile

from hastatus.core.sound import onset
from hastatus.core.sound.tones import PEAK, RATE, wav

MOST_BYTES = 16 * 2**20
LONGEST_S = 10.0
SHORTEST_S = 0.03
LOWEST_HZ, HIGHEST_HZ = 8_000, 192_000
MOST_CHANNELS = 2

_PICTURES = {b"\x89PNG\r\n\x1a\n": "image/png", b"\xff\xd8\xff": "image/jpeg"}


class BadUpload(ValueError):
    """What came cannot be used; the message says why."""


@dataclass(frozen=True, slots=True)
class Upload:
    """Something that can be kept. id: SHA-256 of its bytes."""

    id: str
    kind: Literal["sound", "picture", "clip"]
    media_type: str
    data: bytes
    length_s: float | None


def read(data: bytes) -> Upload:
    """What `data` is. A sound becomes a 48 kHz WAV that begins with its onset."""
    if not data:
        raise BadUpload("the file is empty")
    if len(data) > MOST_BYTES:
        raise BadUpload(f"the file is larger than {MOST_BYTES // 2**20} MB")
    for start, media_type in _PICTURES.items():
        if data.startswith(start):
            return Upload(_digest(data), "picture", media_type, data, None)
    if data[:4] == b"RIFF" and data[8:12] == b"WEBP":
        return Upload(_digest(data), "picture", "image/webp", data, None)
    if data[4:8] == b"ftyp":
        return Upload(_digest(data), "clip", "video/mp4", data, None)
    if data[:4] == b"\x1aE\xdf\xa3":
        return Upload(_digest(data), "clip", "video/webm", data, None)
    return _sound(data)


def _sound(data: bytes) -> Upload:
    try:
        with soundfile.SoundFile(io.BytesIO(data)) as file:
            _check(file)
            rate, most = file.samplerate, int(LONGEST_S * file.samplerate)
            # What the head of a file says of its length is not believed: no more than this is read.
            samples = file.read(most + 1, dtype="float32", always_2d=True)
    except soundfile.SoundFileError:
        raise BadUpload(
            "this is no sound that can be read (WAV, FLAC, Ogg or MP3), and no PNG, JPEG or WebP "
            "picture or MP4 or WebM clip"
        ) from None
    if len(samples) > most:
        raise BadUpload(f"the recording is longer than {LONGEST_S:g} s, the most that a call has")
    mono = samples.mean(axis=1, dtype=np.float64)
    if not np.isfinite(mono).all():
        raise BadUpload("the recording holds values that are no numbers; save it again")
    # A rate like 47,999 Hz has no small fraction: the nearest one is off by under 5 in a million.
    ratio = Fraction(RATE, rate).limit_denominator(480)
    mono = np.asarray(
        scipy.signal.resample_poly(mono, ratio.numerator, ratio.denominator), dtype=np.float64
    )
    try:
        kept = onset.trim(mono)
    except onset.Silent:
        raise BadUpload("the recording is silent") from None
    if kept.size < SHORTEST_S * RATE:
        raise BadUpload("the recording is too short to be a call")
    made = wav(kept * (PEAK / np.abs(kept).max()))
    return Upload(_digest(made), "sound", "audio/wav", made, kept.size / RATE)


def _check(file: soundfile.SoundFile) -> None:
    """Refuse by the head alone what would take long to read: a few kB may claim hours."""
    if not LOWEST_HZ <= file.samplerate <= HIGHEST_HZ:
        raise BadUpload(
            f"the recording has {file.samplerate} samples a second; {LOWEST_HZ} to {HIGHEST_HZ} "
            "can be used"
        )
    if file.channels > MOST_CHANNELS:
        raise BadUpload(f"the recording has {file.channels} channels; one or two can be used")
    length_s = file.frames / file.samplerate
    if length_s > LONGEST_S:
        raise BadUpload(
            f"the recording lasts {_told(length_s)}; a call has at most {LONGEST_S:g} s"
        )


def _told(seconds: float) -> str:
    return f"{seconds:.1f} s" if seconds < 60 else f"{seconds / 60:.0f} minutes"


def _digest(data: bytes) -> str:
    return hashlib.sha256(data).hexdigest()
