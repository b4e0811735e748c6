"""What a club keeps beside its runs: people, incidents, templates, a calendar."""

from __future__ import annotations

import base64
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from icalendar import Calendar
from sqlalchemy import Engine, text, update

from hastatus.store import away
from hastatus.store.database import transaction
from hastatus.store.models import Student
from tests.api.test_evenings import add, block, plan
from tests.harness.coach import Coach


def table(coach: Coach, lines: str, **rest: Any) -> Any:
    data = base64.b64encode(lines.encode()).decode()
    return coach.post("/api/students/table", {"data": data, **rest})


def names(coach: Coach) -> list[str]:
    return sorted(one["name"] for one in coach.get("/api/students").get_json()["students"])


def test_a_table_is_looked_at_then_kept_once_and_comes_out_as_it_went_in(coach: Coach) -> None:
    lines = "name,stance,height_m,spares\nCy Rill,right,1.81,left knee\n,left,,\nDi Moss,up,,\n"
    before = names(coach)
    seen = table(coach, lines).get_json()
    assert [bool(row["faults"]) for row in seen["rows"]] == [False, True, True]
    assert names(coach) == before
    kept = table(coach, lines, keep=True).get_json()
    assert kept["added"] == 1
    assert names(coach) == sorted([*before, "Cy Rill"])
    assert table(coach, lines, keep=True).get_json()["added"] == 0
    assert names(coach) == sorted([*before, "Cy Rill"])
    written = coach.get("/api/students.csv").get_data(as_text=True)
    again = table(coach, written).get_json()
    assert [row["faults"] for row in again["rows"]] == [[]] * len(again["rows"])
    assert all(row["twin"] for row in again["rows"])
    out = table(coach, "name\nEd Wray\nFlo Birch\n", keep=True, leave_out=[3]).get_json()
    assert [row["added"] for row in out["rows"]] == [True, False]
    refused = table(coach, "first,last\nAda,Quill\n")
    assert refused.status_code == 422
    assert "called name" in refused.get_json()["detail"]


def test_somebody_erased_can_be_brought_back_for_thirty_days(coach: Coach, engine: Engine) -> None:
    gone = coach.post("/api/students", {"name": "Cy Rill"}).get_json()["id"]
    path = f"/api/students/{gone}"
    coach.send("PATCH", path, {"away": "deleted"})

    def listed() -> list[str]:
        students = coach.get("/api/students?deleted=true").get_json()["students"]
        return [one["id"] for one in students]

    def days_ago(days: float) -> None:
        with transaction(engine) as db:
            moment = datetime.now(UTC) - timedelta(days=days)
            mine = update(Student).where(Student.id == uuid.UUID(gone))
            club = db.scalars(mine.values(deleted_at=moment).returning(Student.club_id)).one()
            away.purge(db, club)

    days_ago(29)
    assert gone in listed()
    assert coach.send("PATCH", path, {"away": None}).status_code == 200
    assert "Cy Rill" in names(coach)
    coach.send("PATCH", path, {"away": "deleted"})
    days_ago(31)
    assert gone not in listed()
    assert coach.send("PATCH", path, {"away": None}).status_code == 404


def entry(**rest: Any) -> dict[str, Any]:
    return {"id": str(uuid.uuid4()), "happened_at": "2026-11-24T19:10:00Z", **rest}


def test_incidents_are_only_added_to(coach: Coach, engine: Engine) -> None:
    first = entry(what="Sprained ankle", students=[coach.student_id], done="ice, sat out")
    coach.post("/api/incidents", first)
    coach.post("/api/incidents", {**first, "what": "Something else"})
    later = entry(what="Back again", cleared_by="physiotherapist", amends=first["id"])
    book = coach.post("/api/incidents", later).get_json()["incidents"]
    (told,) = [one for one in book if one["entry"]["id"] == first["id"]]
    assert told["entry"]["what"] == "Sprained ankle"
    assert told["entry"]["who"]
    assert told["entry"]["by"]
    assert [one["cleared_by"] for one in told["added"]] == ["physiotherapist"]
    assert coach.post("/api/incidents", entry(what="x", amends=later["id"])).status_code == 422
    assert (
        coach.post("/api/incidents", entry(what="x", amends=str(uuid.uuid4()))).status_code == 404
    )
    for method in ("DELETE", "PUT", "PATCH"):
        assert coach.send(method, "/api/incidents", first).status_code == 405
    with transaction(engine) as db:
        assert db.scalar(text("SELECT count(*) FROM incidents WHERE what = 'Something else'")) == 0


def test_a_head_knock_stands_in_the_book_until_it_is_cleared_and_after(coach: Coach) -> None:
    student = coach.post("/api/students", {"name": "Cy Rill"}).get_json()["id"]
    coach.post(f"/api/students/{student}/head-knock", {})
    coach.post(f"/api/students/{student}/clearance", {"words": "Dr. Vale, by letter"})
    book = coach.get("/api/incidents").get_json()["incidents"]
    (knock,) = [one for one in book if one["entry"]["who"] == ["Cy Rill"]]
    assert knock["entry"]["what"] == "Head knock"
    assert [one["cleared_by"] for one in knock["added"]] == ["Dr. Vale, by letter"]


def test_templates_are_kept_and_removed(coach: Coach) -> None:
    made = {"id": str(uuid.uuid4()), "name": "Usual", "plan": plan(block("t", "talk", minutes=5))}
    for _ in range(2):
        kept = coach.post("/api/evening-templates", made).get_json()["templates"]
    mine = [one for one in kept if one["id"] == made["id"]]
    assert [one["plan"]["blocks"][0]["key"] for one in mine] == ["t"]
    path = f"/api/evening-templates/{made['id']}"
    assert coach.send("DELETE", path).status_code == 204
    assert coach.send("DELETE", path).status_code == 404


@pytest.mark.parametrize("title", ["Tuesday class", "Ünïcode; with, signs\\ and more" * 3])
def test_coming_evenings_are_a_calendar(coach: Coach, title: str) -> None:
    """Read back by a library of others (icalendar), as RFC 5545 has it."""
    made = add(coach, plan(block("t", "talk", minutes=5), title=title))
    answer = coach.get("/api/evenings.ics")
    assert answer.content_type == "text/calendar; charset=utf-8"
    events = Calendar.from_ical(answer.get_data()).walk("VEVENT")
    event = next(one for one in events if str(one["uid"]).startswith(made["id"]))
    assert str(event["summary"]) == title
    assert event["dtstart"].dt == datetime.fromisoformat(made["plan"]["starts_at"]).replace(
        microsecond=0
    )
