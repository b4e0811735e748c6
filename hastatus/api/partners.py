"""Partner runs: agreed before contact, marked on the mat, read; head knocks and clearances."""

from __future__ import annotations

import uuid

from flask import Response, request
from flask_openapi3 import APIBlueprint, Tag

from hastatus.api import partner_shapes, shapes
from hastatus.api.guard import db, signed_in, who
from hastatus.api.lookup import find_student, find_version
from hastatus.api.problems import FaultPlace, Problem, not_found
from hastatus.api.scores import pair_of, undoable
from hastatus.core.cautions import cautions
from hastatus.core.partner import find
from hastatus.core.partner.agreement import Partner, Refusal, hardest, refusals
from hastatus.core.partner.arrivals import arrivals
from hastatus.core.partner.climbing import Climbed, climb
from hastatus.core.partner.clock import round_clock
from hastatus.core.partner.drill import PartnerDrill, PartnerRung
from hastatus.core.partner.exchanges import Told
from hastatus.core.partner.feed import FeedSheet, feed_sheet
from hastatus.core.partner.finding import Undoable
from hastatus.core.partner.marks import MarkBatch, RoundOver, Strike
from hastatus.core.partner.reading import read
from hastatus.core.partner.rhythm import rhythm
from hastatus.store import drills, intake, partners
from hastatus.store.models import PartnerRun, Student

bp = APIBlueprint("partners", __name__, url_prefix="/api", abp_tags=[Tag(name="partner runs")])


def find_partner_run(run_id: uuid.UUID) -> PartnerRun:
    """A partner run of the club."""
    run = partners.find(db(), who().club_id, run_id)
    if run is None:
        raise not_found("partner run")
    return run


@bp.post("/partner-runs/start", responses={200: partner_shapes.StartView})
@signed_in
def may_start(body: partner_shapes.PairRequest) -> Response:
    """Whether they may start, and why not; nothing is kept."""
    drill, rung, people = _asked(body)
    return shapes.reply(
        partner_shapes.StartView(
            refusals=_refusals(drill, rung, people, body),
            hardest=hardest(drill, rung),
            cautions=cautions(drill),
        )
    )


@bp.post(
    "/partner-runs",
    responses={200: partner_shapes.PartnerRunView, 201: partner_shapes.PartnerRunView},
)
@signed_in
def begin(body: partner_shapes.PartnerRunRequest) -> Response:
    """Begin a partner run; the same request again gives the same run."""
    known = partners.find(db(), who().club_id, body.id)
    if known is not None:
        if known.recorder != body.recorder:
            raise Problem(409, "Recorded elsewhere", "This run belongs to another device.")
        return shapes.reply(_view(known))
    drill, rung, people = _asked(body)
    refused = _refusals(drill, rung, people, body)
    if refused:
        places = [FaultPlace(where=each.where, what=each.what) for each in refused]
        raise Problem(422, "Not started", f"{refused[0].where}: {refused[0].what}", places)
    run = partners.add(
        db(),
        who().club_id,
        body.id,
        version=find_version(body.drill_id),
        coach_id=who().coach_id,
        recorder=body.recorder,
        partners=body.partners,
        sheet=_sheet(drill, body, people),
        agreement=body.agreement,
    )
    return shapes.reply(_view(run), 201)


@bp.get("/partner-runs", responses={200: partner_shapes.PartnerRunList})
@signed_in
def list_partner_runs() -> Response:
    """The newest partner runs."""
    found = partners.latest(db(), who().club_id, limit=50)
    return shapes.reply(partner_shapes.PartnerRunList(runs=[_line(run) for run in found]))


@bp.get("/partner-runs/<uuid:partner_run_id>", responses={200: partner_shapes.PartnerRunView})
@signed_in
def get_partner_run(path: partner_shapes.PartnerRunPath) -> Response:
    """A partner run with its feed sheet."""
    return shapes.reply(_view(find_partner_run(path.partner_run_id)))


