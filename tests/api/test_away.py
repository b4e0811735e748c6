"""Archive, delete, bring back, merge: what is put away counts for nothing, and nothing is lost."""

from __future__ import annotations

import uuid
from datetime import timedelta
from typing import Any

import pytest
from sqlalchemy import Engine, text

from hastatus.store import away, students
from hastatus.store.database import transaction
from tests.api.test_evenings import add, block, come, drill, plan, together
from tests.api.test_evenings import students as students_of
from tests.harness.api_pair import Pair, pair
from tests.harness.coach import Coach


def run_ids(coach: Coach, archived: bool = False) -> list[str]:
    found = coach.get(f"/api/runs?archived={str(archived).lower()}").get_json()["runs"]
    return [run["id"] for run in found]


def put(coach: Coach, path: str, state: str | None) -> Any:
    answer = coach.send("PATCH", path, {"away": state})
    assert answer.status_code == 200, answer.get_json()
    return answer.get_json()


@pytest.fixture
def done(coach: Coach) -> Coach:
    """A coach whose student has done a run."""
    for batch in coach.batches:
        assert coach.post_batch(batch).status_code == 200
    return coach


@pytest.mark.parametrize("state", ["archived", "deleted"])
def test_a_run_put_away_counts_for_nothing_until_it_is_back(done: Coach, state: str) -> None:
    def told() -> list[Any]:
        student = done.get(f"/api/students/{done.student_id}").get_json()
        ladder = done.get(f"/api/students/{done.student_id}/ladders/{done.drill_id}").get_json()
        return [
            student["student"]["runs"], student["student"]["course"], student["skills"],
            ladder["suggestion"], run_ids(done),
        ]  # fmt: skip

    path = f"/api/runs/{done.run_id}"
    before = told()
    assert before[0] == 1
    assert before[2]
    assert put(done, path, state)["away"] == state
    runs, course, skills, suggestion, listed = told()
    assert (runs, course, skills, listed) == (0, [], [], [])
    assert suggestion["kind"] == "start"
    assert run_ids(done, archived=True) == ([done.run_id] if state == "archived" else [])
    assert done.get(f"{path}/readout").get_json()["run"]["away"] == state
    assert put(done, path, None)["away"] is None
    assert told() == before


def test_a_run_stopped_without_an_answer_is_not_kept_but_one_with_answers_is(coach: Coach) -> None:
    path = f"/api/runs/{coach.run_id}"
    assert coach.post(f"{path}/close").status_code == 200
    assert run_ids(coach) == []
    assert run_ids(coach, archived=True) == []
    assert coach.get(f"{path}/readout").get_json()["run"]["away"] == "deleted"
    # The answers were still on their way: the run is there again.
    for batch in coach.batches:
        assert coach.post_batch(batch).status_code == 200
    assert run_ids(coach) == [coach.run_id]


def test_what_a_coach_deleted_is_not_brought_back_by_late_answers(coach: Coach) -> None:
    put(coach, f"/api/runs/{coach.run_id}", "deleted")
    for batch in coach.batches:
        assert coach.post_batch(batch).status_code == 200
    assert run_ids(coach) == []


def begin_pair(coach: Coach) -> Pair:
    made = pair(coach)
    assert made.begin().status_code == 201
    return made


def rows(engine: Engine, table: str, column: str, value: str) -> int:
    with engine.connect() as connection:
        query = text(f"SELECT count(*) FROM {table} WHERE {column} = :value")
        return int(connection.execute(query, {"value": uuid.UUID(value)}).scalar_one())


def age(engine: Engine, table: str, row_id: str) -> None:
    """Make a deletion as old as the time that it can be undone in, and a little more."""
    kept = students.STUDENT_KEPT if table == "students" else away.KEPT
    days = kept + timedelta(minutes=1)
    with transaction(engine) as db:
        change = text(f"UPDATE {table} SET deleted_at = deleted_at - :days WHERE id = :id")
        db.execute(change, {"days": days, "id": uuid.UUID(row_id)})


def test_what_was_deleted_is_gone_a_day_later_and_only_that(engine: Engine, done: Coach) -> None:
    other = done.begin().get_json()["id"]
    put(done, f"/api/runs/{done.run_id}", "deleted")
    put(done, f"/api/runs/{other}", "archived")
    tables = ("runs", "responses", "event_batches", "run_folds")
    ids = {"runs": "id"}
    held = [rows(engine, table, ids.get(table, "run_id"), done.run_id) for table in tables]
    assert all(held)
    age(engine, "runs", done.run_id)
    put(done, f"/api/runs/{other}", "archived")  # any such act clears up
    assert [rows(engine, one, ids.get(one, "run_id"), done.run_id) for one in tables] == [0] * 4
    assert run_ids(done, archived=True) == [other]
    gone = done.send("PATCH", f"/api/runs/{done.run_id}", {"away": None})
    assert gone.status_code == 404


