"""The log of who did what, for owners of the club."""

from __future__ import annotations

import uuid
from datetime import datetime

from flask import Response, current_app
from flask_openapi3 import APIBlueprint, Tag
from pydantic import BaseModel

from hastatus.api.club.coaches import only_owner
from hastatus.api.http.document import also
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.fields import Document, Instant
from hastatus.store import accounts, audit, drills, students

bp = APIBlueprint("audit", __name__, url_prefix="/api", abp_tags=[Tag(name="accounts")])


class AuditQuery(Document):
    """coach_id: of whom. before: only what is older, for the next page."""

    coach_id: uuid.UUID | None = None
    before: Instant | None = None


class AuditLine(BaseModel):
    """Something that was done. coach: null: nobody who is signed in. what: in a sentence. about:
    what it was done to, where that has a name. request_id: as in the server's log."""

    at: datetime
    coach: str | None
    what: str
    about: str | None
    request_id: str


class AuditList(BaseModel):
    """more: there are older ones."""

    lines: list[AuditLine]
    more: bool


@bp.get("/audit", responses={200: AuditList, **also(403)})
@signed_in
def list_audit(query: AuditQuery) -> Response:
    """Who did what, the newest first."""
    only_owner()
    club_id = who().club_id
    rows = audit.newest(db(), club_id, coach_id=query.coach_id, before=query.before)
    coaches = accounts.coach_names(db(), club_id)
    named = {
        **drills.newest_titles(db(), club_id),
        **students.names_of(db(), club_id),
        **coaches,
    }
    return reply(
        AuditList(
            lines=[
                AuditLine(
                    at=row.at,
                    coach=coaches.get(row.coach_id) if row.coach_id else None,
                    what=_sentence(row.what),
                    about=named.get(row.about) if row.about else None,
                    request_id=row.request_id,
                )
                for row in rows
            ],
            more=len(rows) == audit.A_PAGE,
        )
    )


def _sentence(what: str) -> str:
    """An operation as the API document says it; what is none is a sentence already."""
    method, _, address = what.partition(" ")
    operations = current_app.api_doc["paths"].get(address, {})  # type: ignore[attr-defined]
    summary: str = operations.get(method.lower(), {}).get("summary", what)
    return summary.rstrip(".")
