"""Lining a film up with a run: which moment of the film is which of the run.

The run knows when each of its sounds left; the film heard them, and much else. Both clocks run
evenly, but not quite alike. The straight line that most sounds lie on is the line-up; where chance
could as well have laid as many on a line, or a second line holds nearly as many, there is none.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.special import pdtrc

from hastatus.core.film.heard_sounds import Heard

MOST_DRIFT = 3e-4
"""How much faster one clock may run, at the most; crystals differ by under 1 in 10,000."""
_BIN_S = 0.008
_NEAR_S = 0.02
_FITS_S = 0.006
"""How near the line a sound lies that is taken to be on it."""
_OTHER_S = 0.3
_OTHER_SHARE = 0.75
"""Another line, further off than `_OTHER_S`, must hold less than this of what the best holds."""
_LEAST_SHARE = 0.5
"""Share of the run's sounds within the film that must be on the line."""
_CHANCE = 1e-4
_DETECTOR_S = 0.004
"""95 % of sounds are found within this of where they are (see the benchmark `film`)."""
_UNTOLD_DRIFT = 1e-4
"""How much faster one clock may run where a single signal does not tell: 95 % of crystals."""

Array = NDArray[np.float64]
Refusal = Literal[
    "no_sound", "none_heard", "other_run", "two_fit", "nothing_sounded", "three_people", "no_people"
]  # fmt: skip
REFUSAL_NAMES: dict[Refusal, str] = {
    "no_sound": "the film has no sound to line it up by",
    "none_heard": "none of the run's sounds is heard in the film: was it near enough?",
    "other_run": "the sounds in the film are not those of this run",
    "two_fit": "the sounds come so evenly that the film fits in more than one place",
    "nothing_sounded": "nothing sounded in this run, so no film can be lined up with it",
    "three_people": "three take turns in this run; only films of two are read",
    "no_people": "its zones do not say who is left and who is right; draw them for two people",
}
"""Why a film is not lined up, in words."""


@dataclass(frozen=True, slots=True)
class RunSound:
    """A sound that left in a run. at_s: on the run's clock. name: which, as `Heard` is kept by.
    signal: made for lining up; one is enough, and where there are some, nothing else counts."""

    at_s: float
    name: str
    signal: bool = False


@dataclass(frozen=True, slots=True)
class LineUp:
    """film = starts_s + rate · run, in seconds. spread_s: half-width of 95 % of what is not known,
    within the sounds that were heard. heard, asked: sounds on the line, and within the film.
    pivot_s: on the run's clock, where the line is known best. rate_spread: half-width of 95 % of
    what is not known of its rate."""

    starts_s: float
    rate: float
    spread_s: float
    heard: int
    asked: int
    pivot_s: float = 0.0
    rate_spread: float = 0.0

    def film_s(self, run_s: float) -> float:
        """The moment of the film that is `run_s` on the run's clock."""
        return self.starts_s + self.rate * run_s

    def spread_at(self, run_s: float) -> float:
        """Half-width of 95 % of what is not known of the line at a moment of the run, s."""
        return float(np.hypot(self.spread_s, self.rate_spread * (run_s - self.pivot_s)))

    def run_s(self, film_s: float) -> float:
        """The moment of the run, on its clock, that is `film_s` in the film."""
        return (film_s - self.starts_s) / self.rate


def line_up(
    sounds: Sequence[RunSound], heard: Mapping[str, Heard], film_s: float
) -> LineUp | Refusal:
    """The line-up of a film of `film_s` seconds, or why there is none.

    sounds: of one page of the run, since another page has another clock. heard: by name.
    """
    if not sounds:
        return "nothing_sounded"
    signals = [sound for sound in sounds if sound.signal]
    if signals:
        return _by_signals(signals, heard, film_s)
    pairs = _pairs(sounds, heard)
    if not len(pairs.run_s):
        return "none_heard"
    offset, drift, votes, other = _vote(pairs)
    starts, rate, near = _fitted(pairs, offset, drift)
    asked = sum(0 <= starts + rate * sound.at_s < film_s for sound in sounds)
    if near < 3 or near < _LEAST_SHARE * asked or _by_chance(pairs, film_s, near):
        few = sum(len(one.times_s) for one in heard.values()) < 0.3 * len(sounds)
        return "none_heard" if few else "other_run"
    if other > _OTHER_SHARE * votes:
        return "two_fit"
    spread = float(np.hypot(_DETECTOR_S, 2 * _FITS_S / np.sqrt(near)))
    return LineUp(starts, rate, spread, near, asked)


@dataclass(frozen=True, slots=True)
class _Pairs:
    """Every sound of the run with every place that may be it. which: index of the sound."""

    run_s: Array
    film_s: Array
    likeness: Array
    which: NDArray[np.int64]


def _pairs(sounds: Sequence[RunSound], heard: Mapping[str, Heard]) -> _Pairs:
    run, film, likeness, which = [], [], [], []
    for index, sound in enumerate(sounds):
        places = heard.get(sound.name)
        if places is None or not len(places.times_s):
            continue
        run.append(np.full(len(places.times_s), sound.at_s))
        film.append(places.times_s)
        likeness.append(places.likeness)
        which.append(np.full(len(places.times_s), index))
    if not run:
        nothing = np.zeros(0)
        return _Pairs(nothing, nothing, nothing, np.zeros(0, dtype=np.int64))
    return _Pairs(*(np.concatenate(part) for part in (run, film, likeness, which)))


