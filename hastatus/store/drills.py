"""Drills and their versions, which never change."""

from __future__ import annotations

import uuid

from sqlalchemy import select
from sqlalchemy.orm import Session

from hastatus.core import drill as language
from hastatus.store.models import Drill, DrillVersion


class VersionConflict(RuntimeError):
    """Somebody else has made a newer version meanwhile."""


def add(db: Session, club_id: uuid.UUID, document: language.Drill) -> Drill:
    """A new drill with its first version."""
    drill = Drill(club_id=club_id, id=uuid.uuid4(), version=1)
    db.add(drill)
    db.flush()
    _write(db, drill, document)
    return drill


def add_version(
    db: Session, club_id: uuid.UUID, drill_id: uuid.UUID, base: int, document: language.Drill
) -> Drill | None:
    """The next version after `base`; None without such a drill, `VersionConflict` if not newest."""
    drill = db.get(Drill, (club_id, drill_id), with_for_update=True)
    if drill is None:
        return None
    if drill.version != base:
        raise VersionConflict
    drill.version += 1
    _write(db, drill, document)
    return drill


def _write(db: Session, drill: Drill, document: language.Drill) -> None:
    db.add(
        DrillVersion(
            club_id=drill.club_id,
            drill_id=drill.id,
            number=drill.version,
            schema_version=document.schema_version,
            document=document.model_dump(mode="json"),
        )
    )
    db.flush()


def version(
    db: Session, club_id: uuid.UUID, drill_id: uuid.UUID, number: int | None = None
) -> DrillVersion | None:
    """One version of a drill, the newest when no number is given."""
    if number is None:
        drill = db.get(Drill, (club_id, drill_id))
        if drill is None:
            return None
        number = drill.version
    return db.get(DrillVersion, (club_id, drill_id, number))


def newest(db: Session, club_id: uuid.UUID) -> list[DrillVersion]:
    """The newest version of each of the club's drills, oldest drill first."""
    return list(
        db.scalars(
            select(DrillVersion)
            .join(
                Drill,
                (Drill.club_id == DrillVersion.club_id)
                & (Drill.id == DrillVersion.drill_id)
                & (Drill.version == DrillVersion.number),
            )
            .where(Drill.club_id == club_id)
            .order_by(Drill.created_at, Drill.id)
        )
    )


def read(row: DrillVersion) -> language.Drill:
    """The document of a version as a model."""
    return language.Drill.model_validate(row.document)
