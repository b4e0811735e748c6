"""Guided rounds: what is said and when. Counts and holds are common practice, no source."""

from __future__ import annotations

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.adapt.ladder import RunEvidence, suggest
from hastatus.core.drill.checks.solo import find
from hastatus.core.drill.guide import BEGINS_S, NO_ROOM_S, Count, Hold, said
from hastatus.core.plan.cue_track import make_track
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.starter import STARTERS

BASE = STARTERS["base by count"]()
ROLLS = STARTERS["roll under"]()


def words(guide: Count | Hold, duration_s: float) -> list[str]:
    return [line.words for line in said(guide, duration_s)]


def test_a_base_is_ten_of_each_with_the_feet_checked_between() -> None:
    pivots = BASE.rungs[0].guide
    assert pivots is not None
    assert words(pivots, BASE.rungs[0].rounds.duration_s) == [
        word
        for what in ("pivot, lead foot", "pivot, rear foot", "pivot, both feet")
        for word in (what, *map(str, range(1, 11)), "check your feet")
    ]


def test_under_a_ball_the_app_only_counts_two_and_stop() -> None:
    rung = next(rung for rung in ROLLS.rungs if rung.guide and rung.guide.to == 2)  # type: ignore[union-attr]
    assert rung.guide is not None
    assert rung.guide.against == "ball"
    assert words(rung.guide, 20) == ["1", "2", "stop"] * 3


def test_a_hold_says_what_to_let_go_of_and_when_to_change_sides() -> None:
    hold = Hold(start="press", let_go=("shoulders", "jaw"), every_s=10, change_s=40)
    assert [(line.at_s - BEGINS_S, line.words) for line in said(hold, 85)] == [
        (0, "press"), (10, "shoulders"), (20, "jaw"), (30, "still there"),
        (40, "change sides"), (50, "shoulders"), (60, "jaw"), (70, "still there"),
        (80, "change sides"),
    ]  # fmt: skip
    plan = plan_run(STARTERS["frame and step"](), seed=1)
    assert [(call.words, call.from_end) for call in plan.rounds[0].calls[-1:]] == [
        ("and rest", True)
    ]


GUIDES = st.one_of(
    st.builds(
        Count, to=st.integers(1, 50), every_s=st.floats(0.6, 30), pause_s=st.floats(1, 60),
        of=st.lists(st.sampled_from(["step", "pair"]), max_size=3).map(tuple),
        after=st.sampled_from([None, "stop"]),
    ),
    st.builds(
        Hold, every_s=st.floats(3, 120), change_s=st.one_of(st.none(), st.floats(10, 600)),
        let_go=st.lists(st.sampled_from(["jaw", "neck"]), max_size=3).map(tuple),
    ),
)  # fmt: skip


@given(GUIDES, st.floats(5, 1800))
def test_nothing_is_said_at_once_or_outside_the_round(
    guide: Count | Hold, duration_s: float
) -> None:
    moments = [line.at_s for line in said(guide, duration_s)]
    assert moments
    assert moments[0] == BEGINS_S
    assert all(later - sooner >= NO_ROOM_S - 2e-3 for sooner, later in pairwise(moments))
    assert moments[-1] <= duration_s - NO_ROOM_S + 1e-3


def test_no_cue_comes_and_its_track_has_all_that_is_said() -> None:
    plan = plan_run(ROLLS, seed=4, rung=4)
    assert all(not round_plan.slots and not round_plan.cues for round_plan in plan.rounds)
    assert plan.rehearsal == ()
    heard = [sounding.text for sounding in make_track(ROLLS, plan).soundings]
    assert list(heard[:4]) == ["1", "2", "stop", "1"]


def test_a_guided_round_that_ends_by_count_is_named_with_its_mend() -> None:
    rung = BASE.rungs[0]
    by_count = rung.model_copy(update={"rounds": rung.rounds.model_copy(update={"ends": "count"})})
    (fault,) = find(BASE.model_copy(update={"rungs": (by_count,)}))
    assert fault.where == "rungs.0.rounds.ends"
    assert fault.mend is not None
    assert [(change.path, change.value) for change in fault.mend.changes] == [
        ("rungs.0.rounds.ends", "time")
    ]


@pytest.mark.parametrize("rung", [4, 5, 6])
def test_after_a_ball_the_coach_says_when_to_go_on(rung: int) -> None:
    nothing = RunEvidence(rung, None, None, None, None, 0, 0, 0, 0)
    found = suggest(ROLLS, [nothing])
    assert (found.kind, found.rung) == ("hold", rung)
    assert "you say when to go on" in found.reason


def test_the_ladder_does_not_lead_to_a_ball_that_may_not_be_there() -> None:
    """The goal of the last rung with cues is met: no rung follows."""
    last = max(number for number, rung in enumerate(ROLLS.rungs, 1) if rung.guide is None)
    goal = ROLLS.rungs[last - 1].goal_window_s
    met = RunEvidence(last, goal, goal, goal, goal, 60, 60, 50, 60)
    found = suggest(ROLLS, [met, met])
    assert (found.kind, found.rung) == ("hold", last)
    assert "this is the last rung" in found.reason
