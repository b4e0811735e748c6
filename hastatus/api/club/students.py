"""Students, their runs and where they stand on a drill."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import datetime
from typing import Any

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.adapt import ladders as ladder_addresses
from hastatus.api.club import models as club_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.lookup import find_student
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.read import lists
from hastatus.api.read import models as read_models
from hastatus.core.adapt.notices import DoneRun, StudentStanding, weekly_change
from hastatus.core.read.baseline import Agreement, BaselineTrend, agreement, baseline_trend
from hastatus.core.read.student_course import WEEK_S, skills
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.store import (
    away,
    club_catalogue,
    head_knocks,
    ladders,
    merges,
    runs,
    skill_times,
    standings,
    students,
)
from hastatus.store.asked_runs import Asked
from hastatus.store.models import Run, Student

bp = ApiBlueprint("people", __name__, url_prefix="/api", abp_tags=[Tag(name="people")])


def _view(
    student: Student, stands: StudentStanding, hold: MedicalHold | None
) -> club_models.StudentView:
    return club_models.StudentView(
        id=student.id,
        name=student.name,
        stance=student.stance,
        notes=student.notes,
        body=students.body_of(student),
        gear=student.gear,
        contact=student.contact,
        level=student.level,
        senses=student.senses,
        spares=student.spares,
        consent=student.consent,
        readiness=student.readiness,
        runs=stands.runs,
        last=stands.last,
        course=stands.course,
        notices=stands.notices,
        hold=hold,
        archived=student.archived_at is not None,
        gone_at=student.deleted_at + students.STUDENT_KEPT if student.deleted_at else None,
        merged_into=student.merged_into,
    )


def _view_of(student: Student) -> club_models.StudentView:
    stands = standings.of(db(), who().club_id, student.id)
    return _view(student, stands, head_knocks.hold(db(), who().club_id, student.id))


@bp.get("/students", responses={200: club_models.StudentList})
@signed_in
def list_students(query: club_models.StudentsQuery) -> Response:
    """The club's students with their last figures, or those who are archived or deleted."""
    everyone = (
        students.deleted(db(), who().club_id)
        if query.deleted
        else students.all_of(db(), who().club_id, archived=query.archived)
    )
    stands = standings.of_all(db(), who().club_id)
    holds = head_knocks.holds(db(), who().club_id)
    views = [_view(student, stands[student.id], holds.get(student.id)) for student in everyone]
    return reply(club_models.StudentList(students=views))


@bp.post("/students", responses={201: club_models.StudentView})
@signed_in
def add_student(body: club_models.StudentRequest) -> Response:
    """Add a student."""
    student = students.add(db(), who().club_id, **_said(body))
    return reply(_view_of(student), 201)


@bp.patch("/students/<uuid:student_id>", responses={200: club_models.StudentView})
@signed_in
def put_student_away(path: club_models.StudentPath, body: club_models.AwayRequest) -> Response:
    """Archive a student: runs and holds stay. Or delete one with all solo runs; or bring one back.

    A student with a hold is not deleted: the hold is a record that stays.
    """
    student = find_student(path.student_id, deleted=True)
    if student.merged_into is not None:
        raise Problem(409, "Merged", "This entry is a part of another student. Take them apart.")
    if body.away == "deleted" and head_knocks.hold(db(), who().club_id, student.id):
        raise Problem(
            409, "Held", "There is a hold after a head knock: clear it first, or archive instead."
        )
    away.put_student(db(), student, body.away)
    away.purge(db(), who().club_id)
    return reply(_view_of(student))


