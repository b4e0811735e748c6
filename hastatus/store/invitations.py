"""Links by which somebody becomes a coach, or a coach sets a new password."""

from __future__ import annotations

import secrets
import uuid
from datetime import UTC, datetime, timedelta

from sqlalchemy import func, select, update
from sqlalchemy.orm import Session

from hastatus.store import accounts
from hastatus.store.models import Coach, Invitation

INVITED_FOR = timedelta(days=7)
RESET_FOR = timedelta(days=1)
_TOKEN_BYTES = 18


def invite(
    db: Session, club_id: uuid.UUID, made_by: uuid.UUID, *, name: str, role: str
) -> tuple[Invitation, str]:
    """A link for a new coach; its token is told once, and only a hash of it is kept."""
    return _made(db, club_id, made_by, name=name.strip(), role=role, lasts=INVITED_FOR)


def reset(db: Session, coach: Coach, made_by: uuid.UUID) -> tuple[Invitation, str]:
    """A link by which a coach sets a new password; earlier ones of theirs open nothing any more."""
    db.execute(
        update(Invitation)
        .where(Invitation.club_id == coach.club_id, Invitation.coach_id == coach.id)
        .where(Invitation.used_at.is_(None), Invitation.revoked_at.is_(None))
        .values(revoked_at=func.now())
    )
    said = {"name": coach.name, "role": coach.role}
    return _made(db, coach.club_id, made_by, **said, coach_id=coach.id, lasts=RESET_FOR)


def _made(
    db: Session,
    club_id: uuid.UUID,
    made_by: uuid.UUID,
    *,
    name: str,
    role: str,
    lasts: timedelta,
    coach_id: uuid.UUID | None = None,
) -> tuple[Invitation, str]:
    token = secrets.token_urlsafe(_TOKEN_BYTES)
    row = Invitation(
        club_id=club_id,
        id=uuid.uuid4(),
        token_hash=accounts.token_hash(token),
        name=name,
        role=role,
        coach_id=coach_id,
        made_by=made_by,
        expires_at=datetime.now(UTC) + lasts,
    )
    db.add(row)
    db.flush()
    return row, token


def open_ones(db: Session, club_id: uuid.UUID) -> list[Invitation]:
    """The links of a club that still open something, the newest first."""
    query = select(Invitation).where(Invitation.club_id == club_id, *_OPEN)
    return list(db.scalars(query.order_by(Invitation.created_at.desc(), Invitation.id)))


def opened(db: Session, token: str) -> Invitation | None:
    """What a token opens, held until the transaction ends; None: nothing, or nothing any more."""
    mine = Invitation.token_hash == accounts.token_hash(token)
    return db.scalars(select(Invitation).where(mine, *_OPEN).with_for_update()).first()


def revoke(db: Session, club_id: uuid.UUID, invitation_id: uuid.UUID) -> bool:
    """Have a link open nothing any more; False when there is no such one."""
    mine = (Invitation.club_id == club_id, Invitation.id == invitation_id)
    revoked = update(Invitation).where(*mine, *_OPEN).values(revoked_at=func.now())
    return db.scalars(revoked.returning(Invitation.id)).first() is not None


_OPEN = (
    Invitation.used_at.is_(None),
    Invitation.revoked_at.is_(None),
    Invitation.expires_at > func.now(),
)
