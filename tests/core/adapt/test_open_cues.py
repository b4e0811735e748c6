"""Cues whose speed is open come more often, within bounds; a slow one is told when it is sure."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from benchmarks.openness import CUES, SLOW, twelve
from hastatus.core.adapt.open_cues import GUESSED_MORE, MOST, factors, slow_cue, speeds, told
from hastatus.core.adapt.weak_cues import Answered
from hastatus.core.plan.statistics import guessed
from hastatus.core.starter import STARTERS, block_on_sound_strike_on_light

DRILL = twelve()


def answers(of: int, slower: float = 0.0, seed: int = 5) -> list[Answered]:
    """Times about 0.5 s with a spread of a fifth; `slower`: of the first cue, ln time."""
    rng = np.random.default_rng(seed)
    return [
        Answered(cue, True, float(np.exp(-0.7 + slower * (cue == SLOW) + 0.2 * noise)))
        for cue in CUES
        for noise in rng.standard_normal(of)
    ]


def test_a_belief_is_the_textbook_one() -> None:
    """Two groups of known spread: Gelman et al. 2013, equation 5.20 (from memory)."""
    found = speeds(CUES, answers(4000, slower=0.2))
    # So many answers leave the prior nothing to say, and the spread is that of a mean.
    assert found[0].slower == pytest.approx(0.2, abs=0.01)
    assert found[0].spread == pytest.approx(0.2 * np.sqrt((1 + 1 / 11) / 4000), rel=0.02)
    assert found[3].slower == pytest.approx(-0.2 / 11, abs=0.01)


def test_a_cue_that_may_be_slower_comes_more_often_until_that_is_known() -> None:
    some = factors(DRILL, 1, answers(5, slower=0.22))
    assert some[SLOW] == max(some.values()) > 1.2
    assert factors(DRILL, 1, answers(400, slower=0.22)).get(SLOW, 1.0) == pytest.approx(1, abs=0.05)
    same = factors(DRILL, 1, answers(400))
    assert max(same.values(), default=1.0) < 1.25


def test_a_slow_cue_is_told_with_its_interval_and_none_where_all_are_alike() -> None:
    slow = slow_cue(CUES, answers(80, slower=0.25))
    assert slow is not None
    assert slow.cue == SLOW
    assert 1 < slow.low < slow.factor < slow.high
    assert "% more slowly" in told(slow, "bell")
    seeds = range(40)
    assert sum(slow_cue(CUES, answers(40, seed=seed)) is not None for seed in seeds) <= 2


@settings(max_examples=40)
@given(st.lists(st.tuples(st.sampled_from(CUES), st.floats(0.1, 3.0)), max_size=300))
def test_factors_keep_their_bounds_and_the_order_stays_open(found: list[tuple[str, float]]) -> None:
    leaned = factors(DRILL, 1, [Answered(cue, True, time) for cue, time in found])
    assert all(1 / MOST <= factor <= MOST for factor in leaned.values())
    if leaned:
        assert sum(leaned.get(cue, 1.0) for cue in CUES) == pytest.approx(len(CUES), abs=0.1)
        other = DRILL.leaning(1, leaned)
        plain, leaning = guessed(DRILL, DRILL.rungs[0]), guessed(other, other.rungs[0])
        assert leaning.history - plain.history <= GUESSED_MORE


@pytest.mark.parametrize("name", STARTERS)
def test_every_starter_can_lean_without_being_guessed(name: str) -> None:
    drill = STARTERS[name]()
    rng = np.random.default_rng(8)
    for number, rung in enumerate(drill.rungs, start=1):
        keys = [cue.key for cue in drill.cues_on(rung) if not cue.is_catch]
        known = [Answered(key, True, float(rng.uniform(0.3, 0.9))) for key in keys * 6]
        leaned = drill.leaning(number, factors(drill, number, known))
        if leaned is drill:
            continue
        plain, leaning = guessed(drill, rung), guessed(leaned, leaned.rungs[number - 1])
        assert leaning.history <= plain.history + GUESSED_MORE
        assert leaning.last <= plain.last + GUESSED_MORE


def test_few_answers_wrong_ones_and_drills_that_say_no_lean_nowhere() -> None:
    assert factors(DRILL, 1, answers(1)) == {}
    assert factors(DRILL, 1, [Answered(cue, False, None) for cue in CUES * 20]) == {}
    known = answers(5, slower=0.3)
    for changes in ({"open_cues": False}, {"weak_cues": 1.5}):
        other = DRILL.model_copy(update={"pace": DRILL.pace.model_copy(update=changes)})
        assert factors(other, 1, known) == {}
    assert factors(DRILL.model_copy(update={"purpose": "baseline"}), 1, known) == {}
    plain = block_on_sound_strike_on_light()
    assert speeds([plain.cues[0].key], known) == []