@bp.post(
    "/students/<uuid:student_id>/merges",
    responses={200: club_models.StudentView, **also(404, 409)},
)
@signed_in
def merge_students(path: club_models.StudentPath, body: club_models.MergeRequest) -> Response:
    """Make another entry of the same student a part of this one, with its runs and holds."""
    kept, other = find_student(path.student_id), find_student(body.other_id)
    if kept.id == other.id:
        raise Problem(409, "The same entry", "Choose the other entry of this student.")
    if kept.merged_into is not None or other.merged_into is not None:
        raise Problem(409, "Merged", "One of these is a part of another student already.")
    try:
        merges.merge(db(), kept, other)
    except merges.Together:
        raise Problem(
            409, "Two people", f"{kept.name} and {other.name} trained together, so they are two."
        ) from None
    return reply(_view_of(kept))


@bp.delete("/students/<uuid:student_id>/merges", responses={200: club_models.StudentView})
@signed_in
def take_apart(path: club_models.StudentPath) -> Response:
    """Give an entry that was merged back what was its own."""
    student = find_student(path.student_id)
    merges.take_apart(db(), student)
    return reply(_view_of(student))


@bp.get("/students/<uuid:student_id>", responses={200: read_models.StudentDetail})
@signed_in
def get_student(path: club_models.StudentPath) -> Response:
    """A student with all runs and choices."""
    student = find_student(path.student_id)
    newest = runs.latest(db(), who().club_id, Asked(student_id=student.id), limit=500)
    of = lists.of(db(), who().club_id, newest)
    choices = ladders.choices(db(), who().club_id, student.id)
    agreed = agreement(list(skill_times.newest_tests(db(), who().club_id).values()))
    return reply(
        read_models.StudentDetail(
            student=_view_of(student),
            runs=of,
            choices=[ladder_addresses.choice_view(row) for row in choices],
            baselines=_baselines(newest, agreed),
            skills=_skills(student.id),
            weekly=weekly_change([_done(run) for run in of]),
            agreement=agreed,
        )
    )


def _said(body: club_models.StudentRequest) -> dict[str, Any]:
    return {name: getattr(body, name) for name in club_models.StudentRequest.model_fields}


def _skills(student_id: uuid.UUID) -> list[read_models.SkillView]:
    labels = club_catalogue.labels(db(), who().club_id)
    courses = skills(skill_times.skill_times(db(), who().club_id, student_id))
    return [
        read_models.SkillView(name=labels.name(course.technique), course=course)
        for course in courses
    ]


def _done(run: read_models.RunLine) -> DoneRun:
    return DoneRun(
        run.drill_id, run.rung, run.started_at, run.evidence, run.baseline, run.simulated
    )


def _baselines(newest: Sequence[Run], club: Agreement | None) -> read_models.BaselineCourse:
    """From a student's runs, newest first."""
    tests = [
        read_models.BaselineLine(
            run_id=run.id,
            started_at=run.started_at,
            sound_ms=figures.baseline.simple_ms("sound"),
            light_ms=figures.baseline.simple_ms("light"),
            baseline=figures.baseline,
        )
        for run, figures in reversed(runs.figures_of(newest))
        if figures.baseline and not run.simulated
    ]
    return read_models.BaselineCourse(
        tests=tests,
        sound=_trend([(test.started_at, test.sound_ms) for test in tests], club),
        light=_trend([(test.started_at, test.light_ms) for test in tests], None),
    )


def _trend(
    tests: Sequence[tuple[datetime, float | None]], club: Agreement | None
) -> BaselineTrend | None:
    """The club's typical error is that of one sound."""
    known = [(at, ms) for at, ms in tests if ms is not None]
    weeks = [(at - known[0][0]).total_seconds() / WEEK_S for at, _ in known]
    return baseline_trend(weeks, [ms for _, ms in known], club)


@bp.put("/students/<uuid:student_id>", responses={200: club_models.StudentView})
@signed_in
def change_student(path: club_models.StudentPath, body: club_models.StudentRequest) -> Response:
    """Change what is known of a student. Kept runs stay as they were run."""
    student = find_student(path.student_id)
    students.change(student, **_said(body))
    db().flush()
    return reply(_view_of(student))
