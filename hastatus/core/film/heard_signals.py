"""Where a run's signals are heard in a film, and that they are its own.

A signal is looked for as any sound is. What is found is then read as a word: of all signals that
there are, the one that is most like it. Only where that is the run's own is it one.
"""

from __future__ import annotations

from functools import cache

import numpy as np
from numpy.typing import NDArray

from hastatus.core.film.heard_sounds import (
    HOP_S,
    LEADS_S,
    Heard,
    Rises,
    film_sound,
    find,
    rises_of_sound,
)
from hastatus.core.sound import named, signal_code
from hastatus.core.sound.tones import Samples

_SURE = 0.45
"""Least likeness of a signal, 0 to 1."""
_MOST = 60
"""Places of one signal that are looked at."""
_AROUND = 2
"""Hops to both sides of a place at which it is read."""
_SHIFTS = 4
"""Notes by which another signal may begin before or after."""


def rises_of_signal(word: str) -> Rises:
    """The rises of a whole signal."""
    return rises_of_sound(film_sound(signal_code.samples(word)), signal_code.LENGTH_S)


def rises_of(name: str, samples: Samples) -> Rises:
    """The rises of a sound of the app, as it is looked for. name: of its `Clip`. samples: at
    `tones.RATE`."""
    word = signal_of(name)
    return rises_of_sound(film_sound(samples)) if word is None else rises_of_signal(word)


def signal_of(name: str) -> str | None:
    """The word of the signal of a `Clip`'s name; None: it is another sound."""
    return named.signal_word(name.removeprefix("tone:"))


def find_signal(rises: Rises, word: str) -> Heard:
    """Where a signal is heard in a film and is read as itself."""
    heard = find(rises, rises_of_signal(word), _MOST)
    sure = [
        place
        for place, likeness in enumerate(heard.likeness)
        if likeness >= _SURE and _read(rises, float(heard.times_s[place])) == word
    ]
    return Heard(heard.times_s[sure], heard.likeness[sure])


def _read(rises: Rises, at_s: float) -> str | None:
    """The signal that is most like what begins at a moment of a film; None where one that begins
    some notes before or after is more like it still, since it shares its notes."""
    signals = _signals()
    length = signals.shape[1]
    flat = signals.reshape(len(signals), -1)
    first = round((at_s - LEADS_S) / HOP_S)
    best: tuple[float, int, int] = (-1.0, 0, 0)
    for shift in range(-_SHIFTS, _SHIFTS + 1):
        middle = first + round(shift * signal_code.NOTE_S / HOP_S)
        for begins in range(middle - _AROUND, middle + _AROUND + 1):
            if 0 <= begins <= len(rises) - length:
                like = flat @ rises[begins : begins + length].ravel()
                best = max(best, (float(like.max()), int(like.argmax()), shift))
    _, word, shift = best
    return signal_code.words()[word] if shift == 0 else None


@cache
def _signals() -> NDArray[np.float32]:
    """The rises of every signal (signals, hops, bands), each of length one."""
    all_ = np.stack([rises_of_signal(word) for word in signal_code.words()])
    return np.asarray(all_ / np.sqrt((all_**2).sum(axis=(1, 2), keepdims=True)))
