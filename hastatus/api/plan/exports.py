"""A planned run as a cue track, which plays without the app."""

from __future__ import annotations

import uuid

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.drill import models as drill_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import file
from hastatus.api.http.lookup import find_student, find_version
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import download
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.plan import bench, partner_bench, solo_bench
from hastatus.api.plan.compressed_audio import ogg_opus
from hastatus.api.sound.assets import say
from hastatus.core.drill.checks.finding import Infeasible
from hastatus.core.drill.file import file_name
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.plan import track_formats
from hastatus.core.plan.cue_track import Track, make_track, pcm, render, wav_size
from hastatus.core.plan.feed_track import calls_of, make_feed_track
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound.tones import Samples
from hastatus.sound_io.speech import NoSpeech, length_s
from hastatus.store import assets, club_catalogue, drills

bp = ApiBlueprint("exports", __name__, url_prefix="/api", abp_tags=[Tag(name="plan")])


@bp.get(
    "/drills/<uuid:drill_id>/versions/<int:number>/track.<string:ending>",
    responses={**file("audio/wav", "audio/ogg", "text/vtt", "text/csv", "audio/midi")},
)
@signed_in
def cue_track(path: drill_models.TrackPath, query: drill_models.TrackQuery) -> Response:
    """A planned run as a track, solo or partner: WAV, Ogg Opus, WebVTT, CSV or MIDI."""
    drill = drills.read_any(find_version(path.drill_id, path.number))
    if query.minutes:
        drill = drill.lasting(query.rung, 60 * query.minutes)
    if isinstance(drill, PartnerDrill):
        made, keys = _feed_track(drill, query), [passage.key for passage in drill.passages]
    else:
        made, keys = _track(drill, path.drill_id, query), [cue.key for cue in drill.cues]
    name = f"{file_name(drill.title)}.{path.ending}"
    if path.ending == "vtt":
        return download(track_formats.webvtt(made), "text/vtt; charset=utf-8", name)
    if path.ending == "csv":
        return download(track_formats.cue_csv(made), "text/csv; charset=utf-8", name)
    if path.ending == "mid":
        return download(track_formats.midi(made, keys), "audio/midi", name)
    sounds = {clip.name: _samples(clip, drill) for clip in made.clips}
    if path.ending == "opus":
        return download(ogg_opus(pcm(made, sounds)), "audio/ogg", name)
    answer = download(render(made, sounds), "audio/wav", name)
    answer.content_length = wav_size(made)
    return answer


def _track(drill: Drill, drill_id: uuid.UUID, query: drill_models.TrackQuery) -> Track:
    """The cues of a solo drill, for a student or for nobody."""
    stance = find_student(query.student_id).stance if query.student_id else "left_lead"
    plan = solo_bench.make_plan(
        drill,
        seed=query.seed,
        rung=query.rung,
        window_s=None,
        stance=stance,
        sound_only=False,
        factors=solo_bench.factors_for(query.student_id, drill_id, drill, query.rung),
    )
    return make_track(drill, plan, drill.labels(club_catalogue.labels(db(), who().club_id)))


def _feed_track(drill: PartnerDrill, query: drill_models.TrackQuery) -> Track:
    """The feeds of a partner drill, for two students or for nobody."""
    feeder, defender = (
        find_student(student_id) if student_id else None
        for student_id in (query.feeder_id, query.defender_id)
    )
    try:
        sheet = partner_bench.sheet_of(drill, query.seed, query.rung, feeder, defender)
    except Infeasible as error:
        raise bench.refused("Cannot be rendered", error.findings) from error
    except IndexError as error:
        raise Problem(422, "Cannot be rendered", f"rung: {error}") from error
    call_s = {words: length_s(say(words, drill.voice)) for words in calls_of(drill, sheet)}
    return make_feed_track(drill, sheet, call_s, query.partner)


def _samples(clip: Clip, drill: Drill | PartnerDrill) -> Samples:
    try:
        samples = assets.samples(db(), who().club_id, clip, drill.voice)
    except NoSpeech as error:
        raise Problem(422, "Cannot be spoken", str(error)) from error
    if samples is None:
        raise Problem(422, "Cannot be rendered", "a recording of this drill is missing")
    return samples
