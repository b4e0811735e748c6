"""Where a student starts a drill that is new: from the best that is known, said with it."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hastatus.core.baseline import Baseline
from hastatus.core.choice import ChoiceCost
from hastatus.core.drill import Pace
from hastatus.core.expect import Measured
from hastatus.core.start import Known, first
from hastatus.core.starter import STARTERS, block_on_sound_strike_on_light

DRILL = block_on_sound_strike_on_light()
TESTED = Baseline([], ChoiceCost(0.30, 0.09, 0.07, 0.11, 60), None, 0, 6)
TIMES = [Measured(True, 500.0 + place) for place in range(100)]


def test_own_times_of_the_same_answers_come_first() -> None:
    found = first(DRILL, Known(TIMES, TESTED, [0.9, 1.0, 1.1]))
    # By definition: 84 of these 100 are at most 583 ms.
    assert found.window_s == pytest.approx(0.58, abs=0.006)
    assert "84 % of the last 100 same answers" in found.reason
    wrong = [replace(each, right=False) for each in TIMES]
    assert "five-minute test" in first(DRILL, Known(wrong, TESTED)).reason


def test_a_baseline_speaks_by_the_bits_of_the_drill() -> None:
    # Four equal cues are two bits (Shannon 1948): 1.4 · (0.30 + 2 · 0.09) s.
    found = first(DRILL, Known(TIMES[:19], TESTED))
    assert found.window_s == pytest.approx(0.67)
    assert "2.0 bits" in found.reason


def test_the_club_speaks_when_nothing_else_is_known() -> None:
    assert first(DRILL, Known(club_s=[0.9, 1.3, 1.0])).window_s == 1.0
    alone = first(DRILL, Known(club_s=[0.9, 1.3]))
    assert alone.window_s == DRILL.rungs[0].window_s
    assert "its own window" in alone.reason


@pytest.mark.parametrize("name", STARTERS)
def test_every_starter_drill_starts_within_its_bounds(name: str) -> None:
    drill = STARTERS[name]()
    for known in (Known(TIMES), Known(baseline=TESTED), Known(club_s=[9.0] * 5), Known()):
        found = first(drill, known)
        assert (found.kind, found.rung) == ("start", 1)
        assert drill.pace.least_s <= found.window_s <= drill.pace.most_s


def test_a_window_that_is_set_by_hand_stays() -> None:
    fixed = DRILL.model_copy(update={"pace": Pace(rule="hold")})
    assert first(fixed, Known(TIMES, TESTED)).window_s == DRILL.rungs[0].window_s
