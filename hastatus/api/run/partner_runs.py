"""Partner runs: agreed before contact, marked on the mat, read."""

from __future__ import annotations

import secrets
import uuid
from collections.abc import Sequence
from math import inf

from flask import Response, request
from flask_openapi3 import Tag

from hastatus.api.club.models import AwayRequest
from hastatus.api.drill.models import MOST_SEED
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.lookup import find_student, find_version
from hastatus.api.http.problems import FaultPlace, Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.plan import bench
from hastatus.api.plan.partner_bench import facts_of, pair_of
from hastatus.api.read.models import RunQuery
from hastatus.api.run import partner_run_models
from hastatus.api.run.partner_run_view import detail, line, lines, named_answers, view
from hastatus.core.drill.cautions import cautions
from hastatus.core.drill.checks import partner
from hastatus.core.drill.checks.finding import Infeasible
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.hall.evening_limits import evening_limits
from hastatus.core.plan.feed_plan import feed_sheet, room_of
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.read.carry_over import Chances, by_answer
from hastatus.core.read.partner_run import named
from hastatus.core.run.agreement import (
    Partner,
    asked_gear,
    held_gear,
    readiness,
    refusals,
    settled,
    tonight,
)
from hastatus.core.run.allowance import Allowance, Tonight, allowance
from hastatus.store import (
    away,
    batch_intake,
    club_catalogue,
    drills,
    head_knocks,
    partner_batches,
    partner_runs,
    rooms,
)
from hastatus.store.models import PartnerRun, Student

bp = ApiBlueprint("partners", __name__, url_prefix="/api", abp_tags=[Tag(name="partner runs")])


def find_partner_run(run_id: uuid.UUID) -> PartnerRun:
    """A partner run of the club."""
    run = partner_runs.find(db(), who().club_id, run_id)
    if run is None:
        raise not_found("partner run")
    return run


@bp.post("/partner-runs/start", responses={200: partner_run_models.StartView, **also(404)})
@signed_in
def may_start(body: partner_run_models.PairRequest) -> Response:
    """Whether they may start, and why not; nothing is kept."""
    drill, rung, people = _asked(body)
    partners = [_partner(person) for person in people]
    may = _tonight(partners, body)
    held = list(held_gear(drill, rung))
    comes_to = allowance(drill, rung, may)
    kept = settled(partners, body.agreement, comes_to)
    return reply(
        partner_run_models.StartView(
            refusals=refusals(drill, rung, partners, may),
            brings=readiness(drill, rung, partners, body.agreement),
            asked=list(asked_gear(drill, rung)),
            held=held,
            here=[gear for gear in held if gear in may.held],
            comes_to=comes_to,
            cautions=cautions(drill, bare=kept.bare),
        )
    )


@bp.post(
    "/partner-runs",
    responses={
        200: partner_run_models.PartnerRunView,
        201: partner_run_models.PartnerRunView,
        **also(404),
    },
)
@signed_in
def begin(body: partner_run_models.PartnerRunRequest) -> Response:
    """Begin a partner run; the same request again gives the same run."""
    known = partner_runs.find(db(), who().club_id, body.id)
    if known is not None:
        if known.recorder != body.recorder:
            raise Problem(409, "Recorded elsewhere", "This run belongs to another device.")
        return reply(view(known))
    drill, rung, people = _asked(body)
    partners = [_partner(person) for person in people]
    may = _tonight(partners, body)
    refused = refusals(drill, rung, partners, may)
    if refused:
        places = [FaultPlace(where=refusal.where, what=refusal.what) for refusal in refused]
        raise Problem(422, "Not started", f"{refused[0].where}: {refused[0].what}", places)
    comes_to = allowance(drill, rung, may)
    run = partner_runs.add(
        db(),
        who().club_id,
        body.id,
        version=find_version(body.drill_id),
        coach_id=who().coach_id,
        recorder=body.recorder,
        partners=body.partners,
        sheet=_sheet(drill, body, people, comes_to),
        agreement=settled(partners, body.agreement, comes_to),
    )
    return reply(view(run), 201)


@bp.get("/partner-runs", responses={200: partner_run_models.PartnerRunList, **also(404)})
@signed_in
def list_partner_runs(query: RunQuery) -> Response:
    """The newest partner runs of those that are asked for."""
    if query.student_id:
        find_student(query.student_id)
    newest = partner_runs.latest(db(), who().club_id, query.asked)
    return reply(partner_run_models.PartnerRunList(runs=lines(newest)))


@bp.get("/partner-runs/<uuid:partner_run_id>", responses={200: partner_run_models.PartnerRunView})
@signed_in
def get_partner_run(path: partner_run_models.PartnerRunPath) -> Response:
    """A partner run with its feed sheet."""
    return reply(view(find_partner_run(path.partner_run_id)))


@bp.patch(
    "/partner-runs/<uuid:partner_run_id>",
    responses={200: partner_run_models.PartnerRunLine, **also(404)},
)
@signed_in
def put_partner_run_away(path: partner_run_models.PartnerRunPath, body: AwayRequest) -> Response:
    """Archive a partner run, so that it counts for nothing; or delete it; or bring it back."""
    run = find_partner_run(path.partner_run_id)
    away.put(run, body.away, who().coach_id)
    db().flush()
    away.purge(db(), who().club_id)
    return reply(line(run))


