"""A student's own data: all of it out, in one file, and erased on demand."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from typing import Any

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.club import models as club_models
from hastatus.api.club.coaches import only_owner
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also, done, file
from hastatus.api.http.lookup import find_student
from hastatus.api.http.problems import Problem
from hastatus.api.http.session import db, signed_in, who
from hastatus.store import audit, away, head_knocks, open_files

bp = ApiBlueprint("personal-data", __name__, url_prefix="/api", abp_tags=[Tag(name="people")])

ANSWERS = ("run_id", "round", "slot", "cue", "at_s", "window_ms", "outcome", "time_ms")
README = """All that the club keeps of you in Hastatus.

data.json     everything, by kind; times in UTC
answers.csv   your answers in drills done alone, for a spreadsheet; units are in the heads

Runs with others hold the others' part, too, by a number and not by name.
"""


@bp.get("/students/<uuid:student_id>/data.zip", responses=file("application/zip"))
@signed_in
def take_out(path: club_models.StudentPath) -> Response:
    """All that is kept of a student, as open files."""
    student = find_student(path.student_id, deleted=True)
    kept = open_files.of_student(db(), who().club_id, student.id)
    audit.note(db(), who().club_id, who().coach_id, TAKEN_OUT, about=student.id)
    response = Response(_zipped(kept), content_type="application/zip")
    response.headers["Content-Disposition"] = 'attachment; filename="own-data.zip"'
    return response


TAKEN_OUT = "took a student's own data out"


def _zipped(kept: dict[str, list[dict[str, Any]]]) -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("README.txt", README)
        archive.writestr("data.json", json.dumps(kept, indent=1, ensure_ascii=False))
        sheet = io.StringIO(newline="")
        writer = csv.DictWriter(sheet, ANSWERS, extrasaction="ignore")
        writer.writeheader()
        writer.writerows(kept.get("responses", []))
        archive.writestr("answers.csv", sheet.getvalue())
    return packed.getvalue()


@bp.delete("/students/<uuid:student_id>/data", responses={**done(), **also(409)})
@signed_in
def erase(path: club_models.StudentPath) -> Response:
    """Erase a deleted student for good, at once. Nothing brings them back.

    The book of incidents and runs with others keep that there was somebody, and no name.
    """
    only_owner()
    student = find_student(path.student_id, deleted=True)
    if student.deleted_at is None:
        raise Problem(409, "Not deleted", f"Delete {student.name} first; then erase for good.")
    if head_knocks.hold(db(), who().club_id, student.id):
        raise Problem(409, "On hold", "A hold after a head knock is a record that stays.")
    away.erase(db(), student)
    return Response(status=204)
