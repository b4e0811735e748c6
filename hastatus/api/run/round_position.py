"""Where a round stands at the mat, for the feeder's screen on another device."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in
from hastatus.api.run import partner_run_models
from hastatus.api.run.partner_runs import find_partner_run
from hastatus.store import batch_intake, partner_runs

bp = ApiBlueprint("stands", __name__, url_prefix="/api", abp_tags=[Tag(name="partner runs")])


@bp.put(
    "/partner-runs/<uuid:partner_run_id>/stands", responses={200: partner_run_models.StandsView}
)
@signed_in
def say(
    path: partner_run_models.PartnerRunPath, body: partner_run_models.StandsRequest
) -> Response:
    """The mat says where the round stands, whenever it begins, stops or changes its tempo."""
    run = find_partner_run(path.partner_run_id)
    try:
        partner_runs.stand(db(), run, body.recorder, body.stands())
    except batch_intake.OtherRecorder:
        raise Problem(409, "Recorded elsewhere", "Another device records this run.") from None
    return reply(partner_run_models.StandsView(stands=partner_runs.stands_now(run)))


@bp.get(
    "/partner-runs/<uuid:partner_run_id>/stands", responses={200: partner_run_models.StandsView}
)
@signed_in
def stands_now(path: partner_run_models.PartnerRunPath) -> Response:
    """Where the round stands by now."""
    run = find_partner_run(path.partner_run_id)
    return reply(partner_run_models.StandsView(stands=partner_runs.stands_now(run)))
