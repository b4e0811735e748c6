"""What holds for everybody in a club's room tonight."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta

from sqlalchemy.orm import Session

from hastatus.store.models import Club

TONIGHT = timedelta(hours=12)
"""How long the switch holds, so that nobody has to remember to set it back."""


def no_touch(db: Session, club_id: uuid.UUID) -> bool:
    """Whether nobody is to touch anybody tonight."""
    until = db.get_one(Club, club_id).no_touch_until
    return until is not None and datetime.now(UTC) < until


def set_no_touch(db: Session, club_id: uuid.UUID, on: bool) -> None:
    """Let nobody touch anybody for the rest of the night, or let them again."""
    db.get_one(Club, club_id).no_touch_until = datetime.now(UTC) + TONIGHT if on else None
    db.flush()
