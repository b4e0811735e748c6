"""The book of incidents: what, who, when, what was done, cleared by whom. Nothing is deleted."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated

from flask import Response
from flask_openapi3 import Tag
from pydantic import BaseModel, Field

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.lookup import find_student
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.fields import Document, Instant, Line, Note
from hastatus.store import accounts, incidents, students
from hastatus.store.models import Incident

bp = ApiBlueprint("incidents", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])


class IncidentEntry(Document):
    """An entry to add. id: made by the client, so that a repeat is harmless. amends: the entry that
    it adds to; null: it is one of its own. students: who was in it."""

    id: uuid.UUID
    happened_at: Instant
    what: Line
    students: Annotated[tuple[uuid.UUID, ...], Field(max_length=20)] = ()
    done: Note = ""
    cleared_by: Annotated[Note, Field(max_length=200)] = ""
    amends: uuid.UUID | None = None


class EntryView(BaseModel):
    """An entry as it was written. by: the coach who wrote it; empty: the program, from a mark."""

    id: uuid.UUID
    happened_at: datetime
    written_at: datetime
    what: str
    who: list[str]
    done: str
    cleared_by: str
    by: str


class IncidentView(BaseModel):
    """An incident, and what was added to it since."""

    entry: EntryView
    added: list[EntryView]


class IncidentBook(BaseModel):
    incidents: list[IncidentView]


@bp.get("/incidents", responses={200: IncidentBook})
@signed_in
def read_book() -> Response:
    """The book, the newest first."""
    return reply(_book())


@bp.post("/incidents", responses={200: IncidentBook, **also(404, 422)})
@signed_in
def write_entry(body: IncidentEntry) -> Response:
    """Write an entry, or add to one; the same entry again changes nothing."""
    club_id = who().club_id
    if body.amends is not None:
        first = incidents.find(db(), club_id, body.amends)
        if first is None:
            raise not_found("entry")
        if first.amends is not None:
            raise Problem(422, "Not added", "amends: this is an addition; add to the entry itself.")
    for student_id in body.students:
        find_student(student_id)
    incidents.write(
        db(),
        club_id,
        body.id,
        what=body.what,
        students=body.students,
        happened_at=body.happened_at,
        done=body.done,
        cleared_by=body.cleared_by,
        amends=body.amends,
        coach_id=who().coach_id,
    )
    return reply(_book())


def _book() -> IncidentBook:
    names = {str(key): name for key, name in students.names_of(db(), who().club_id).items()}
    coaches = accounts.coach_names(db(), who().club_id)

    def view(row: Incident) -> EntryView:
        return EntryView(
            id=row.id,
            happened_at=row.happened_at,
            written_at=row.written_at,
            what=row.what,
            who=[names.get(key, "somebody who is gone") for key in row.students],
            done=row.done,
            cleared_by=row.cleared_by,
            by=coaches.get(row.coach_id, "") if row.coach_id else "",
        )

    return IncidentBook(
        incidents=[
            IncidentView(entry=view(row), added=[view(one) for one in added])
            for row, added in incidents.book(db(), who().club_id)
        ]
    )
