"""Links by which students practise at home, without an account."""

from __future__ import annotations

import secrets
import uuid
from datetime import UTC, date, datetime, timedelta

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from hastatus.store import accounts
from hastatus.store.models import HomeLink, Student

LASTS = timedelta(days=60)
_TOKEN_BYTES = 18
_SEEN_EVERY = timedelta(minutes=10)


def make(
    db: Session,
    student: Student,
    made_by: uuid.UUID,
    *,
    guardian: str = "",
    guardian_on: date | None = None,
    lasts: timedelta = LASTS,
) -> tuple[HomeLink, str]:
    """A link for a student; its token is told once, and only a hash of it is kept."""
    token = secrets.token_urlsafe(_TOKEN_BYTES)
    row = HomeLink(
        club_id=student.club_id,
        id=uuid.uuid4(),
        student_id=student.id,
        token_hash=accounts.token_hash(token),
        made_by=made_by,
        guardian=guardian,
        guardian_on=guardian_on,
        expires_at=datetime.now(UTC) + lasts,
    )
    db.add(row)
    db.flush()
    return row, token


def of_student(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> list[HomeLink]:
    """The links of a student that still open something, the newest first."""
    query = select(HomeLink).where(HomeLink.club_id == club_id, HomeLink.student_id == student_id)
    return list(db.scalars(query.where(*_OPEN).order_by(HomeLink.created_at.desc(), HomeLink.id)))


def with_link(db: Session, club_id: uuid.UUID) -> dict[uuid.UUID, datetime | None]:
    """The students who have a link that opens something, and when one of theirs was last opened."""
    query = (
        select(HomeLink.student_id, func.max(HomeLink.seen_at))
        .where(HomeLink.club_id == club_id, *_OPEN)
        .group_by(HomeLink.student_id)
    )
    return dict(iter(db.execute(query)))


def opened(db: Session, token: str) -> tuple[HomeLink, Student] | None:
    """What a token opens; None: nothing, or nothing any more: it has run out or was closed, they
    are gone from the club, or a guardian would have to allow it and has not."""
    found = db.execute(
        select(HomeLink, Student)
        .join(Student, (Student.club_id == HomeLink.club_id) & (Student.id == HomeLink.student_id))
        .where(HomeLink.token_hash == accounts.token_hash(token), *_OPEN)
        .where(Student.archived_at.is_(None))
    ).first()
    if found is None:
        return None
    link, student = found
    if student.consent != "not_needed" and not link.guardian:
        return None
    now = datetime.now(UTC)
    if link.seen_at is None or now - link.seen_at > _SEEN_EVERY:
        link.seen_at = now
    return link, student


def revoke(db: Session, club_id: uuid.UUID, link_id: uuid.UUID, revoked: bool) -> bool:
    """Have a link open nothing any more, or open again; False when there is no such one."""
    mine = (HomeLink.club_id == club_id, HomeLink.id == link_id)
    change = update(HomeLink).where(*mine).values(revoked_at=func.now() if revoked else None)
    return db.scalars(change.returning(HomeLink.id)).first() is not None


_OPEN = (HomeLink.revoked_at.is_(None), HomeLink.expires_at > func.now())
