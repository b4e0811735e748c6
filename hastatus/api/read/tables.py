"""Runs and students as tables for a spreadsheet (CSV, RFC 4180): units are in the heads."""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also, file
from hastatus.api.http.lookup import find_student
from hastatus.api.http.reply import download
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.read import lists
from hastatus.api.read.models import RunLine, RunQuery
from hastatus.api.run.partner_run_models import PartnerRunLine
from hastatus.api.run.partner_run_view import lines
from hastatus.store import head_knocks, partner_runs, runs, standings, students

bp = ApiBlueprint("tables", __name__, url_prefix="/api", abp_tags=[Tag(name="read")])

MOST_ROWS = 20_000
_FORMULA = ("=", "+", "-", "@", "\t", "\r")
"""What a spreadsheet would take for a formula at the front of words."""

RUN_COLUMNS = (
    "started_at", "student", "drill", "rung", "state", "test", "simulated", "window_end_s",
    "median_ms", "clean_percent", "clean_least_percent", "clean_most_percent", "cues",
)  # fmt: skip
PAIR_COLUMNS = (
    "started_at", "drill", "rung", "student", "clean_as_defender", "graded_as_defender",
    "watched_as_defender",
)  # fmt: skip
STUDENT_COLUMNS = (
    "name", "stance", "level", "hardest_contact", "gear", "height_m", "arm_m", "leg_m", "spares",
    "senses", "consent", "runs", "last_run", "last_drill", "last_rung", "window_now_s",
    "needs_a_look", "hold", "notes",
)  # fmt: skip


@bp.get("/runs.csv", responses=file("text/csv") | also(404))
@signed_in
def runs_csv(query: RunQuery) -> Response:
    """The runs that are asked for, newest first, a row a run."""
    if query.student_id:
        find_student(query.student_id)
    newest = runs.latest(db(), who().club_id, query.asked, limit=MOST_ROWS)
    entries = lists.of(db(), who().club_id, newest)
    return _table("runs.csv", RUN_COLUMNS, (_run(run) for run in entries))


@bp.get("/partner-runs.csv", responses=file("text/csv") | also(404))
@signed_in
def partner_runs_csv(query: RunQuery) -> Response:
    """The partner runs that are asked for, newest first, a row for each who took part."""
    if query.student_id:
        find_student(query.student_id)
    newest = partner_runs.latest(db(), who().club_id, query.asked, limit=MOST_ROWS)
    rows = (row for one in lines(newest) for row in _pair(one))
    return _table("partner-runs.csv", PAIR_COLUMNS, rows)


@bp.get("/students.csv", responses=file("text/csv"))
@signed_in
def students_csv() -> Response:
    """The club's students, a row each."""
    stands = standings.of_all(db(), who().club_id)
    holds = head_knocks.holds(db(), who().club_id)
    rows = []
    for student in students.all_of(db(), who().club_id):
        now, hold, last = stands[student.id], holds.get(student.id), stands[student.id].last
        rows.append(
            (
                student.name, student.stance, student.level, student.contact,
                ", ".join(student.gear), student.height_m, student.arm_m, student.leg_m,
                student.spares, student.senses, student.consent, now.runs,
                last and last.started_at.isoformat(), last and last.drill, last and last.rung,
                last and last.settled_window_s, "; ".join(notice.says for notice in now.notices),
                hold and hold.since.date().isoformat(), student.notes,
            )
        )  # fmt: skip
    return _table("students.csv", STUDENT_COLUMNS, rows)


def _run(run: RunLine) -> Sequence[object]:
    summary, evidence = run.summary, run.evidence
    interval = summary.clean_interval if summary else None
    return (
        run.started_at.isoformat(), run.student, run.drill, run.rung, run.state, run.baseline,
        run.simulated, evidence and evidence.settled_window_s, summary and summary.median_ms,
        _percent(summary.clean_share if summary else None),
        _percent(interval.low if interval else None),
        _percent(interval.high if interval else None), summary and summary.count,
    )  # fmt: skip


def _pair(run: PartnerRunLine) -> Iterable[Sequence[object]]:
    for partner in run.partners:
        yield (
            run.started_at.isoformat(), run.drill, run.rung, partner.name, partner.clean,
            partner.graded, partner.watched,
        )  # fmt: skip


def _percent(share: float | None) -> float | None:
    return None if share is None else round(100 * share, 1)


def _table(name: str, columns: Sequence[str], rows: Iterable[Sequence[object]]) -> Response:
    sheet = io.StringIO()
    writer = csv.writer(sheet)
    writer.writerow(columns)
    for row in rows:
        writer.writerow([_plain(value) for value in row])
    return download(sheet.getvalue(), "text/csv; charset=utf-8", name)


def _plain(value: object) -> object:
    """Words that a spreadsheet would reckon are marked as words."""
    if isinstance(value, str) and value.startswith(_FORMULA):
        return f"'{value}"
    return round(value, 3) if isinstance(value, float) else value
