"""The log of who did what."""

from __future__ import annotations

import uuid
from datetime import datetime, timedelta

from sqlalchemy import delete, func, insert, select
from sqlalchemy.orm import Session

from hastatus.store.models import AuditEntry

KEPT = timedelta(days=730)
A_PAGE = 200


def note(
    db: Session,
    club_id: uuid.UUID,
    coach_id: uuid.UUID | None,
    what: str,
    *,
    about: uuid.UUID | None = None,
    request_id: str = "",
) -> None:
    """Keep what somebody did. what: the operation, by method and address."""
    entry = {"club_id": club_id, "coach_id": coach_id, "what": what, "about": about}
    db.execute(insert(AuditEntry).values(**entry, request_id=request_id))


def newest(
    db: Session,
    club_id: uuid.UUID,
    *,
    coach_id: uuid.UUID | None = None,
    before: datetime | None = None,
) -> list[AuditEntry]:
    """A page of the club's entries, the newest first; those older than `KEPT` are dropped."""
    mine = AuditEntry.club_id == club_id
    db.execute(delete(AuditEntry).where(mine, AuditEntry.at < func.now() - KEPT))
    query = select(AuditEntry).where(mine)
    if coach_id is not None:
        query = query.where(AuditEntry.coach_id == coach_id)
    if before is not None:
        query = query.where(AuditEntry.at < before)
    return list(
        db.scalars(query.order_by(AuditEntry.at.desc(), AuditEntry.id.desc()).limit(A_PAGE))
    )
