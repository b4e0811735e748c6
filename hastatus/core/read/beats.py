"""Which of the strikes are beats, and which beat each is; the rest belongs to nobody's count.

A room is full of strikes that nobody asked for: the next pair, a dropped pad, a double hit. Before
a tempo is fitted, the likeliest way is found to walk from strike to strike in whole beats, each
beat about as long as the one before it: a beat may go unheard and a strike may be stepped over, at
a cost. This is the Viterbi path (Viterbi 1967, IEEE Trans. Inf. Theory 13:260, from memory) over
pairs of a strike and a length of the beat.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

PAUSE_BEATS = 8
"""After more beats than this without one that is heard, the count begins anew."""

_SLOWEST, _FASTEST, _STEP = 1.4, 0.7, 0.03
"""Lengths of the beat that are tried, against the one that was asked, and the step in ln length."""
_LENGTHS = np.exp(np.arange(np.log(_FASTEST), np.log(_SLOWEST) + _STEP / 2, _STEP))
_ASKED_SPREAD = 0.15
"""How far from what was asked, in ln length, a beat is taken to be."""
_CHANGE = 2.0
"""Cost of a change of the length by one step, in nats."""
_BACK = 24
"""How many strikes back the beat before may be."""
_FURTHEST = 0.6
"""A strike further from an asked one than this, in beats, is not it."""
_USUAL_LEAD = 0.25
"""How far from an asked one strikes usually are, those who run ahead included, in beats."""
_JUMP = 6.0
"""Cost of falling back to the pulse, or of any other jump, in nats."""
_SPREADS = (0.03, 0.5)
"""Least and greatest unevenness of an interval that is believed, in beats."""


@dataclass(frozen=True, slots=True)
class Chance:
    """How the strikes come. heard: share of beats; extra: other strikes, a beat; uneven: standard
    deviation of an interval of one beat, in beats."""

    heard: float = 0.9
    extra: float = 0.1
    uneven: float = 0.12


@dataclass(frozen=True, slots=True)
class Beats:
    """The strikes that are beats. place: of each among the strikes; number: of its beat, the first
    being 0; count: grows by one where the count began anew after a pause. gain: how much likelier
    they are beats than strikes at random, in nats. chance: how they come."""

    place: Ints
    number: Ints
    count: Ints
    gain: float
    chance: Chance


def find_beats(times: Floats, chance: Chance | None = None) -> Beats:
    """The beats among strikes. times: of the strikes, in order, in beats as they were asked.

    chance: how the strikes come, where that is known already.
    """
    if chance is not None:
        return _path(times, chance)
    chance = Chance()
    for _ in range(3):
        beats = _path(times, chance)
        chance = _chance(times, beats)
    return replace(beats, chance=chance)


def _path(times: Floats, chance: Chance) -> Beats:
    count, lengths = len(times), np.arange(len(_LENGTHS))
    claim = np.log(chance.heard / chance.extra)
    fit = _steps(times, chance) + claim
    change = -_CHANGE * np.abs(lengths[:, None] - lengths[None, :])
    score = np.tile(claim - 0.5 * (np.log(_LENGTHS) / _ASKED_SPREAD) ** 2, (count, 1))
    before = np.full((count, len(lengths), 2), -1, dtype=np.int64)
    moved = np.empty((count, len(lengths)))  # the best there with any length before
    moved_from = np.empty((count, len(lengths)), dtype=np.int64)
    for here in range(count):
        low = max(0, here - _BACK)
        if here > low:
            come = moved[low:here] + fit[here, _BACK - (here - low) :]
            best = come.argmax(axis=0)
            gain = come[best, lengths]
            better = gain > score[here]
            score[here] = np.where(better, gain, score[here])
            before[here, :, 0] = np.where(better, low + best, -1)
            before[here, :, 1] = np.where(better, moved_from[low + best, lengths], -1)
        changed = score[here][:, None] + change
        moved_from[here] = changed.argmax(axis=0)
        moved[here] = changed[moved_from[here], lengths]
    return _walked_back(times, score, before, chance)


def _steps(times: Floats, chance: Chance) -> Floats:
    """How likely each strike follows each of the `_BACK` before it, by length of the beat: nats."""
    earlier = np.arange(len(times))[:, None] - np.arange(_BACK, 0, -1)[None, :]
    apart = (times[:, None] - times[np.maximum(earlier, 0)])[:, :, None] / _LENGTHS
    beats = np.maximum(np.rint(apart), 1)
    off = (apart - beats) * _LENGTHS
    variance = chance.uneven**2 * (0.5 + 0.5 * beats)
    fit = -0.5 * (np.log(2 * np.pi * variance) + off**2 / variance)
    miss = np.log(1 - chance.heard)
    fit = np.where(apart < 0.5, -np.inf, fit + (beats - 1) * miss)
    # After a pause the next beat may come at any moment.
    result: Floats = np.where(beats > PAUSE_BEATS, PAUSE_BEATS * miss, fit)
    return result


@dataclass(frozen=True, slots=True)
class _Node:
    """A strike that may be one that the sheet asks for. lead: how far after it, in beats."""

    strike: int
    asked: int
    lead: float


def find_asked(times: Floats, asked: Floats, chance: Chance | None = None) -> Beats:
    """The strikes that a sheet asks for, where the beat was heard. Both in beats, in order.

    number: the place of each among those asked. How far ahead of the sheet somebody is changes
    little from strike to strike, and is less than `_FURTHEST`.
    """
    nodes = _nodes(times, asked)
    if chance is not None:
        return _asked_path(nodes, asked, chance)
    chance = Chance(uneven=0.08)
    for _ in range(3):
        path = _asked_path(nodes, asked, chance)
        chance = _asked_chance(times, asked, path)
    return replace(path, chance=chance)


def _nodes(times: Floats, asked: Floats) -> list[_Node]:
    low = np.searchsorted(times, asked - _FURTHEST)
    high = np.searchsorted(times, asked + _FURTHEST)
    return [
        _Node(strike, index, float(times[strike] - asked[index]))
        for index in range(len(asked))
        for strike in range(int(low[index]), int(high[index]))
    ]


def _asked_path(nodes: Sequence[_Node], asked: Floats, chance: Chance) -> Beats:
    strike = np.array([node.strike for node in nodes], dtype=np.int64)
    index = np.array([node.asked for node in nodes], dtype=np.int64)
    lead = np.array([node.lead for node in nodes])
    claim = np.log(chance.heard / chance.extra) - 0.5 * np.log(2 * np.pi * chance.uneven**2)
    miss = np.log(1 - chance.heard)
    own = claim - 0.5 * (lead / _USUAL_LEAD) ** 2
    score = own + miss * index
    before = np.full(len(nodes), -1, dtype=np.int64)
    passed, moved = _asked_steps(strike, index, lead, asked, chance)
    for here in range(1, len(nodes)):
        low = max(0, here - _BACK)
        come = score[low:here] + passed[here, low - here :] - moved[here, low - here :]
        best = int(np.argmax(come))
        if come[best] + own[here] > score[here]:
            score[here], before[here] = come[best] + own[here], low + best
    ends = score + miss * (len(asked) - 1 - index)
    path = [int(np.argmax(ends))] if len(nodes) else []
    while path and before[path[-1]] >= 0:
        path.append(int(before[path[-1]]))
    path.reverse()
    gain = float(ends[path[-1]]) if path else 0.0
    return Beats(strike[path], index[path], np.zeros(len(path), dtype=np.int64), gain, chance)


def _asked_steps(
    strike: Ints, index: Ints, lead: Floats, asked: Floats, chance: Chance
) -> tuple[Floats, Floats]:
    """What it takes to come to each node from each of the `_BACK` before it, in nats: for the
    strikes that are left out (to add), and for how far the lead moves (to take away)."""
    earlier = np.maximum(np.arange(len(strike))[:, None] - np.arange(_BACK, 0, -1)[None, :], 0)
    beats = asked[index][:, None] - asked[index[earlier]]
    variance = chance.uneven**2 * (0.5 + 0.5 * np.minimum(beats, PAUSE_BEATS))
    passed = np.log(1 - chance.heard) * (index[:, None] - index[earlier] - 1)
    moved = np.minimum(0.5 * (lead[:, None] - lead[earlier]) ** 2 / variance, _JUMP)
    may = (index[earlier] < index[:, None]) & (strike[earlier] < strike[:, None])
    return passed, np.where(may, moved, np.inf)


def _asked_chance(times: Floats, asked: Floats, beats: Beats) -> Chance:
    if len(beats.place) < 3:
        return beats.chance
    heard = (len(beats.place) + 4.5) / (len(asked) + 5)
    span = float(times[-1] - times[0]) + 1
    extra = (len(times) - len(beats.place) + 0.5) / (span + 5)
    lead = times[beats.place] - asked[beats.number]
    uneven = 1.4826 * float(np.median(np.abs(np.diff(lead)))) / np.sqrt(1.5)
    return Chance(min(heard, 0.98), max(extra, 0.02), float(np.clip(uneven, *_SPREADS)))


def _walked_back(times: Floats, score: Floats, before: Ints, chance: Chance) -> Beats:
    end, length = np.unravel_index(int(np.argmax(score)), score.shape)
    gain = float(score[end, length])
    places, lengths = [int(end)], [int(length)]
    while before[places[-1], lengths[-1], 0] >= 0:
        there = before[places[-1], lengths[-1]]
        places.append(int(there[0]))
        lengths.append(int(there[1]))
    places.reverse()
    lengths.reverse()
    number, count = [0], [0]
    for earlier, later, length_ in zip(places, places[1:], lengths[1:], strict=False):
        beats = round(float(times[later] - times[earlier]) / float(_LENGTHS[length_]))
        number.append(number[-1] + max(beats, 1))
        count.append(count[-1] + (beats > PAUSE_BEATS))
    return Beats(np.array(places), np.array(number), np.array(count), gain, chance)


def _chance(times: Floats, found: Beats) -> Chance:
    """How the strikes come, as the last path has them; drawn towards what is usual."""
    steps = np.diff(found.number)
    inside = np.diff(found.count) == 0
    if not inside.any():
        return found.chance
    beats = int(steps[inside].sum())
    heard = (int(inside.sum()) + 4.5) / (beats + 5)
    span = float(times[-1] - times[0]) + 1
    extra = (len(times) - len(found.place) + 0.5) / (span + 5)
    apart = np.diff(times[found.place])[inside] / steps[inside]
    lately = np.convolve(np.pad(apart, 4, mode="edge"), np.full(9, 1 / 9), mode="valid")
    scale = np.sqrt(0.5 + 0.5 * steps[inside])
    off = np.abs(apart - lately) * steps[inside] / scale
    uneven = float(np.clip(1.4826 * np.median(off) * np.sqrt(9 / 8), *_SPREADS))
    return Chance(min(heard, 0.98), max(extra, 0.02), uneven)
