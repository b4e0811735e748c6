"""Drills and their versions, which never change."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from pydantic import TypeAdapter
from sqlalchemy import exists, select, text, tuple_
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.core.drill import solo as language
from hastatus.core.drill.document import parse
from hastatus.core.drill.outline import LibraryEntry, Outline, outline
from hastatus.core.drill.partner import PartnerDrill
from hastatus.store.models import Drill, DrillOutline, DrillVersion

Document = language.Drill | PartnerDrill
_OUTLINE = TypeAdapter(Outline)


class VersionConflict(RuntimeError):
    """Somebody else has made a newer version meanwhile."""


class OtherForm(ValueError):
    """A partner drill where a solo drill is needed, or the other way round."""


@dataclass(frozen=True, slots=True)
class Written:
    """A document as the database keeps it, and its outline."""

    schema_version: int
    document: dict[str, Any]
    outline: dict[str, Any]


def written(document: Document) -> Written:
    """What is kept of a document."""
    return Written(
        document.schema_version,
        document.model_dump(mode="json"),
        _OUTLINE.dump_python(outline(document), mode="json"),
    )


def add(
    db: Session,
    club_id: uuid.UUID,
    document: Document,
    *,
    drill_id: uuid.UUID | None = None,
) -> Drill:
    """A new drill with its first version."""
    drill = Drill(club_id=club_id, id=drill_id or uuid.uuid4(), version=1)
    _write(db, [drill], [written(document)])
    return drill


def add_all(db: Session, club_id: uuid.UUID, documents: Sequence[Written]) -> None:
    """New drills with their first versions, in this order."""
    drills = [Drill(club_id=club_id, id=uuid.uuid4(), version=1) for _ in documents]
    _write(db, drills, documents)


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
    _write(db, [drill], [written(document)])
    return drill


def _write(db: Session, drills: Sequence[Drill], documents: Sequence[Written]) -> None:
    """Write the versions that `drills` have now; kept kind of row after what it refers to."""
    db.add_all(drills)
    db.flush()
    keys = [
        {"club_id": drill.club_id, "drill_id": drill.id, "number": drill.version}
        for drill in drills
    ]
    db.add_all(
        DrillVersion(**key, schema_version=kept.schema_version, document=kept.document)
        for key, kept in zip(keys, documents, strict=True)
    )
    db.flush()
    db.add_all(
        DrillOutline(**key, body=kept.outline) for key, kept in zip(keys, documents, strict=True)
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


def titles(
    db: Session, club_id: uuid.UUID, versions: Collection[tuple[uuid.UUID, int]]
) -> dict[tuple[uuid.UUID, int], str]:
    """The titles of these versions, by drill and number."""
    key = (DrillVersion.drill_id, DrillVersion.number)
    title = DrillVersion.document["title"].astext
    query = select(*key, title).where(DrillVersion.club_id == club_id, tuple_(*key).in_(versions))
    return {(row[0], row[1]): row[2] for row in db.execute(query)}


def newest_titles(db: Session, club_id: uuid.UUID) -> dict[uuid.UUID, str]:
    """The titles of the newest versions of all of a club's drills."""
    of_newest = (DrillVersion.club_id == Drill.club_id) & (DrillVersion.drill_id == Drill.id)
    query = (
        select(Drill.id, DrillVersion.document["title"].astext)
        .join(DrillVersion, of_newest & (DrillVersion.number == Drill.version))
        .where(Drill.club_id == club_id)
    )
    return dict(iter(db.execute(query)))


def find(db: Session, club_id: uuid.UUID, drill_id: uuid.UUID) -> Drill | None:
    """The club's drill with this id."""
    return db.get(Drill, (club_id, drill_id))


def newest(db: Session, club_id: uuid.UUID) -> list[DrillVersion]:
    """The newest version of each of the club's solo drills in use, oldest drill first."""
    in_use = select(DrillVersion).join(Drill, _OF_DRILL).where(Drill.archived_at.is_(None))
    query = in_use.where(Drill.club_id == club_id).order_by(Drill.created_at, Drill.id)
    return [scalar for scalar in db.scalars(query) if scalar.document.get("form", "solo") == "solo"]


