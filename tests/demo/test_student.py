"""The simulated student is what it says: its times, its faults, its bottleneck."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest
from scipy import stats as reference

from hastatus.core.loop.live_run import rescore
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.read.summary import grouped
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch, Input
from hastatus.core.run.setup import Setup
from hastatus.core.score.response import Response
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.demo.population import ex_gaussian, gamma, two_speed
from hastatus.demo.student import BOTTLENECK_MS, Habits, simulate

DRILL = block_on_sound_strike_on_light()
PLAIN = Habits(
    mu_ms=520, sigma_ms=50, tau_ms=110, rear_ms=0, hear_ms=0, tiring_ms=0, lapses=0, wrong=0,
    jumps=0, answers_catch=0,
)  # fmt: skip


def one_run(habits: Habits, rung: int, seed: int) -> list[Response]:
    setup = Setup(DRILL, plan_run(DRILL, seed=seed, rung=rung, window_s=2.0), Device())
    return rescore(setup, simulate(setup, habits, seed)[0]).responses


def runs(habits: Habits, rung: int = 1, count: int = 12) -> list[Response]:
    return [each for seed in range(count) for each in one_run(habits, rung, seed)]


def test_times_are_ex_gaussian() -> None:
    # Luce 1986 (from memory): a normal plus an exponential time. Slow answers are cut off where
    # listening ends, far out in the tail; a right generator fails p > 0.001 once in 1,000 seeds.
    times = [run.time_ms for run in runs(PLAIN) if run.time_ms is not None]
    law = reference.exponnorm(K=110 / 50, loc=520, scale=50)
    assert len(times) > 400
    assert reference.kstest(times, law.cdf).pvalue > 0.001


def test_habits_are_found_again_in_the_figures() -> None:
    faulty = Habits(rear_ms=120, hear_ms=0, lapses=0.08, wrong=0.06, jumps=0.03, answers_catch=0.3)
    found = runs(faulty)
    asked = [each for each in found if each.asked_technique]
    share = {
        outcome: np.mean([each.outcome == outcome for each in asked])
        for outcome in ("missed", "wrong", "jumped")
    }
    assert share["missed"] == pytest.approx(0.08, abs=0.04)
    assert share["wrong"] == pytest.approx(0.06, abs=0.03)
    assert share["jumped"] == pytest.approx(0.03, abs=0.02)
    catch = [each for each in found if not each.asked_technique]
    assert np.mean([each.outcome != "held" for each in catch]) == pytest.approx(0.3, abs=0.17)
    right = [each for each in asked if each.outcome in ("clean", "late")]
    medians = {
        side: np.median([each.time_ms for each in group])
        for side, group in grouped(right, lambda each: each.asked_side).items()
    }
    assert medians["rear"] - medians["lead"] == pytest.approx(120, abs=40)


def test_two_cues_at_once_are_answered_one_after_the_other() -> None:
    # A bottleneck in choosing the response (Pashler 1994, from memory): the second one waits.
    together: list[float] = []
    for seed in range(12):
        found = [each for each in one_run(PLAIN, 3, seed) if each.time_ms is not None]
        answered = sorted(each.onset_ms + (each.time_ms or 0) for each in found)
        assert min(later - earlier for earlier, later in pairwise(answered)) > BOTTLENECK_MS - 1e-6
        together += [each.time_ms or 0 for each in found if each.gap_ms is not None]
    assert len(together) > 40
    apart = [run.time_ms for run in runs(PLAIN, rung=2) if run.time_ms is not None]
    assert np.median(together) > np.median(apart)


def test_the_same_seed_is_the_same_run() -> None:
    setup = Setup(DRILL, plan_run(DRILL, seed=2), Device())
    assert simulate(setup, PLAIN, 7)[0] == simulate(setup, PLAIN, 7)[0]
    assert simulate(setup, PLAIN, 7)[0] != simulate(setup, PLAIN, 8)[0]


def test_batches_keep_their_promise() -> None:
    """Nothing comes in a later batch that an earlier one said was past."""
    setup = Setup(DRILL, plan_run(DRILL, seed=3, rung=3), Device())
    batches: list[Batch] = simulate(setup, Habits(), 3)[0]
    assert [batch.number for batch in batches] == list(range(len(batches)))
    promised = 0.0
    for batch in batches:
        assert all(event.t_ms >= promised for event in batch.events)
        promised = max(promised, batch.until_ms)
    assert batches[-1].last
    assert sum(isinstance(event, Input) for batch in batches for event in batch.events) > 80


@pytest.mark.parametrize("population", [ex_gaussian, gamma, two_speed])
def test_populations_stay_in_their_ranges(population) -> None:
    rng = np.random.default_rng(6)
    for _ in range(30):
        subject = population(rng)
        times = subject.draw(rng, 4000)
        assert 0.0 <= subject.lapses <= 0.06
        assert 0.25 < np.median(times) < 0.9
        truth = subject.quantile(0.84, rng)
        met = np.mean(times <= truth) * (1 - subject.lapses)
        assert met == pytest.approx(0.84, abs=0.025)
