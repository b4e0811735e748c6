"""What can be guessed of an order, against what is known of it."""

from __future__ import annotations

from collections import Counter, defaultdict
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats

from hastatus.core.drill import foreperiod
from hastatus.core.drill.settings import (
    Balanced,
    FirstOrder,
    Fixed,
    Jittered,
    Order,
    Rotating,
    SetOrder,
    Unguessable,
    Waiting,
)
from hastatus.core.plan.guess import guesses
from hastatus.core.plan.order import PairOrder, draw_order
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.plan.statistics import entropy, plan_figures
from hastatus.core.starter import block_on_sound_strike_on_light

FOUR = dict.fromkeys("abcd", 0.25)
NONE: frozenset[str] = frozenset()


def test_information_of_a_choice() -> None:
    # Shannon 1948, A Mathematical Theory of Communication: 7/4 bit; n equal choices: log2 n.
    assert entropy([1 / 2, 1 / 4, 1 / 8, 1 / 8]) == pytest.approx(7 / 4)
    assert entropy([1 / 4] * 4) == pytest.approx(2)


def test_somebody_who_counts_a_balanced_bag_of_eight_guesses_about_half() -> None:
    # By definition: the best guess from the whole history. Of a bag of 8 (two of each of four) the
    # expected share of the fullest remaining pile is worked out here by brute force.
    found = guesses(Balanced(repeat_cap=8, bag=8), FOUR, NONE)
    assert found.history == pytest.approx(brute((2, 2, 2, 2)), abs=0.015)
    assert 0.4 < found.history < 0.55
    assert found.last < 0.32


def brute(left: tuple[int, ...]) -> float:
    """Mean share of right guesses over a bag by somebody who always guesses the fullest pile."""

    def hits(left: tuple[int, ...]) -> float:
        total = sum(left)
        if not total:
            return 0.0
        following = sum(
            count / total * hits((*left[:place], count - 1, *left[place + 1 :]))
            for place, count in enumerate(left)
            if count
        )
        return max(left) / total + following

    return hits(left) / sum(left)


def test_orders_without_chance_are_known() -> None:
    assert guesses(SetOrder(), FOUR, NONE).history == 1.0
    assert guesses(SetOrder(), FOUR, NONE).last == pytest.approx(1.0, abs=0.001)
    assert guesses(Rotating(), FOUR, NONE).history == 1.0


def test_first_order_balanced_tells_nothing_by_the_last_cue() -> None:
    # By definition: each cue follows each equally often, so the last one says nothing.
    assert guesses(FirstOrder(), FOUR, NONE).last == pytest.approx(0.25, abs=0.005)
    keys = PairOrder("abcd", np.random.default_rng(3)).take(16 * 50 + 1)
    pairs = Counter(pairwise(keys))
    assert set(pairs.values()) == {50}
    assert len(pairs) == 16


def test_catch_cues_strewn_into_a_set_order_keep_their_share_and_never_pair() -> None:
    shares = {"a": 0.4, "b": 0.4, "x": 0.2}
    keys = draw_order(SetOrder(), shares, frozenset("x"), 20_000, [1])
    # Standard error 0.003; the bound is six of them.
    assert keys.count("x") / 20_000 == pytest.approx(0.2, abs=0.018)
    assert ("x", "x") not in set(pairwise(keys))
    asking = [key for key in keys if key != "x"]
    assert asking[:6] == list("ababab")


@settings(max_examples=25, derandomize=True)
@given(
    least=st.floats(0.3, 2),
    mean=st.floats(0.05, 2),
    cut=st.floats(1.5, 9),
    seed=st.integers(0, 2**30),
)
def test_any_open_wait_is_a_truncated_exponential(
    least: float, mean: float, cut: float, seed: int
) -> None:
    # Luce 1986 (memory). Kolmogorov-Smirnov at the known rate, truncation and all; 25 fixed draws
    # at a p bound of 1e-5: by chance alone one list of examples in four thousand would fail.
    wait = Unguessable(least_s=least, mean_s=mean, most_s=least + cut * mean)
    drawn = foreperiod.draw(wait, 1500, np.random.default_rng(seed))
    law = stats.truncexpon(b=cut, loc=least, scale=mean)
    assert stats.kstest(drawn, law.cdf).pvalue > 1e-5
    assert foreperiod.mean(wait) == pytest.approx(law.mean())
    gain = law.cdf(least + cut * mean) - law.cdf(least + cut * mean - 0.2)
    assert foreperiod.guessable_share(wait) == pytest.approx(min(1.0, gain), abs=1e-9)


