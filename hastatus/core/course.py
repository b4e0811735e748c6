"""A student over the weeks: each skill's times, and whether they are on a way.

A skill is a technique that lands. Its time in a run is the median of right answers, for the lead
and the rear side apart. The way they go is a robust slope over weeks (see `trend`).
"""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from hastatus.core.stats import TOO_FEW
from hastatus.core.trend import Slope, robust_slope

LEAST_RUNS = 6
"""Runs from which on a slope is drawn through a course."""
_WEEK_S = 7 * 24 * 3600


@dataclass(frozen=True, slots=True)
class SkillTime:
    """Right answers with one technique and side in one run: their median and how many."""

    run_id: uuid.UUID
    at: datetime
    technique: str
    side: str
    median_ms: float
    answers: int


@dataclass(frozen=True, slots=True)
class SkillPoint:
    """One run. lead_ms, rear_ms: None with fewer than eight answers on that side."""

    run_id: uuid.UUID
    at: datetime
    lead_ms: float | None
    rear_ms: float | None
    answers: int


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
    for each in times:
        by_technique[each.technique][each.run_id][each.side] = each
    found = [_skill(technique, list(runs.values())) for technique, runs in by_technique.items()]
    return sorted(found, key=lambda skill: -skill.answers)


def _skill(technique: str, runs: list[dict[str, SkillTime]]) -> Skill:
    points = []
    for sides in runs:
        some = next(iter(sides.values()))
        lead, rear = _enough(sides.get("lead")), _enough(sides.get("rear"))
        answers = sum(each.answers for each in sides.values())
        points.append(SkillPoint(some.run_id, some.at, lead, rear, answers))
    points.sort(key=lambda point: point.at)
    return Skill(technique, points, sum(point.answers for point in points), _weekly(points))


def _enough(found: SkillTime | None) -> float | None:
    return found.median_ms if found and found.answers >= TOO_FEW else None


def _weekly(points: Sequence[SkillPoint]) -> Slope | None:
    """Each side against its own middle, so that a run with one side only does not bend the line."""
    weeks, off = list[float](), list[float]()
    for side in ("lead_ms", "rear_ms"):
        known = [(point.at, getattr(point, side)) for point in points]
        told = [(at, ms) for at, ms in known if ms is not None]
        if not told:
            continue
        middle = sorted(ms for _, ms in told)[len(told) // 2]
        weeks += [(at - points[0].at).total_seconds() / _WEEK_S for at, _ in told]
        off += [ms - middle for _, ms in told]
    return robust_slope(weeks, off, LEAST_RUNS)


def weekly_window(at: Sequence[datetime], windows_s: Sequence[float]) -> Slope | None:
    """Seconds that settled windows get longer by in a week; below zero is quicker."""
    if not at:
        return None
    weeks = [(each - at[0]).total_seconds() / _WEEK_S for each in at]
    return robust_slope(weeks, windows_s, LEAST_RUNS)
