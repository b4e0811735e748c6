"""Drills, their versions, planned rounds, and the sounds they use."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from hastatus.api import shapes
from hastatus.api.guard import db, signed_in, who
from hastatus.api.lookup import find_student, find_version
from hastatus.api.problems import Problem, not_found
from hastatus.core import sound
from hastatus.core.drill import Drill
from hastatus.core.figures import plan_figures
from hastatus.core.plan import RunPlan, plan_run
from hastatus.store import drills
from hastatus.store.models import DrillVersion

bp = APIBlueprint("build", __name__, url_prefix="/api", abp_tags=[Tag(name="build")])


def make_plan(
    drill: Drill, *, seed: int, rung: int, window_s: float | None, stance: str, sound_only: bool
) -> RunPlan:
    """Plan a run; what cannot be planned is a 422 with the reason."""
    try:
        return plan_run(
            drill,
            seed=seed,
            rung=rung,
            window_s=window_s,
            stance="right_lead" if stance == "right_lead" else "left_lead",
            sound_only=sound_only,
        )
    except (IndexError, ValueError) as error:
        raise Problem(422, "Cannot be planned", str(error)) from error


def _view(version: DrillVersion, newest: bool) -> shapes.DrillView:
    drill = drills.read(version)
    return shapes.DrillView(
        id=version.drill_id,
        version=version.number,
        newest=newest,
        document=drill,
        cues=shapes.cue_names(drill),
    )


@bp.get("/drills", responses={200: shapes.DrillList})
@signed_in
def list_drills() -> Response:
    """The newest version of each drill."""
    found = drills.newest(db(), who().club_id)
    return shapes.reply(shapes.DrillList(drills=[_view(each, True) for each in found]))


@bp.get("/drills/<uuid:drill_id>/versions/<int:number>", responses={200: shapes.DrillView})
@signed_in
def get_version(path: shapes.VersionPath) -> Response:
    """One version of a drill."""
    newest = find_version(path.drill_id).number
    version = find_version(path.drill_id, path.number)
    return shapes.reply(_view(version, version.number == newest))


@bp.post("/drills/<uuid:drill_id>/versions", responses={201: shapes.DrillView})
@signed_in
def add_version(path: shapes.DrillPath, body: shapes.VersionRequest) -> Response:
    """Keep a new version; 409 when somebody else has made one meanwhile."""
    try:
        found = drills.add_version(db(), who().club_id, path.drill_id, body.base, body.document)
    except drills.VersionConflict:
        raise Problem(
            409, "Changed meanwhile", "Somebody else kept a newer version; load it first."
        ) from None
    if found is None:
        raise not_found("drill")
    return shapes.reply(_view(find_version(path.drill_id), True), 201)


@bp.post("/plans", responses={200: shapes.PlanView})
@signed_in
def plan(body: shapes.PlanRequest) -> Response:
    """Plan a run and its figures; nothing is kept."""
    drill = drills.read(find_version(body.drill_id))
    stance = "left_lead"
    if body.student_id is not None:
        stance = find_student(body.student_id).stance
    made = make_plan(
        drill,
        seed=body.seed,
        rung=body.rung,
        window_s=body.window_s,
        stance=stance,
        sound_only=body.sound_only,
    )
    return shapes.reply(shapes.PlanView(plan=made, figures=plan_figures(drill, made)))


@bp.get("/sounds/<string:name>.wav")
@signed_in
def get_sound(path: shapes.SoundPath) -> Response:
    """A cue sound; its onset is its first sample."""
    data = sound.wav(sound.SOUNDS[path.name]())
    return Response(data, content_type="audio/wav", headers={"Cache-Control": "max-age=86400"})
