"""Who works with whom, against every way to do it (C18), and everybody with everybody (C19)."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import combinations

import numpy as np
import pytest

from hastatus.core.hall.attendee import LEVELS, Attendee
from hastatus.core.hall.fit import Pair, Wishes, fit
from hastatus.core.hall.pairing import Grouping, grouping
from hastatus.core.hall.rotation import rotation


def people(count: int, seed: int) -> list[Attendee]:
    rng = np.random.default_rng(seed)
    return [
        Attendee(
            key=f"p{index}",
            name=f"P {index}",
            stance="left_lead" if rng.random() < 0.8 else "right_lead",
            level=LEVELS[rng.integers(3)],
            height_m=round(float(rng.normal(1.74, 0.1)), 2),
            arm_m=round(float(rng.normal(0.7, 0.04)), 2),
        )
        for index in range(count)
    ]


def cost_of(groups: Sequence[Sequence[str]], by_key: dict[str, Attendee], wishes: Wishes) -> float:
    return sum(
        fit(by_key[one], by_key[other], wishes).cost
        for group in groups
        for one, other in combinations(group, 2)
    )


def every_way(keys: tuple[str, ...]) -> Iterator[list[tuple[str, ...]]]:
    """All ways to put everybody in pairs, with one ring of three where the number is odd."""
    if not keys:
        yield []
        return
    first, *rest = keys
    for other in rest:
        left = tuple(key for key in rest if key != other)
        yield from ([(first, other), *more] for more in every_way(left))
    if len(keys) % 2:
        for two in combinations(rest, 2):
            left = tuple(key for key in rest if key not in two)
            yield from ([(first, *two), *more] for more in every_way(left))


@pytest.mark.parametrize("count", range(2, 9))
@pytest.mark.parametrize("seed", range(3))
def test_it_costs_what_the_best_of_all_ways_costs(count: int, seed: int) -> None:
    # C18. Edmonds 1965 (memory) promises it for even numbers; a ring is tried in every way.
    here = people(count, seed)
    by_key = {person.key: person for person in here}
    met = {frozenset(("p0", "p1")): 1}
    wishes = Wishes(met=met)
    found = grouping(here, wishes)
    assert sorted(key for group in found.groups for key in group.members) == sorted(by_key)
    best = min(cost_of(way, by_key, wishes) for way in every_way(tuple(by_key)))
    assert cost_of([group.members for group in found.groups], by_key, wishes) == pytest.approx(best)


@pytest.mark.parametrize("count", [40, 41])
def test_of_forty_people_nobody_is_left_over(count: int) -> None:
    found = grouping(people(count, 1), Wishes())
    sizes = sorted(len(group.members) for group in found.groups)
    assert sizes == [2] * (count // 2 - count % 2) + [3] * (count % 2)


def test_nobody_has_a_partner_thrice_before_having_met_all() -> None:
    """Twelve evenings of fourteen people, three pairings each: thirty-six partners, and thirteen
    others: nobody is met a third time before everybody was met."""
    here = people(14, 5)
    met = Counter[Pair]()
    for _ in range(36):
        found = grouping(here, Wishes(met=dict(met)))
        for group in found.groups:
            met[frozenset(group.members)] += 1
        for person in here:
            own = [met[frozenset((person.key, other.key))] for other in here if other != person]
            assert max(own) <= 2 or min(own) >= 1


def test_who_is_held_apart_or_off_is_so_and_it_is_said() -> None:
    here = people(6, 2)
    held = Attendee(key="held", name="H", off="medical hold since Tuesday")
    apart = frozenset({frozenset(("p0", "p1"))})
    found = grouping([*here, held], Wishes(apart=apart))
    assert ("held", "medical hold since Tuesday") in found.alone
    assert all({"p0", "p1"} - set(group.members) for group in found.groups)


@pytest.mark.parametrize(
    ("count", "alone"), [(0, []), (1, [("p0", "there is nobody left to work with")])]
)
def test_too_few_people_are_told_so(count: int, alone: list[tuple[str, str]]) -> None:
    found = grouping(people(count, 1), Wishes())
    assert found == Grouping((), tuple(alone))


def test_a_pair_of_whom_one_may_not_is_no_pair() -> None:
    one, other = people(2, 1)
    held = Attendee(key=other.key, name=other.name, off="off for the day")
    found = grouping([one, held], Wishes())
    assert found.groups == ()
    assert dict(found.alone) == {
        one.key: "there is nobody left to work with", held.key: "off for the day",
    }  # fmt: skip


def test_who_comes_late_or_leaves_moves_no_settled_pair() -> None:
    here = people(8, 3)
    settled = [group.members for group in grouping(here, Wishes()).groups]
    late = Attendee(key="late", name="L", height_m=1.7, arm_m=0.7)
    with_late = grouping([*here, late], Wishes(), kept=settled)
    pairs = {frozenset(members) for members in settled}
    now = [frozenset(group.members) for group in with_late.groups]
    assert len([group for group in now if group in pairs]) == len(pairs) - 1
    assert sorted(map(len, now)) == [2, 2, 2, 3]
    # One more: they work with one of the ring, and its other two stay together.
    later = Attendee(key="later", name="M", height_m=1.7, arm_m=0.7)
    both = grouping(
        [*here, late, later], Wishes(), kept=[group.members for group in with_late.groups]
    )
    assert all(len(group.members) == 2 for group in both.groups)
    kept = {frozenset(group.members) for group in both.groups}
    assert len(kept & pairs) >= len(pairs) - 1
    # One of a pair leaves: only whom they leave alone is put elsewhere.
    gone, left = settled[0]
    without = grouping([p for p in here if p.key != gone], Wishes(), kept=settled)
    assert {frozenset(g.members) for g in without.groups if left not in g.members} <= pairs
    assert without.alone == ()


def test_unequal_on_purpose_puts_levels_apart() -> None:
    here = [
        Attendee(key=f"p{index}", name="", level="new" if index < 4 else "advanced")
        for index in range(8)
    ]
    found = grouping(here, Wishes(levels="unequal"))
    assert all(
        {here[int(key[1:])].level for key in group.members} == {"new", "advanced"}
        for group in found.groups
    )


@pytest.mark.parametrize("count", range(2, 15))
def test_in_a_rotation_everybody_meets_everybody(count: int) -> None:
    # C19, the circle method: n − 1 rounds of an even number, each two once.
    keys = [f"p{index}" for index in range(count)]
    rounds = rotation(keys)
    assert len(rounds) == (count - 1 if count % 2 == 0 else count)
    met = Counter(
        frozenset(pair) for groups in rounds for group in groups for pair in combinations(group, 2)
    )
    assert set(met) == {frozenset(pair) for pair in combinations(keys, 2)} or count == 3
    if count % 2 == 0:
        assert set(met.values()) == {1}
    for groups in rounds:
        placed = [key for group in groups for key in group]
        assert sorted(placed) == sorted(keys)
