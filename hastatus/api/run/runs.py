"""Runs: their list, beginning one, posting its events, closing it."""

from __future__ import annotations

import uuid
from typing import get_args

from flask import Response, request
from flask_openapi3 import Tag

from hastatus.api.club.models import AwayRequest
from hastatus.api.drill import models as drill_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.lookup import find_run, find_student, find_version
from hastatus.api.http.problems import FaultPlace, Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.plan.next_plan import next_plan
from hastatus.api.read import lists
from hastatus.api.read import models as read_models
from hastatus.api.run import models as run_models
from hastatus.api.run import player_assets
from hastatus.core.motion.zone import CameraPlace, Zone
from hastatus.core.run.controls import HOME_KEY, TAP_KEY, controls
from hastatus.core.run.device import Device, device_of
from hastatus.core.run.device_profile import Profile
from hastatus.core.run.events import BadBatch
from hastatus.core.run.loudness import FASTEST_REHEARSAL_S, LOUDNESS_AT_START
from hastatus.core.trade.colours import HEX
from hastatus.core.trade.technique import Stance, hand
from hastatus.store import (
    away,
    batch_intake,
    club_catalogue,
    devices,
    drills,
    event_batches,
    films,
    runs,
)
from hastatus.store.models import Run

bp = ApiBlueprint("run", __name__, url_prefix="/api", abp_tags=[Tag(name="run")])


def _view(run: Run) -> run_models.RunView:
    setup = runs.setup_of(db(), run)
    student = find_student(run.student_id)
    labels = setup.drill.labels(club_catalogue.labels(db(), who().club_id))
    rung = setup.drill.rungs[setup.plan.rung - 1]
    stances: tuple[Stance, Stance] = get_args(Stance)
    return run_models.RunView(
        id=run.id,
        student=student.name,
        drill_id=run.drill_id,
        version=run.version,
        document=setup.drill,
        plan=setup.plan,
        cues=drill_models.cue_names(setup.drill, labels),
        controls={stance: controls(setup.drill, rung, stance, labels) for stance in stances},
        lead_side={stance: hand("lead", stance) for stance in stances},
        colours=dict(HEX),
        loudness=LOUDNESS_AT_START,
        rehearsal_step_s=FASTEST_REHEARSAL_S,
        state=lists.state_of(run),
        next_batch=runs.next_batch(db(), run),
        started_at=run.started_at,
        flash_s=rung.flash_s,
        device=setup.device,
        home_key=HOME_KEY,
        tap_key=TAP_KEY,
        **player_assets.parts(setup.drill, setup.plan, labels),
    )


@bp.get("/runs", responses={200: read_models.RunList, **also(404)})
@signed_in
def list_runs(query: read_models.RunQuery) -> Response:
    """The newest runs of those that are asked for."""
    if query.student_id:
        find_student(query.student_id)
    newest = runs.latest(db(), who().club_id, query.asked)
    return reply(read_models.RunList(runs=lists.of(db(), who().club_id, newest)))


@bp.post(
    "/runs",
    responses={200: run_models.RunView, 201: run_models.RunView, **also(404)},
)
@signed_in
def begin(body: run_models.RunRequest) -> Response:
    """Begin a run; the same request again gives the same run."""
    known = runs.find(db(), who().club_id, body.id)
    if known is not None:
        if known.recorder != body.recorder:
            raise Problem(409, "Recorded elsewhere", "This run belongs to another tab or device.")
        return reply(_view(known))
    student = find_student(body.student_id)
    version = find_version(body.drill_id)
    plan = next_plan(db(), student, body.drill_id, drills.read(version)).plan(
        body.seed, sound_only=body.sound_only
    )
    run = runs.add(
        db(),
        who().club_id,
        body.id,
        student_id=student.id,
        coach_id=who().coach_id,
        version=version,
        recorder=body.recorder,
        plan=plan,
        device=_device(body),
    )
    return reply(_view(run), 201)


def _device(body: run_models.RunRequest) -> Device:
    """The device that a run is played on, with what was measured on it."""
    known = devices.profile(db(), who().club_id, body.device_id) if body.device_id else Profile()
    return device_of(
        known.name,
        known.corrections,
        body.inputs,
        home=body.home,
        simulated=body.simulated,
        pads=known.pads if "midi" in body.inputs else (),
        zones=_zones(body.camera_place_id) if body.camera_place_id else (),
    )


def _zones(place_id: uuid.UUID) -> tuple[Zone, ...]:
    """What a camera looks at from one of the club's places."""
    row = films.place(db(), who().club_id, place_id)
    if row is None or row.removed_at:
        raise not_found("camera place")
    place = CameraPlace.model_validate(row.document)
    if place.of_two:
        raise Problem(409, "Two people", "This camera place shows two; draw one for a single one.")
    return place.zones


@bp.get("/runs/<uuid:run_id>", responses={200: run_models.RunView})
@signed_in
def get_run(path: run_models.RunPath) -> Response:
    """A run with its plan."""
    return reply(_view(find_run(path.run_id)))


@bp.patch("/runs/<uuid:run_id>", responses={200: read_models.RunLine, **also(404)})
@signed_in
def put_run_away(path: run_models.RunPath, body: AwayRequest) -> Response:
    """Archive a run, so that it counts for nothing; or delete it; or bring it back."""
    run = find_run(path.run_id)
    away.put(run, body.away, who().coach_id)
    db().flush()
    away.purge(db(), who().club_id)
    return reply(lists.of(db(), who().club_id, [run])[0])


@bp.post("/runs/<uuid:run_id>/batches", responses={200: run_models.Ack})
@signed_in
def post_batch(path: run_models.RunPath, body: run_models.BatchRequest) -> Response:
    """Take a batch of events; the answer may carry a revised tail."""
    return reply(take_batch(who().club_id, path.run_id, body))


def take_batch(
    club_id: uuid.UUID, run_id: uuid.UUID, body: run_models.BatchRequest
) -> run_models.Ack:
    """Take the batch of the request into a run of a club; a problem where that cannot be."""
    digest = batch_intake.payload_hash(request.get_data())
    try:
        taken = event_batches.take(db(), club_id, run_id, body.recorder, body.batch(), digest)
    except batch_intake.OtherRecorder:
        raise Problem(
            409, "Recorded elsewhere", "Another tab or device records this run."
        ) from None
    except batch_intake.BatchConflict:
        raise Problem(
            409, "Batch conflict", f"Batch {body.number} came before, with other contents."
        ) from None
    except BadBatch as error:
        fault = FaultPlace(where=error.where, what=str(error))
        raise Problem(422, "Not valid", f"{error.where}: {error}", [fault]) from error
    if taken is None:
        raise not_found("run")
    return run_models.Ack.model_validate(taken, from_attributes=True)


@bp.post("/runs/<uuid:run_id>/close", responses={200: run_models.RunView})
@signed_in
def close(path: run_models.RunPath) -> Response:
    """End a run by hand. What still comes is taken."""
    run = find_run(path.run_id)
    runs.close(db(), run)
    return reply(_view(run))
