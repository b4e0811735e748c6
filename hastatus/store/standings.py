"""Where each student stands, kept beside the student: a list of hundreds reads no runs.

What is kept holds for a mark of the student's runs, so that it can never be older than they are:
their number and the sum of the transactions that wrote them last, which any change raises.
"""

from __future__ import annotations

import uuid
from collections import defaultdict
from collections.abc import Collection, Sequence
from dataclasses import dataclass
from functools import cache, partial
from typing import NamedTuple

from pydantic import TypeAdapter
from sqlalchemy import text
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.core.adapt.notices import (
    OF_LAST,
    LastRun,
    Standing,
    StudentStanding,
    is_practice,
    notices,
)
from hastatus.core.loop.results import Figures
from hastatus.store import drills, models, runs
from hastatus.store.models import Run

_STANDING = TypeAdapter(StudentStanding)
_STANDINGS = TypeAdapter(list[StudentStanding])

_MARKED = text("""
    WITH marks AS (
        SELECT student_id, count(*) || ':' || sum(xmin::text::bigint) AS mark
        FROM runs
        WHERE club_id = :club_id AND (:all OR student_id = :student_id)
        GROUP BY student_id
    )
    SELECT students.id, coalesce(marks.mark, '0') AS mark,
           CASE WHEN kept.drill_id IS NULL OR drills.id IS NOT NULL THEN kept.body::text END AS body
    FROM students
    LEFT JOIN marks ON marks.student_id = students.id
    LEFT JOIN student_standings AS kept
      ON kept.club_id = students.club_id AND kept.student_id = students.id
     AND kept.mark = coalesce(marks.mark, '0')
    LEFT JOIN drills
      ON drills.club_id = kept.club_id AND drills.id = kept.drill_id
     AND drills.version = kept.drill_version
    WHERE students.club_id = :club_id AND (:all OR students.id = :student_id)
    ORDER BY students.id
""")


class _Marked(NamedTuple):
    """body: what is kept, None where it does not hold any more."""

    student_id: uuid.UUID
    mark: str
    body: str | None


@dataclass(frozen=True, slots=True)
class _Practised:
    """A practice run with its figures, None while it is open."""

    run: Run
    figures: Figures | None


def of_all(db: Session, club_id: uuid.UUID) -> dict[uuid.UUID, StudentStanding]:
    """Where each of the club's students stands."""
    return _of(db, club_id, None)


def of(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> StudentStanding:
    """Where one of the club's students stands."""
    return _of(db, club_id, student_id)[student_id]


def _of(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID | None
) -> dict[uuid.UUID, StudentStanding]:
    asked = {"club_id": club_id, "student_id": student_id, "all": student_id is None}
    marked = [_Marked(*row) for row in db.connection().execute(_MARKED, asked)]
    kept = [(standing.student_id, standing.body) for standing in marked if standing.body]
    read = _STANDINGS.validate_json(f"[{','.join(body for _, body in kept)}]")
    kept_standings = {known: standing for (known, _), standing in zip(kept, read, strict=True)}
    return kept_standings | _anew(
        db,
        club_id,
        {standing.student_id: standing.mark for standing in marked if not standing.body},
    )


def _anew(
    db: Session, club_id: uuid.UUID, marks: dict[uuid.UUID, str]
) -> dict[uuid.UUID, StudentStanding]:
    """Read the runs of these students, and keep what they amount to."""
    if not marks:
        return {}
    practised = _practised(db, club_id, marks)
    counts = runs.count_by_student(db, club_id, marks)
    titles = drills.titles(db, club_id, {_version(of[0].run) for of in practised.values() if of})
    newest = cache(partial(drills.version, db, club_id))
    standings, rows = {}, []
    for student_id, mark in marks.items():
        of = practised[student_id]
        version = newest(of[0].run.drill_id) if of else None
        standings[student_id] = StudentStanding(
            runs=counts.get(student_id, 0),
            last=_last(of[0], titles[_version(of[0].run)]) if of else None,
            course=_course(of),
            notices=notices(drills.read(version), _standings(of)) if version else [],
        )
        rows.append(
            {
                "club_id": club_id,
                "student_id": student_id,
                "mark": mark,
                "drill_id": version and version.drill_id,
                "drill_version": version and version.number,
                "body": _STANDING.dump_python(standings[student_id], mode="json"),
            }
        )
    _keep(db, rows)
    return standings


def _keep(db: Session, rows: Sequence[dict[str, object]]) -> None:
    write = insert(models.StudentStanding)
    fresh = {
        column: write.excluded[column] for column in ("mark", "drill_id", "drill_version", "body")
    }
    db.execute(
        write.on_conflict_do_update(index_elements=["club_id", "student_id"], set_=fresh), rows
    )


def _practised(
    db: Session, club_id: uuid.UUID, student_ids: Collection[uuid.UUID]
) -> dict[uuid.UUID, list[_Practised]]:
    """The newest practice runs of each student, newest first."""
    practised: dict[uuid.UUID, list[_Practised]] = defaultdict(list)
    newest = runs.latest_of_each(db, club_id, 2 * OF_LAST, student_ids)
    figures = {run.id: figure for run, figure in runs.figures_of(newest)}
    for run in newest:
        known = figures.get(run.id)
        evidence, test = (known.evidence, known.baseline is not None) if known else (None, False)
        if is_practice(evidence, test=test, simulated=run.simulated):
            practised[run.student_id].append(_Practised(run, known))
    return practised


def _version(run: Run) -> tuple[uuid.UUID, int]:
    return run.drill_id, run.version


def _window(of: _Practised) -> float | None:
    return of.figures.evidence.settled_window_s if of.figures else None


def _last(of: _Practised, title: str) -> LastRun:
    run = of.run
    return LastRun(run.id, run.drill_id, title, run.started_at, run.rung, _window(of))


def _course(of: Sequence[_Practised]) -> list[float]:
    windows = [_window(past) for past in reversed(of)]
    return [window for window in windows if window is not None]


def _standings(of: Sequence[_Practised]) -> list[Standing]:
    """Of the drill of the newest run, oldest first."""
    same = [past for past in of if past.run.drill_id == of[0].run.drill_id][:OF_LAST]
    return [
        Standing(past.figures.evidence, past.figures.side, past.run.started_at)
        for past in reversed(same)
        if past.figures
    ]
