"""The club's own things by id; a 404 where it has none, whoever else may have it."""

from __future__ import annotations

import uuid

from hastatus.api.http.problems import not_found
from hastatus.api.http.session import db, who
from hastatus.store import drills, runs, students
from hastatus.store.models import Drill, DrillVersion, Run, Student


def find_student(student_id: uuid.UUID, *, deleted: bool = False) -> Student:
    """A student of the club. deleted: one who was just deleted is found, too."""
    student = students.find(db(), who().club_id, student_id)
    if student is None or (student.deleted_at is not None and not deleted):
        raise not_found("student")
    return student


def find_drill(drill_id: uuid.UUID) -> Drill:
    """One of the club's drills."""
    drill = drills.find(db(), who().club_id, drill_id)
    if drill is None:
        raise not_found("drill")
    return drill


def find_version(drill_id: uuid.UUID, number: int | None = None) -> DrillVersion:
    """A version of one of the club's drills, the newest when no number is given."""
    version = drills.version(db(), who().club_id, drill_id, number)
    if version is None:
        raise not_found("drill")
    return version


def find_run(run_id: uuid.UUID) -> Run:
    """A run of the club."""
    run = runs.find(db(), who().club_id, run_id)
    if run is None:
        raise not_found("run")
    return run
