"""Weak cues come more often, within bounds (common practice, no source)."""

from __future__ import annotations

from collections import Counter

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.adapt.weak_cues import Answered, weights
from hastatus.core.drill.settings import Rotating, SetOrder
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.starter import block_on_sound_strike_on_light

PLAIN = block_on_sound_strike_on_light()
ASKING = [cue.key for cue in PLAIN.cues if not cue.is_catch]


def leaning(most: float) -> Drill:
    return PLAIN.model_copy(update={"pace": PLAIN.pace.model_copy(update={"weak_cues": most})})


def answers(clean: dict[str, int], of: int = 20) -> list[Answered]:
    return [Answered(key, place < clean.get(key, of)) for key in ASKING for place in range(of)]


def test_the_weak_cue_comes_more_often_and_the_plan_says_so() -> None:
    drill = leaning(1.5)
    factors = weights(drill, answers({"bell": 6, "low_knock": 18, "lead_light": 17}))
    assert factors["bell"] == max(factors.values()) > 1.3
    plan = plan_run(drill, seed=4, rung=2, weights=factors)
    assert plan.weights == factors
    before = plan_run(drill, seed=4, rung=2)

    def share(of: object) -> float:
        counts = Counter(cue.cue for each in of.rounds for cue in each.cues)  # type: ignore[attr-defined]
        return counts["bell"] / sum(counts[key] for key in ASKING)

    assert share(plan) > 1.15 * share(before)


def test_a_drill_that_does_not_ask_for_it_keeps_its_shares() -> None:
    assert weights(PLAIN, answers({"bell": 0})) == {}
    assert plan_run(PLAIN, seed=4, rung=2, weights={}) == plan_run(PLAIN, seed=4, rung=2)


def test_few_answers_say_nothing() -> None:
    assert weights(leaning(2.0), answers({"bell": 0}, of=7)) == {}


@pytest.mark.parametrize("order", [SetOrder(), Rotating()])
def test_an_order_with_a_sequence_of_its_own_is_left_alone(order: SetOrder | Rotating) -> None:
    rungs = tuple(rung.model_copy(update={"order": order}) for rung in PLAIN.rungs)
    drill = leaning(2.0).model_copy(update={"rungs": rungs})
    leant, plain = (plan_run(drill, seed=1, weights=each) for each in ({"bell": 2.0}, {}))
    assert [[cue.cue for cue in each.cues] for each in leant.rounds] == [
        [cue.cue for cue in each.cues] for each in plain.rounds
    ]


@given(
    st.lists(st.tuples(st.sampled_from(ASKING), st.booleans()), max_size=200),
    st.sampled_from([1.0, 1.2, 1.5, 2.0]),
)
def test_factors_keep_their_bounds(found: list[tuple[str, bool]], most: float) -> None:
    factors = weights(leaning(most), [Answered(key, clean) for key, clean in found])
    for factor in factors.values():
        assert 1 / most - 0.01 <= factor <= most
    if most == 1.0:
        assert not factors


@pytest.mark.parametrize("clean", [0, 20])
def test_a_student_who_fails_all_or_none_leans_nowhere(clean: int) -> None:
    assert weights(leaning(2.0), answers(dict.fromkeys(ASKING, clean))) == {}
