"""How often something is told of students of whom it is not true, and of those of whom it is."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from datetime import UTC, datetime, timedelta
from functools import partial

import numpy as np

from benchmarks.coverage import DRILL, SHAPE, Way, run_of
from benchmarks.figure import Figure
from hastatus.core.adapt.ladder import RunEvidence
from hastatus.core.adapt.notices import Standing, notices
from hastatus.core.read.baseline import Agreement, baseline_trend
from hastatus.core.read.difference import Group, difference
from hastatus.core.read.solo_run import compare, second_of_a_pair, tiring
from hastatus.core.read.student_course import SkillTime, skills, weekly_window

STUDENTS = 400
WEEKS, A_WEEK = 8, 2
ANSWERS = 18
SKILLS = 4
RUN_MS = 14.0
"""Standard deviation of a student from run to run, ms."""
WINDOW_SD = 0.06
"""And of a settled window, as a share."""
TEST_MS, TEST_STUDENTS = 18.0, 14
"""Typical error of one test, and how many students the club knows it from."""
FIRST = datetime(2026, 9, 1, 18, 30, tzinfo=UTC)


def medians(rng: np.random.Generator, level_ms: float) -> float:
    """The median of a run's answers with one technique and side."""
    return float(np.median(SHAPE.rvs(ANSWERS, random_state=rng))) + level_ms


def told_of_unchanged(seed: int) -> bool:
    """Whether a student who does not change is ever told of a trend, looked at after each session.

    After four weeks another drill is done, which is slower.
    """
    rng = np.random.default_rng((seed, 1))
    times: list[SkillTime] = []
    windows: list[float] = []
    tests: list[tuple[float, float]] = []
    club = Agreement(0.8, 0.6, 0.9, TEST_MS, 15, 23, TEST_STUDENTS, 50, "good")
    for session in range(WEEKS * A_WEEK):
        week = session / A_WEEK
        at = FIRST + timedelta(weeks=week)
        drill = int(week >= WEEKS / 2)
        wander = float(rng.normal(0, RUN_MS))
        for number in range(SKILLS):
            for side in ("lead", "rear"):
                ms = medians(rng, wander + 60.0 * drill)
                run_id = uuid.UUID(int=session)
                times.append(SkillTime(run_id, at, f"t{number}", side, ms, ANSWERS, (drill, 1)))
        windows.append(0.8 * float(np.exp(rng.normal(0, WINDOW_SD))))
        if session % 3 == 0:
            tests.append((week, 300 + float(rng.normal(0, TEST_MS))))
        dates = [FIRST + timedelta(weeks=place / A_WEEK) for place in range(session + 1)]
        found = [skill.weekly for skill in skills(times)] + [weekly_window(dates, windows)]
        tested = baseline_trend([w for w, _ in tests], [ms for _, ms in tests], club)
        found.append(tested.weekly if tested else None)
        if any(claim and claim.told for claim in found):
            return True
    return False


def gain_told(seed: int) -> bool:
    """Whether 5 % a week is told from six tests, one every two weeks."""
    rng = np.random.default_rng((seed, 2))
    weeks = [2.0 * place for place in range(6)]
    values = [300 * 0.95**week + float(rng.normal(0, TEST_MS)) for week in weeks]
    club = Agreement(0.8, 0.6, 0.9, TEST_MS, 15, 23, TEST_STUDENTS, 50, "good")
    found = baseline_trend(weeks, values, club)
    return found is not None and found.weekly.told and found.weekly.slope < 0


def stalled_share(seed: int, weekly: float) -> tuple[int, int]:
    """In how many sessions a student is called stalled, of those where the rule can apply."""
    rng = np.random.default_rng((seed, 3))
    runs: list[Standing] = []
    told = of = 0
    goal = DRILL.rungs[0].goal_window_s
    for session in range(WEEKS * A_WEEK):
        week = session / A_WEEK
        window = 1.25 * goal * (1 - weekly) ** week * float(np.exp(rng.normal(0, WINDOW_SD)))
        evidence = RunEvidence(1, window, window, window, window, 40, 40, 34, 40)
        runs.append(Standing(evidence, None, FIRST + timedelta(weeks=week)))
        if len(runs) >= 6 and window > goal:
            of += 1
            told += any(notice.kind == "stalled" for notice in notices(DRILL, runs[-12:]))
    return told, of


def side_told(seed: int, rear_ms: float) -> bool:
    """Whether a slower side is told by the fourth session."""
    rng = np.random.default_rng((seed, 4))
    runs: list[Standing] = []
    for session in range(4):
        lead = SHAPE.rvs(30, random_state=rng)
        rear = SHAPE.rvs(30, random_state=rng) + rear_ms
        side = difference(Group("lead", lead.tolist()), Group("rear", rear.tolist()))
        evidence = RunEvidence(1, 1.0, 1.0, 1.0, 1.0, 60, 60, 50, 60)
        runs.append(Standing(evidence, side, FIRST + timedelta(days=4 * session)))
        if any(notice.kind == "side" for notice in notices(DRILL, runs)):
            return True
    return False


def false_line(seed: int, way: Way) -> bool:
    """Whether a run with nothing in it shows a line that is told."""
    run = run_of(seed, way, rear_ms=0.0)
    lines = [difference.found for difference in compare(DRILL, run, second_of_a_pair(run))]
    slope = tiring(run)
    return any(line and line.told for line in lines) or bool(slope and slope.told)


def figures(loose: bool) -> Iterator[Figure]:
    """Each share over students of seeds of its own."""
    students = 60 if loose else STUDENTS
    # Of sixty students the share is known to 0.04 at best.
    slack = 0.06 if loose else 0.0
    with ProcessPoolExecutor(2) as pool:

        def share(of: object) -> float:
            return float(np.mean(list(pool.map(of, range(students), chunksize=10))))  # type: ignore[arg-type]

        told = share(told_of_unchanged)
        yield Figure("unchanged over eight weeks, ever told of a trend", told, "", 0.10 + slack)
        untold = 1 - share(gain_told)
        yield Figure(
            "5 % a week, not told from six tests, one every two weeks", untold, "", 0.10 + slack
        )
        for weekly, most in ((0.0, 0.15), (0.02, 0.05)):
            counted = list(pool.map(partial(stalled_share, weekly=weekly), range(students)))
            called = sum(told for told, _ in counted) / max(1, sum(of for _, of in counted))
            name = f"called stalled at a gain of {100 * weekly:g} % a week, share of sessions"
            yield Figure(name, called, "", most + slack)
        unseen = 1 - share(partial(side_told, rear_ms=60.0))
        yield Figure("a side slower by 60 ms, not told by session 4", unseen, "", 0.25 + slack)
        seen = share(partial(side_told, rear_ms=0.0))
        yield Figure("no slower side, told of one by session 4", seen, "", 0.02 + slack)
        for way in (Way(0.0, 0.0), Way(0.3, 0.0)):
            lines = share(partial(false_line, way=way))
            yield Figure(f"runs with nothing in them, {way}: a line is told", lines, "",
                         0.08 + slack)  # fmt: skip
