"""Signals of eight short notes that a film tells from one another.

A signal is a word of eight digits, one for each note: "04130265". The digits add up to a multiple
of seven, a parity check, so that a change of one note never makes another signal; no digit comes
twice in a row, since a note that still rings in a hall hides the same one after it. There are a
quarter of a million of them, so that another run hardly ever has one of this run's.
"""

from __future__ import annotations

import hashlib
import re
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from hastatus.core.sound import tones
from hastatus.core.sound.tones import Samples

PITCHES = (3, 8, 13, 18, 23, 28, 33)
"""C5 and up by fourths, in semitones above A4: far enough apart to be told in a hall."""
COUNT = 8
NOTE_S = 0.09
LENGTH_S = COUNT * NOTE_S
PATTERN = rf"[0-{len(PITCHES) - 1}]{{{COUNT}}}"
"""What every word is like."""

Array = NDArray[np.float32]


def is_word(word: str) -> bool:
    """Whether there is such a signal."""
    if not re.fullmatch(PATTERN, word):
        return False
    digits = [int(digit) for digit in word]
    return sum(digits) % len(PITCHES) == 0 and all(one != other for one, other in pairwise(digits))


def note(digit: int) -> Samples:
    """One note at `tones.RATE`."""
    return tones.tone(tones.pitch(PITCHES[digit]), NOTE_S)


def samples(word: str) -> Samples:
    """A signal at `tones.RATE`. ValueError where there is none of that word."""
    if not is_word(word):
        raise ValueError(f"there is no signal {word}")
    return np.concatenate([note(int(digit)) for digit in word])


def drawn(seed: int, count: int) -> list[str]:
    """Different signals for one run, drawn from its seed: another run has others."""
    found: dict[str, None] = {}
    number = 0
    while len(found) < count:
        word = _word(hashlib.sha256(f"signal {seed} {number}".encode()).digest())
        if is_word(word):
            found[word] = None
        number += 1
    return list(found)


def _word(digest: bytes) -> str:
    """A word of which each digit but the last is drawn; the last one makes the sum a
    multiple."""
    pitches = len(PITCHES)
    digits = [digest[0] % pitches]
    for byte in digest[1 : COUNT - 1]:
        digits.append((digits[-1] + 1 + byte % (pitches - 1)) % pitches)
    return "".join(map(str, [*digits, -sum(digits) % pitches]))


def likeliest(like: Array) -> tuple[Array, list[str]]:
    """How much the likeliest word is like what is heard, and that word, for each of several starts.

    like: of each digit to each note (starts, notes, digits); they add up. The best way to each
    digit and sum is kept, note by note (Viterbi 1967).
    """
    starts, count, pitches = like.shape
    digits = np.arange(pitches)
    # By last digit and by the sum of all so far.
    best = np.full((starts, pitches, pitches), -np.inf, dtype=np.float32)
    best[:, digits, digits] = like[:, 0]
    before = []
    for place in range(1, count):
        ways = np.repeat(best[:, :, None, :], pitches, axis=2)  # starts, digit before, digit, sum
        ways[:, digits, digits] = -np.inf  # none comes twice in a row
        before.append(ways.argmax(axis=1))
        tops = ways.max(axis=1)
        for digit in digits:  # the sum so far goes up by the digit
            best[:, digit] = np.roll(tops[:, digit], digit, axis=1) + like[:, place, digit, None]
    last = best[:, :, 0].argmax(axis=1)
    words = [_back(before, start, int(digit)) for start, digit in enumerate(last)]
    return best[:, :, 0].max(axis=1), words


def _back(before: list[NDArray[np.int64]], start: int, digit: int) -> str:
    """The word that ends with a digit and adds up, from the last note to the first."""
    word, total = [digit], 0
    for ways in reversed(before):
        total = (total - digit) % len(PITCHES)
        digit = int(ways[start, digit, total])
        word.append(digit)
    return "".join(map(str, reversed(word)))
