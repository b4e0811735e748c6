"""Where a student starts a drill that is new: from the best that is known, said with it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.adapt.first_window import Known, first, prior
from hastatus.core.drill.solo import Pace
from hastatus.core.plan.prior import FirstRun, of_club
from hastatus.core.read.baseline import Baseline
from hastatus.core.read.choice_cost import ChoiceCost
from hastatus.core.read.expected_share import Measured
from hastatus.core.starter import STARTERS, block_on_sound_strike_on_light

DRILL = block_on_sound_strike_on_light()
TESTED = Baseline([], ChoiceCost(0.30, 0.09, 0.07, 0.11, 60), None, 0, 6)
BASES = (0.22, 0.25, 0.27, 0.30, 0.31, 0.35, 0.36, 0.41)
TIMES = [Measured(True, 500.0 + place) for place in range(100)]


def test_own_times_of_the_same_answers_come_first() -> None:
    found = first(DRILL, Known(TIMES, TESTED, [(0.9, None), (1.0, None), (1.1, None)]))
    # By definition: 84 of these 100 are at most 583 ms.
    assert found.window_s == pytest.approx(0.58, abs=0.006)
    assert "84 % of the last 100 same answers" in found.reason
    wrong = [replace(each, right=False) for each in TIMES]
    assert "five-minute test" in first(DRILL, Known(wrong, TESTED)).reason


def test_a_baseline_speaks_by_the_bits_of_the_drill() -> None:
    # Four equal cues are two bits (Shannon 1948): 1.4 · (0.30 + 2 · 0.09) s.
    found = first(DRILL, Known(TIMES[:19], TESTED))
    assert found.window_s == pytest.approx(0.67)
    assert "4.0 choices" in found.reason


def test_the_club_speaks_when_nothing_else_is_known() -> None:
    found = first(DRILL, Known(club=[(0.9, None), (1.3, None), (1.0, None)]))
    # The geometric mean of the three.
    assert found.window_s == pytest.approx((0.9 * 1.3 * 1.0) ** (1 / 3), abs=0.006)
    alone = first(DRILL, Known(club=[(0.9, None), (1.3, None)]))
    assert alone.window_s == DRILL.rungs[0].window_s
    assert "its own window" in alone.reason
    assert prior(DRILL, Known()) is None


def test_a_club_learns_how_its_drill_goes_with_its_test() -> None:
    """Whoever is slower in the test is slower in the drill, by as much, at 1.2 times the test."""
    tested = [replace(TESTED, choice=replace(TESTED.choice, base_s=base)) for base in BASES]
    club = [(1.2 * (base + 2 * 0.09), test) for base, test in zip(BASES, tested, strict=True)]
    slow = replace(TESTED, choice=replace(TESTED.choice, base_s=0.42))
    found = first(DRILL, Known(baseline=slow, club=club))
    assert found.window_s == pytest.approx(1.2 * 0.60, rel=0.02)
    assert "as it went for 8 other students" in found.reason
    with_test, without = (
        prior(DRILL, Known(baseline=slow, club=club)),
        prior(DRILL, Known(club=club)),
    )
    assert with_test is not None
    assert without is not None
    assert with_test.spread < without.spread
    # Somebody who taps along in the test says nothing by it.
    tapped = replace(slow, doubt="The test was tapped through.")
    assert "first runs settled" in first(DRILL, Known(baseline=tapped, club=club)).reason


@given(
    st.lists(st.floats(0.3, 3.0), min_size=3, max_size=30),
    st.one_of(st.none(), st.floats(0.2, 2.0)),
)
def test_more_of_the_same_students_make_a_prior_narrower_until_they_differ(
    windows: list[float], tested_s: float | None
) -> None:
    once = of_club([FirstRun(window) for window in windows], tested_s)
    often = of_club([FirstRun(each) for each in windows * 5], tested_s)
    assert once is not None
    assert often is not None
    assert often.window_s == pytest.approx(once.window_s)
    if tested_s is not None:
        return  # the own test moves it
    assert min(windows) * 0.999 <= once.window_s <= max(windows) * 1.001
    # A spread never falls below that of the students themselves.
    assert often.spread >= min(0.9 * np.std(np.log(windows)), 0.25)


@pytest.mark.parametrize("name", STARTERS)
def test_every_starter_drill_starts_within_its_bounds(name: str) -> None:
    drill = STARTERS[name]()
    for known in (Known(TIMES), Known(baseline=TESTED), Known(club=[(9.0, None)] * 5), Known()):
        found = first(drill, known)
        assert (found.kind, found.rung) == ("start", 1)
        assert drill.pace.least_s <= found.window_s <= drill.pace.most_s


def test_a_window_that_is_set_by_hand_stays() -> None:
    fixed = DRILL.model_copy(update={"pace": Pace(rule="hold")})
    assert first(fixed, Known(TIMES, TESTED)).window_s == DRILL.rungs[0].window_s
