"""Drills, their versions, the library, and plans on the bench."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import Tag
from pydantic_core import to_json

from hastatus.api.drill import models as drill_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.lookup import find_drill, find_version
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.plan import models as plan_models
from hastatus.api.plan import partner_bench, solo_bench
from hastatus.core.drill.cautions import cautions
from hastatus.core.drill.checks.schools import school_lines
from hastatus.core.drill.file import assets_of
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.store import assets, club_catalogue, drills, starters
from hastatus.store.models import DrillVersion

bp = ApiBlueprint("build", __name__, url_prefix="/api", abp_tags=[Tag(name="build")])


def view(version: DrillVersion, newest: bool) -> drill_models.DrillView:
    """A version of a drill as an answer."""
    drill = drills.read_any(version)
    labels = drill.labels(club_catalogue.labels(db(), who().club_id))
    return drill_models.DrillView(
        id=version.drill_id,
        version=version.number,
        newest=newest,
        document=drill,
        cues=drill_models.cue_names(drill, labels) if isinstance(drill, Drill) else [],
        tags=find_drill(version.drill_id).tags,
        cautions=cautions(drill),
        schools=school_lines(drill),
    )


def prepared(drill: drills.Document) -> drills.Document:
    """A drill as it is kept: it can be done, its recordings are here, its techniques in it."""
    if isinstance(drill, PartnerDrill):
        return partner_bench.checked(club_catalogue.with_own(db(), who().club_id, drill))
    drill = club_catalogue.with_own(db(), who().club_id, drill)
    solo_bench.check(drill)
    missing = assets.missing(db(), who().club_id, assets_of(drill))
    for number, cue in enumerate(drill.cues):
        if getattr(cue.stimulus, "asset", None) in missing:
            where = f"document.cues.{number}.stimulus.asset"
            what = "this club has no such recording or picture; upload it first"
            raise Problem(422, "Not valid", f"{where}: {what}")
    return drill


@bp.get("/library", responses={200: drill_models.Library})
@signed_in
def library(query: drill_models.LibraryQuery) -> Response:
    """Every drill in one line, for finding one."""
    return _library(archived=query.archived)


@bp.get("/library/tests", responses={200: drill_models.Tests})
@signed_in
def library_tests() -> Response:
    """The drills that are repeated the same each time."""
    return reply(drill_models.Tests(drill_ids=drills.tests(db(), who().club_id)))


@bp.post("/library/starters", responses={200: drill_models.Library})
@signed_in
def take_starters(body: drill_models.StartersRequest) -> Response:
    """Add starter drills that came with a newer version; the same again adds nothing."""
    starters.take(db(), who().club_id, body.titles, archived=body.archived)
    return _library(archived=False)


def _library(*, archived: bool) -> Response:
    """A `Library`; its drills are sent as the database puts them together."""
    offered = [] if archived else starters.offered(db(), who().club_id)
    listed = drills.shelf_json(db(), who().club_id, archived=archived)
    rest = to_json([drill_models.OfferedDrill(title=one.title, form=one.form) for one in offered])
    body = b'{"drills":%s,"offered":%s}' % (listed.encode(), rest)
    return Response(body, content_type="application/json")


@bp.post("/drills", responses={200: drill_models.DrillView, 201: drill_models.DrillView})
@signed_in
def add_drill(body: drill_models.NewDrill) -> Response:
    """Keep a new drill; the same request again gives the same drill."""
    known = drills.version(db(), who().club_id, body.id)
    if known is not None:
        return reply(view(known, True))
    drills.add(db(), who().club_id, prepared(body.document), drill_id=body.id)
    return reply(view(find_version(body.id), True), 201)


@bp.patch("/drills/<uuid:drill_id>", responses={200: drill_models.DrillView})
@signed_in
def mark_drill(path: drill_models.DrillPath, body: drill_models.DrillMarks) -> Response:
    """Tag a drill, put it away, or take it out again."""
    drills.mark(db(), find_drill(path.drill_id), tags=body.tags, archived=body.archived)
    return reply(view(find_version(path.drill_id), True))


@bp.get("/drills/<uuid:drill_id>", responses={200: drill_models.DrillView})
@signed_in
def get_drill(path: drill_models.DrillPath) -> Response:
    """The newest version of a drill, solo or partner."""
    return reply(view(find_version(path.drill_id), True))


@bp.get("/drills/<uuid:drill_id>/versions/<int:number>", responses={200: drill_models.DrillView})
@signed_in
def get_version(path: drill_models.VersionPath) -> Response:
    """One version of a drill."""
    newest = find_version(path.drill_id).number
    version = find_version(path.drill_id, path.number)
    return reply(view(version, version.number == newest))


@bp.post("/drills/<uuid:drill_id>/versions", responses={201: drill_models.DrillView})
@signed_in
def add_version(path: drill_models.DrillPath, body: drill_models.VersionRequest) -> Response:
    """Keep a new version; 409 when somebody else has made one meanwhile."""
    document = prepared(body.document)
    try:
        version = drills.add_version(db(), who().club_id, path.drill_id, body.base, document)
    except drills.VersionConflict:
        raise Problem(
            409, "Changed meanwhile", "Somebody else kept a newer version; load it first."
        ) from None
    if version is None:
        raise not_found("drill")
    return reply(view(find_version(path.drill_id), True), 201)


@bp.post("/plans", responses={200: plan_models.PlanView, **also(404)})
@signed_in
def plan(body: plan_models.PlanRequest) -> Response:
    """Plan what is on the bench, with its figures and faults; nothing is kept."""
    return reply(solo_bench.bench_view(body))
