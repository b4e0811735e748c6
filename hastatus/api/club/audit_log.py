"""The log of who did what, for owners of the club."""

from __future__ import annotations

import inspect
import uuid
from datetime import datetime

from flask import Response, current_app
from flask_openapi3 import Tag
from pydantic import BaseModel

from hastatus.api.club.coaches import only_owner
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.query import Query
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, operation, signed_in, who
from hastatus.core.fields import Document, Instant
from hastatus.store import accounts, audit, drills, students

bp = ApiBlueprint("audit", __name__, url_prefix="/api", abp_tags=[Tag(name="accounts")])


class AuditQuery(Document, Query):
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
    sentences = _sentences()
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
                    what=sentences.get(row.what, row.what).rstrip("."),
                    about=named.get(row.about) if row.about else None,
                    request_id=row.request_id,
                )
                for row in rows
            ],
            more=len(rows) == audit.A_PAGE,
        )
    )


def _sentences() -> dict[str, str]:
    """Each operation, by method and address, in the words of its route."""
    return {
        operation(method, rule.rule): _first_line(current_app.view_functions[rule.endpoint])
        for rule in current_app.url_map.iter_rules()
        for method in rule.methods or ()
    }


def _first_line(view: object) -> str:
    return (inspect.getdoc(view) or "").partition("\n")[0]
