"""The room tonight: one switch for every pair on the floor."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.run import partner_run_models
from hastatus.store import rooms

bp = ApiBlueprint("room", __name__, url_prefix="/api", abp_tags=[Tag(name="partner runs")])


@bp.get("/room", responses={200: partner_run_models.Room})
@signed_in
def get_room() -> Response:
    """What holds for everybody tonight."""
    return reply(partner_run_models.Room(no_touch=rooms.no_touch(db(), who().club_id)))


@bp.put("/room", responses={200: partner_run_models.Room})
@signed_in
def put_room(body: partner_run_models.Room) -> Response:
    """Let nobody touch anybody for twelve hours, or let them again; runs that go on stay."""
    rooms.set_no_touch(db(), who().club_id, body.no_touch)
    return reply(body)
