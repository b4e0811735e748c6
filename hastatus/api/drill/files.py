"""Taking a drill away as a file, and bringing it in again."""

from __future__ import annotations

import hashlib
from typing import cast

from flask import Response, current_app
from flask_openapi3 import OpenAPI, Tag
from pydantic_core import to_json

from hastatus.api.drill import models as drill_models
from hastatus.api.drill.drills import prepared, view
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import file
from hastatus.api.http.lookup import find_version
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import download, reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.drill.file import AssetFile, DrillFile, assets_of, file_name, json_schema
from hastatus.sound_io import upload
from hastatus.store import assets, drills

bp = ApiBlueprint("takeaway", __name__, url_prefix="/api", abp_tags=[Tag(name="take away")])


@bp.get("/schemas/drill.json", responses=file("application/schema+json"))
def schema() -> Response:
    """The JSON Schema of a drill file."""
    return Response(to_json(json_schema(), indent=1), content_type="application/schema+json")


@bp.get("/schemas/api.json", responses=file("application/json"))
def api_document() -> Response:
    """The API document (OpenAPI 3.1)."""
    document = cast(OpenAPI, current_app).api_doc
    return Response(to_json(document), content_type="application/json")


@bp.get(
    "/drills/<uuid:drill_id>/versions/<int:number>/drill.json", responses=file("application/json")
)
@signed_in
def drill_file(path: drill_models.VersionPath) -> Response:
    """A drill as a file, with its recordings and pictures."""
    drill = drills.read_any(find_version(path.drill_id, path.number))
    kept = [assets.find(db(), who().club_id, asset_id) for asset_id in sorted(assets_of(drill))]
    file = DrillFile(
        drill=drill,
        assets=tuple(
            AssetFile.model_construct(id=asset.id, media_type=asset.media_type, data=asset.data)
            for asset in kept
            if asset
        ),
    )
    return download(
        file.model_dump_json(indent=1), "application/json", f"{file_name(drill.title)}.json"
    )


@bp.post("/drills/<uuid:drill_id>/file", responses={201: drill_models.DrillView})
@signed_in
def bring_in(path: drill_models.DrillPath, body: DrillFile) -> Response:
    """Keep the drill of a file under a new id, whole or not at all."""
    if drills.version(db(), who().club_id, path.drill_id) is None:
        for number, asset in enumerate(body.assets):
            _bring_asset(number, asset)
        drills.add(db(), who().club_id, prepared(body.drill), drill_id=path.drill_id)
    return reply(view(find_version(path.drill_id), True), 201)


def _bring_asset(number: int, asset: AssetFile) -> None:
    where = f"assets.{number}.data"
    if hashlib.sha256(asset.data).hexdigest() != asset.id:
        raise Problem(422, "Not valid", f"{where}: the bytes are not those that the id stands for")
    try:
        read = upload.read(asset.data)
    except upload.BadUpload as error:
        raise Problem(422, "Not valid", f"{where}: {error}") from error
    # A recording of ours is kept as it is: trimmed again, it would have another id.
    kept = upload.Upload(asset.id, read.kind, read.media_type, asset.data, read.length_s)
    assets.keep(db(), who().club_id, kept)
