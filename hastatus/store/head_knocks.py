"""Head knocks and the medical clearances written down for them."""

from __future__ import annotations

import uuid
from collections import defaultdict
from datetime import UTC, datetime, timedelta

from sqlalchemy import ColumnElement, Select, func, or_, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.core.run.medical_hold import SAME_DAY, Knock, MedicalHold, medical_hold
from hastatus.store import incidents
from hastatus.store.models import HeadKnock

SLIP = timedelta(minutes=5)
"""How long a head knock can be taken back as a slip of the finger."""


def note(
    db: Session,
    club_id: uuid.UUID,
    student_id: uuid.UUID,
    *,
    knock_id: uuid.UUID | None = None,
    run_id: uuid.UUID | None = None,
) -> None:
    """Write a head knock down, once for each id."""
    values = {
        "club_id": club_id,
        "id": knock_id or uuid.uuid4(),
        "student_id": student_id,
        "run_id": run_id,
    }
    known = insert(HeadKnock).values(values).on_conflict_do_nothing().returning(HeadKnock.id)
    if (made := db.scalars(known).one_or_none()) is not None:
        incidents.write(
            db, club_id, made, what="Head knock", students=[student_id], done="off for the day"
        )


def take_back(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, *, knock_id: uuid.UUID | None = None
) -> bool:
    """Take the newest head knock back, a slip of the finger; False where it is too long ago.

    knock_id: this one. What is longer ago than `SLIP` takes a medical clearance.
    """
    query = (
        _standing(club_id)
        .where(HeadKnock.student_id == student_id, HeadKnock.cleared_at.is_(None))
        .where(HeadKnock.at > func.now() - SLIP)
        .with_for_update()
    )
    if knock_id:
        query = query.where(HeadKnock.id == knock_id)
    knock = db.scalars(query).first()
    if knock is None:
        return False
    knock.taken_back_at = db.scalar(select(func.now()))
    db.flush()
    _amend(db, knock, "Taken back at once: a slip of the finger")
    return True


def clear(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, *, coach_id: uuid.UUID, words: str
) -> int:
    """Write a medical clearance down for every open head knock; how many there were."""
    query = _standing(club_id).where(
        HeadKnock.student_id == student_id, HeadKnock.cleared_at.is_(None)
    )
    knocks = db.scalars(query.with_for_update()).all()
    for knock in knocks:
        knock.clearance, knock.cleared_by = words, coach_id
        knock.cleared_at = db.scalar(select(func.now()))
        _amend(db, knock, "Cleared", cleared_by=words, coach_id=coach_id)
    db.flush()
    return len(knocks)


def _amend(
    db: Session,
    knock: HeadKnock,
    what: str,
    *,
    cleared_by: str = "",
    coach_id: uuid.UUID | None = None,
) -> None:
    """Add to what the book of incidents has of a head knock; those of before the book are not."""
    if incidents.find(db, knock.club_id, knock.id) is not None:
        incidents.write(
            db, knock.club_id, uuid.uuid4(), what=what, students=[knock.student_id],
            cleared_by=cleared_by, amends=knock.id, coach_id=coach_id,
        )  # fmt: skip


def latest(
    db: Session, club_id: uuid.UUID, *, student_id: uuid.UUID | None = None, limit: int = 100
) -> list[HeadKnock]:
    """Head knocks that stand, the newest first; of one student, if given."""
    query = _standing(club_id)
    if student_id:
        query = query.where(HeadKnock.student_id == student_id)
    return list(db.scalars(query.limit(limit)))


def hold(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> MedicalHold | None:
    """The medical hold of a student now; None: free to take part."""
    return _holds(db, club_id, HeadKnock.student_id == student_id).get(student_id)


def holds(db: Session, club_id: uuid.UUID) -> dict[uuid.UUID, MedicalHold]:
    """The medical holds of a club now, by student."""
    return _holds(db, club_id)


def _holds(
    db: Session, club_id: uuid.UUID, *only: ColumnElement[bool]
) -> dict[uuid.UUID, MedicalHold]:
    """Only head knocks that may still hold somebody are read."""
    may_hold = or_(HeadKnock.cleared_at.is_(None), HeadKnock.at > func.now() - SAME_DAY)
    knocks: dict[uuid.UUID, list[Knock]] = defaultdict(list)
    for row in db.scalars(_standing(club_id).where(may_hold, *only)):
        knocks[row.student_id].append(Knock(row.at, row.cleared_at))
    now = datetime.now(UTC)
    holds = {student: medical_hold(knock, now) for student, knock in knocks.items()}
    return {student: hold for student, hold in holds.items() if hold}


def _standing(club_id: uuid.UUID) -> Select[HeadKnock]:
    """Head knocks that were not taken back, the newest first."""
    return (
        select(HeadKnock)
        .where(HeadKnock.club_id == club_id, HeadKnock.taken_back_at.is_(None))
        .order_by(HeadKnock.at.desc())
    )
