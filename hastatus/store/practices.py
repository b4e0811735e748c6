"""Practices for home: what is assigned to whom, what is planned ahead, and what came back."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Sequence
from datetime import UTC, date, datetime

from sqlalchemy import delete, exists, func, select, update
from sqlalchemy.dialects.postgresql import distinct_on, insert
from sqlalchemy.orm import Session, defer

from hastatus.core.home import practice as documents
from hastatus.core.home.practice import HomeWord
from hastatus.store.models import HomeRun, PlannedRun, Practice, PracticeStudent, Run


def add(
    db: Session,
    club_id: uuid.UUID,
    practice_id: uuid.UUID,
    coach_id: uuid.UUID,
    document: documents.Practice,
) -> Practice:
    """A new practice; nobody has it yet."""
    row = Practice(
        club_id=club_id,
        id=practice_id,
        coach_id=coach_id,
        document=document.model_dump(mode="json"),
        ends_on=document.ends_on,
    )
    db.add(row)
    db.flush()
    return row


def find(db: Session, club_id: uuid.UUID, practice_id: uuid.UUID) -> Practice | None:
    """The club's practice with this id."""
    return db.get(Practice, (club_id, practice_id))


def document_of(row: Practice, member: PracticeStudent | None = None) -> documents.Practice:
    """What is assigned; to one of them, with the days of their own."""
    document = documents.Practice.model_validate(row.document)
    if member is not None and member.days is not None:
        document = document.model_copy(update={"days": member.days})
    return document


def change(db: Session, row: Practice, document: documents.Practice) -> None:
    """Keep another document of a practice."""
    row.document, row.ends_on = document.model_dump(mode="json"), document.ends_on
    db.flush()


def end(db: Session, row: Practice, ended: bool) -> None:
    """End a practice, or take that back."""
    row.ended_at = (row.ended_at or datetime.now(UTC)) if ended else None
    db.flush()


def give(db: Session, row: Practice, student_ids: Collection[uuid.UUID]) -> None:
    """Have these students, and no others, have the practice."""
    mine = (PracticeStudent.club_id == row.club_id, PracticeStudent.practice_id == row.id)
    db.execute(
        update(PracticeStudent)
        .where(*mine, PracticeStudent.student_id.not_in(student_ids))
        .where(PracticeStudent.removed_at.is_(None))
        .values(removed_at=func.now())
    )
    for student_id in student_ids:
        key = {"club_id": row.club_id, "practice_id": row.id, "student_id": student_id}
        db.execute(
            insert(PracticeStudent)
            .values(**key)
            .on_conflict_do_update(index_elements=list(key), set_={"removed_at": None})
        )
    db.expire_all()


def members(db: Session, club_id: uuid.UUID) -> list[tuple[Practice, PracticeStudent]]:
    """The club's practices that have not been ended, the newest first, and who has each."""
    query = _having(club_id).where(Practice.ended_at.is_(None))
    newest = query.order_by(Practice.created_at.desc(), Practice.id, PracticeStudent.student_id)
    return [(row, member) for row, member in db.execute(newest)]


def of_student(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, today: date | None = None
) -> list[tuple[Practice, PracticeStudent]]:
    """What a student has to practise, the oldest first. today: only what that day is part of."""
    query = _having(club_id).where(PracticeStudent.student_id == student_id)
    query = query.where(Practice.ended_at.is_(None))
    if today is not None:
        query = query.where(Practice.ends_on >= today)
    found = [(row, member) for row, member in db.execute(query.order_by(Practice.created_at))]
    return [
        (row, member)
        for row, member in found
        if today is None or document_of(row).starts_on <= today
    ]


def _having(club_id: uuid.UUID):  # type: ignore[no-untyped-def]
    with_member = (PracticeStudent.club_id == Practice.club_id) & (
        PracticeStudent.practice_id == Practice.id
    )
    return (
        select(Practice, PracticeStudent)
        .join(PracticeStudent, with_member)
        .where(Practice.club_id == club_id, PracticeStudent.removed_at.is_(None))
    )


