"""Drills and their versions, which never change."""

from __future__ import annotations

import uuid
from collections import Counter
from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hastatus.core import drill as language
from hastatus.core.library import parse
from hastatus.core.partner.drill import PartnerDrill
from hastatus.store.models import Drill, DrillVersion, PartnerRun, Run

Document = language.Drill | PartnerDrill


class VersionConflict(RuntimeError):
    """Somebody else has made a newer version meanwhile."""


class OtherForm(ValueError):
    """A partner drill where a solo drill is needed, or the other way round."""


@dataclass(frozen=True, slots=True)
class Shelved:
    """A drill in the library: its newest version, and how many runs it has had."""

    drill: Drill
    version: DrillVersion
    runs: int


def add(
    db: Session,
    club_id: uuid.UUID,
    document: Document,
    *,
    drill_id: uuid.UUID | None = None,
) -> Drill:
    """A new drill with its first version."""
    drill = Drill(club_id=club_id, id=drill_id or uuid.uuid4(), version=1)
    db.add(drill)
    db.flush()
    _write(db, drill, document)
    return drill


def add_version(
    db: Session, club_id: uuid.UUID, drill_id: uuid.UUID, base: int, document: Document
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


def _write(db: Session, drill: Drill, document: Document) -> None:
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


def find(db: Session, club_id: uuid.UUID, drill_id: uuid.UUID) -> Drill | None:
    """The club's drill with this id."""
    return db.get(Drill, (club_id, drill_id))


def newest(db: Session, club_id: uuid.UUID) -> list[DrillVersion]:
    """The newest version of each of the club's solo drills in use, oldest drill first."""
    return [
        each.version
        for each in shelf(db, club_id)
        if each.version.document.get("form", "solo") == "solo"
    ]


_OF_DRILL = (
    (Drill.club_id == DrillVersion.club_id)
    & (Drill.id == DrillVersion.drill_id)
    & (Drill.version == DrillVersion.number)
)


def shelf(db: Session, club_id: uuid.UUID, *, archived: bool = False) -> list[Shelved]:
    """The drills in use, or those put away, oldest first."""
    query = (
        select(Drill, DrillVersion)
        .join(DrillVersion, _OF_DRILL)
        .where(
            Drill.club_id == club_id,
            Drill.archived_at.is_not(None) if archived else Drill.archived_at.is_(None),
        )
    )
    runs: Counter[uuid.UUID] = Counter()
    for of in (Run, PartnerRun):
        counted = select(of.drill_id, func.count()).where(of.club_id == club_id)
        for drill_id, count in db.execute(counted.group_by(of.drill_id)):
            runs[drill_id] += count
    return [
        Shelved(drill, version, runs[drill.id])
        for drill, version in db.execute(query.order_by(Drill.created_at, Drill.id))
    ]


def mark(db: Session, drill: Drill, *, tags: list[str] | None, archived: bool | None) -> None:
    """Tag a drill, put it away or take it out again; None leaves as it is."""
    if tags is not None:
        drill.tags = list(dict.fromkeys(tags))
    if archived is not None:
        drill.archived_at = (drill.archived_at or datetime.now(UTC)) if archived else None
    db.flush()


def read_any(row: DrillVersion) -> Document:
    """The document of a version as a model, solo or partner."""
    return parse(row.document)


def read(row: DrillVersion) -> language.Drill:
    """A version of a solo drill as a model; `OtherForm` for a partner drill."""
    found = read_any(row)
    if not isinstance(found, language.Drill):
        raise OtherForm("this is a partner drill; run it with two, or make its solo version")
    return found


def read_partner(row: DrillVersion) -> PartnerDrill:
    """A version of a partner drill as a model; `OtherForm` for a solo drill."""
    found = read_any(row)
    if not isinstance(found, PartnerDrill):
        raise OtherForm("this is a solo drill; it has no feeder's side")
    return found
