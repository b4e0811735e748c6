"""Faults that a coach tagged: in a solo run, and of a student over the weeks."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.club import models as club_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.lookup import find_run, find_student
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.read import models as read_models
from hastatus.api.run import models as run_models
from hastatus.core.read.fault_course import fault_courses
from hastatus.store import tagged_faults

bp = ApiBlueprint("faults", __name__, url_prefix="/api", abp_tags=[Tag(name="read")])


@bp.put("/runs/<uuid:run_id>/faults", responses={200: read_models.RunFaults})
@signed_in
def tag(path: run_models.RunPath, body: read_models.RunFaults) -> Response:
    """Keep how often each fault was seen in a run; the same again changes nothing."""
    counts = {fault.fault: fault.count for fault in body.faults}
    run = find_run(path.run_id)
    tagged_faults.set_of_run(db(), run, list(counts.items()))
    return reply(read_models.RunFaults.model_validate({"faults": run.faults}))


@bp.get("/students/<uuid:student_id>/faults", responses={200: read_models.FaultCourses})
@signed_in
def courses(path: club_models.StudentPath) -> Response:
    """How often each fault was tagged to a student, from run to run."""
    student = find_student(path.student_id)
    tagged = tagged_faults.of_student(db(), who().club_id, student.id)
    seen = sorted((run for run in tagged if run.faults), key=lambda run: run.at)
    return reply(read_models.FaultCourses(at=[run.at for run in seen], faults=fault_courses(seen)))
