"""Distribution, differences, choice, trends and reliability, against published values."""

from __future__ import annotations

import csv
from collections import defaultdict
from itertools import combinations
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats

from hastatus.core.adapt.needed_time import needed
from hastatus.core.adapt.window_belief import TimedOutcome, window_s
from hastatus.core.plan.prior import Prior
from hastatus.core.read.choice_cost import bits, choice_cost, choice_cost_of_rounds
from hastatus.core.read.dependence import Dependence, Place, dependence
from hastatus.core.read.difference import Group, difference
from hastatus.core.read.exgaussian import ExGaussian, fit
from hastatus.core.read.expected_share import Measured
from hastatus.core.read.reliability import (
    agreement_interval,
    reliability,
    smallest_change,
    typical_error,
    typical_error_interval,
)
from hastatus.core.read.trend import course_slope, robust_slope

SLEEP = Path(__file__).parents[1] / "reference" / "sleepstudy.csv"


@settings(max_examples=60, derandomize=True)
@given(
    mu=st.floats(200, 900),
    sigma=st.floats(15, 120),
    tau=st.floats(20, 400),
    where=st.floats(-3, 8),
)
def test_ex_gaussian_density_and_distribution(
    mu: float, sigma: float, tau: float, where: float
) -> None:
    # scipy.stats.exponnorm as reference: K = tau / sigma, loc = mu, scale = sigma.
    ours = ExGaussian(mu, sigma, tau)
    reference = stats.exponnorm(tau / sigma, loc=mu, scale=sigma)
    at = np.array([mu + where * sigma])
    assert np.exp(ours.log_density(at)) == pytest.approx(reference.pdf(at), rel=1e-6, abs=1e-12)
    assert ours.share_before(at) == pytest.approx(reference.cdf(at), abs=1e-9)
    assert [ours.mean, ours.variance, ours.skew] == pytest.approx(
        [float(stat) for stat in reference.stats("mvs")]
    )
    assert ours.share_before(np.array([ours.quantile(0.84)]))[0] == pytest.approx(0.84, abs=1e-6)


def test_ex_gaussian_moments() -> None:
    # Moments by definition: mu + tau, sigma^2 + tau^2, 2 tau^3 / (sigma^2 + tau^2)^1.5; of a
    # million draws with a fixed seed, bounds six standard errors wide.
    rng = np.random.default_rng(10)
    drawn = rng.normal(400, 50, 1_000_000) + rng.exponential(120, 1_000_000)
    ours = ExGaussian(400, 50, 120)
    assert drawn.mean() == pytest.approx(ours.mean, abs=0.8)
    assert drawn.var() == pytest.approx(ours.variance, rel=0.02)
    assert stats.skew(drawn) == pytest.approx(ours.skew, abs=0.06)


@pytest.mark.parametrize("limit", [None, 620.0])
def test_ex_gaussian_parameters_are_recovered(limit: float | None) -> None:
    """Over 30 students of 400 answers; one in five of them censored where there is a limit."""
    rng = np.random.default_rng(12)
    found = []
    for _ in range(30):
        times = rng.normal(420, 45, 400) + rng.exponential(110, 400)
        kept = times if limit is None else times[times <= limit]
        fitted = fit(kept.tolist(), [] if limit is None else [limit] * int((times > limit).sum()))
        assert fitted is not None
        found.append((fitted.mu, fitted.sigma, fitted.tau))
    # Standard errors of the means of 30 are about 1.5, 1 and 2 ms; the bounds are four of them.
    middle = np.mean(found, axis=0)
    assert middle == pytest.approx([420, 45, 110], abs=8)


def test_lapses_do_not_lengthen_the_tail() -> None:
    """One cue in ten is never answered, long after the tail has ended; means of 30 students."""
    rng = np.random.default_rng(13)
    found = []
    for _ in range(30):
        times = rng.normal(420, 45, 72) + rng.exponential(110, 72)
        fitted = fit(times.tolist(), [1200.0] * 8)
        assert fitted is not None
        found.append((fitted.mu, fitted.sigma, fitted.tau))
    assert np.mean(found, axis=0) == pytest.approx([420, 45, 110], abs=12)


def test_a_side_difference_is_inside_its_interval_as_often_as_it_says() -> None:
    """2,000 rounds of 30 and 40 answers, one side 60 ms slower: 93.5 to 96.5 % coverage."""
    rng = np.random.default_rng(2000)
    inside = 0
    for _ in range(2000):
        lead = rng.normal(450, 50, 40) + rng.exponential(100, 40)
        rear = rng.normal(510, 50, 30) + rng.exponential(100, 30)
        found = difference(Group("lead", lead.tolist()), Group("rear", rear.tolist()))
        assert found is not None
        inside += found.low_ms <= 60 <= found.high_ms
    assert 0.935 <= inside / 2000 <= 0.965


