"""What a link opens on a phone, without an account: a student's practice, and what comes back.

Whoever has the link may practise as that student and nothing else: it says a first name, never the
club's, and answers all that opens nothing with the same words.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from datetime import timedelta
from functools import wraps
from typing import NoReturn, ParamSpec

from flask import Response, g, request
from flask_openapi3 import Tag

from hastatus.api.club.accounts import check_attempts
from hastatus.api.home import home_models
from hastatus.api.home.home_view import AT_HOME, home_view
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also, done, file
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, public
from hastatus.api.run import models as run_models
from hastatus.api.run import player_assets
from hastatus.api.run.runs import take_batch
from hastatus.api.sound.assets import say
from hastatus.api.sound.models import SpokenQuery
from hastatus.core.drill.header import Voice
from hastatus.core.drill.solo import Drill
from hastatus.core.plan import sounds
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.device import device_of
from hastatus.core.sound import tones
from hastatus.core.trade.label_packs import Labels
from hastatus.store import (
    accounts,
    assets,
    attempts,
    club_catalogue,
    drills,
    home_links,
    practices,
    runs,
)
from hastatus.store import models as rows

bp = ApiBlueprint("home", __name__, url_prefix="/api", abp_tags=[Tag(name="home")])

OPENS_NOTHING = "This link opens nothing, or nothing any more. Ask your coach for a new one."
_A_WEEK = {"Cache-Control": "private, max-age=604800"}

P = ParamSpec("P")


def by_link(handler: Callable[P, Response]) -> Callable[P, Response]:
    """A handler for whoever has a link; what no link opens is the same 404 for all, and who
    tries again and again has to wait."""

    @public
    @wraps(handler)
    def wrapped(*args: P.args, **kwargs: P.kwargs) -> Response:
        found = home_links.opened(db(), (request.view_args or {})["token"])
        if found is None:
            _refuse()
        g.link, g.student = found
        g.club_id = g.student.club_id
        response = handler(*args, **kwargs)
        response.headers["X-Robots-Tag"] = "noindex, nofollow"
        return response

    return wrapped


def _refuse() -> NoReturn:
    subjects = attempts.at_home_link(request.remote_addr or "unknown")
    check_attempts(db(), subjects)
    attempts.note_failure(db(), subjects)
    db().commit()  # what is raised undoes the rest
    raise Problem(404, "Not found", OPENS_NOTHING)


@bp.get("/home/<string:token>", responses={200: home_models.HomeView, **also(404, 429)})
@by_link
def get_home(path: home_models.HomePath) -> Response:
    """A student's practice, planned ahead for days without a connection."""
    return reply(home_view(path.token))


@bp.patch("/home/<string:token>", responses={**done(), **also(404, 429)})
@by_link
def change_home(path: home_models.HomePath, body: home_models.HomeChange) -> Response:
    """Leave lights out, or have them again."""
    g.link.sound_only = body.sound_only
    db().flush()
    return Response(status=204)


@bp.get(
    "/home/<string:token>/sounds/<string:name>.wav",
    responses={**file("audio/wav"), **also(404, 429)},
)
@by_link
def home_sound(path: home_models.HomeSoundPath) -> Response:
    """A cue sound."""
    data = tones.wav(tones.SOUNDS[path.name]())
    return Response(data, content_type="audio/wav", headers=_A_WEEK)


@bp.get("/home/<string:token>/spoken.wav", responses={**file("audio/wav"), **also(404, 429)})
@by_link
def home_spoken(path: home_models.HomePath, query: SpokenQuery) -> Response:
    """A spoken call; only what comes in the student's own practice is spoken."""
    ours = any(
        clip.source == "spoken" and clip.what == query.words
        for drill, plan in _newest()
        for clip in sounds.needed(drill, plan, _labels(drill))
    )
    if not ours:
        raise not_found("call in this practice")
    voice = Voice(language=query.language, words_a_minute=query.words_a_minute)
    return Response(say(query.words, voice), content_type="audio/wav", headers=_A_WEEK)