def planned(
    db: Session, member: PracticeStudent, since: int
) -> dict[tuple[int, uuid.UUID], PlannedRun]:
    """What is planned ahead for somebody from practice `since` on: the newest of each number and
    drill."""
    rows = db.scalars(
        select(PlannedRun)
        .where(PlannedRun.club_id == member.club_id, PlannedRun.student_id == member.student_id)
        .where(PlannedRun.practice_id == member.practice_id, PlannedRun.number >= since)
        .order_by(PlannedRun.created_at, PlannedRun.id)
    )
    return {(row.number, row.drill_id): row for row in rows}


def remove_overtaken(
    db: Session, member: PracticeStudent, kept: Collection[uuid.UUID], before: datetime
) -> None:
    """Remove what was planned for somebody `before` then, was never begun and is not `kept`."""
    db.execute(
        delete(PlannedRun)
        .where(PlannedRun.club_id == member.club_id, PlannedRun.student_id == member.student_id)
        .where(PlannedRun.practice_id == member.practice_id, PlannedRun.created_at < before)
        .where(PlannedRun.id.not_in(kept))
        .where(~exists().where(_OF_PLANNED))
    )


def newest_planned(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> list[PlannedRun]:
    """The newest run that is planned ahead for a student of each drill, version and rung."""
    kind = (PlannedRun.drill_id, PlannedRun.version, PlannedRun.rung)
    query = select(PlannedRun).ext(distinct_on(*kind))
    query = query.order_by(*kind, PlannedRun.created_at.desc())
    mine = (PlannedRun.club_id == club_id, PlannedRun.student_id == student_id)
    return list(db.scalars(query.where(*mine)))


def reached(db: Session, member: PracticeStudent) -> int:
    """The number of the last practice that somebody has begun; 1: none yet."""
    query = (
        select(func.max(PlannedRun.number))
        .join(HomeRun, _OF_PLANNED)
        .where(PlannedRun.club_id == member.club_id, PlannedRun.student_id == member.student_id)
        .where(PlannedRun.practice_id == member.practice_id)
    )
    return db.scalar(query) or 1


_OF_PLANNED = (HomeRun.club_id == PlannedRun.club_id) & (HomeRun.planned_id == PlannedRun.id)


def done(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID
) -> list[tuple[HomeRun, PlannedRun, Run | None]]:
    """What a student has done at home, oldest first, with its plan and, where it was measured, the
    run."""
    return done_by_each(db, club_id, {student_id})[student_id]


def done_by_each(
    db: Session, club_id: uuid.UUID, student_ids: Collection[uuid.UUID]
) -> dict[uuid.UUID, list[tuple[HomeRun, PlannedRun, Run | None]]]:
    """The same for each of these students."""
    of_run = (Run.club_id == HomeRun.club_id) & (Run.id == HomeRun.id)
    query = (
        select(HomeRun, PlannedRun, Run)
        .join(PlannedRun, _OF_PLANNED)
        .outerjoin(Run, of_run)
        .options(defer(PlannedRun.plan), defer(Run.plan))
        .where(HomeRun.club_id == club_id, HomeRun.student_id.in_(student_ids))
        .order_by(HomeRun.started_at, HomeRun.id)
    )
    found: dict[uuid.UUID, list[tuple[HomeRun, PlannedRun, Run | None]]] = {
        student_id: [] for student_id in student_ids
    }
    for one, plan, run in db.execute(query):
        found[one.student_id].append((one, plan, run))
    return found


def words_since(
    rows: Sequence[tuple[HomeRun, PlannedRun, Run | None]],
    drill_id: uuid.UUID,
    rung: int,
    since: datetime | None,
) -> list[HomeWord]:
    """What was said of a drill that nothing measured, since `since`, oldest first."""
    return [
        one.said
        for one, plan, _ in rows
        if plan.drill_id == drill_id
        and plan.rung == rung
        and not one.measured
        and one.said is not None
        and (since is None or one.started_at > since)
    ]