def test_a_side_difference_holds_where_some_answers_never_come() -> None:
    """The same with a limit that about one answer in eight does not keep."""
    rng = np.random.default_rng(2001)
    inside = 0
    for _ in range(1000):
        groups = []
        for name, mu in (("lead", 450), ("rear", 510)):
            times = rng.normal(mu, 50, 40) + rng.exponential(100, 40)
            late = times > 750
            groups.append(Group(name, times[~late].tolist(), [750.0] * int(late.sum())))
        found = difference(*groups)
        assert found is not None
        inside += found.low_ms <= 60 <= found.high_ms
    # A slow tail cut off on both sides alike makes the interval wider, not wrong.
    assert 0.93 <= inside / 1000 <= 0.99


def test_too_few_answers_make_no_difference() -> None:
    few = Group("lead", [400.0] * 7)
    many = Group("rear", [500.0 + place for place in range(20)])
    assert difference(few, many) is None
    assert difference(Group("lead", [], [900.0] * 9), many) is None


def test_choice_cost_is_recovered() -> None:
    # Hick 1952; Hyman 1953 (memory): linear in bits. A made set, intercept 0.20 s, 0.15 s a bit.
    rng = np.random.default_rng(8)
    inside = 0
    for _ in range(300):
        times = {
            n: (0.20 + 0.15 * bits(n) + rng.exponential(0.08, 25) - 0.08).tolist()
            for n in (1, 2, 4, 8)
        }
        found = choice_cost(times)
        assert found is not None
        assert found.base_s == pytest.approx(0.20, abs=0.06)
        inside += found.low_s <= 0.15 <= found.high_s
    assert 0.91 <= inside / 300 <= 0.985  # 95 %, within three standard errors
    exact = choice_cost({n: [0.2 + 0.15 * bits(n, "hick")] * 9 for n in (1, 2, 4)}, "hick")
    assert exact is not None
    assert [exact.base_s, exact.cost_s] == pytest.approx([0.2, 0.15])
    assert bits(3, "hick") == 2


def test_slopes_over_days_of_short_sleep() -> None:
    # Belenky et al. 2003, J. Sleep Res. 12:1; Bates et al. 2015, J. Stat. Softw. 67(1): mean of
    # the people's own lines 251.405 ms + 10.467 ms a day; person 308: 244.19 + 21.76.
    people: dict[str, tuple[list[float], list[float]]] = defaultdict(lambda: ([], []))
    with SLEEP.open() as file:
        for row in csv.DictReader(file):
            people[row["Subject"]][0].append(float(row["Days"]))
            people[row["Subject"]][1].append(float(row["Reaction"]))
    assert len(people) == 18
    days = [day for one in people.values() for day in one[0]]
    times = [ms for one in people.values() for ms in one[1]]
    whose = [person for person, one in people.items() for _ in one[0]]
    common = course_slope(days, times, whose)  # all had the same days: the mean of their own lines
    assert common is not None
    assert [common.intercept, common.slope] == pytest.approx([251.405, 10.467], abs=0.001)
    own = course_slope(*people["308"], ["308"] * len(people["308"][0]))
    assert own is not None
    assert [own.intercept, own.slope] == pytest.approx([244.19, 21.76], abs=0.01)


@settings(max_examples=40, derandomize=True)
@given(points=st.lists(st.tuples(st.integers(0, 30), st.floats(-50, 50)), min_size=8, max_size=14))
def test_robust_slope_is_the_median_of_all_pairs(points: list[tuple[int, float]]) -> None:
    # Theil 1950, Sen 1968: by brute force over all pairs with different x.
    x, y = [float(point[0]) for point in points], [point[1] for point in points]
    slopes = [
        (y[b] - y[a]) / (x[b] - x[a]) for a, b in combinations(range(len(x)), 2) if x[a] != x[b]
    ]
    found = robust_slope(x, y)
    if found is None:
        assert len(set(x)) < 4  # a rank test needs more than a few places
        return
    assert found.slope == pytest.approx(float(np.median(slopes)))
    assert found.low <= found.slope <= found.high


