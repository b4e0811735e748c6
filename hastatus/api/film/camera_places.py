"""Where the club's phones stand when they film, and the zones that they see from there."""

from __future__ import annotations

from datetime import UTC, datetime

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.film import models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.problems import not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.motion.zone import CameraPlace
from hastatus.store import films

bp = ApiBlueprint("camera_places", __name__, url_prefix="/api", abp_tags=[Tag(name="film")])


@bp.get("/camera-places", responses={200: models.CameraPlaceList})
@signed_in
def list_places() -> Response:
    """The club's camera places, the one that was drawn last first."""
    return reply(_list())


@bp.put("/camera-places/<uuid:place_id>", responses={200: models.CameraPlaceList})
@signed_in
def keep_place(path: models.CameraPlacePath, body: models.CameraPlaceRequest) -> Response:
    """Keep a new place, or other zones of one."""
    films.keep_place(db(), who().club_id, path.place_id, body.place)
    return reply(_list())


@bp.patch("/camera-places/<uuid:place_id>", responses={200: models.CameraPlaceList})
@signed_in
def remove_place(path: models.CameraPlacePath, body: models.CameraPlaceRemoval) -> Response:
    """Offer a place no more, or again; films that were read with it stay as they are."""
    row = films.place(db(), who().club_id, path.place_id)
    if row is None:
        raise not_found("camera place")
    row.removed_at = datetime.now(UTC) if body.removed else None
    db().flush()
    return reply(_list())


def _list() -> models.CameraPlaceList:
    return models.CameraPlaceList(
        places=[
            models.CameraPlaceView(
                id=row.id,
                place=CameraPlace.model_validate(row.document),
                changed_at=row.changed_at,
            )
            for row in films.places(db(), who().club_id)
        ]
    )
