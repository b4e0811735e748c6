"""Where the controllers settle, against the published values."""

import math

import numpy as np
import pytest

from hastatus.core.adapt.controllers import ControllerState, fold_outcome, step
from hastatus.core.drill.solo import Pace
from hastatus.demo.population import ex_gaussian, gamma, track, two_speed


def settled_share(pace: Pace, seed: int) -> float:
    """Clean share of 20,000 cues of a logistic listener in log time, far from the bounds."""
    rng = np.random.default_rng(seed)
    state, clean = ControllerState(window_s=0.7, folded=500), 0
    for uniform in rng.random(21_000):
        chance = 1 / (1 + math.exp(-math.log(state.window_s / 0.6) / 0.15))
        fold_outcome(state, pace, clean=bool(uniform < chance))
        clean += state.folded > 1500 and uniform < chance
    return clean / 20_000


@pytest.mark.parametrize(("n", "share"), [(2, 0.707), (3, 0.794), (4, 0.841)])
def test_n_down_settles_where_levitt_says(n: int, share: float) -> None:
    # Levitt 1971, J. Acoust. Soc. Am. 49:467: 0.5^(1/n). Standard error of a share of 20,000 is
    # below 0.004; the bound of 0.015 is about four of them, the finite step included.
    pace = Pace(rule="n_down", n=n, step=0.01, least_s=0.2, most_s=5)
    assert settled_share(pace, 11) == pytest.approx(share, abs=0.015)


@pytest.mark.parametrize("target", [0.6, 0.75, 0.84, 0.9])
def test_weighted_settles_at_its_target(target: float) -> None:
    # Kaernbach 1991, Perception & Psychophysics 49:227: p·S_h = (1 − p)·S_e.
    pace = Pace(rule="weighted", target=target, step=0.01, least_s=0.2, most_s=5)
    harder, easier = step(pace, 10_000)
    assert target * harder == pytest.approx((1 - target) * easier)
    assert settled_share(pace, 12) == pytest.approx(target, abs=0.012)


def test_default_target_is_the_best_failure_rate_for_learning() -> None:
    # Wilson, Shenhav, Straccia, Cohen 2019, Nature Communications 10:4646: 15.87 % failures.
    best = 0.5 * (1 - math.erf(1 / math.sqrt(2)))
    assert best == pytest.approx(0.1587, abs=5e-5)
    assert Pace().target == pytest.approx(1 - best, abs=0.005)


@pytest.mark.parametrize("population", [ex_gaussian, gamma, two_speed])
def test_controller_follows_simulated_students(population) -> None:
    found = track(population, Pace(rule="weighted"), students=400, seed=3, start_s=1.0)
    assert found.clean_share == pytest.approx(0.84, abs=0.02)
    assert found.error_p90 <= 0.25
