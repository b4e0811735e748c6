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
_NOTE_HOPS = round(signal_code.NOTE_S / HOP_S)
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
    first = round((at_s - LEADS_S) / HOP_S)
    begins = [
        (shift, first + shift * _NOTE_HOPS + off)
        for shift in range(-_SHIFTS, _SHIFTS + 1)
        for off in range(-_AROUND, _AROUND + 1)
    ]
    length = signal_code.COUNT * _NOTE_HOPS
    within = [(shift, hop) for shift, hop in begins if 0 <= hop <= len(rises) - length]
    if not within:
        return None
    heard = np.stack([rises[hop : hop + length] for _, hop in within])
    cells = heard.reshape(len(within), signal_code.COUNT, -1)
    like, words = signal_code.likeliest(np.asarray(cells @ _notes().T))
    best = int(like.argmax())
    return words[best] if within[best][0] == 0 else None


@cache
def _notes() -> NDArray[np.float32]:
    """The rises of each note (digits, hops times bands), each of length one."""
    notes = [
        rises_of_sound(film_sound(signal_code.note(digit)), signal_code.NOTE_S)[:_NOTE_HOPS].ravel()
        for digit in range(len(signal_code.PITCHES))
    ]
    return np.asarray([note / np.sqrt((note**2).sum()) for note in notes], dtype=np.float32)