@bp.get(
    "/home/<string:token>/assets/<string:asset_id>",
    responses={**file("audio/*", "image/*", "video/*"), **also(404, 429)},
)
@by_link
def home_asset(path: home_models.HomeAssetPath) -> Response:
    """A recording, picture or clip; only what comes in the student's own practice."""
    ours = any(
        path.asset_id in address for drill, plan in _newest() for address in _addresses(drill, plan)
    )
    asset = assets.find(db(), g.club_id, path.asset_id) if ours else None
    if asset is None:
        raise not_found("recording or picture")
    return Response(asset.data, content_type=asset.media_type, headers=_A_WEEK)


@bp.put(
    "/home/<string:token>/runs/<uuid:run_id>",
    responses={200: home_models.HomeRunView, **also(404, 409, 429)},
)
@by_link
def keep_run(path: home_models.HomeRunPath, body: home_models.HomeRunRequest) -> Response:
    """Begin a planned run, or say more of it; the same again changes nothing."""
    student: rows.Student = g.student
    planned = db().get(rows.PlannedRun, (student.club_id, body.planned_id))
    if planned is None or planned.student_id != student.id:
        raise not_found("planned run")
    kept = db().get(rows.HomeRun, (student.club_id, path.run_id))
    if kept is None:
        kept = _begin(path, body, planned)
    elif kept.student_id != student.id or kept.planned_id != planned.id:
        raise Problem(409, "In conflict", "There is another run with this id.")
    kept.rounds = max(kept.rounds, min(body.rounds, planned.rounds))
    kept.said = body.said or kept.said
    kept.finished = kept.finished or body.finished
    db().flush()
    return reply(
        home_models.HomeRunView(
            id=kept.id, rounds=kept.rounds, said=kept.said, finished=kept.finished
        )
    )


def _begin(
    path: home_models.HomeRunPath, body: home_models.HomeRunRequest, planned: rows.PlannedRun
) -> rows.HomeRun:
    if runs.find(db(), planned.club_id, path.run_id) is not None:
        raise Problem(409, "In conflict", "There is another run with this id.")
    now = accounts.now()
    # A phone's clock may be wrong, its count of seconds hardly; nobody began before it was planned.
    started_at = max(now - timedelta(seconds=body.ago_s), planned.created_at)
    row = rows.HomeRun(
        club_id=planned.club_id,
        id=path.run_id,
        planned_id=planned.id,
        student_id=planned.student_id,
        link_id=g.link.id,
        measured=body.measured,
        started_at=started_at,
        rounds=0,
        finished=False,
    )
    db().add(row)
    if body.measured:
        version = drills.version(db(), planned.club_id, planned.drill_id, planned.version)
        assert version is not None, "a version is never removed"
        runs.add(
            db(),
            planned.club_id,
            path.run_id,
            student_id=planned.student_id,
            coach_id=g.link.made_by,
            version=version,
            recorder=body.recorder,
            plan=RunPlan.model_validate(planned.plan),
            device=device_of(AT_HOME, (), body.inputs, home=body.home),
            started_at=started_at,
        )
    db().flush()
    return row


@bp.post(
    "/home/<string:token>/runs/<uuid:run_id>/batches",
    responses={200: run_models.Ack, **also(404, 429)},
)
@by_link
def keep_batch(path: home_models.HomeRunPath, body: run_models.BatchRequest) -> Response:
    """Take a batch of events of a run at home; as on the floor, once each, in any order."""
    kept = db().get(rows.HomeRun, (g.club_id, path.run_id))
    if kept is None or kept.student_id != g.student.id or not kept.measured:
        raise not_found("run")
    return reply(take_batch(g.club_id, path.run_id, body))


def _newest() -> Iterator[tuple[Drill, RunPlan]]:
    """The drills that are planned ahead for the student, each with a plan."""
    for row in practices.newest_planned(db(), g.club_id, g.student.id):
        version = drills.version(db(), g.club_id, row.drill_id, row.version)
        assert version is not None, "a version is never removed"
        yield drills.read(version), RunPlan.model_validate(row.plan)


def _labels(drill: Drill) -> Labels:
    return drill.labels(club_catalogue.labels(db(), g.club_id))


def _addresses(drill: Drill, plan: RunPlan) -> Iterator[str]:
    """Where all that is recorded or shown in a run is loaded from."""
    labels = _labels(drill)
    for clip in sounds.needed(drill, plan, labels):
        yield player_assets.sound_url(clip, drill.voice)
    yield from player_assets.pictures(drill).values()
    yield from (shown.asset for shown in player_assets.shown(drill, labels) if shown.asset)
