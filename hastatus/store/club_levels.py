"""What is known of a student who has not run a drill yet: own times, tests, and the club."""

from __future__ import annotations

import uuid

from pydantic import TypeAdapter
from sqlalchemy import func, select, text, true
from sqlalchemy.dialects.postgresql import distinct_on
from sqlalchemy.orm import Session, aliased

from hastatus.core.adapt import first_window
from hastatus.core.drill.solo import Drill
from hastatus.core.read.baseline import Baseline
from hastatus.store import answers
from hastatus.store.models import IS_TEST, Run, Student

_BASELINE = TypeAdapter(Baseline)


def of(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID, drill: Drill
) -> first_window.Known:
    """What is known now: nothing is kept beside the runs themselves."""
    asked = {
        (step.technique, step.side)
        for cue in drill.cues
        for chain in cue.asks
        for step in chain.steps[:1]
    }
    settled = _first_runs(db, club_id, drill_id)
    settled.pop(student_id, None)
    tests = _tests(db, club_id, {*settled, student_id})
    return first_window.Known(
        answers=answers.of_techniques(db, club_id, student_id, asked),
        baseline=tests.get(student_id),
        club=[(window_s, tests.get(other)) for other, window_s in settled.items()],
    )


def _first_runs(db: Session, club_id: uuid.UUID, drill_id: uuid.UUID) -> dict[uuid.UUID, float]:
    """Where each student's first run of a drill settled, s, by student."""
    own = aliased(Run)
    settled = own.figures["evidence"]["settled_window_s"].as_float()
    first = (
        select(settled.label("window_s"))
        .where(own.club_id == Student.club_id, own.student_id == Student.id)
        .where(own.drill_id == drill_id, own.rung == 1)
        .where(settled.is_not(None), own.counts)
        .order_by(own.started_at)
        .limit(1)
        .lateral("first")
    )
    query = select(Student.id, first.c.window_s).join(first, true())
    rows = db.execute(query.where(Student.club_id == club_id))
    return {row[0]: row[1] for row in rows}


def _tests(db: Session, club_id: uuid.UUID, students: set[uuid.UUID]) -> dict[uuid.UUID, Baseline]:
    """The last five-minute test of each, by student."""
    query = (
        select(Run.student_id, Run.figures["baseline"])
        .ext(distinct_on(Run.student_id))
        .where(Run.club_id == club_id, text(IS_TEST), Run.counts)
        .where(Run.student_id == func.any(list(students)))
        .order_by(Run.student_id, Run.started_at.desc())
    )
    return {student: _BASELINE.validate_python(level) for student, level in db.execute(query)}