_OF_VERSION = (
    (DrillOutline.club_id == DrillVersion.club_id)
    & (DrillOutline.drill_id == DrillVersion.drill_id)
    & (DrillOutline.number == DrillVersion.number)
)
_OF_DRILL = (
    (Drill.club_id == DrillVersion.club_id)
    & (Drill.id == DrillVersion.drill_id)
    & (Drill.version == DrillVersion.number)
)


# As one text: thousands of small rows are read much faster at once.
_SHELF = text("""
    WITH counts AS (
        SELECT drill_id, sum(count) AS count FROM (
            SELECT drill_id, count(*) FROM runs
            WHERE club_id = :club_id AND archived_at IS NULL GROUP BY drill_id
            UNION ALL
            SELECT drill_id, count(*) FROM partner_runs
            WHERE club_id = :club_id AND archived_at IS NULL GROUP BY drill_id
        ) AS each GROUP BY drill_id
    )
    SELECT '[' || coalesce(string_agg(
        left(outlines.body::text, -1) || format(
            ', "id": "%s", "version": %s, "tags": %s, "archived": %s, "runs": %s}',
            drills.id, drills.version, drills.tags, (drills.archived_at IS NOT NULL)::text,
            coalesce(counts.count, 0)
        ), ',' ORDER BY drills.created_at, drills.id
    ), '') || ']'
    FROM drills
    JOIN drill_outlines AS outlines
      ON outlines.club_id = drills.club_id AND outlines.drill_id = drills.id
     AND outlines.number = drills.version
    LEFT JOIN counts ON counts.drill_id = drills.id
    WHERE drills.club_id = :club_id AND (drills.archived_at IS NOT NULL) = :archived
""")
_SHELVED = TypeAdapter(list[LibraryEntry])


def shelf(db: Session, club_id: uuid.UUID, *, archived: bool = False) -> list[LibraryEntry]:
    """The drills in use, or those put away, oldest first."""
    return _SHELVED.validate_json(shelf_json(db, club_id, archived=archived))


def shelf_json(db: Session, club_id: uuid.UUID, *, archived: bool = False) -> str:
    """`shelf` as JSON, as it is sent: reading thousands only to write them again takes longer than
    all the rest."""
    _add_missing(db, club_id)
    asked = {"club_id": club_id, "archived": archived}
    listed: str = db.connection().execute(_SHELF, asked).scalar_one()
    return listed


def tests(db: Session, club_id: uuid.UUID) -> list[uuid.UUID]:
    """The drills in use that are tests, oldest first."""
    newest = (DrillVersion.drill_id == Drill.id) & (DrillVersion.number == Drill.version)
    query = (
        select(Drill.id)
        .join(DrillVersion, (DrillVersion.club_id == Drill.club_id) & newest)
        .where(Drill.club_id == club_id, Drill.archived_at.is_(None))
        .where(DrillVersion.document["purpose"].astext == "baseline")
        .order_by(Drill.created_at)
    )
    return list(db.scalars(query))


def had(db: Session, club_id: uuid.UUID) -> set[tuple[str, str]]:
    """Form and title of every version of every drill that the club has or had."""
    _add_missing(db, club_id)
    form, title = DrillOutline.body["form"].astext, DrillOutline.body["title"].astext
    query = select(form, title).where(DrillOutline.club_id == club_id).distinct()
    return {(row[0], row[1]) for row in db.execute(query)}


def _add_missing(db: Session, club_id: uuid.UUID) -> None:
    """Outline the versions that an older release wrote."""
    has_none = ~exists().where(_OF_VERSION)
    missing = db.scalars(
        select(DrillVersion)
        .where(DrillVersion.club_id == club_id, has_none)
        .order_by(DrillVersion.drill_id, DrillVersion.number)
    )
    rows = [
        {
            "club_id": version.club_id,
            "drill_id": version.drill_id,
            "number": version.number,
            "body": _OUTLINE.dump_python(outline(read_any(version)), mode="json"),
        }
        for version in missing
    ]
    if rows:
        db.execute(insert(DrillOutline).on_conflict_do_nothing(), rows)


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
    drill = read_any(row)
    if not isinstance(drill, language.Drill):
        raise OtherForm("this is a partner drill; run it with two, or make its solo version")
    return drill


def read_partner(row: DrillVersion) -> PartnerDrill:
    """A version of a partner drill as a model; `OtherForm` for a solo drill."""
    drill = read_any(row)
    if not isinstance(drill, PartnerDrill):
        raise OtherForm("this is a solo drill; it has no feeder's side")
    return drill
