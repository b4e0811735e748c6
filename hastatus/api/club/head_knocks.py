"""Head knocks: written down, taken back as a slip, cleared; who is on a medical hold."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from typing import Annotated

from flask import Response
from flask_openapi3 import Tag
from pydantic import BaseModel, Field

from hastatus.api.club import models as club_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.lookup import find_student
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.fields import Document, Line, trimmed
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.store import accounts, head_knocks, students
from hastatus.store.models import HeadKnock, Student

bp = ApiBlueprint("head_knocks", __name__, url_prefix="/api", abp_tags=[Tag(name="head knocks")])


class Clearance(Document):
    """A medical clearance, in words: who cleared it and when."""

    words: Annotated[Line, Field(min_length=3, json_schema_extra=trimmed(3))]


class HeadKnockLine(BaseModel):
    """A head knock. clearance: who cleared it, in the words of the coach `cleared_by`, who wrote
    them down at `cleared_at`."""

    student_id: uuid.UUID
    student: str
    at: datetime
    clearance: str | None
    cleared_at: datetime | None
    cleared_by: str | None


class HeadKnockList(BaseModel):
    head_knocks: list[HeadKnockLine]


class HoldView(BaseModel):
    """A student's medical hold; None: free to take part. slip: the newest head knock can still be
    taken back. head_knocks: all of the student's, the newest first."""

    hold: MedicalHold | None
    slip: bool
    head_knocks: list[HeadKnockLine]


@bp.post("/students/<uuid:student_id>/head-knock", responses={201: HoldView})
@signed_in
def note(path: club_models.StudentPath) -> Response:
    """Write a head knock down: off for the day, and no contact work until it is cleared."""
    student = find_student(path.student_id)
    head_knocks.note(db(), who().club_id, student.id)
    return reply(_view(student), 201)


@bp.get("/students/<uuid:student_id>/head-knock", responses={200: HoldView})
@signed_in
def get(path: club_models.StudentPath) -> Response:
    """Whether a student is on hold, and every head knock with its clearance."""
    return reply(_view(find_student(path.student_id)))


@bp.delete("/students/<uuid:student_id>/head-knock", responses={200: HoldView})
@signed_in
def take_back(path: club_models.StudentPath) -> Response:
    """Take a head knock back that was pressed by mistake, soon after."""
    student = find_student(path.student_id)
    if not head_knocks.take_back(db(), who().club_id, student.id):
        raise Problem(
            409,
            "Not taken back",
            "No head knock was written down in the last five minutes. An older one is lifted by a "
            "medical clearance.",
        )
    return reply(_view(student))


@bp.post("/students/<uuid:student_id>/clearance", responses={200: HoldView})
@signed_in
def clear(path: club_models.StudentPath, body: Clearance) -> Response:
    """Write a medical clearance down. It never lifts the hold of the day itself."""
    student = find_student(path.student_id)
    head_knocks.clear(db(), who().club_id, student.id, coach_id=who().coach_id, words=body.words)
    return reply(_view(student))


@bp.get("/head-knocks", responses={200: HeadKnockList})
@signed_in
def list_head_knocks() -> Response:
    """The club's newest head knocks, and who cleared them."""
    knocks = head_knocks.latest(db(), who().club_id)
    names = students.names_of(db(), who().club_id)
    return reply(HeadKnockList(head_knocks=_lines(knocks, names)))


def _view(student: Student) -> HoldView:
    knocks = head_knocks.latest(db(), who().club_id, student_id=student.id)
    newest = knocks[0] if knocks and knocks[0].cleared_at is None else None
    return HoldView(
        hold=head_knocks.hold(db(), who().club_id, student.id),
        slip=newest is not None and datetime.now(UTC) - newest.at < head_knocks.SLIP,
        head_knocks=_lines(knocks, {student.id: student.name}),
    )


def _lines(knocks: list[HeadKnock], names: dict[uuid.UUID, str]) -> list[HeadKnockLine]:
    coaches = accounts.coach_names(db(), who().club_id)
    return [
        HeadKnockLine(
            student_id=knock.student_id,
            student=names[knock.student_id],
            at=knock.at,
            clearance=knock.clearance,
            cleared_at=knock.cleared_at,
            cleared_by=coaches.get(knock.cleared_by) if knock.cleared_by else None,
        )
        for knock in knocks
    ]
