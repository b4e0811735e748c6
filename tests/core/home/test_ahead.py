"""Runs planned ahead for a phone: every window as the planner lays it out, moves to the target."""

from __future__ import annotations

import numpy as np
import pytest

from hastatus.core.home.ahead import STEP, after_words, ahead
from hastatus.core.plan.flash_limit import check_flashes
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.starter import STARTERS


@pytest.mark.parametrize("key", STARTERS)
def test_every_starter_can_be_taken_home(key: str) -> None:
    drill = STARTERS[key]()
    for rung in range(1, len(drill.rungs) + 1):
        plan = plan_run(drill, seed=7, rung=rung, rounds=2)
        one = ahead(drill, plan)
        windows = [step.window_s for step in one.steps]
        assert windows == sorted(windows)
        assert windows[one.start] == plan.window_s
        assert len(plan.rounds) == 2
        assert [laid.cues for laid in one.steps[one.start].rounds] == [
            round_plan.cues for round_plan in plan.rounds
        ]
        seen = {cue.key for cue in drill.cues if cue.channel == "see"}
        for step in one.steps:
            for laid in step.rounds:
                check_flashes([cue.at_s for cue in laid.cues if cue.cue in seen])
        if drill.is_test or drill.pace.rule == "hold" or drill.rungs[rung - 1].guide:
            assert len(windows) == 1


@pytest.mark.parametrize("quantile_s", [0.45, 0.6, 0.9])
def test_the_moves_bring_a_phone_near_the_target(quantile_s: float) -> None:
    """A student whose answers are lognormal; the target quantile of them is `quantile_s`."""
    drill = STARTERS["sound blocks, light strikes"]()
    rng = np.random.default_rng(3)
    spread, z = 0.22, 0.994  # z of 0.84
    median_s = quantile_s / np.exp(z * spread)
    window_s = 0.75
    last: list[float] = []
    for _ in range(12):  # practices; the table is made anew from where the last one ended
        one = ahead(drill, plan_run(drill, seed=1, window_s=window_s))
        place = one.start
        for _ in range(3):  # rounds
            times_s = median_s * np.exp(spread * rng.standard_normal(24))
            share = float(np.mean(times_s <= one.steps[place].window_s))
            move = next(move for move in one.moves if share >= move.at_least)
            place = min(len(one.steps) - 1, max(0, place + move.by))
        window_s = one.steps[place].window_s
        last.append(window_s)
    settled = float(np.exp(np.mean(np.log(last[4:]))))
    assert abs(np.log(settled / quantile_s)) < 1.5 * np.log(STEP)


def test_what_is_said_moves_the_window_inside_its_bounds() -> None:
    pace = STARTERS["sound blocks, light strikes"]().pace
    assert after_words(pace, 1.0, ["right"]) == 1.0
    assert after_words(pace, 1.0, ["too_easy"]) == pytest.approx(1 / STEP, abs=1e-3)
    assert after_words(pace, 1.0, ["too_hard"]) == pytest.approx(STEP**2, abs=1e-3)
    assert after_words(pace, pace.most_s, ["too_hard"] * 9) == pace.most_s
    assert after_words(pace, pace.least_s, ["too_easy"] * 9) == pace.least_s
