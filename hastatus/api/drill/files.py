"""Taking a drill away: as a file that comes back, and as a cue track in open formats."""

from __future__ import annotations

import hashlib
import io
import re
from collections.abc import Iterator
from typing import cast

import numpy as np
import soundfile
from flask import Response, current_app
from flask_openapi3 import APIBlueprint, OpenAPI, Tag
from pydantic_core import to_json

from hastatus.api.drill import models as drill_models
from hastatus.api.drill.drills import prepared, view
from hastatus.api.http.document import file
from hastatus.api.http.lookup import find_student, find_version
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.plan import solo_bench
from hastatus.api.sound.assets import say
from hastatus.audio import upload
from hastatus.core.drill.file import AssetFile, DrillFile, assets_of, json_schema
from hastatus.core.drill.solo import Drill
from hastatus.core.plan import track_formats
from hastatus.core.plan.cue_track import Track, make_track, render, wav_size
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound import tones
from hastatus.core.sound.tones import Samples
from hastatus.store import assets, club_catalogue, drills

bp = APIBlueprint("takeaway", __name__, url_prefix="/api", abp_tags=[Tag(name="take away")])


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
    kept = [assets.find(db(), who().club_id, each) for each in sorted(assets_of(drill))]
    file = DrillFile(
        drill=drill,
        assets=tuple(
            AssetFile.model_construct(id=each.id, media_type=each.media_type, data=each.data)
            for each in kept
            if each
        ),
    )
    return _download(file.model_dump_json(indent=1), "application/json", f"{_name(drill)}.json")


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


@bp.get(
    "/drills/<uuid:drill_id>/versions/<int:number>/track.<string:ending>",
    responses={**file("audio/wav", "text/vtt", "text/csv", "audio/midi")},
)
@signed_in
def cue_track(path: drill_models.TrackPath, query: drill_models.TrackQuery) -> Response:
    """A planned run as a cue track: WAV, WebVTT, CSV or MIDI."""
    drill = drills.read(find_version(path.drill_id, path.number))
    stance = find_student(query.student_id).stance if query.student_id else "left_lead"
    if query.minutes:
        drill = drill.lasting(query.rung, 60 * query.minutes)
    plan = solo_bench.make_plan(
        drill,
        seed=query.seed,
        rung=query.rung,
        window_s=None,
        stance=stance,
        sound_only=False,
        factors=solo_bench.factors_for(query.student_id, path.drill_id, drill, query.rung),
    )
    made = make_track(drill, plan, drill.labels(club_catalogue.labels(db(), who().club_id)))
    name = f"{_name(drill)}.{path.ending}"
    if path.ending == "vtt":
        return _download(track_formats.webvtt(made), "text/vtt; charset=utf-8", name)
    if path.ending == "csv":
        return _download(track_formats.cue_csv(made), "text/csv; charset=utf-8", name)
    if path.ending == "mid":
        return _download(track_formats.midi(made, drill), "audio/midi", name)
    return _wav(made, drill, name)


def _wav(made: Track, drill: Drill, name: str) -> Response:
    sounds = {clip.name: _samples(clip, drill) for clip in made.clips}

    def pieces() -> Iterator[bytes]:
        yield from render(made, sounds)

    answer = _download(pieces(), "audio/wav", name)
    answer.content_length = wav_size(made)
    return answer


def _samples(clip: Clip, drill: Drill) -> Samples:
    if clip.source == "tone":
        return tones.SOUNDS[clip.what]()  # type: ignore[index]
    if clip.source == "spoken":
        data = say(clip.what, drill.voice)
    else:
        kept = assets.find(db(), who().club_id, clip.what)
        if kept is None:
            raise Problem(422, "Cannot be rendered", "a recording of this drill is missing")
        data = kept.data
    samples, _ = soundfile.read(io.BytesIO(data), dtype="float64")
    return np.asarray(samples)


def _download(data: str | bytes | Iterator[bytes], content_type: str, name: str) -> Response:
    answer = Response(data, content_type=content_type)
    answer.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


def _name(drill: drills.Document) -> str:
    """The title as a file name that every system takes."""
    plain = re.sub(r"[^A-Za-z0-9]+", "-", drill.title).strip("-").lower()
    return plain[:60] or "drill"
