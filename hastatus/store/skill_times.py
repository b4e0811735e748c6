"""What a student's answers amount to over the weeks, and how far the club's tests agree."""

from __future__ import annotations

import uuid

from pydantic import TypeAdapter
from sqlalchemy import func, select, text
from sqlalchemy.orm import Session

from hastatus.core.read.baseline import Part
from hastatus.core.read.student_course import SkillTime
from hastatus.core.score.response import RIGHT
from hastatus.store.models import IS_NO_TEST, IS_TEST, Response, Run

TESTS_READ = 200
"""The club's newest tests that its agreement is taken from."""

_PARTS = TypeAdapter(list[Part])


def skill_times(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> list[SkillTime]:
    """Medians of right answers by run, technique and side. Not of tests, nor of simulated runs."""
    middle = func.percentile_cont(0.5).within_group(Response.time_ms)
    rows = db.execute(
        select(
            Run.id, Run.started_at, Response.asked_technique, Response.asked_side, middle,
            func.count(), Run.drill_id, Run.rung,
        )
        .join(Response, (Run.club_id == Response.club_id) & (Run.id == Response.run_id))
        .where(Run.club_id == club_id, Run.student_id == student_id, Run.counts)
        .where(text(IS_NO_TEST))
        .where(Response.left_out.is_(None), Response.outcome.in_(RIGHT))
        .where(Response.timed_by == "answer", Response.asked_technique.is_not(None))
        .group_by(Run.id, Run.started_at, Response.asked_technique, Response.asked_side,
                  Run.drill_id, Run.rung)
    )  # fmt: skip
    return [
        SkillTime(run_id, at, technique or "", side or "", median, count, (drill_id, rung))
        for run_id, at, technique, side, median, count, drill_id, rung in rows
    ]


def newest_tests(db: Session, club_id: uuid.UUID) -> dict[uuid.UUID, list[list[Part]]]:
    """The parts of the club's newest tests by student, newest first."""
    rows = db.execute(
        select(Run.student_id, Run.figures["baseline"]["parts"])
        .where(Run.club_id == club_id, Run.counts, text(IS_TEST))
        .where(Run.figures["baseline"]["doubt"].astext.is_(None))
        .order_by(Run.started_at.desc())
        .limit(TESTS_READ)
    )
    tests: dict[uuid.UUID, list[list[Part]]] = {}
    for student_id, parts in rows:
        tests.setdefault(student_id, []).append(_PARTS.validate_python(parts))
    return tests
