"""Templates of evenings, and the coming evenings as a calendar file."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime

from flask import Response
from flask_openapi3 import Tag
from icalendar import Calendar, Event
from pydantic import BaseModel

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import done, file
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import download, reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.fields import Document, Line
from hastatus.core.hall.evening import Evening
from hastatus.store import evenings
from hastatus.store.models import EveningTemplate

bp = ApiBlueprint("templates", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])

MOST = 100


class NewTemplate(Document):
    """A plan to begin evenings from. id: made by the client, so that a repeat is harmless."""

    id: uuid.UUID
    name: Line
    plan: Evening


class TemplatePath(BaseModel):
    template_id: uuid.UUID


class TemplateView(BaseModel):
    id: uuid.UUID
    name: str
    plan: Evening


class TemplateList(BaseModel):
    templates: list[TemplateView]


@bp.get("/evening-templates", responses={200: TemplateList})
@signed_in
def list_templates() -> Response:
    """The club's templates, by name."""
    return reply(_list())


@bp.post("/evening-templates", responses={200: TemplateList})
@signed_in
def keep_template(body: NewTemplate) -> Response:
    """Keep a plan as a template."""
    if len(evenings.templates(db(), who().club_id)) >= MOST:
        raise Problem(422, "Too many", f"More than {MOST} templates: remove one first.")
    evenings.keep_template(db(), who().club_id, body.id, body.name, body.plan)
    return reply(_list())


@bp.delete("/evening-templates/<uuid:template_id>", responses=done())
@signed_in
def remove_template(path: TemplatePath) -> Response:
    """Remove a template; evenings that were begun from it stay."""
    row = db().get(EveningTemplate, (who().club_id, path.template_id))
    if row is None:
        raise not_found("template")
    db().delete(row)
    return Response(status=204)


def _list() -> TemplateList:
    return TemplateList(
        templates=[
            TemplateView(id=row.id, name=row.name, plan=Evening.model_validate(row.plan))
            for row in evenings.templates(db(), who().club_id)
        ]
    )


@bp.get("/evenings.ics", responses=file("text/calendar"))
@signed_in
def calendar() -> Response:
    """The coming evenings as a calendar (iCalendar, RFC 5545)."""
    made = Calendar()
    made.add("prodid", "-//Hastatus//EN")
    made.add("version", "2.0")
    now = datetime.now(UTC)
    for row in evenings.latest(db(), who().club_id):
        plan = evenings.plan_of(row)
        if plan.ends_at < now:
            continue
        event = Event()
        event.add("uid", f"{row.id}@hastatus")
        event.add("dtstamp", row.created_at.astimezone(UTC))
        event.add("sequence", row.edit)
        event.add("dtstart", plan.starts_at.astimezone(UTC))
        event.add("dtend", plan.ends_at.astimezone(UTC))
        event.add("summary", plan.title)
        event.add("description", "\n".join(block.name for block in plan.blocks))
        made.add_component(event)
    return download(made.to_ical(), "text/calendar; charset=utf-8", "evenings.ics")
