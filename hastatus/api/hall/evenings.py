"""Evenings: planned, changed, deleted and brought back."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.hall import models as hall_models
from hastatus.api.hall.evening_view import evening_view, tonight_of
from hastatus.api.hall.known_view import unless_known
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.store import class_runs, evenings
from hastatus.store.models import Evening

bp = ApiBlueprint("hall", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])

MEANWHILE = (
    "Somebody else has changed it meanwhile. What they did is shown now: look, then do yours."
)


def find_evening(path: hall_models.EveningPath, *, deleted: bool = False) -> Evening:
    """One of the club's evenings."""
    row = evenings.find(db(), who().club_id, path.evening_id)
    if row is None or (row.deleted_at is not None and not deleted):
        raise not_found("evening")
    return row


@bp.get("/evenings", responses={200: hall_models.EveningList})
@signed_in
def list_evenings() -> Response:
    """The club's evenings, and which is tonight's."""
    rows = evenings.latest(db(), who().club_id)
    came = evenings.came(db(), who().club_id)
    running = class_runs.running(db(), who().club_id)
    lines = []
    for row in rows:
        plan = evenings.plan_of(row)
        lines.append(
            hall_models.EveningLine(
                id=row.id,
                title=plan.title,
                starts_at=plan.starts_at,
                ends_at=plan.ends_at,
                zone=plan.zone,
                blocks=[block.name for block in plan.blocks],
                came=came[row.id],
                running=row.id in running,
            )
        )
    return reply(hall_models.EveningList(evenings=lines, tonight=tonight_of(lines)))


@bp.post("/evenings", responses={200: hall_models.EveningView, 201: hall_models.EveningView})
@signed_in
def add_evening(body: hall_models.NewEvening) -> Response:
    """Keep a new evening; the same request again gives the same one."""
    known = evenings.find(db(), who().club_id, body.id)
    if known is not None:
        return reply(evening_view(known))
    return reply(evening_view(evenings.add(db(), who().club_id, body.id, body.plan)), 201)


@bp.get("/evenings/<uuid:evening_id>", responses={200: hall_models.EveningView, 304: None})
@signed_in
def get_evening(path: hall_models.EveningPath) -> Response:
    """An evening: its times, who is here, who works with whom."""
    row = find_evening(path)
    return unless_known(row, lambda: evening_view(row))


@bp.put("/evenings/<uuid:evening_id>", responses={200: hall_models.EveningView})
@signed_in
def change_evening(path: hall_models.EveningPath, body: hall_models.EveningChange) -> Response:
    """Keep a changed plan; 409 when somebody else has changed it meanwhile."""
    row = find_evening(path)
    try:
        evenings.change(db(), row, body.plan, body.base)
    except evenings.ChangedMeanwhile:
        raise Problem(409, "Changed meanwhile", MEANWHILE) from None
    return reply(evening_view(row))


@bp.patch("/evenings/<uuid:evening_id>", responses={200: hall_models.EveningView})
@signed_in
def put_evening_away(path: hall_models.EveningPath, body: hall_models.EveningAway) -> Response:
    """Delete an evening, or bring it back; who came and who worked with whom is kept with it."""
    row = find_evening(path, deleted=True)
    evenings.put_away(db(), row, body.deleted)
    return reply(evening_view(row))
