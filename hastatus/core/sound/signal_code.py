"""Signals of six short notes that a film tells from one another.

A signal is a word of six digits, one for each note: "041302". The digits add up to a multiple of
five, a parity check, so that a change of one note never makes another signal; no digit comes twice
in a row, since a note that still rings in a hall hides the same one after it.
"""

from __future__ import annotations

import hashlib
from functools import cache
from itertools import pairwise, product

import numpy as np

from hastatus.core.sound import tones
from hastatus.core.sound.tones import Samples

_PITCHES = (3, 8, 13, 18, 23)
"""C5 and up by fourths, in semitones above A4: far enough apart to be told in a hall."""
_COUNT = 6
NOTE_S = 0.09
LENGTH_S = _COUNT * NOTE_S


@cache
def words() -> tuple[str, ...]:
    """Every signal, in order."""
    digits = range(len(_PITCHES))
    return tuple(
        "".join(map(str, word))
        for word in product(digits, repeat=_COUNT)
        if sum(word) % len(_PITCHES) == 0 and all(one != other for one, other in pairwise(word))
    )


def samples(word: str) -> Samples:
    """A signal at `tones.RATE`. ValueError where there is none of that word."""
    if word not in words():
        raise ValueError(f"there is no signal {word}")
    return np.concatenate([tones.tone(tones.pitch(_PITCHES[int(digit)]), NOTE_S) for digit in word])


def drawn(seed: int, count: int) -> list[str]:
    """Different signals for one run, drawn from its seed: another run has others."""
    found: dict[str, None] = {}
    number = 0
    while len(found) < count:
        digest = hashlib.sha256(f"signal {seed} {number}".encode()).digest()
        found[words()[int.from_bytes(digest[:8], "big") % len(words())]] = None
        number += 1
    return list(found)
