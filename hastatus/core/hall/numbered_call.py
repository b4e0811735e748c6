"""One voice for the whole hall: a number is called, and each feeder's own card says what it means.

A card is for one feeder and one part of a round. On it each number stands once, and within that
part each number is called once: so whoever hears the numbers, and even whoever sees another pair or
has learnt one's last card, is told nothing of what comes. The calls come at moments that cannot be
guessed, in the same way as a feed sheet's.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import ceil

import numpy as np

from hastatus.core.drill.foreperiod import draw
from hastatus.core.drill.partner import PartnerDrill, PartnerRung

MOST_NUMBERS = 30
"""On one card, so that a number is found at a glance."""
FIRST_S = 4.0
"""From the start of a round to its first call, seconds."""
LEAST_APART_S = 3.0
"""A number has to be said, looked up and done."""


@dataclass(frozen=True, slots=True)
class Call:
    """One call. at_s: from the start of the round. part: which of a feeder's cards it is for."""

    at_s: float
    number: int
    part: int


@dataclass(frozen=True, slots=True)
class NumberedRound:
    """One round of calls, the same for everybody. numbers: how many each part's card has."""

    round: int
    calls: tuple[Call, ...]
    numbers: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Card:
    """What a feeder gives on each number. attacks: passages by number, the first for one."""

    pair: int
    round: int
    part: int
    attacks: tuple[str, ...]


def numbered_round(drill: PartnerDrill, rung: PartnerRung, seed: int, number: int) -> NumberedRound:
    """The calls of a round, drawn from the seed: the same seed and number give the same calls."""
    rng = np.random.default_rng((seed, number, 0))
    times = _times(drill, rung, rng)
    parts = max(1, ceil(len(times) / MOST_NUMBERS))
    sizes = [len(times) // parts + (part < len(times) % parts) for part in range(parts)]
    order = [
        (int(value) + 1, part) for part, size in enumerate(sizes) for value in rng.permutation(size)
    ]
    calls = tuple(Call(at_s, value, part) for at_s, (value, part) in zip(times, order, strict=True))
    return NumberedRound(number, calls, tuple(sizes))


def _times(drill: PartnerDrill, rung: PartnerRung, rng: np.random.Generator) -> list[float]:
    """When numbers are called: after the longest exchange and a pause that cannot be guessed."""
    longest = max(passage.beats for passage in drill.starts_on(rung)) * rung.beat_s
    least = max(LEAST_APART_S, longest)
    until_s = rung.rounds.duration_s - least
    times, at_s = list[float](), FIRST_S
    while at_s <= until_s:
        times.append(round(at_s, 3))
        pause = rung.pause
        wait_s = 0.0 if pause.kind == "stream" else float(draw(pause, 1, rng)[0])
        at_s += least + wait_s
    return times


def cards(
    shares: Mapping[str, float], rounds: Sequence[NumberedRound], pairs: int, seed: int
) -> list[Card]:
    """A card for each pair and each part of the rounds.

    shares: of each attack, by passage. Each pair has each attack as often as its share says, to the
    nearest whole call over the rounds so far; which numbers mean it is drawn for each card anew.
    """
    made = []
    for counts, round_ in zip(_counts(shares, rounds), rounds, strict=True):
        attacks = [key for key, count in counts.items() for _ in range(count)]
        for pair in range(pairs):
            rng = np.random.default_rng((seed, round_.round, 1 + pair))
            drawn = [attacks[index] for index in rng.permutation(len(attacks))]
            begin = 0
            for part, size in enumerate(round_.numbers):
                card = Card(pair, round_.round, part, tuple(drawn[begin : begin + size]))
                made.append(card)
                begin += size
    return made


def _counts(shares: Mapping[str, float], rounds: Sequence[NumberedRound]) -> list[dict[str, int]]:
    """How often each attack comes in each round: every call goes to the attack that is the furthest
    behind its share, so that what one round leaves over the next makes up for."""
    had = dict.fromkeys(shares, 0)
    counts = []
    for round_ in rounds:
        before = dict(had)
        for _ in range(sum(round_.numbers)):
            done = sum(had.values()) + 1
            furthest = max(shares, key=lambda key: shares[key] * done - had[key])
            had[furthest] += 1
        counts.append({key: had[key] - before[key] for key in shares})
    return counts


def attacks_of(card_parts: Sequence[Card], round_: NumberedRound) -> list[str]:
    """What a feeder gives, call by call, who has these cards of the round."""
    by_part = {card.part: card.attacks for card in card_parts}
    return [by_part[call.part][call.number - 1] for call in round_.calls]