def _vote(pairs: _Pairs) -> tuple[float, float, float, float]:
    """The offset and drift that most pairs agree on, their votes, and those of another offset."""
    middle = float(pairs.run_s.mean())
    span = float(np.ptp(pairs.run_s))
    steps = min(60, int(np.ceil(MOST_DRIFT * span / _BIN_S)))
    drifts = np.linspace(-MOST_DRIFT, MOST_DRIFT, 2 * steps + 1) if steps else np.zeros(1)
    best: tuple[float, float, float] = (0.0, 0.0, -1.0)
    tallies: list[tuple[Array, float]] = []
    for drift in drifts:
        apart = pairs.film_s - pairs.run_s - drift * (pairs.run_s - middle)
        first = float(apart.min())
        bins = np.bincount(((apart - first) / _BIN_S).astype(np.int64), pairs.likeness)
        # A pair of bins, so that none falls between two.
        tally: Array = np.asarray(bins, np.float64) + np.append(bins[1:], 0.0)
        tallies.append((tally, first))
        top = int(tally.argmax())
        if tally[top] > best[2]:
            best = (first + (top + 1) * _BIN_S, float(drift), float(tally[top]))
    offset, drift, votes = best
    other = 0.0
    for tally, first in tallies:
        places = first + (np.arange(len(tally)) + 1) * _BIN_S
        other = max(other, float(tally[np.abs(places - offset) > _OTHER_S].max(initial=0.0)))
    return offset - drift * middle, drift, votes, other


def _fitted(pairs: _Pairs, offset: float, drift: float) -> tuple[float, float, int]:
    """The straight line through the pairs near the one that was voted for; how many are on it."""
    starts, rate, near = offset, 1 + drift, 0
    for within in (2 * _NEAR_S, _NEAR_S, _FITS_S, _FITS_S):
        off = pairs.film_s - starts - rate * pairs.run_s
        on = np.abs(off) < within
        on[on] = _each_once(pairs.which[on], np.abs(off[on]))
        near = int(on.sum())
        if near < 2:
            return starts, rate, near
        x, y, weights = pairs.run_s[on], pairs.film_s[on], pairs.likeness[on]
        middle = np.average(x, weights=weights)
        wide = float(weights @ (x - middle) ** 2)
        # Drift is drawn to nothing where the sounds are too close together to tell it.
        believed = (_FITS_S / (MOST_DRIFT / 2)) ** 2
        slope = float(weights @ ((x - middle) * (y - x))) / (wide + believed)
        rate = 1 + min(max(slope, -MOST_DRIFT), MOST_DRIFT)
        starts = float(np.average(y - rate * x, weights=weights))
    return starts, rate, near


def _each_once(which: NDArray[np.int64], off: Array) -> NDArray[np.bool_]:
    """Of several places for one sound, the nearest."""
    keep = np.zeros(len(which), dtype=np.bool_)
    order = np.lexsort((off, which))
    keep[order[np.unique(which[order], return_index=True)[1]]] = True
    return keep


def _by_chance(pairs: _Pairs, film_s: float, near: int) -> bool:
    """Whether as many might lie on some line by chance alone: offsets of pairs that have nothing to
    do with one another lie anywhere between the film's length and the run's."""
    run_s = float(np.ptp(pairs.run_s))
    span = max(film_s + run_s, 1.0)
    expected = len(pairs.run_s) * 2 * _FITS_S / span
    lines = span / _BIN_S * (1 + 2 * MOST_DRIFT * run_s / _BIN_S)
    return bool(pdtrc(near - 1, expected) * lines > _CHANCE)


def _by_signals(
    signals: Sequence[RunSound], heard: Mapping[str, Heard], film_s: float
) -> LineUp | Refusal:
    """By the signals of rounds where nothing else has a moment that is known. Each that is heard is
    the run's own (`heard_signals`); the intervals between several must be those of the run."""
    pairs = _pairs(signals, heard)
    if not len(pairs.run_s):
        return "none_heard"
    ways = [_way(pairs, index) for index in range(len(pairs.run_s))]
    most = max(len(np.unique(pairs.which[way])) for way in ways)
    best = [way for way in ways if len(np.unique(pairs.which[way])) == most]
    offsets = np.array([float((pairs.film_s - pairs.run_s)[way].mean()) for way in best])
    if np.ptp(offsets) > _OTHER_S:
        return "two_fit"
    on = best[0]
    run, film = pairs.run_s[on], pairs.film_s[on]
    rate, rate_spread = 1.0, _UNTOLD_DRIFT
    span = float(np.ptp(run))
    if span > 2 * _DETECTOR_S / _UNTOLD_DRIFT:  # else what clocks do is known better than this
        rate = float(np.clip(np.polyfit(run, film, 1)[0], 1 - MOST_DRIFT, 1 + MOST_DRIFT))
        rate_spread = 2 * _DETECTOR_S / span
    pivot = float(run.mean())
    starts = float(film.mean()) - rate * pivot
    asked = sum(0 <= starts + rate * sound.at_s < film_s for sound in signals)
    if most < _LEAST_SHARE * asked:
        return "other_run"
    return LineUp(starts, rate, _DETECTOR_S, most, asked, pivot, rate_spread)


def _way(pairs: _Pairs, index: int) -> NDArray[np.bool_]:
    """The pairs whose intervals to one pair are those of the run, each sound once."""
    offset = pairs.film_s[index] - pairs.run_s[index]
    off = np.abs(pairs.film_s - pairs.run_s - offset)
    on = off < _NEAR_S + MOST_DRIFT * np.abs(pairs.run_s - pairs.run_s[index])
    on[on] = _each_once(pairs.which[on], off[on])
    return np.asarray(on)
