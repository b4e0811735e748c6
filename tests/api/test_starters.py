"""A club that is older than a starter drill is offered it, and keeps its own."""

from __future__ import annotations

import uuid
from typing import Any

import pytest
from sqlalchemy import Engine, text

from tests.api.test_at_once import at_once
from tests.harness.addresses import rows
from tests.harness.coach import Coach

NEW = ("Turn about", "Two beats, then in")


@pytest.fixture
def older(engine: Engine, coach: Coach) -> Coach:
    """A coach of a club from before two of the starters, one of the others having another name."""
    library = coach.get("/api/library").get_json()["drills"]
    gone = [each["id"] for each in library if each["title"] in NEW]
    with engine.begin() as connection:
        for table, column in (("drill_versions", "drill_id"), ("drills", "id")):
            statement = f"DELETE FROM {table} WHERE {column} = ANY(:gone)"
            connection.execute(text(statement), {"gone": [uuid.UUID(each) for each in gone]})
    renamed = coach.get(f"/api/drills/{coach.drill_id}").get_json()["document"]
    body = {"base": 1, "document": {**renamed, "title": "Our own words"}}
    assert coach.post(f"/api/drills/{coach.drill_id}/versions", body).status_code == 201
    return coach


def titles(found: list[dict[str, Any]]) -> list[str]:
    return sorted(each["title"] for each in found)


def test_a_new_club_has_them_all(coach: Coach) -> None:
    assert coach.get("/api/library").get_json()["offered"] == []


def test_what_is_new_is_offered_and_added_once(engine: Engine, older: Coach) -> None:
    before = older.get("/api/library").get_json()
    assert titles(before["offered"]) == sorted(NEW)
    assert "Our own words" in titles(before["drills"])
    statuses = at_once(
        older.client.application, older, "POST", "/api/library/starters", {"titles": list(NEW)}
    )
    assert set(statuses) == {200}
    after = older.get("/api/library").get_json()
    assert after["offered"] == []
    assert titles(after["drills"]) == sorted([*titles(before["drills"]), *NEW])
    still = rows(engine)
    assert older.post("/api/library/starters", {"titles": [*NEW, "Nothing"]}).status_code == 200
    assert rows(engine) == still


def test_what_is_not_wanted_is_put_away_and_not_offered_again(older: Coach) -> None:
    body = {"titles": list(NEW), "archived": True}
    left = older.post("/api/library/starters", body).get_json()
    assert left["offered"] == []
    assert not set(NEW) & set(titles(left["drills"]))
    away = older.get("/api/library?archived=true").get_json()
    assert titles(away["drills"]) == sorted(NEW)
    assert away["offered"] == []


def test_the_tests_of_a_club_are_those_that_are_repeated_the_same(coach: Coach) -> None:
    (only,) = coach.get("/api/library/tests").get_json()["drill_ids"]
    drill = coach.get(f"/api/drills/{only}").get_json()
    assert drill["document"]["purpose"] == "baseline"
    coach.send("PATCH", f"/api/drills/{only}", {"archived": True, "tags": None})
    assert coach.get("/api/library/tests").get_json()["drill_ids"] == []
