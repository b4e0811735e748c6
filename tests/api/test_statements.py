"""How often a list asks the database: for many lines as often as for few."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

import pytest
from sqlalchemy import Engine, event

from tests.harness.api_pair import Pair, pair, student
from tests.harness.coach import Coach
from tests.harness.home import assign


@contextmanager
def statements(engine: Engine) -> Iterator[list[str]]:
    """What is asked meanwhile."""
    asked: list[str] = []

    def note(_connection: object, _cursor: object, statement: str, *_rest: object) -> None:
        asked.append(statement)

    event.listen(engine, "before_cursor_execute", note)
    try:
        yield asked
    finally:
        event.remove(engine, "before_cursor_execute", note)


def asked(engine: Engine, coach: Coach, address: str) -> int:
    """How often a page asks, when what it keeps is there."""
    assert coach.get(address).status_code == 200
    with statements(engine) as found:
        assert coach.get(address).status_code == 200
    return len(found)


def closed(coach: Coach, partners: list[str]) -> None:
    """One more run of a pair, in which something was done."""
    made = pair(coach, people=0)
    made.partners = partners
    assert made.begin().status_code == 201
    begun = {"kind": "round_begun", "at_ms": 0, "round": 1}
    graded = {"kind": "graded", "at_ms": 5000, "round": 1, "number": 1, "grade": "struck"}
    assert made.post(begun, graded, last=True).status_code == 200


@pytest.fixture
def both(coach: Coach) -> Pair:
    made = pair(coach)
    closed(coach, made.partners)
    return made


@pytest.mark.parametrize(
    "path", ["/api/partner-runs", "/api/partner-runs.csv", "/api/students/{student}/defended"]
)
def test_a_list_of_pairs_asks_no_more_for_four_than_for_one(
    engine: Engine, both: Pair, path: str
) -> None:
    address = path.format(student=both.partners[1])

    for_one = asked(engine, both.coach, address)
    for _ in range(3):
        closed(both.coach, both.partners)
    assert len(both.coach.get("/api/partner-runs").get_json()["runs"]) == 4
    assert asked(engine, both.coach, address) <= for_one


def test_a_list_of_practices_asks_no_more_for_four_who_have_one_than_for_one(
    engine: Engine, coach: Coach
) -> None:
    assign(coach)
    for_one = asked(engine, coach, "/api/practices")
    for _ in range(3):
        coach.student_id = student(coach)
        assign(coach)
    assert len(coach.get("/api/practices").get_json()["practices"]) == 4
    assert asked(engine, coach, "/api/practices") <= for_one