@bp.post("/partner-runs/<uuid:partner_run_id>/batches", responses={200: partner_shapes.MarksAck})
@signed_in
def post_marks(path: partner_shapes.PartnerRunPath, body: partner_shapes.MarksRequest) -> Response:
    """Take a batch of marks; the answer says what tempo the rule suggests."""
    run = find_partner_run(path.partner_run_id)
    digest = intake.payload_hash(request.get_data())
    try:
        taken = partners.take(db(), run, body.recorder, body.batch(), digest)
    except partners.OtherRecorder:
        raise Problem(409, "Recorded elsewhere", "Another device records this run.") from None
    except partners.BatchConflict:
        raise Problem(
            409, "Batch conflict", f"Batch {body.number} came before, with other contents."
        ) from None
    return shapes.reply(
        partner_shapes.MarksAck(
            next_batch=taken.next_batch,
            complete=taken.complete,
            climb=_climb(partners.drill_of(db(), run), run, partners.told(db(), run)),
        )
    )


@bp.get(
    "/partner-runs/<uuid:partner_run_id>/readout", responses={200: partner_shapes.PartnerReadout}
)
@signed_in
def partner_readout(path: partner_shapes.PartnerRunPath) -> Response:
    """A partner run, read."""
    run = find_partner_run(path.partner_run_id)
    view, batches = _view(run), partners.batches_of(db(), run)
    told = partners.told(db(), run)
    names = [each.name for each in view.partners]
    numbers = {batch.number for batch in batches}
    return shapes.reply(
        partner_shapes.PartnerReadout(
            run=view,
            exchanges=told.exchanges,
            arrivals=[
                arrivals(view.document, each, 60 / each.tempo_bpm if each.tempo_bpm else 1.0)
                for each in told.exchanges
            ],
            reading=read(view.document, run.rung, told.exchanges, names),
            rhythms=_rhythms(view.document, view.sheet, batches),
            carried_over=[mark.partner for mark in told.carried_over],
            missing=sorted(set(range(max(numbers, default=-1))) - numbers),
        )
    )


@bp.post(
    "/students/<uuid:student_id>/head-knock",
    responses={201: partner_shapes.KnockView},
)
@signed_in
def head_knock(path: shapes.StudentPath) -> Response:
    """Write a head knock down: no contact work until it is cleared."""
    knock = partners.note_knock(db(), who().club_id, find_student(path.student_id).id)
    return shapes.reply(partner_shapes.KnockView(held_since=knock.at), 201)


@bp.get("/students/<uuid:student_id>/head-knock", responses={200: partner_shapes.KnockView})
@signed_in
def get_head_knock(path: shapes.StudentPath) -> Response:
    """Whether a student is on hold."""
    knock = partners.open_knock(db(), who().club_id, find_student(path.student_id).id)
    return shapes.reply(partner_shapes.KnockView(held_since=knock.at if knock else None))


@bp.post("/students/<uuid:student_id>/clearance", responses={200: partner_shapes.KnockView})
@signed_in
def clear(path: shapes.StudentPath, body: partner_shapes.Clearance) -> Response:
    """Write a medical clearance down; it lifts the hold."""
    student = find_student(path.student_id)
    partners.clear(db(), who().club_id, student.id, coach_id=who().coach_id, words=body.words)
    return shapes.reply(partner_shapes.KnockView(held_since=None))


def _asked(
    body: partner_shapes.PairRequest,
) -> tuple[PartnerDrill, PartnerRung, list[Student]]:
    """The drill, its rung and the people; 404 and 422 where there are none such."""
    drill = drills.read_partner(find_version(body.drill_id))
    if body.rung > len(drill.rungs):
        raise Problem(422, "Not started", f"rung: the drill has no rung {body.rung}")
    if len(set(body.partners)) < len(body.partners):
        raise Problem(422, "Not a pair", "partners: nobody works with themselves; choose others.")
    return drill, drill.rungs[body.rung - 1], [find_student(each) for each in body.partners]


def _refusals(
    drill: PartnerDrill,
    rung: PartnerRung,
    people: list[Student],
    body: partner_shapes.PairRequest,
) -> list[Refusal]:
    return refusals(drill, rung, [_partner(each) for each in people], body.agreement)


