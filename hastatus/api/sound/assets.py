"""Tones, spoken calls, recordings, pictures and clips."""

from __future__ import annotations

import uuid

from flask import Response, request
from flask_openapi3 import Tag

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also, file
from hastatus.api.http.problems import FaultPlace, Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import club_id, db, signed_in, who
from hastatus.api.sound import models as sound_models
from hastatus.core.drill.header import Voice
from hastatus.core.sound import named, tones
from hastatus.sound_io import speech, upload
from hastatus.store import assets

bp = ApiBlueprint("sounds", __name__, url_prefix="/api", abp_tags=[Tag(name="sounds")])

_A_DAY = {"Cache-Control": "private, max-age=86400"}


def say(words: str, voice: Voice, club: uuid.UUID | None = None) -> bytes:
    """A spoken call; a 422 where it cannot be spoken. club: None: that the request is about."""
    try:
        return assets.spoken(db(), club or club_id(), words, voice)
    except speech.NoSpeech as error:
        raise Problem(422, "Cannot be spoken", str(error)) from error


@bp.get("/sounds/<string:name>.wav", responses={**file("audio/wav"), **also(404)})
@signed_in
def get_sound(path: sound_models.SoundPath) -> Response:
    """A cue sound, or a signal of a round; its onset is its first sample."""
    try:
        data = tones.wav(named.samples(path.name))
    except KeyError:
        raise not_found("signal") from None
    return Response(data, content_type="audio/wav", headers=_A_DAY)


@bp.get("/spoken.wav", responses=file("audio/wav"))
@signed_in
def get_spoken(query: sound_models.SpokenQuery) -> Response:
    """A spoken call; its onset is its first sample."""
    voice = Voice(language=query.language, words_a_minute=query.words_a_minute)
    return Response(say(query.words, voice), content_type="audio/wav", headers=_A_DAY)


@bp.post("/assets", responses={201: sound_models.AssetView})
@signed_in
def add_asset() -> Response:
    """Keep a recorded call, a picture or a clip, sent as it is."""
    try:
        kept = assets.keep(db(), who().club_id, upload.read(request.get_data()))
    except upload.BadUpload as error:
        fault = FaultPlace(where="file", what=str(error))
        raise Problem(422, "Cannot be used", f"file: {error}", [fault]) from error
    view = sound_models.AssetView(
        id=kept.id,
        kind=kept.kind,
        media_type=kept.media_type,
        length_s=kept.length_s,
        created_at=kept.created_at,
    )
    return reply(view, 201)


@bp.get("/assets/<string:asset_id>", responses=file("audio/*", "image/*", "video/*"))
@signed_in
def get_asset(path: sound_models.AssetPath) -> Response:
    """A kept recording, picture or clip."""
    asset = assets.find(db(), who().club_id, path.asset_id)
    if asset is None:
        raise not_found("recording or picture")
    return Response(asset.data, content_type=asset.media_type, headers=_A_DAY)
