"""A student's course: planted ways over the weeks come back, and few answers say nothing."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from hastatus.core.read.baseline import Part, agreement
from hastatus.core.read.student_course import SkillTime, skills, weekly_window

FIRST = datetime(2026, 9, 1, 18, 30, tzinfo=UTC)


def times(
    weekly_ms: float, rear_ms: float = 40, runs: int = 12, answers: int = 20
) -> list[SkillTime]:
    rng = np.random.default_rng(6)
    found = []
    for run in range(runs):
        weeks = run / 2
        for side, extra in (("lead", 0.0), ("rear", rear_ms)):
            ms = 520 + weekly_ms * weeks + extra + float(rng.normal(0, 12))
            at = FIRST + timedelta(weeks=weeks)
            found.append(SkillTime(uuid.UUID(int=run), at, "high_block", side, ms, answers))
    return found


@pytest.mark.parametrize("weekly_ms", [-15.0, 0.0, 10.0])
def test_a_planted_way_comes_back_with_its_interval(weekly_ms: float) -> None:
    (skill,) = skills(times(weekly_ms))
    assert skill.weekly is not None
    assert skill.weekly.low < weekly_ms < skill.weekly.high
    assert skill.weekly.told == (weekly_ms != 0)
    assert [point.rear_ms is not None for point in skill.points] == [True] * 12


def test_few_answers_and_few_runs_say_nothing() -> None:
    (few,) = skills(times(-15, answers=7))
    assert {point.lead_ms for point in few.points} == {None}
    assert few.weekly is None
    (short,) = skills(times(-15, runs=2))
    assert short.weekly is None
    assert skills([]) == []
    assert weekly_window([], []) is None


def test_skills_come_with_the_most_answered_first() -> None:
    other = [SkillTime(time.run_id, time.at, "straight", time.side, time.median_ms, 30)
             for time in times(0)]  # fmt: skip
    assert [skill.technique for skill in skills([*times(0), *other])] == ["straight", "high_block"]


def pair_of(first_ms: float, second_ms: float) -> list[list[Part]]:
    return [[Part("sound", 1, False, ms, 12, 12)] for ms in (second_ms, first_ms)]


def test_agreement_of_the_clubs_tests() -> None:
    rng = np.random.default_rng(4)
    true = rng.normal(300, 40, 30)
    close = [pair_of(ms + rng.normal(0, 8), ms + rng.normal(0, 8)) for ms in true]
    found = agreement(close)
    assert found is not None
    # Between 40² and within 8²: 1600 / (1600 + 64) = 0.96.
    assert found.icc == pytest.approx(0.96, abs=0.03)
    assert found.typical_ms == pytest.approx(8, abs=2.5)
    assert agreement(close[:7]) is None
