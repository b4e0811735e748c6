"""Spoken calls, rendered by espeak-ng from Debian."""

from __future__ import annotations

import hashlib
import io
import shutil
import subprocess
import wave
from functools import lru_cache

import numpy as np
import scipy

from hastatus.core.drill.header import Voice
from hastatus.core.sound import onset
from hastatus.core.sound.tones import PEAK, RATE, Samples, wav

ENGINE = "espeak-ng"
_SECONDS = 10.0
LONGEST_S = 8.0
"""A call is over long before; a row of digits, read out, is not."""


class NoSpeech(RuntimeError):
    """A call cannot be spoken; the message says why."""


def digest(words: str, voice: Voice) -> str:
    """What a rendered call is kept under: the same words, voice, speed and engine."""
    spec = "\0".join((words, voice.language, str(voice.words_a_minute), ENGINE, "1"))
    return hashlib.sha256(spec.encode()).hexdigest()


@lru_cache(maxsize=256)
def speak(words: str, voice: Voice) -> bytes:
    """A WAV of `words` whose first sample is where the sound begins. Raises `NoSpeech`."""
    if shutil.which(ENGINE) is None:
        raise NoSpeech("espeak-ng is not installed; run scripts/setup, or record the call yourself")
    command = [
        ENGINE, "--stdout", "-v", voice.language, "-s", str(voice.words_a_minute), "--", words,
    ]  # fmt: skip
    try:
        done = subprocess.run(command, capture_output=True, timeout=_SECONDS, check=True)
    except (subprocess.SubprocessError, OSError) as error:
        raise NoSpeech(f"espeak-ng could not speak “{words}”") from error
    samples = _samples(done.stdout)
    if samples.size > LONGEST_S * RATE:
        raise NoSpeech(f"“{words}” takes longer than {LONGEST_S:g} s to say; that is no call")
    try:
        kept = onset.trim(samples)
    except onset.Silent:
        raise NoSpeech(f"“{words}” has nothing in it that can be spoken") from None
    return wav(kept * (PEAK / np.abs(kept).max()))


def length_s(data: bytes) -> float:
    """How long a WAV of ours lasts, in seconds."""
    with wave.open(io.BytesIO(data)) as file:
        return float(file.getnframes() / file.getframerate())


def _samples(data: bytes) -> Samples:
    """What espeak-ng wrote, at our rate. Its header gives no length: it writes to a pipe."""
    with wave.open(io.BytesIO(data)) as file:
        rate = file.getframerate()
    raw = data[data.index(b"data") + 8 :]
    samples = np.frombuffer(raw[: len(raw) // 2 * 2], dtype="<i2") / 32768
    common = np.gcd(RATE, rate)
    return np.asarray(
        scipy.signal.resample_poly(samples, RATE // common, rate // common), dtype=np.float64
    )
