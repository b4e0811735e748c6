"""Students."""

from __future__ import annotations

import uuid

from sqlalchemy import select
from sqlalchemy.orm import Session

from hastatus.store.models import Student


def add(db: Session, club_id: uuid.UUID, *, name: str, stance: str, notes: str = "") -> Student:
    """A new student."""
    student = Student(club_id=club_id, id=uuid.uuid4(), name=name, stance=stance, notes=notes)
    db.add(student)
    db.flush()
    return student


def find(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> Student | None:
    """The club's student with this id."""
    return db.get(Student, (club_id, student_id))


def all_of(db: Session, club_id: uuid.UUID) -> list[Student]:
    """The club's students by name."""
    return list(
        db.scalars(select(Student).where(Student.club_id == club_id).order_by(Student.name))
    )