def _partner(student: Student) -> Partner:
    knock = partners.open_knock(db(), who().club_id, student.id)
    return Partner(
        name=student.name,
        contact=student.contact,  # type: ignore[arg-type]  # the database checks it
        gear=tuple(student.gear),  # type: ignore[arg-type]
        knocked_on=knock.at.date() if knock else None,
    )


def _sheet(
    drill: PartnerDrill, body: partner_shapes.PairRequest, people: list[Student]
) -> FeedSheet:
    try:
        find.check(drill, pair_of(people[0], people[1]))
        return feed_sheet(
            drill,
            seed=body.seed,
            rung=body.rung,
            stance="right_lead" if people[0].stance == "right_lead" else "left_lead",
        )
    except Undoable as error:
        raise undoable(error) from error


def _line(run: PartnerRun) -> partner_shapes.PartnerRunLine:
    graded = [each for each in partners.told(db(), run).exchanges if each.grade]
    people = []
    for place, student in enumerate(partners.students_of(db(), run)):
        own = [each for each in graded if each.defender == place]
        clean = sum(bool(each.clean) for each in own)
        people.append(
            partner_shapes.TakingPart(
                id=student.id, name=student.name, clean=clean, graded=len(own)
            )
        )
    return partner_shapes.PartnerRunLine(
        id=run.id,
        drill_id=run.drill_id,
        drill=partners.drill_of(db(), run).title,
        rung=run.rung,
        partners=people,
        started_at=run.started_at,
        state="closed" if run.closed_at else "open",
    )


def _view(run: PartnerRun) -> partner_shapes.PartnerRunView:
    drill = partners.drill_of(db(), run)
    return partner_shapes.PartnerRunView(
        **_line(run).model_dump(),
        version=run.version,
        document=drill,
        sheet=run.sheet,
        agreement=run.agreement,
        cautions=cautions(drill),
    )


def _climb(drill: PartnerDrill, run: PartnerRun, told: Told) -> Climbed | None:
    """What the rung's rule suggests, from the grades since the tempo was last set."""
    rung = drill.rungs[run.rung - 1]
    if rung.climb.rule == "by_hand" or rung.tempo_bpm is None:
        return None
    bpm = told.tempos[-1].bpm if told.tempos else rung.tempo_bpm
    since = [each.grade for each in told.exchanges if each.grade and each.tempo_bpm == bpm]
    return climb(rung, bpm, since)


def _rhythms(
    drill: PartnerDrill, sheet: FeedSheet, batches: list[MarkBatch]
) -> list[partner_shapes.RoundRhythm]:
    """The rhythm of each round in which enough was heard, and one tempo was kept on asking for."""
    if sheet.tempo_bpm is None:
        return []
    metronome = drill.rungs[sheet.rung - 1].metronome
    halves = any(step.beat % 1 for passage in drill.passages for step in passage.steps)
    parts = 2 if halves else 1
    marks = [mark for batch in batches for mark in batch.marks]
    strikes = [mark.at_ms for mark in marks if isinstance(mark, Strike)]
    over = {mark.round: mark.at_ms for mark in marks if isinstance(mark, RoundOver)}
    found = []
    for number in range(1, len(sheet.rounds) + 1):
        clock = round_clock(marks, number, sheet.tempo_bpm)
        if clock is None or len(clock.rates) != 1:
            continue
        rate = clock.rates.pop()
        until_ms = over.get(number, float("inf"))
        # On the sheet a pause takes no time, so the count goes on after it.
        here = [
            clock.sheet_s(at_ms) / rate
            for at_ms in strikes
            if clock.stretches[0].at_ms <= at_ms <= until_ms
        ]
        told = rhythm(here, sheet.beat_s / rate, parts=parts, pulse=metronome)
        if told:
            asked = sheet.tempo_bpm * rate
            found.append(partner_shapes.RoundRhythm(round=number, asked_bpm=asked, rhythm=told))
    return found