def test_a_student_is_deleted_with_the_runs_and_comes_back_with_them(
    engine: Engine, done: Coach
) -> None:
    path = f"/api/students/{done.student_id}"
    put(done, path, "deleted")
    for listed in ("/api/students", "/api/students?archived=true"):
        assert done.get(listed).get_json()["students"] == []
    assert run_ids(done) == []
    assert done.get(path).status_code == 404
    assert done.begin().status_code == 404
    put(done, path, None)
    assert run_ids(done) == [done.run_id]
    put(done, path, "deleted")
    age(engine, "students", done.student_id)
    with transaction(engine) as db:
        db.execute(text("UPDATE runs SET deleted_at = deleted_at - interval '2 days'"
                        " WHERE id = :id"), {"id": uuid.UUID(done.run_id)})  # fmt: skip
    kept = done.post("/api/students", {"name": "Cy Rill"}).get_json()["id"]
    put(done, f"/api/students/{kept}", "archived")
    assert rows(engine, "students", "id", done.student_id) == 0
    assert rows(engine, "runs", "student_id", done.student_id) == 0


def test_a_student_of_pairs_leaves_no_name_and_the_other_keeps_the_run(
    engine: Engine, coach: Coach
) -> None:
    together = begin_pair(coach)
    one, other = together.partners
    put(coach, f"/api/students/{one}", "deleted")
    age(engine, "students", one)
    put(coach, f"/api/students/{other}", None)
    (line,) = coach.get("/api/partner-runs").get_json()["runs"]
    assert line["partners"][0]["name"] == away.NOBODY
    assert line["partners"][1]["id"] == other


def test_a_hold_is_a_record_and_its_student_is_not_deleted(coach: Coach) -> None:
    together = begin_pair(coach)
    together.post({"kind": "head_knock", "at_ms": 900, "partner": 1})
    path = f"/api/students/{together.partners[1]}"
    refused = coach.send("PATCH", path, {"away": "deleted"})
    assert refused.status_code == 409
    assert "archive instead" in refused.get_json()["detail"]
    assert put(coach, path, "archived")["archived"]


def test_a_partner_run_put_away_counts_for_nothing_until_it_is_back(coach: Coach) -> None:
    together = begin_pair(coach)
    graded = {"kind": "graded", "at_ms": 1000, "round": 1, "number": 1, "grade": "covered"}
    assert together.post(graded, last=True).status_code == 200
    path = f"/api/partner-runs/{together.id}"

    def told() -> Any:
        listed = coach.get("/api/partner-runs").get_json()["runs"]
        defended = coach.get(f"/api/students/{together.partners[1]}/defended").get_json()
        return len(listed), len(defended["runs"])

    assert told() == (1, 1)
    put(coach, path, "archived")
    assert told() == (0, 0)
    assert len(coach.get("/api/partner-runs?archived=true").get_json()["runs"]) == 1
    put(coach, path, None)
    assert told() == (1, 1)


def test_a_partner_run_without_a_mark_leaves_nothing(coach: Coach) -> None:
    together = begin_pair(coach)
    assert together.post(last=True).status_code == 200
    assert coach.get("/api/partner-runs").get_json()["runs"] == []


def test_twins_become_one_and_two_again(done: Coach) -> None:
    twin = done.post("/api/students", {"name": "Bo Tarn"}).get_json()["id"]
    path = f"/api/students/{twin}/merges"
    assert done.post(path, {"other_id": done.student_id}).get_json()["runs"] == 1
    assert [one["id"] for one in done.get("/api/students").get_json()["students"]] == [twin]
    ladder = f"/api/students/{twin}/ladders/{done.drill_id}"
    assert done.get(ladder).get_json()["by"] == "settled"  # goes on where the other one stood
    again = done.post(path, {"other_id": done.student_id})
    assert again.status_code == 409
    blocked = done.send("PATCH", f"/api/students/{done.student_id}", {"away": None})
    assert blocked.status_code == 409
    back = done.send("DELETE", f"/api/students/{done.student_id}/merges")
    assert (back.status_code, back.get_json()["runs"]) == (200, 1)
    assert done.get(f"/api/students/{twin}").get_json()["student"]["runs"] == 0
    assert done.post(path, {"other_id": twin}).status_code == 409


def test_two_who_trained_together_are_two(coach: Coach) -> None:
    one, other = begin_pair(coach).partners
    refused = coach.post(f"/api/students/{one}/merges", {"other_id": other})
    assert refused.status_code == 409
    assert "two" in refused.get_json()["detail"]


def test_twins_have_their_evenings_together_and_apart(coach: Coach) -> None:
    """Who came under the other name came; two who came on one evening are two."""
    evening: str = add(coach, plan(block(drill_id=drill(coach, "touch and away")), in_h=-0.1))["id"]
    one, other = made = students_of(coach, 2)
    for student in made:
        come(coach, evening, student)
    assert together(coach, evening).status_code == 200
    twin = coach.post("/api/students", {"name": "Ada once more"}).get_json()["id"]

    def members() -> set[str]:
        view = coach.get(f"/api/evenings/{evening}").get_json()
        here = {person["student_id"] for person in view["people"] if person["here"]}
        assert here == set(view["blocks"][0]["groups"][0]["members"])
        return here

    assert coach.post(f"/api/students/{twin}/merges", {"other_id": one}).status_code == 200
    assert members() == {twin, other}
    both = coach.post(f"/api/students/{twin}/merges", {"other_id": other})
    assert (both.status_code, "two" in both.get_json()["detail"]) == (409, True)
    assert coach.send("DELETE", f"/api/students/{one}/merges").status_code == 200
    assert members() == {one, other}