def test_a_bottleneck_shows_as_a_slope_of_minus_one() -> None:
    # Welford 1952; Pashler 1994 (memory): while the first answer blocks the second, each ms of gap
    # is a ms less of waiting. A made bottleneck of 450 ms; gaps from 100 to 350 ms.
    rng = np.random.default_rng(25)
    gaps = rng.uniform(100, 350, 150)
    times = 420 + np.maximum(0, 450 - gaps) + rng.normal(0, 25, 150)
    found = robust_slope(gaps.tolist(), times.tolist())
    assert found is not None
    assert found.low <= -1 <= found.high
    assert found.slope == pytest.approx(-1, abs=0.12)


SHROUT_FLEISS = [
    [9, 2, 5, 8], [6, 1, 3, 2], [8, 4, 6, 8], [7, 1, 2, 6], [10, 5, 6, 9], [6, 2, 4, 7],
]  # fmt: skip


def test_intraclass_correlations() -> None:
    # Shrout and Fleiss 1979, Psychol. Bull. 86:420, their example: 0.17, 0.29, 0.71.
    found = reliability(SHROUT_FLEISS)
    assert found is not None
    assert found.one_way == pytest.approx(0.17, abs=0.005)
    assert found.agreement == pytest.approx(0.29, abs=0.005)
    assert found.consistency == pytest.approx(0.71, abs=0.006)
    assert reliability([[1, 2]]) is None
    assert reliability([[3, 3], [3, 3]]) is None


def test_typical_error_and_the_smallest_real_change() -> None:
    # Hopkins 2000, Sports Med. 30:1: SD of the differences / sqrt 2. Differences 10, -4, 6, 0, 8:
    # SD by hand sqrt(136 / 4) = 5.831.
    pairs = [[100, 110], [104, 100], [90, 96], [80, 80], [95, 103]]
    error = typical_error(pairs)
    assert error == pytest.approx(5.831 / 2**0.5, abs=0.001)
    # Weir 2005, J. Strength Cond. Res. 19:231: 1.96 * sqrt 2 * typical error.
    assert error is not None
    assert smallest_change(error) == pytest.approx(1.96 * 5.831, abs=0.002)
    # A steady gain is no noise; a made set with noise of 12 ms and a gain of 5 ms a test.
    rng = np.random.default_rng(15)
    made = 400 + 5 * np.arange(6) + rng.normal(0, 12, (200, 6))
    assert typical_error(made.tolist()) == pytest.approx(12, rel=0.06)
    assert typical_error([[400.0]]) is None


def test_the_interval_of_an_intraclass_correlation() -> None:
    """McGraw and Wong 1996, Psychol. Methods 1:30, on the table of Shrout and Fleiss 1979: 0.02 to
    0.76 for ICC(2,1), as the usual packages print it (memory)."""
    table = [[9, 2, 5, 8], [6, 1, 3, 2], [8, 4, 6, 8], [7, 1, 2, 6], [10, 5, 6, 9], [6, 2, 4, 7]]
    assert agreement_interval(table) == pytest.approx((0.02, 0.76), abs=0.005)


def test_the_interval_of_a_typical_error() -> None:
    """χ² at 9 degrees of freedom: 2.700 and 19.023 (tables)."""
    low, high = typical_error_interval(10.0, 9)
    assert (low, high) == pytest.approx(
        (10 * (9 / 19.023) ** 0.5, 10 * (9 / 2.700) ** 0.5), rel=1e-3
    )


@pytest.mark.parametrize("phi", [0.0, 0.3, 0.6])
def test_answers_that_go_together_widen_as_a_first_order_series_does(phi: float) -> None:
    """The variance of the mean of an AR(1) is (1 + φ)/(1 − φ) times that of independent answers."""
    rng = np.random.default_rng(31)
    values, last = [], 0.0
    for _ in range(4000):
        last = phi * last + float(rng.normal(0, 100)) * (1 - phi**2) ** 0.5
        values.append(last)
    places = [Place(1, number) for number in range(len(values))]
    found = dependence(values, places)
    assert found.lag == pytest.approx(phi, abs=0.06)  # four standard errors
    alone = Dependence(phi, 0.0)
    wide = alone.widening([1.0] * 400, places[:400])
    assert wide**2 == pytest.approx((1 + phi) / (1 - phi), rel=0.03)
    by_turns = alone.widening([1.0, -1.0] * 200, places[:400])
    assert by_turns**2 == pytest.approx((1 - phi) / (1 + phi), rel=0.03, abs=0.11)


