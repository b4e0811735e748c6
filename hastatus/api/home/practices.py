"""What coaches assign for home, who keeps it, and the links that open it on a phone."""

from __future__ import annotations

import uuid
from collections.abc import Collection, Mapping, Sequence
from datetime import date, datetime, timedelta

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.home import planning, practice_models
from hastatus.api.home.planning import DoneRow, day_of
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.code_picture import code_picture
from hastatus.api.http.document import also, done
from hastatus.api.http.lookup import find_student, find_version
from hastatus.api.http.problems import FaultPlace, Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.home import dose
from hastatus.core.home.practice import Practice
from hastatus.core.loop import results
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.store import accounts, drills, head_knocks, home_links, practices, students
from hastatus.store import models as rows

bp = ApiBlueprint("practices", __name__, url_prefix="/api", abp_tags=[Tag(name="home")])

_LAST = 12


@bp.get("/practices", responses={200: practice_models.PracticeList})
@signed_in
def list_practices() -> Response:
    """What is practised at home, by whom, and what came back."""
    return reply(_list(practices.members(db(), who().club_id)))


@bp.post("/practices", responses={201: practice_models.PracticeList, **also(404)})
@signed_in
def assign(body: practice_models.PracticeRequest) -> Response:
    """Assign a practice; the same request again changes nothing."""
    _check(body.practice, body.students)
    row = practices.find(db(), who().club_id, body.id)
    if row is None:
        row = practices.add(db(), who().club_id, body.id, who().coach_id, body.practice)
        practices.give(db(), row, body.students)
    return reply(_list(practices.members(db(), who().club_id)), 201)


@bp.put("/practices/<uuid:practice_id>", responses={200: practice_models.PracticeList, **also(404)})
@signed_in
def change(path: practice_models.PracticePath, body: practice_models.PracticeChange) -> Response:
    """Change what is practised, how often, until when, or by whom."""
    row = _find(path.practice_id)
    _check(body.practice, body.students)
    practices.change(db(), row, body.practice)
    practices.give(db(), row, body.students)
    return reply(_list(practices.members(db(), who().club_id)))


@bp.patch("/practices/<uuid:practice_id>", responses={200: practice_models.PracticeList})
@signed_in
def end(path: practice_models.PracticePath, body: practice_models.PracticeEnd) -> Response:
    """End a practice, or take that back."""
    practices.end(db(), _find(path.practice_id), body.ended)
    return reply(_list(practices.members(db(), who().club_id)))


@bp.put(
    "/practices/<uuid:practice_id>/students/<uuid:student_id>/days",
    responses={200: practice_models.PracticeList},
)
@signed_in
def set_days(path: practice_models.MemberPath, body: practice_models.OwnDays) -> Response:
    """How many days a week one of those who have a practice is asked for."""
    row = _find(path.practice_id)
    member = db().get(rows.PracticeStudent, (who().club_id, row.id, path.student_id))
    if member is None or member.removed_at is not None:
        raise not_found("student in this practice")
    member.days = body.days
    db().flush()
    return reply(_list(practices.members(db(), who().club_id)))


@bp.get("/students/<uuid:student_id>/home", responses={200: practice_models.HomeStudentView})
@signed_in
def home_of(path: practice_models.HomeStudentPath) -> Response:
    """What a student practises at home, and the links that open it."""
    student = find_student(path.student_id)
    return reply(
        practice_models.HomeStudentView(
            needs_guardian=student.consent != "not_needed",
            practices=_list(practices.of_student(db(), who().club_id, student.id)).practices,
            links=[
                practice_models.HomeLinkView.model_validate(link, from_attributes=True)
                for link in home_links.of_student(db(), who().club_id, student.id)
            ],
        )
    )


@bp.post("/students/<uuid:student_id>/home-links", responses={201: practice_models.HomeLinkMade})
@signed_in
def make_link(
    path: practice_models.HomeStudentPath, body: practice_models.HomeLinkRequest
) -> Response:
    """A link that opens a student's practice on a phone, told once."""
    student = find_student(path.student_id)
    if student.archived_at is not None:
        raise Problem(409, "Archived", f"{student.name} is archived; bring them back first.")
    if student.consent != "not_needed" and not (body.guardian and body.guardian_on):
        raise Problem(
            422,
            "Not valid",
            f"guardian: {student.name} needs a guardian’s consent: say who gave it, and when.",
            [FaultPlace(where="guardian", what="who gave consent, and when")],
        )
    if body.guardian_on and body.guardian_on > _today():
        raise Problem(422, "Not valid", "guardian_on: this day is still to come.")
    link, token = home_links.make(
        db(),
        student,
        who().coach_id,
        guardian=body.guardian or "",
        guardian_on=body.guardian_on if body.guardian else None,
        lasts=timedelta(days=body.days),
    )
    address = f"/home/{token}"
    picture = code_picture(body.origin + address)
    return reply(
        practice_models.HomeLinkMade(
            id=link.id, path=address, expires_at=link.expires_at, **picture._asdict()
        ),
        201,
    )


