"""A student over the weeks: each skill's times, and whether they are on a way.

A skill is a technique that lands. Its time in a run is the median of right answers, for the lead
and the rear side apart. The way it goes is one slope over weeks, a point a run, with a level of its
own for each rung of each drill: who changes drill has not changed (see `trend.course_slope`).
"""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Hashable, Sequence
from dataclasses import dataclass
from datetime import datetime

from hastatus.core.read.proportion import TOO_FEW
from hastatus.core.read.trend import Slope, course_slope

LEAST_RUNS = 6
"""Runs from which on a slope is drawn through a course."""
WEEK_S = 7 * 24 * 3600


@dataclass(frozen=True, slots=True)
class SkillTime:
    """Right answers with one technique and side in one run: their median and how many.

    rung: what was run, as drill and rung together.
    """

    run_id: uuid.UUID
    at: datetime
    technique: str
    side: str
    median_ms: float
    answers: int
    rung: Hashable = None


@dataclass(frozen=True, slots=True)
class SkillPoint:
    """One run. lead_ms, rear_ms: None with fewer than eight answers on that side."""

    run_id: uuid.UUID
    at: datetime
    lead_ms: float | None
    rear_ms: float | None
    answers: int
    rung: str = ""


@dataclass(frozen=True, slots=True)
class Skill:
    """A technique's course. weekly: ms that it gets slower by in a week, both sides together."""

    technique: str
    points: list[SkillPoint]
    answers: int
    weekly: Slope | None


def skills(times: Sequence[SkillTime]) -> list[Skill]:
    """The courses of all skills, those with the most answers first."""
    by_technique: dict[str, dict[uuid.UUID, dict[str, SkillTime]]] = defaultdict(
        lambda: defaultdict(dict)
    )
    for time in times:
        by_technique[time.technique][time.run_id][time.side] = time
    courses = [_skill(technique, list(runs.values())) for technique, runs in by_technique.items()]
    return sorted(courses, key=lambda skill: -skill.answers)


def _skill(technique: str, runs: list[dict[str, SkillTime]]) -> Skill:
    points = []
    for sides in runs:
        some = next(iter(sides.values()))
        lead, rear = _enough(sides.get("lead")), _enough(sides.get("rear"))
        answers = sum(side.answers for side in sides.values())
        points.append(SkillPoint(some.run_id, some.at, lead, rear, answers, str(some.rung)))
    points.sort(key=lambda point: point.at)
    return Skill(technique, points, sum(point.answers for point in points), _weekly(points))


def _enough(skill: SkillTime | None) -> float | None:
    return skill.median_ms if skill and skill.answers >= TOO_FEW else None


def _weekly(points: Sequence[SkillPoint]) -> Slope | None:
    """Each side of each rung against its own mean, so that a run with one side only does not bend
    the line; both sides of a run are one point."""
    sides: dict[tuple[str, str], list[float]] = defaultdict(list)
    for point in points:
        for side, ms in (("lead", point.lead_ms), ("rear", point.rear_ms)):
            if ms is not None:
                sides[point.rung, side].append(ms)
    usual = {key: sum(medians) / len(medians) for key, medians in sides.items()}
    weeks, off, rungs = list[float](), list[float](), list[str]()
    for point in points:
        known = [
            ms - usual[point.rung, side]
            for side, ms in (("lead", point.lead_ms), ("rear", point.rear_ms))
            if ms is not None
        ]
        if known:
            weeks.append((point.at - points[0].at).total_seconds() / WEEK_S)
            off.append(sum(known) / len(known))
            rungs.append(point.rung)
    return course_slope(weeks, off, rungs) if len(off) >= LEAST_RUNS else None


def weekly_window(at: Sequence[datetime], windows_s: Sequence[float]) -> Slope | None:
    """Seconds that settled windows get longer by in a week; below zero is quicker."""
    if not at:
        return None
    weeks = [(moment - at[0]).total_seconds() / WEEK_S for moment in at]
    return course_slope(weeks, windows_s, [0] * len(weeks)) if len(at) >= LEAST_RUNS else None
