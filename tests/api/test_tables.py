"""Runs and students as tables: filtered, complete over the years, and safe in a spreadsheet."""

from __future__ import annotations

import csv
import io
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from sqlalchemy import Engine, text

from hastatus.store.database import transaction
from hastatus.store.runs import A_PAGE
from tests.harness.coach import Coach


def table(coach: Coach, path: str) -> list[dict[str, str]]:
    answer = coach.get(path)
    assert answer.status_code == 200
    assert answer.content_type.startswith("text/csv")
    return list(csv.DictReader(io.StringIO(answer.get_data(as_text=True))))


@pytest.fixture
def years(engine: Engine, coach: Coach) -> Coach:
    """A coach whose student has a run, and copies of it over three years."""
    for batch in coach.batches:
        assert coach.post_batch(batch).status_code == 200
    with transaction(engine) as db:
        for days in range(1, 2 * A_PAGE + 40):
            db.execute(
                text(
                    "INSERT INTO runs SELECT (jsonb_populate_record(runs, jsonb_build_object("
                    "'id', CAST(:id AS text), 'started_at', started_at - CAST(:ago AS interval)"
                    "))).* FROM runs WHERE id = :of"
                ),
                {
                    "id": str(uuid.uuid4()),
                    "ago": timedelta(days=2.5 * days),
                    "of": uuid.UUID(coach.run_id),
                },
            )
    return coach


def pages(coach: Coach, query: str = "") -> list[dict[str, Any]]:
    """Every run, page by page, as the screens ask for them."""
    found: list[dict[str, Any]] = []
    before = ""
    while True:
        page = coach.get(f"/api/runs?{query}{before}").get_json()["runs"]
        found += page
        if len(page) < A_PAGE:
            return found
        last = page[-1]["started_at"].replace("+", "%2B")
        before = f"&before={last}"


def test_runs_of_years_ago_are_had_page_by_page_and_in_one_table(years: Coach) -> None:
    every = pages(years)
    assert len(every) == len({run["id"] for run in every}) == 2 * A_PAGE + 40
    assert len(table(years, "/api/runs.csv")) == len(every)
    since = datetime.now(UTC) - timedelta(days=364)
    asked = f"since={since.isoformat().replace('+', '%2B')}"
    year = pages(years, asked)
    assert len(year) == len(table(years, f"/api/runs.csv?{asked}")) == 146
    assert all(datetime.fromisoformat(run["started_at"]) >= since for run in year)


def test_runs_are_asked_for_by_drill_and_student(years: Coach) -> None:
    other = years.solo_drills()[1]["id"]
    assert pages(years, f"drill_id={other}&") == []
    assert len(pages(years, f"drill_id={years.drill_id}&")) == 2 * A_PAGE + 40
    nobody = f"/api/runs.csv?student_id={uuid.uuid4()}"
    assert years.get(nobody).status_code == 404
    assert years.get("/api/runs?since=yesterday").status_code == 422
    assert years.get("/api/runs?since=2026-11-05T10:00:00").status_code == 422  # of which zone?


def test_a_table_of_students_says_what_the_screen_says_and_no_formula(coach: Coach) -> None:
    for batch in coach.batches:
        coach.post_batch(batch)
    evil = '=HYPERLINK("x")'
    assert coach.post("/api/students", {"name": evil, "notes": 'a, b\n"c"'}).status_code == 201
    rows = {row["name"]: row for row in table(coach, "/api/students.csv")}
    assert rows[f"'{evil}"]["notes"] == 'a, b\n"c"'
    shown = coach.get(f"/api/students/{coach.student_id}").get_json()["student"]
    row = rows[shown["name"]]
    assert float(row["window_now_s"]) == pytest.approx(shown["last"]["settled_window_s"], abs=5e-4)
    assert (row["runs"], row["last_drill"]) == ("1", shown["last"]["drill"])
    (run,) = table(coach, "/api/runs.csv")
    (line,) = coach.get("/api/runs").get_json()["runs"]
    assert float(run["clean_percent"]) == pytest.approx(
        100 * line["summary"]["clean_share"], abs=0.05
    )
    assert table(coach, "/api/partner-runs.csv") == []
