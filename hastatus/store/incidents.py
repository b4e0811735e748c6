"""The book of incidents: entries are added, amended by further ones, and never changed."""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Sequence
from datetime import UTC, datetime

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.store.models import Incident


def write(
    db: Session,
    club_id: uuid.UUID,
    incident_id: uuid.UUID,
    *,
    what: str,
    students: Sequence[uuid.UUID] = (),
    happened_at: datetime | None = None,
    done: str = "",
    cleared_by: str = "",
    amends: uuid.UUID | None = None,
    coach_id: uuid.UUID | None = None,
) -> None:
    """Add an entry, once for each id. happened_at: None: now. amends: the entry that it adds to."""
    values = {
        "club_id": club_id,
        "id": incident_id,
        "amends": amends,
        "happened_at": happened_at or datetime.now(UTC),
        "students": [str(one) for one in students],
        "what": what,
        "done": done,
        "cleared_by": cleared_by,
        "coach_id": coach_id,
    }
    db.execute(insert(Incident).values(values).on_conflict_do_nothing())


def find(db: Session, club_id: uuid.UUID, incident_id: uuid.UUID) -> Incident | None:
    """The club's entry with this id."""
    return db.get(Incident, (club_id, incident_id))


def book(
    db: Session, club_id: uuid.UUID, *, limit: int = 500
) -> list[tuple[Incident, list[Incident]]]:
    """The newest entries first, each with what was added to it, in the order it was."""
    mine = select(Incident).where(Incident.club_id == club_id)
    firsts = mine.where(Incident.amends.is_(None)).order_by(Incident.happened_at.desc())
    entries = list(db.scalars(firsts.limit(limit)))
    added: dict[uuid.UUID, list[Incident]] = defaultdict(list)
    ids = [row.id for row in entries]
    for row in db.scalars(mine.where(Incident.amends.in_(ids)).order_by(Incident.written_at)):
        assert row.amends is not None
        added[row.amends].append(row)
    return [(row, added[row.id]) for row in entries]
