"""One number for all: what it tells whoever has no card, and what each pair gets."""

from __future__ import annotations

from collections import Counter
from itertools import pairwise

import numpy as np
import pytest

from hastatus.core.hall.numbered_call import (
    LEAST_APART_S,
    MOST_NUMBERS,
    attacks_of,
    cards,
    numbered_round,
)
from hastatus.core.starter.partner import PARTNER_STARTERS

PAIRS = 6
FED = [
    (name, index)
    for name, make in PARTNER_STARTERS.items()
    for index, rung in enumerate(make().rungs)
    if len(make().shares(rung)) > 1 and rung.order.kind not in ("free", "both")
]


def information_bits(pairs: list[tuple[int, str]]) -> float:
    """Mutual information of number and attack, less the bias of so small a sample (Miller 1955,
    memory: (rows − 1)(columns − 1) / 2n nats)."""
    joint = Counter(pairs)
    numbers, attacks = Counter(one for one, _ in pairs), Counter(other for _, other in pairs)
    total = len(pairs)
    found = sum(
        count / total * np.log2(count * total / (numbers[one] * attacks[other]))
        for (one, other), count in joint.items()
    )
    bias = (len(numbers) - 1) * (len(attacks) - 1) / (2 * total * np.log(2))
    return float(found - bias)


@pytest.mark.parametrize(("name", "index"), FED)
def test_a_number_tells_nothing_without_the_card(name: str, index: int) -> None:
    """Over many rounds, from one's own pair and from the neighbours'; and each number once a card,
    so that what was learnt of it never comes again."""
    drill = PARTNER_STARTERS[name]()
    rung = drill.rungs[index]
    shares = drill.shares(rung)
    own, across = list[tuple[int, str]](), list[tuple[str, str]]()
    for seed in range(150):
        round_ = numbered_round(drill, rung, seed, 1)
        for part in range(len(round_.numbers)):
            called = [call.number for call in round_.calls if call.part == part]
            assert sorted(called) == list(range(1, round_.numbers[part] + 1))
            assert len(called) <= MOST_NUMBERS
        made = cards(shares, [round_], PAIRS, seed)
        given = [
            attacks_of([card for card in made if card.pair == pair], round_)
            for pair in range(PAIRS)
        ]
        for attacks in given:
            own += [
                (call.number, attack) for call, attack in zip(round_.calls, attacks, strict=True)
            ]
        across += [pair for one, other in pairwise(given) for pair in zip(one, other, strict=True)]
    assert information_bits(own) < 0.05
    as_numbers = {key: place for place, key in enumerate(shares)}
    assert information_bits([(as_numbers[one], other) for one, other in across]) < 0.05


@pytest.mark.parametrize(("name", "index"), FED)
def test_each_pair_has_its_shares_and_time_for_each_call(name: str, index: int) -> None:
    drill = PARTNER_STARTERS[name]()
    rung = drill.rungs[index]
    shares = drill.shares(rung)
    rounds = [numbered_round(drill, rung, 7, number) for number in range(1, 5)]
    made = cards(shares, rounds, PAIRS, 7)
    for pair in range(PAIRS):
        attacks = [
            attack
            for round_ in rounds
            for attack in attacks_of(
                [card for card in made if (card.pair, card.round) == (pair, round_.round)], round_
            )
        ]
        count = Counter(attacks)
        for key, share in shares.items():
            # To the nearest whole call; of fifty calls one is 0.02.
            assert abs(count[key] / len(attacks) - share) <= max(0.02, 1 / len(attacks))
    longest = max(passage.beats for passage in drill.starts_on(rung)) * rung.beat_s
    for round_ in rounds:
        apart = [later.at_s - sooner.at_s for sooner, later in pairwise(round_.calls)]
        assert min(apart) >= max(LEAST_APART_S, longest) - 0.002
        assert round_.calls[-1].at_s + longest <= rung.rounds.duration_s + 1e-6


def test_the_same_seed_gives_the_same_and_another_round_other_cards() -> None:
    drill = PARTNER_STARTERS["compact guard"]()
    rung = drill.rungs[1]
    one, again = (numbered_round(drill, rung, 3, 1) for _ in range(2))
    assert one == again
    assert one.calls != numbered_round(drill, rung, 3, 2).calls
    shares = drill.shares(rung)
    assert cards(shares, [one], PAIRS, 3) == cards(shares, [again], PAIRS, 3)
    neighbours = cards(shares, [one], 2, 3)
    assert neighbours[0].attacks != neighbours[1].attacks
