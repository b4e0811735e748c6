"""The samples of a sound of a drill, where no club has to be asked for them."""

from __future__ import annotations

import io

import numpy as np
import soundfile

from hastatus.core.drill.header import Voice
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound import named
from hastatus.core.sound.tones import Samples
from hastatus.sound_io.speech import speak


def samples_of(clip: Clip, voice: Voice) -> Samples | None:
    """A tone or a spoken call at `tones.RATE`; None for a recording, which its club has. Raises
    `speech.NoSpeech`."""
    if clip.source == "tone":
        return named.samples(clip.what)
    if clip.source == "spoken":
        return decoded(speak(clip.what, voice))
    return None


def decoded(data: bytes) -> Samples:
    """The samples of a WAV of ours."""
    samples, _ = soundfile.read(io.BytesIO(data), dtype="float64")
    return np.asarray(samples)
