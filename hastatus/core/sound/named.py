"""Every sound that is made here, by name: of a drill, of the metronome, or a round's signal."""

from __future__ import annotations

from functools import cache

from hastatus.core.sound import signal_code, tones
from hastatus.core.sound.tones import Samples

SIGNAL = "signal_"
"""What the name of a signal begins with; its word follows."""


def samples(name: str) -> Samples:
    """The samples of a sound at `tones.RATE`. KeyError when there is none of that name."""
    word = signal_word(name)
    if word is not None:
        return signal_code.samples(word)
    return tones.named(name)


def length_s(name: str) -> float:
    """How long a sound is, in seconds. KeyError when there is none of that name."""
    return signal_code.LENGTH_S if signal_word(name) is not None else _tone_length_s(name)


@cache
def _tone_length_s(name: str) -> float:
    return tones.named(name).size / tones.RATE


def signal_word(name: str) -> str | None:
    """The word of a signal; None: it is another sound."""
    word = name.removeprefix(SIGNAL)
    return word if word != name and signal_code.is_word(word) else None