@bp.post(
    "/partner-runs/<uuid:partner_run_id>/batches", responses={200: partner_run_models.MarksAck}
)
@signed_in
def post_marks(
    path: partner_run_models.PartnerRunPath, body: partner_run_models.MarksRequest
) -> Response:
    """Take a batch of marks; the answer says what tempo the rule suggests."""
    digest = batch_intake.payload_hash(request.get_data())
    try:
        taken = partner_batches.take(
            db(), who().club_id, path.partner_run_id, body.recorder, body.batch(), digest
        )
    except batch_intake.OtherRecorder:
        raise Problem(409, "Recorded elsewhere", "Another device records this run.") from None
    except partner_batches.TooMany as error:
        raise Problem(422, "Not valid", str(error)) from error
    except batch_intake.BatchConflict:
        raise Problem(
            409, "Batch conflict", f"Batch {body.number} came before, with other contents."
        ) from None
    if taken is None:
        raise not_found("partner run")
    return reply(partner_run_models.MarksAck.model_validate(taken, from_attributes=True))


@bp.post(
    "/partner-runs/<uuid:partner_run_id>/head-knocks", responses={200: partner_run_models.KnockAck}
)
@signed_in
def post_knock(
    path: partner_run_models.PartnerRunPath, body: partner_run_models.KnockRequest
) -> Response:
    """Write a head knock down at once, whatever other marks still wait; the same again is one."""
    run = find_partner_run(path.partner_run_id)
    people = partner_runs.students_of(db(), run)
    if body.knock.partner >= len(people):
        raise Problem(422, "Not valid", f"knock.partner: {len(people)} take part in this run.")
    try:
        partner_runs.note_knock(db(), run, body.recorder, body.knock, taken_back=body.taken_back)
    except batch_intake.OtherRecorder:
        raise Problem(409, "Recorded elsewhere", "Another device records this run.") from None
    held = head_knocks.hold(db(), who().club_id, people[body.knock.partner].id)
    return reply(partner_run_models.KnockAck(hold=held is not None))


@bp.get(
    "/partner-runs/<uuid:partner_run_id>/readout",
    responses={200: partner_run_models.PartnerReadout},
)
@signed_in
def partner_readout(path: partner_run_models.PartnerRunPath) -> Response:
    """A partner run, read."""
    run = find_partner_run(path.partner_run_id)
    words = club_catalogue.labels(db(), who().club_id)
    shown, result = detail(run), partner_runs.result_of(db(), run)
    names = [partner.name for partner in shown.partners]
    labels = shown.document.labels(words)
    return reply(
        partner_run_models.PartnerReadout(
            run=shown,
            exchanges=list(result.exchanges),
            counters=result.counters,
            reading=named(result.reading, names),
            rhythms=list(result.rhythms),
            carry_over=[
                named_answers(
                    by_answer([one for one in result.chances if one.partner == place]), labels
                )
                for place in range(len(names))
            ],
            free_s=result.free_s,
            missing=list(result.missing),
        )
    )


def _by_partner(chances: Sequence[Chances], people: int) -> list[list[Chances]]:
    return [[one for one in chances if one.partner == place] for place in range(people)]


def _asked(
    body: partner_run_models.PairRequest,
) -> tuple[PartnerDrill, PartnerRung, list[Student]]:
    """The drill, its rung and the people; 404 and 422 where there are none such."""
    drill = drills.read_partner(find_version(body.drill_id))
    if body.rung > len(drill.rungs):
        raise Problem(422, "Not started", f"rung: the drill has no rung {body.rung}")
    if len(set(body.partners)) < len(body.partners):
        raise Problem(422, "Not a pair", "partners: nobody works with themselves; choose others.")
    return (
        drill,
        drill.rungs[body.rung - 1],
        [find_student(student_id) for student_id in body.partners],
    )


def _tonight(partners: list[Partner], body: partner_run_models.PairRequest) -> Tonight:
    no_touch = rooms.no_touch(db(), who().club_id)
    return tonight(partners, body.agreement, no_touch=no_touch)


def _partner(student: Student) -> Partner:
    limits = evening_limits(student.contact, consent=student.consent, readiness=student.readiness)
    return Partner(
        name=student.name,
        contact=limits.contact,
        gear=tuple(student.gear),  # type: ignore[arg-type]
        hold=head_knocks.hold(db(), who().club_id, student.id),
    )


def _sheet(
    drill: PartnerDrill,
    body: partner_run_models.PairRequest,
    people: list[Student],
    comes_to: Allowance,
) -> FeedSheet:
    """The sheet, no faster than bare hands may be; each begins at the pace they had come to."""
    rung = drill.rungs[body.rung - 1].no_faster(comes_to.fastest_bpm)
    paces = _paces(body, rung, people, comes_to.fastest_bpm)
    try:
        partner.check(drill, pair_of(people[0], people[1]))
        sheet = feed_sheet(
            drill,
            seed=secrets.randbelow(MOST_SEED) if body.seed is None else body.seed,
            rung=body.rung,
            tempo_bpm=rung.tempo_bpm,
            stance="right_lead" if people[0].stance == "right_lead" else "left_lead",
            room=room_of(rung, paces),
            facts=lambda feeder, defender: facts_of(people[feeder], people[defender]),
        )
        return sheet.model_copy(update={"paces": paces})
    except Infeasible as error:
        raise bench.refused("Cannot be done", error.findings) from error


def _paces(
    body: partner_run_models.PairRequest,
    rung: PartnerRung,
    people: list[Student],
    fastest_bpm: float | None,
) -> tuple[float, ...]:
    """The tempo that each begins with as defender; none on the feeder's own time, and where they
    attack in turn or the drill changes the roles over by itself: there they share one."""
    if rung.tempo_bpm is None or rung.turns.switch == "score" or rung.alternates:
        return ()
    kept = [
        partner_runs.pace_of(db(), who().club_id, person.id, body.drill_id, body.rung)
        for person in people
    ]
    return tuple(min(pace or rung.tempo_bpm, fastest_bpm or inf) for pace in kept)