@bp.patch("/home-links/<uuid:link_id>", responses=done())
@signed_in
def revoke(path: practice_models.HomeLinkPath, body: practice_models.HomeLinkChange) -> Response:
    """Have a link open nothing any more, or open again."""
    if not home_links.revoke(db(), who().club_id, path.link_id, body.revoked):
        raise not_found("link")
    return Response(status=204)


def _find(practice_id: uuid.UUID) -> rows.Practice:
    row = practices.find(db(), who().club_id, practice_id)
    if row is None:
        raise not_found("practice")
    return row


def _check(document: Practice, student_ids: Collection[uuid.UUID]) -> None:
    """Refuse a practice that some of them could not do alone."""
    chosen = [find_student(student_id) for student_id in student_ids]
    for number, piece in enumerate(document.pieces):
        drill = drills.read_any(find_version(piece.drill_id))
        if isinstance(drill, PartnerDrill):
            raise Problem(
                422,
                "Not valid",
                f"practice.pieces.{number}: {drill.title} needs a partner; choose a drill that is "
                "done alone.",
            )
    for student in chosen:
        for _ in planning.check(db(), student, document):
            pass


def _today() -> date:
    return day_of(accounts.now())


def _list(
    having: Collection[tuple[rows.Practice, rows.PracticeStudent]],
) -> practice_models.PracticeList:
    titles = drills.newest_titles(db(), who().club_id)
    linked = home_links.with_link(db(), who().club_id)
    holds = head_knocks.holds(db(), who().club_id)
    ids = {member.student_id for _, member in having}
    people = students.with_ids(db(), who().club_id, ids)
    done_by = practices.done_by_each(db(), who().club_id, ids)
    views: dict[uuid.UUID, practice_models.PracticeView] = {}
    for row, member in having:
        view = views.get(row.id)
        if view is None:
            document = practices.document_of(row)
            view = views[row.id] = practice_models.PracticeView(
                id=row.id,
                practice=document,
                pieces=[
                    practice_models.PieceView(
                        drill_id=piece.drill_id, title=titles[piece.drill_id], rounds=piece.rounds
                    )
                    for piece in document.pieces
                ],
                members=[],
                ended=row.ended_at is not None,
            )
        student = people[member.student_id]
        if student.archived_at is None:
            mine = [one for one in done_by[student.id] if one[1].practice_id == row.id]
            view.members.append(
                _member(row, member, student, mine, titles, linked, hold=holds.get(student.id))
            )
    for view in views.values():
        view.members.sort(key=lambda one: one.name.casefold())
    return practice_models.PracticeList(practices=list(views.values()))


def _member(
    row: rows.Practice,
    member: rows.PracticeStudent,
    student: rows.Student,
    mine: Sequence[DoneRow],
    titles: Mapping[uuid.UUID, str],
    linked: Mapping[uuid.UUID, datetime | None],
    *,
    hold: MedicalHold | None,
) -> practice_models.MemberView:
    document = practices.document_of(row, member)
    days = (day_of(one.started_at) for one, _, _ in mine if one.rounds > 0)
    past = dose.weeks(document, days, _today())
    return practice_models.MemberView(
        student_id=student.id,
        name=student.name,
        days=document.days,
        weeks=past[-8:],
        last=[_done(one, titles) for one in mine[: -_LAST - 1 : -1]],
        linked=student.id in linked,
        seen_at=linked.get(student.id),
        hold=hold,
        proposal=dose.proposal(document, past, [one.said for one, _, _ in mine]),
    )


def _done(done: DoneRow, titles: Mapping[uuid.UUID, str]) -> practice_models.HomeDone:
    one, plan, run = done
    figures = results.FIGURES.validate_python(run.figures) if run and run.figures else None
    summary = figures.summary if figures else None
    return practice_models.HomeDone(
        run_id=run.id if run else None,
        drill=titles[plan.drill_id],
        started_at=one.started_at,
        rounds=one.rounds,
        planned=plan.rounds,
        said=one.said,
        finished=one.finished,
        clean=summary.clean if summary else None,
        of=summary.count if summary else None,
        median_ms=summary.median_ms if summary else None,
    )
