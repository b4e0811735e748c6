"""Runs and students that are archived, deleted, and gone for good after a while.

What is archived is out of every list and figure and can be brought back. What is deleted can be
brought back for `KEPT`, a student for `STUDENT_KEPT`; then it is gone, and so is what was derived
from it.
"""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from typing import Literal

from sqlalchemy import ColumnElement, Text, and_, cast, delete, exists, func, or_, select, update
from sqlalchemy.orm import Session

from hastatus.core.loop import results
from hastatus.core.read.partner_figures import PartnerFigures
from hastatus.store.models import (
    Attendance,
    EventBatch,
    Film,
    HeadKnock,
    HomeLink,
    HomeRun,
    Incident,
    LadderChoice,
    LadderState,
    MarkBatch,
    MarkFold,
    PartnerResult,
    PartnerRun,
    PartnerRunStudent,
    PlannedRun,
    PracticeStudent,
    Response,
    Run,
    RunFold,
    Student,
    StudentStanding,
)
from hastatus.store.students import STUDENT_KEPT

KEPT = timedelta(days=1)
"""How long a deleted run can be brought back."""

Away = Literal["archived", "deleted"]
_OfStudent = (
    LadderState
    | LadderChoice
    | StudentStanding
    | Attendance
    | HomeRun
    | PlannedRun
    | PracticeStudent
    | HomeLink
)
NOBODY = "somebody who is gone"
"""The name in runs with others of a student who was deleted."""


def of(row: Run | PartnerRun | Student) -> Away | None:
    """Whether something is archived or deleted; None: neither."""
    if row.deleted_at is not None:
        return "deleted"
    return None if row.archived_at is None else "archived"


def put(
    row: Run | PartnerRun | Student, away: Away | None, coach_id: uuid.UUID | None = None
) -> None:
    """Archive or delete something, or bring it back (None). coach_id: who did; None: nobody."""
    now = datetime.now(UTC)
    row.archived_at = None if away is None else row.archived_at or now
    row.deleted_at = now if away == "deleted" else None
    if not isinstance(row, Student):
        row.away_by = None if away is None else coach_id


def put_student(db: Session, student: Student, away: Away | None) -> None:
    """Archive or delete a student, or bring one back; solo runs are deleted and come back with."""
    together = student.deleted_at
    put(student, away)
    mine = (Run.club_id == student.club_id, Run.student_id == student.id)
    if away == "deleted":
        gone = {"archived_at": student.deleted_at, "deleted_at": student.deleted_at}
        db.execute(update(Run).where(*mine, Run.archived_at.is_(None)).values(**gone))
    elif together is not None:
        back = {"archived_at": None, "deleted_at": None}
        db.execute(update(Run).where(*mine, Run.deleted_at == together).values(**back))
    db.flush()


def settle_solo(run: Run, scored: results.Results, *, guided: bool) -> None:
    """A run that ended without an answer is not kept; one that an answer came to late, is.

    guided: it was counted or held, and nobody had to answer. An answer is one whether it counts or
    not: where the device kept poor time, the coach is to see that somebody did answer.
    """
    answered = any(
        response.time_ms is not None or response.given_technique is not None
        for response in scored.responses
    )
    empty = not guided and not answered and not run.faults
    if empty and run.archived_at is None:
        put(run, "deleted")
    elif not empty and run.deleted_at is not None and run.away_by is None:
        put(run, None)


def settle_partner(run: PartnerRun, figures: PartnerFigures, *, knocked: bool) -> None:
    """A partner run that ended without a mark is not kept. knocked: a head knock was marked."""
    empty = not (
        knocked
        or figures.faults
        or figures.chances
        or figures.held
        or any(pace is not None for pace in figures.paces)
        or any(defended.graded for defended in figures.defended)
    )
    if empty and run.archived_at is None:
        put(run, "deleted")
    elif not empty and run.deleted_at is not None and run.away_by is None:
        put(run, None)


def purge(db: Session, club_id: uuid.UUID) -> None:
    """Remove for good what was deleted longer than `KEPT` ago, students than `STUDENT_KEPT`. A
    deleted student's runs stay as long as the student."""
    before, erased = datetime.now(UTC) - KEPT, datetime.now(UTC) - STUDENT_KEPT
    mine = select(Student.id).where(Student.club_id == club_id)
    gone, kept = mine.where(Student.deleted_at < erased), mine.where(Student.deleted_at >= erased)
    old = and_(Run.deleted_at < before, Run.student_id.not_in(kept))
    solo = select(Run.id).where(Run.club_id == club_id, or_(old, Run.student_id.in_(gone)))
    pairs = select(PartnerRun.id).where(
        PartnerRun.club_id == club_id, PartnerRun.deleted_at < before
    )
    for table in (Response, EventBatch, RunFold, Film):
        db.execute(delete(table).where(table.club_id == club_id, table.run_id.in_(solo)))
    db.execute(delete(Run).where(Run.club_id == club_id, Run.id.in_(solo)))
    db.execute(delete(Film).where(Film.club_id == club_id, Film.partner_run_id.in_(pairs)))
    for part in (PartnerResult, MarkFold, MarkBatch, PartnerRunStudent):
        db.execute(delete(part).where(part.club_id == club_id, part.run_id.in_(pairs)))
    db.execute(delete(PartnerRun).where(PartnerRun.club_id == club_id, PartnerRun.id.in_(pairs)))
    _purge_students(db, club_id, erased)


def erase(db: Session, student: Student) -> None:
    """Have a deleted student gone for good at once, as `purge` does after a while."""
    student.deleted_at = datetime.now(UTC) - STUDENT_KEPT - timedelta(days=1)
    db.flush()
    purge(db, student.club_id)
    db.expire_all()


def _purge_students(db: Session, club_id: uuid.UUID, before: datetime) -> None:
    """Students who share runs with others, have had a head knock or are in the book of incidents,
    lose name and measures."""
    mine = (Student.club_id == club_id, Student.deleted_at < before)
    gone = select(Student.id).where(*mine)
    for table in _OF_STUDENT:
        db.execute(delete(table).where(table.club_id == club_id, table.student_id.in_(gone)))
    in_book = exists().where(
        Incident.club_id == Student.club_id,
        Incident.students.contains(func.jsonb_build_array(cast(Student.id, Text))),
    )
    db.execute(
        delete(Student).where(*mine, ~_is_in(PartnerRunStudent), ~_is_in(HeadKnock), ~in_book)
    )
    db.execute(
        update(Student)
        .where(*mine, Student.name != NOBODY)
        .values(
            name=NOBODY,
            notes="",
            senses="",
            spares="",
            height_m=None,
            arm_m=None,
            leg_m=None,
            gear=[],
        )
    )


_OF_STUDENT: tuple[type[_OfStudent], ...] = (
    LadderState,
    LadderChoice,
    StudentStanding,
    Attendance,
    HomeRun,
    PlannedRun,
    PracticeStudent,
    HomeLink,
)
"""What is a student's alone, what is pointed at last."""


def _is_in(table: type[PartnerRunStudent | HeadKnock]) -> ColumnElement[bool]:
    return exists().where(table.club_id == Student.club_id, table.student_id == Student.id)