def test_waiting_times_have_their_distribution() -> None:
    # Luce 1986, Response Times (memory): exponential waiting. Kolmogorov-Smirnov at a fixed seed
    # and a p bound of 0.001, so by chance alone one seed in a thousand would fail.
    rng = np.random.default_rng(9)
    open_wait = Unguessable(least_s=0.5, mean_s=0.6, most_s=30)
    drawn = foreperiod.draw(open_wait, 4000, rng)
    assert stats.kstest(drawn - 0.5, stats.expon(scale=0.6).cdf).pvalue > 0.001
    even = foreperiod.draw(Jittered(least_s=0.6, most_s=1.6), 4000, rng)
    assert stats.kstest(even, stats.uniform(0.6, 1.0).cdf).pvalue > 0.001
    assert set(foreperiod.draw(Fixed(wait_s=1.2), 50, rng)) == {1.2}
    assert foreperiod.guessable_share(Fixed()) == 1.0
    assert foreperiod.guessable_share(Jittered(least_s=0.5, most_s=1.5)) == pytest.approx(0.2)
    assert foreperiod.guessable_share(open_wait) < 1e-9


@settings(max_examples=40, derandomize=True)
@given(
    order=st.sampled_from([Balanced(bag=7), Balanced(repeat_cap=1), FirstOrder(), Rotating()]),
    short=st.integers(1, 600),
    more=st.integers(0, 600),
    seed=st.integers(0, 2**30),
)
def test_a_longer_order_begins_with_the_shorter_one(
    order: Order, short: int, more: int, seed: int
) -> None:
    shares = {"a": 0.3, "b": 0.35, "c": 0.2, "x": 0.15}
    longer = draw_order(order, shares, frozenset("x"), short + more, [seed])
    assert longer[:short] == draw_order(order, shares, frozenset("x"), short, [seed])


@pytest.mark.parametrize(
    "wait",
    [
        Fixed(wait_s=1.0),
        Jittered(least_s=0.5, most_s=2.5),
        Unguessable(least_s=0.5, mean_s=1.0, most_s=6.0),
    ],
)
def test_what_a_blind_press_meets(wait: Waiting) -> None:
    """Against 100,000 drawn waits and presses at every hundredth of a second; by definition."""
    waits = foreperiod.draw(wait, 100_000, np.random.default_rng(3))
    after = np.arange(0.0, 8.0, 0.01)[:, None] - np.sort(waits)[None, ::20]
    met = float(((after >= 0.15) & (after <= 0.9)).mean(axis=1).max())
    assert foreperiod.blind_press(wait, 0.15, 0.9) == pytest.approx(met, abs=0.012)


def test_what_somebody_gets_who_only_taps() -> None:
    """The first tap after a cue comes at any moment of the 0.3 s between two."""
    first = np.random.default_rng(4).uniform(0, foreperiod.TAP_S, 100_000)
    for window_s in (0.2, 0.25, 0.9):
        clean = float(((first >= 0.15) & (first <= window_s)).mean())
        assert foreperiod.tapping(0.15, window_s) == pytest.approx(clean, abs=0.01)
    assert foreperiod.tapping(0.15, 0.1) == 0.0


def test_a_cue_that_follows_at_once_tells_something_of_itself() -> None:
    """Counted on planned rounds: the likeliest after the last cue, at once or later."""
    drill = block_on_sound_strike_on_light()
    after: dict[tuple[str, bool], Counter[str]] = defaultdict(Counter)
    plain: dict[str, Counter[str]] = defaultdict(Counter)
    for seed in range(60):
        for round_ in plan_run(drill, seed=seed, rung=3).rounds:
            for last, slot in pairwise(round_.slots):
                after[last.cue, slot.overlap is not None][slot.cue] += 1
                plain[last.cue][slot.cue] += 1
    total = sum(map(Counter.total, plain.values()))
    seen = sum(max(each.values()) for each in after.values()) / total
    blind = sum(max(each.values()) for each in plain.values()) / total
    figures = plan_figures(drill, plan_run(drill, seed=1, rung=3))
    assert figures.guess_last == pytest.approx(seen, abs=0.02)
    assert figures.guess_last > blind + 0.05
    assert figures.guess_history > figures.guess_last
