"""Two runs set against each other: no difference is told where there is none, a clear one is."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hastatus.core.loop import results
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.read.comparison import ScoredRun, compare_runs
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.core.starter import STARTERS
from hastatus.demo.student import Habits, simulate

DRILL = STARTERS["sound blocks, light strikes"]()
USUAL = Habits(tiring_ms=0)


def run(seed: int, habits: Habits = USUAL) -> ScoredRun:
    setup = Setup(DRILL, plan_run(DRILL, seed=seed), Device())
    scored = results.read(setup, simulate(setup, habits, seed)[0], closed=False)
    return ScoredRun(DRILL, 1, True, scored.responses)


def test_two_runs_of_one_who_has_not_changed_differ_as_often_as_the_interval_says() -> None:
    inside, told, of = 0, 0, 16
    for pair in range(of):
        found = compare_runs(run(2 * pair), run(2 * pair + 1)).groups[0].found
        assert found is not None
        inside += found.low_ms <= 0 <= found.high_ms
        told += found.told
    assert inside >= 13  # of 16 at 95 %: fewer come once in 100 times
    assert told <= 1


def test_who_is_slower_is_told_by_how_much_and_on_what() -> None:
    slower = Habits(tiring_ms=0, mu_ms=USUAL.mu_ms + 120)
    found = compare_runs(run(1), run(2, slower))
    whole = found.groups[0]
    assert whole.key == "all"
    assert whole.found is not None
    assert whole.found.told
    assert whole.found.low_ms <= 120 <= whole.found.high_ms
    keys = [group.key for group in found.groups]
    assert keys[1:5] == ["lead", "rear", "hear", "see"]
    assert "straight lead" in keys
    assert found.doubts == []


def test_the_other_way_round_is_the_same_with_the_other_sign() -> None:
    one, other = run(5), run(6)
    there, back = compare_runs(one, other).groups[0].found, compare_runs(other, one).groups[0].found
    assert there is not None
    assert back is not None
    assert there.middle_ms == pytest.approx(-back.middle_ms)
    assert (there.low_ms, there.high_ms) == pytest.approx((-back.high_ms, -back.low_ms), abs=1e-6)


def test_what_can_hardly_be_compared_is_said() -> None:
    one = run(1)
    assert compare_runs(one, replace(one, rung=2)).doubts == [
        "one is on rung 1, the other on rung 2"
    ]
    touched = [replace(each, timed_with="touch") for each in one.responses]
    doubts = compare_runs(one, replace(one, calibrated=False, responses=touched)).doubts
    assert len(doubts) == 2
    other = next(make() for name, make in STARTERS.items() if make().title != DRILL.title)
    assert compare_runs(one, replace(one, drill=other)).doubts[0].startswith("they are runs of")
    nothing = compare_runs(one, replace(one, responses=[]))
    assert nothing.groups == []
