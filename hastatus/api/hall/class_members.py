"""Who is here, and who works with whom."""

from __future__ import annotations

import uuid

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.hall import models as hall_models
from hastatus.api.hall.evening_view import (
    drills_of,
    evening_view,
    met_by,
    people_of,
    together,
    wishes_of,
)
from hastatus.api.hall.evenings import MEANWHILE, find_evening
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.lookup import find_student
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.hall.evening import Block, Evening
from hastatus.store import evenings
from hastatus.store import models as rows

bp = ApiBlueprint("class", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])


@bp.patch(
    "/evenings/<uuid:evening_id>/people/<uuid:student_id>",
    responses={200: hall_models.EveningView},
)
@signed_in
def be_present(path: hall_models.PersonPath, body: hall_models.Presence) -> Response:
    """Somebody comes or goes, may not be touched, has other gear, says how ready they feel."""
    row, student = find_evening(path), find_student(path.student_id)
    attendance = evenings.attend(db(), row, student.id)
    said = body.model_dump(exclude_unset=True)
    if (here := said.pop("here", None)) is not None:
        evenings.be_here(attendance, here)
    for name, value in said.items():
        if value is not None or name in ("gear", "ready_before", "ready_after"):
            setattr(
                attendance, name, list(value) if name == "gear" and value is not None else value
            )
    db().flush()
    evenings.touch(db(), row)
    return reply(evening_view(row))


def find_block(row: rows.Evening, path: hall_models.BlockPath) -> tuple[Evening, Block]:
    """A block of an evening, with its plan."""
    plan = evenings.plan_of(row)
    for block in plan.blocks:
        if block.key == path.block:
            return plan, block
    raise not_found("block")


@bp.put(
    "/evenings/<uuid:evening_id>/blocks/<string:block>/groups",
    responses={200: hall_models.EveningView},
)
@signed_in
def put_together(path: hall_models.BlockPath, body: hall_models.GroupsRequest) -> Response:
    """Put everybody together who is here; what is kept stays as it is."""
    row = find_evening(path)
    plan, block = find_block(row, path)
    asked = [tuple(map(str, group)) for group in body.kept]
    if not asked and block.people == "kept" and body.base is None:
        asked = _of_the_block_before(row, plan, block)
    names = [key for group in asked for key in group]
    if len(names) != len(set(names)):
        raise Problem(422, "Not put together", "kept: somebody is in two groups; put them in one.")
    drill = drills_of(row, plan).get(block.drill_id) if block.drill_id else None
    others = evenings.met(db(), who().club_id, but=row.id)
    met = met_by(plan, block, evenings.groups(db(), row), others)
    here = [person for person in people_of(row) if person.here]
    grouping = together(here, wishes_of(block, drill, met), asked)
    members = [[uuid.UUID(key) for key in group.members] for group in grouping.groups]
    try:
        evenings.keep_groups(db(), row, block.key, members, body.base)
    except evenings.ChangedMeanwhile:
        raise Problem(409, "Changed meanwhile", MEANWHILE) from None
    return reply(evening_view(row))


def _of_the_block_before(row: rows.Evening, plan: Evening, block: Block) -> list[tuple[str, ...]]:
    """The groups of the newest block before this one that has any."""
    kept = evenings.groups(db(), row)
    before = plan.blocks[: plan.blocks.index(block)]
    earlier = next((kept[one.key] for one in reversed(before) if one.key in kept), None)
    return [tuple(group) for group in earlier.groups] if earlier else []
