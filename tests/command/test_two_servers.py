"""Two servers on one database: a coach whose requests go to both by turns notices nothing."""

from __future__ import annotations

import json
import urllib.request
import uuid
from collections.abc import Iterator
from itertools import cycle
from typing import Any

import pytest
from sqlalchemy import Engine

from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from hastatus.server.cluster import free_port
from hastatus.store import accounts, drills, students
from hastatus.store.database import make_engine, migrate, transaction
from tests.command.test_serve import fresh_url, read_until, start

LOGIN, PASSWORD = "two@weir.example", "slow-and-steady-7"


@pytest.fixture(scope="module")
def own(engine: Engine) -> Iterator[tuple[Engine, list[str]]]:
    """A database of its own with a club, and two servers on it."""
    url = fresh_url(engine)
    made = make_engine(url)
    migrate(made)
    with transaction(made) as db:
        club = accounts.add_club(db, "Weir")
        accounts.add_coach(db, club.id, login=LOGIN, name="T", password=PASSWORD, role="owner")
    ports = [free_port() for _ in range(2)]
    both = [start("serve", port, url) for port in ports]
    try:
        for process in both:
            read_until(process, "is up")
        yield made, [f"http://127.0.0.1:{port}" for port in ports]
    finally:
        for process in both:
            process.terminate()
        assert [process.wait(timeout=30) for process in both] == [0, 0]
        made.dispose()


class Client:
    """Sends its requests to the servers by turns, all with one sign-in."""

    def __init__(self, addresses: list[str]) -> None:
        self.turns = cycle(addresses)
        self.headers = {"Content-Type": "application/json"}

    def sign_in(self) -> None:
        answer, headers = self._ask("POST", "/api/session", {"login": LOGIN, "password": PASSWORD})
        self.headers["Cookie"] = headers["Set-Cookie"].split(";")[0]
        self.headers["X-CSRF-Token"] = answer["csrf"]

    def ask(self, method: str, path: str, body: Any = None) -> Any:
        return self._ask(method, path, body)[0]

    def _ask(self, method: str, path: str, body: Any) -> tuple[Any, Any]:
        data = None if body is None else json.dumps(body).encode()
        request = urllib.request.Request(
            next(self.turns) + path, data=data, headers=self.headers, method=method
        )
        with urllib.request.urlopen(request, timeout=10) as answer:
            return json.loads(answer.read() or b"null"), answer.headers


def test_a_run_over_two_servers_is_the_run_over_one(own: tuple[Engine, list[str]]) -> None:
    database, both = own
    with transaction(database) as db:
        coach = accounts.find_coach(db, LOGIN)
        assert coach is not None
        pupils = [
            str(students.add(db, coach.club_id, name=name, stance="left_lead").id)
            for name in ("A", "B")
        ]
        drill = drills.read(drills.newest(db, coach.club_id)[0])
        drill_id = str(drills.newest(db, coach.club_id)[0].drill_id)
    read = []
    for addresses, pupil in ((both[:1], pupils[0]), (both, pupils[1])):
        client = Client(addresses)
        client.sign_in()
        read.append(_one_run(client, drill, drill_id, pupil))
    alone, by_turns = read
    assert by_turns["acks"] == alone["acks"]
    for name in ("responses", "summary", "by_cue", "ladder"):
        assert by_turns["readout"][name] == alone["readout"][name], name


def _one_run(client: Client, drill: Any, drill_id: str, student_id: str) -> dict[str, Any]:
    """A whole run; each batch twice, so that both servers take each."""
    run_id, recorder = str(uuid.uuid4()), str(uuid.uuid4())
    view = client.ask("POST", "/api/runs", {
        "id": run_id, "recorder": recorder, "student_id": student_id, "drill_id": drill_id,
        "seed": 11,
    })  # fmt: skip
    setup = Setup(drill, RunPlan.model_validate(view["plan"]), Device())
    acks = []
    for batch in simulate(setup, Habits(), 11)[0]:
        body = {"recorder": recorder, **batch.model_dump(mode="json")}
        answers = [client.ask("POST", f"/api/runs/{run_id}/batches", body) for _ in range(2)]
        assert answers[0] == answers[1]
        acks.append(answers[0])
    readouts = [client.ask("GET", f"/api/runs/{run_id}/readout") for _ in range(2)]
    assert readouts[0] == readouts[1]
    return {"acks": acks, "readout": readouts[0]}


def test_a_sign_in_that_ends_on_one_server_has_ended_on_the_other(
    own: tuple[Engine, list[str]],
) -> None:
    both = own[1]
    client = Client(both)
    client.sign_in()
    for _ in range(2):
        assert client.ask("GET", "/api/session")["coach"] == "T"
    client.ask("DELETE", "/api/session")
    for _ in range(2):
        with pytest.raises(urllib.error.HTTPError, match="401"):
            client.ask("GET", "/api/session")
    wrong = Client(both)
    for _ in range(4):  # counted together, whichever server they come to
        with pytest.raises(urllib.error.HTTPError, match="401"):
            wrong.ask("POST", "/api/session", {"login": LOGIN, "password": "not this"})
    with pytest.raises(urllib.error.HTTPError, match="429"):
        wrong.ask("POST", "/api/session", {"login": LOGIN, "password": "not this"})
