"""Cues whose speed is still open come more often, within half to twice their shares.

Whether one cue of a drill is answered more slowly than the others takes many answers to tell. It
tells most to ask where that is open: a cue that is surely as quick as the others, or surely slower,
comes at its share. Openness is p(1 − p), where p is the chance that a cue is slower by more than
`SLOW`; times are taken as logarithms, drawn towards the other cues (a normal mean with a normal
prior: Gelman et al. 2013, Bayesian Data Analysis, chapter 5, memory).
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.special import ndtr, ndtri

from hastatus.core.adapt.weak_cues import Answered
from hastatus.core.drill.repeats import share_allowed
from hastatus.core.drill.settings import Balanced
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.plan.statistics import guessed

Array = NDArray[np.float64]

MOST = 2.0
"""A cue comes at most so many times as often as its share, and at least one in so many."""
SLOW = 0.15
"""What counts as slower, ln time: about 75 ms of half a second."""
LEAST_ANSWERS = 24
"""Fewer right answers to a drill say nothing of its cues."""
GUESSED_MORE = 0.08
"""How much more of the cues somebody who counts may guess because of all this."""
TOLD = 0.99
"""Chance with which no cue is told to be slower that is not, over all cues of a drill."""

_CUE_SPREAD = 0.1
"""How far cues of one drill lie apart, ln time, before any is seen."""
_WORTH = 0.05
"""Cues that are slower by less, ln time, are not worth a word: one side or sense often is."""
_TOLD_SPREAD = 0.3
"""The same where a figure is told: it leaves the times nearly as they are."""
_SPREAD, _SPREAD_COUNTS = 0.2, 3.0
"""Spread of the answers to one cue, ln time, and how many answers that counts for."""
_NEVER_CLOSED = 0.05
"""Openness that every cue keeps: nobody is alike for ever."""
_LIGHTER = (1.0, 0.75, 0.5, 0.25)


@dataclass(frozen=True, slots=True)
class CueSpeed:
    """How much slower one cue is answered than the others, ln time: mean and standard deviation of
    the belief. answers: right ones that it rests on."""

    cue: str
    slower: float
    spread: float
    answers: int

    @property
    def openness(self) -> float:
        """0.25 where it is as likely as not that the cue is slow, near 0 where that is sure."""
        slow = 1 - ndtr((SLOW - self.slower) / self.spread)
        return float(slow * (1 - slow))


@dataclass(frozen=True, slots=True)
class SlowCue:
    """A cue that is surely answered more slowly than the others: by which factor, with a 95 %
    interval. answers: right ones to this cue; of: to all."""

    cue: str
    factor: float
    low: float
    high: float
    answers: int
    of: int


def speeds(
    cues: Sequence[str], answers: Sequence[Answered], cue_spread: float = _CUE_SPREAD
) -> list[CueSpeed]:
    """The speed of each cue against the others; empty with too few right answers, or one cue.

    cue_spread: how far cues lie apart, ln time, before any is seen.
    """
    logs: dict[str, Array] = {
        cue: np.log([answer.time_s for answer in answers if answer.cue == cue and answer.time_s])
        for cue in cues
    }
    counts = np.array([len(log) for log in logs.values()])
    if len(cues) < 2 or counts.sum() < LEAST_ANSWERS:
        return []
    means = np.array([log.mean() if len(log) else 0.0 for log in logs.values()])
    squares = sum(float(((log - log.mean()) ** 2).sum()) for log in logs.values() if len(log))
    freedom = int((counts[counts > 0] - 1).sum())
    variance = (squares + _SPREAD_COUNTS * _SPREAD**2) / (freedom + _SPREAD_COUNTS)
    trust = counts * cue_spread**2 / (counts * cue_spread**2 + variance)
    middle = float((trust * means).sum() / trust.sum())
    believed = middle + trust * (means - middle)
    others = (believed.sum() - believed) / (len(cues) - 1)
    own = cue_spread**2 * (1 - trust)
    spreads = np.sqrt(own + (own.sum() - own) / (len(cues) - 1) ** 2)
    rows = zip(cues, believed - others, spreads, counts, strict=True)
    return [CueSpeed(cue, float(by), float(sd), int(count)) for cue, by, sd, count in rows]


def slow_cue(cues: Sequence[str], answers: Sequence[Answered]) -> SlowCue | None:
    """The slowest cue, where it is sure that it is slower than the others by a noticeable part."""
    cue_speeds = speeds(cues, answers, _TOLD_SPREAD)
    if not cue_speeds:
        return None
    slowest = max(cue_speeds, key=lambda speed: speed.slower)
    sure = float(ndtri(1 - (1 - TOLD) / len(cues)))
    if slowest.slower < _WORTH + sure * slowest.spread:
        return None
    reach = 1.96 * slowest.spread
    low, by, high = (float(np.exp(slowest.slower + off)) for off in (-reach, 0.0, reach))
    of = sum(speed.answers for speed in cue_speeds)
    return SlowCue(slowest.cue, by, low, high, slowest.answers, of)


def told(slow: SlowCue, name: str) -> str:
    """A slow cue in a sentence."""
    by, low, high = (100 * (factor - 1) for factor in (slow.factor, slow.low, slow.high))
    return (
        f"{name[:1].upper()}{name[1:]} is answered {by:.0f} % more slowly than the other cues "
        f"(95 %: {low:.0f} to {high:.0f} %), over the last {slow.of} right answers in this drill."
    )


def factors(drill: Drill, rung: int, answers: Sequence[Answered]) -> dict[str, float]:
    """Factor on the share of each cue of a rung (from 1); empty where all keep theirs.

    Only in a balanced order, which goes by shares; never in a baseline, whose cues are compared.
    A drill that leans on weak cues does only that. Where the leaning would make the order easier
    to guess by more than `GUESSED_MORE`, or a cue come more often than its cap on repeats allows,
    it is lighter.
    """
    here = drill.rungs[rung - 1]
    pace = drill.pace
    if not pace.open_cues or pace.weak_cues > 1 or drill.is_test:
        return {}
    if not isinstance(here.order, Balanced):
        return {}
    shares = drill.shares(here)
    asking = {key: share for key, share in shares.items() if not drill.cue(key).is_catch}
    cue_speeds = speeds(list(asking), answers)
    if not cue_speeds:
        return {}
    openness = np.array([speed.openness + _NEVER_CLOSED for speed in cue_speeds])
    leaned = _within(openness, np.array(list(asking.values())))
    for lighter in _LIGHTER:
        tried = {
            speed.cue: round(1 + lighter * (factor - 1), 2)
            for speed, factor in zip(cue_speeds, leaned.tolist(), strict=True)
        }
        if _holds(drill, rung, here, tried):
            return {cue: factor for cue, factor in tried.items() if factor != 1.0}
    return {}


def _within(openness: Array, shares: Array) -> Array:
    """Factors in proportion to openness, within the bounds, that leave the shares' sum alone."""
    low, high = -10.0, 10.0
    for _ in range(50):
        middle = (low + high) / 2
        tried = np.clip(openness * np.exp(middle), 1 / MOST, MOST)
        if (tried * shares).sum() < shares.sum():
            low = middle
        else:
            high = middle
    leaned: Array = np.clip(openness * np.exp(high), 1 / MOST, MOST)
    return leaned


def _holds(drill: Drill, number: int, rung: Rung, leaned: Mapping[str, float]) -> bool:
    """Whether an order that leans so is hardly easier to guess, and can be laid out."""
    other = drill.leaning(number, leaned)
    changed = other.rungs[number - 1]
    assert isinstance(rung.order, Balanced)
    allowed = share_allowed(rung.order.repeat_cap)
    turns = range(max(1, len(rung.rounds.turns)))
    for turn in turns:
        before, after = drill.shares(rung, turn), other.shares(changed, turn)
        if any(share > max(allowed, before[key]) for key, share in after.items()):
            return False
    plain, leaning = guessed(drill, rung), guessed(other, changed)
    more = max(leaning.last - plain.last, leaning.history - plain.history)
    return more <= GUESSED_MORE
