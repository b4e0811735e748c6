"""Other size, other follow-up: what follows is a fact of the pair, not a draw (common practice, no
source)."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.drill.checks.partner import find
from hastatus.core.drill.pair_facts import (
    NOTHING_KNOWN,
    PAIR_FACT_NAMES,
    PairFacts,
    contradict,
    resolved,
    turned_fact,
)
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.starter.partner import PARTNER_STARTERS

DRILL = PARTNER_STARTERS["swing out of the loop"]()
FACTS = st.builds(
    PairFacts, st.floats(-0.4, 0.4), st.floats(-0.3, 0.3), st.booleans(), st.booleans(),
    st.booleans(),
)  # fmt: skip


def followed(facts: PairFacts) -> dict[int, set[str]]:
    """What follows a swing on long sheets, by who feeds."""
    found: dict[int, set[str]] = {0: set(), 1: set()}
    for seed in range(12):
        sheet = feed_sheet(
            DRILL, seed=seed, rung=2, facts=lambda a, b: facts if a < b else facts.turned()
        )
        for round_ in sheet.rounds:
            for turn in round_.turns:
                keys = [part.passage for feed in turn.feeds for part in feed.path]
                found[turn.feeder] |= {after for one, after in pairwise(keys) if one == "swing"}
    return found


@pytest.mark.parametrize(
    ("taller_m", "first", "second"),
    [(0.12, "taller", "smaller"), (-0.12, "smaller", "taller"), (0.03, "even", "even")],
)
def test_the_follow_up_is_that_of_who_feeds(taller_m: float, first: str, second: str) -> None:
    """With the roles the fact turns round too."""
    assert followed(PairFacts(taller_m=taller_m)) == {0: {first}, 1: {second}}


def test_of_a_pair_that_nobody_knows_any_may_follow() -> None:
    found = followed(NOTHING_KNOWN)
    assert found[0] | found[1] == {"taller", "smaller", "even"}


@given(FACTS)
def test_facts_turn_with_the_roles_and_one_of_three_heights_holds(facts: PairFacts) -> None:
    for fact in PAIR_FACT_NAMES:
        assert facts.holds(fact, 0.05) == facts.turned().holds(turned_fact(fact), 0.05)
        for other in PAIR_FACT_NAMES:
            if contradict(fact, other):
                assert not (facts.holds(fact, 0.05) and facts.holds(other, 0.05))
    heights = ("feeder_taller", "defender_taller", "same_height")
    assert sum(bool(facts.holds(fact, 0.05)) for fact in heights) == 1  # type: ignore[arg-type]
    for side in ("feeder", "defender"):
        hands = (f"{side}_left_handed", f"{side}_right_handed")
        assert sum(bool(facts.holds(fact, 0.05)) for fact in hands) == 1  # type: ignore[arg-type]
    assert facts.turned().turned() == facts
    left = resolved(DRILL, facts).written("swing").then
    assert len(left) == 1


def test_facts_that_contradict_each_other_are_named_with_their_mend() -> None:
    document = DRILL.model_dump(mode="json")
    taller = next(each for each in document["passages"] if each["key"] == "taller")
    taller["then"] = [{"gives": "goes_on", "fact": "defender_taller", "to": "even"}]
    place = document["passages"].index(taller)
    drill = PartnerDrill.model_validate(document)
    found = [each for each in find(drill) if each.where == f"passages.{place}.then.0.fact"]
    assert [each.level for each in found] == ["hint"]
    assert "never come to" in found[0].what
    assert found[0].mend is not None
    taller["then"][0]["fact"] = "feeder_taller"  # the same fact once more is none the worse
    assert not [
        each for each in find(PartnerDrill.model_validate(document)) if "fact" in each.where
    ]