def test_rounds_that_wander_widen_what_is_compared_between_them() -> None:
    rng = np.random.default_rng(32)
    level = rng.normal(0, 60, 40)
    values = [float(level[number] + rng.normal(0, 100)) for number in range(40) for _ in range(30)]
    places = [Place(number, slot) for number in range(40) for slot in range(30)]
    found = dependence(values, places)
    # 60²/100² = 0.36, drawn a little towards what is usual; sampling error of 40 rounds is 0.08.
    assert found.rounds == pytest.approx(0.36, abs=0.2)
    halves = [1.0] * 600 + [-1.0] * 600
    assert found.widening(halves, places) > 2
    assert found.widening([1.0, -1.0] * 600, places) < 1.3


def test_a_wandering_test_finds_what_choice_costs_as_often_as_it_says() -> None:
    """Three rounds of each of 1, 2 and 4 choices, rounds wander by 30 ms: 400 tests, of which the
    95 % interval holds the truth in 0.92 to 0.98 (3 standard errors)."""
    rng = np.random.default_rng(33)
    held = []
    for _ in range(400):
        rounds = [
            (choices, (rng.normal(0.25 + 0.12 * np.log2(choices) + rng.normal(0, 0.03), 0.06, 7)))
            for choices in (1, 2, 4) * 3
        ]
        cost = choice_cost_of_rounds([(choices, times.tolist()) for choices, times in rounds])
        assert cost is not None
        held.append(cost.low_s <= 0.12 <= cost.high_s)
    assert 0.917 <= np.mean(held) <= 0.983


def test_choice_cost_allows_for_a_spread_that_grows_with_choice() -> None:
    """HC3 (MacKinnon and White 1985, memory): many quick answers without choice and a few scattered
    ones with it. Without it the interval would hold the truth in about six of ten sets."""
    rng = np.random.default_rng(34)
    held = 0
    for _ in range(600):
        cost = choice_cost(
            {1: rng.normal(0.3, 0.02, 60).tolist(), 4: rng.normal(0.6, 0.15, 12).tolist()}
        )
        assert cost is not None
        held += cost.low_s <= 0.15 <= cost.high_s
    assert held / 600 >= 0.9


def test_a_difference_counts_what_never_came_as_later_than_all_that_did() -> None:
    """The slower side is cut off by the limit far more often; dropped, the shift would shrink by a
    third. Mean of 200 sets of 60 answers a side, standard error about 1.5 ms."""
    rng = np.random.default_rng(35)
    middles = []
    for _ in range(200):
        groups = []
        for name, mu in (("lead", 450), ("rear", 570)):
            times = rng.normal(mu, 50, 60) + rng.exponential(100, 60)
            late = times > 720
            groups.append(Group(name, times[~late].tolist(), [720.0] * int(late.sum())))
        found = difference(*groups)
        middles.append(found.middle_ms if found else np.nan)
    assert np.nanmean(middles) == pytest.approx(120, abs=12)
    assert np.isnan(middles).mean() < 0.5


@pytest.mark.parametrize("target", [0.75, 0.84, 0.9])
def test_the_time_needed_alone_is_the_order_statistic_that_holds_the_share(target: float) -> None:
    """By definition: the smallest measured time inside which at least that share came right."""
    rng = np.random.default_rng(36)
    for count in (8, 13, 25, 60):
        times = rng.permutation(np.arange(300.0, 300.0 + 7 * count, 7.0))
        answers = [Measured(right=True, time_ms=float(ms)) for ms in times]
        held_s = needed(answers, target)
        assert held_s is not None
        inside = np.array([ms <= 1000 * held_s + 1e-9 for ms in times])
        assert inside.mean() >= target
        assert inside.mean() - 1 / count < target


def test_lapses_beyond_the_usual_are_believed_when_they_are_seen() -> None:
    """12 % of cues are never answered: the window goes to where 0.84/0.88 of the answers are. A
    belief that stops at 5 % would be short by a tenth. Mean of 25 students of 150 cues."""
    off = []
    for seed in range(25):
        rng = np.random.default_rng((seed, 37))
        lapsed = rng.random(150) < 0.12
        times = rng.normal(420, 45, 150) + rng.exponential(110, 150)
        taken = [
            TimedOutcome(1400.0, came=False) if lapse else TimedOutcome(float(ms), came=True)
            for lapse, ms in zip(lapsed, times, strict=True)
        ]
        window = window_s(taken, 0.84, Prior(window_s=1.0))
        assert window is not None
        off.append(np.log(1000 * window / ExGaussian(420, 45, 110).quantile(0.84 / 0.88)))
    assert abs(np.mean(off)) < 0.085
