"""Figures against an independent library (SciPy), which implements the same published formulas."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats as reference

from hastatus.core.plan.statistics import entropy
from hastatus.core.read.proportion import wilson
from hastatus.core.read.summary import quantile, quantile_interval

TIMES = st.lists(st.integers(150, 1500).map(float), min_size=1, max_size=60, unique=True)


@settings(max_examples=200)
@given(st.integers(1, 400), st.data())
def test_wilson_is_scipys(trials: int, data: st.DataObject) -> None:
    # Wilson 1927, without continuity correction.
    successes = data.draw(st.integers(0, trials))
    expected = reference.binomtest(successes, trials).proportion_ci(method="wilson")
    found = wilson(successes, trials)
    assert found.low == pytest.approx(expected.low, abs=1e-12)
    assert found.high == pytest.approx(expected.high, abs=1e-12)


@settings(max_examples=200)
@given(TIMES, st.lists(st.integers(150, 1500).map(lambda ms: ms + 0.5), max_size=30), st.data())
def test_censored_quantiles_are_kaplan_and_meiers(
    times: list[float], censored: list[float], data: st.DataObject
) -> None:
    # Kaplan and Meier 1958, J. Am. Stat. Assoc. 53:457, as SciPy's empirical distribution.
    share = data.draw(st.floats(0.05, 0.95))
    fitted = reference.ecdf(reference.CensoredData(uncensored=times, right=censored)).cdf
    reached = [
        time
        for time, below in zip(fitted.quantiles, fitted.probabilities, strict=True)
        if below >= share - 1e-12 and time in times
    ]
    assert quantile(times, censored, share) == (reached[0] if reached else None)


def test_missed_cues_pull_a_quantile_up_instead_of_vanishing() -> None:
    times = [float(time) for time in range(400, 480, 4)]
    without = quantile(times, [], 0.84)
    with_missed = quantile(times, [1200.0] * 2, 0.84)
    assert without is not None
    assert with_missed is not None
    assert with_missed > without
    assert quantile(times, [1200.0] * 10, 0.84) is None  # more than 16 % never came


def test_the_interval_of_a_quantile_covers_it_as_often_as_it_says() -> None:
    # 95 % by construction; 300 samples of 60 from an ex-Gaussian with fixed seed (binomial slack).
    law = reference.exponnorm(K=120 / 50, loc=500, scale=50)
    truth = float(law.ppf(0.84))
    rng = np.random.default_rng(8)
    covered = 0
    for _ in range(300):
        low, high = quantile_interval(law.rvs(60, random_state=rng).tolist(), [], 0.84)
        covered += low is not None and low <= truth and (high is None or truth <= high)
    assert 0.90 <= covered / 300 <= 0.99
    # The median, 4,000 samples: an interval of 90 % would hold it in 0.90 ± 0.014 (3 SE).
    held = 0
    for _ in range(4000):
        low, high = quantile_interval(rng.normal(0, 1, 61).tolist(), [], 0.5)
        held += low is not None and high is not None and low <= 0 <= high
    assert 0.93 <= held / 4000 <= 0.975


@settings(max_examples=100)
@given(st.lists(st.floats(0.01, 10), min_size=1, max_size=8))
def test_bits_of_a_cue(weights: list[float]) -> None:
    # Shannon 1948, Bell System Technical Journal 27:379.
    shares = [weight / sum(weights) for weight in weights]
    assert entropy(shares) == pytest.approx(reference.entropy(shares, base=2), abs=1e-9)
    assert entropy(shares) <= math.log2(len(shares)) + 1e-9
