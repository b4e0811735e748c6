"""Students."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Sequence
from datetime import UTC, datetime, timedelta

from sqlalchemy import select
from sqlalchemy.orm import Session

from hastatus.core.drill.header import Level
from hastatus.core.hall.attendee import Consent
from hastatus.core.hall.readiness import Readiness
from hastatus.core.trade.contact import Contact
from hastatus.core.trade.limbs import Body
from hastatus.core.trade.technique import Stance
from hastatus.store.models import Student

STUDENT_KEPT = timedelta(days=30)
"""How long a deleted student can be brought back."""


def add(
    db: Session,
    club_id: uuid.UUID,
    *,
    name: str,
    stance: Stance,
    notes: str = "",
    body: Body = Body(),  # noqa: B008  (frozen)
    gear: Sequence[str] = (),
    contact: Contact = "touch",
    level: Level = "new",
    senses: str = "",
    spares: str = "",
    consent: Consent = "not_needed",
    readiness: Readiness = "free",
    student_id: uuid.UUID | None = None,
) -> Student:
    """A new student."""
    student = Student(club_id=club_id, id=student_id or uuid.uuid4(), name=name, stance=stance)
    db.add(student)
    change(
        student,
        name=name,
        stance=stance,
        notes=notes,
        body=body,
        gear=gear,
        contact=contact,
        level=level,
        senses=senses,
        spares=spares,
        consent=consent,
        readiness=readiness,
    )
    db.flush()
    return student


def change(
    student: Student,
    *,
    name: str,
    stance: Stance,
    notes: str,
    body: Body,
    gear: Sequence[str],
    contact: Contact,
    level: Level,
    senses: str,
    spares: str,
    consent: Consent,
    readiness: Readiness,
) -> None:
    """What is known of a student; runs that are kept stay as they were run."""
    student.name, student.stance, student.notes = name, stance, notes
    student.height_m, student.arm_m, student.leg_m = body.height_m, body.arm_m, body.leg_m
    student.gear, student.contact = list(gear), contact
    student.level, student.senses, student.spares = level, senses, spares
    student.consent, student.readiness = consent, readiness


def body_of(student: Student) -> Body:
    """What was measured of a student."""
    return Body(height_m=student.height_m, arm_m=student.arm_m, leg_m=student.leg_m)


def find(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> Student | None:
    """The club's student with this id."""
    return db.get(Student, (club_id, student_id))


def with_ids(
    db: Session, club_id: uuid.UUID, student_ids: Collection[uuid.UUID]
) -> dict[uuid.UUID, Student]:
    """The club's students with these ids, archived and deleted ones too."""
    query = select(Student).where(Student.club_id == club_id, Student.id.in_(student_ids))
    return {student.id: student for student in db.scalars(query)}


def all_of(db: Session, club_id: uuid.UUID, *, archived: bool = False) -> list[Student]:
    """The club's students by name: those who train, or those who are archived."""
    mine = select(Student).where(Student.club_id == club_id).order_by(Student.name)
    away = Student.archived_at.is_not(None) & Student.deleted_at.is_(None)
    return list(db.scalars(mine.where(away if archived else Student.archived_at.is_(None))))


def names_of(db: Session, club_id: uuid.UUID) -> dict[uuid.UUID, str]:
    """The names of all of the club's students, archived ones too, by id."""
    rows = db.execute(select(Student.id, Student.name).where(Student.club_id == club_id))
    return {row.id: row.name for row in rows}


def deleted(db: Session, club_id: uuid.UUID) -> list[Student]:
    """Those who were deleted and can still be brought back, the last one first."""
    mine = select(Student).where(Student.club_id == club_id, Student.merged_into.is_(None))
    gone = mine.where(Student.deleted_at > datetime.now(UTC) - STUDENT_KEPT)
    return list(db.scalars(gone.order_by(Student.deleted_at.desc())))
