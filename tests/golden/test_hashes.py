"""What the program makes of fixed input is what it made before."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from sqlalchemy import Engine

from hastatus.core.starter import STARTERS
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.demo import club
from hastatus.store import accounts, runs, students
from hastatus.store.database import transaction
from tests.golden.canon import golden_hash, structure
from tests.golden.numbers import Numbers, rhythms, windows
from tests.golden.things import documents, messy, partner, readouts, solo, tables
from tests.harness.database import temporary_database

GOLDEN = Path(__file__).with_name("hashes.json")
NUMBERS = Path(__file__).with_name("numbers.json")


def golden() -> dict[str, Any]:
    kept: dict[str, Any] = json.loads(GOLDEN.read_text())
    return kept


@pytest.mark.parametrize("pattern", STARTERS)
def test_solo_starters_are_planned_and_scored_as_before(pattern: str) -> None:
    assert dict(solo(pattern)) == golden()["solo"][pattern]


@pytest.mark.parametrize("pattern", STARTERS)
def test_runs_in_which_much_goes_wrong_are_scored_as_before(pattern: str) -> None:
    assert dict(messy(pattern)) == golden()["messy"][pattern]


@pytest.mark.parametrize("numbers", [windows, rhythms])
def test_numbers_are_as_before(numbers: Callable[[], Iterator[tuple[str, Numbers]]]) -> None:
    """To within what another processor rounds otherwise."""
    kept: dict[str, Numbers] = json.loads(NUMBERS.read_text())[numbers.__name__]
    found = dict(numbers())
    assert found.keys() == kept.keys()
    for name, of_name in kept.items():
        assert found[name] == pytest.approx(of_name, rel=1e-4), name


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_partner_starters_are_fed_and_read_as_before(pattern: str) -> None:
    assert dict(partner(pattern)) == golden()["partner"][pattern]


def test_the_documents_say_the_same_of_what_is_on_the_wire() -> None:
    assert dict(documents()) == golden()["documents"]


def test_the_database_and_what_is_read_from_it_are_as_before() -> None:
    """In a database of its own: the demo club is the first one there."""
    with temporary_database(lasting=False) as engine:
        assert dict(tables(engine)) == golden()["tables"]
        assert club.is_empty(engine)
        assert dict(readouts(engine)) == golden()["readouts"]
        assert not club.is_empty(engine)
        assert_lived_in(engine)


def assert_lived_in(engine: Engine) -> None:
    """The made-up club has its people, tests and runs, and they find it neither easy nor hard."""
    with transaction(engine) as db:
        coach = accounts.find_coach(db, club.LOGIN)
        assert coach is not None
        assert len(students.all_of(db, coach.club_id)) == len(club.MEMBERS)
        found = runs.figures_of(runs.latest(db, coach.club_id))
    practice = [figures for _, figures in found if figures.baseline is None]
    shares = [figures.summary.clean_share for figures in practice]
    assert len(club.MEMBERS) <= len(practice) <= 3 * len(club.MEMBERS)
    assert len(found) - len(practice) == len(club.MEMBERS)  # a test each
    assert all(figures.complete for _, figures in found)
    assert all(share is not None and 0.6 < share < 1.0 for share in shares)


def test_a_hash_tells_values_apart_but_not_ids_and_last_digits() -> None:
    first, second = "5f0c6a52-6d0e-4a57-9d0a-3a1f0a8d2f10", "00000000-6d0e-4a57-9d0a-3a1f0a8d2f10"
    assert golden_hash([first, first, 0.1 + 0.2]) == golden_hash([second, second, 0.3])
    assert golden_hash([first, first]) != golden_hash([first, second])
    assert golden_hash([1.0001]) != golden_hash([1.0])


def test_a_structure_knows_fields_and_limits_but_no_names_of_types() -> None:
    def hashed(name: str, most: int, field: str = "count") -> str:
        types = {name: {"title": name, "properties": {field: {"maximum": most}}}}
        return golden_hash(structure({"$ref": f"#/$defs/{name}"}, types))

    assert hashed("Old", 3) == hashed("New", 3)
    assert hashed("Old", 3) != hashed("Old", 4)
    assert hashed("Old", 3) != hashed("Old", 3, "number")
