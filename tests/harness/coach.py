"""A coach of a small club, signed in, and a run that has been done."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from flask.testing import FlaskClient
from flask_openapi3 import OpenAPI
from sqlalchemy import Engine
from werkzeug.test import TestResponse

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from hastatus.store import accounts, drills
from hastatus.store.database import transaction

PASSWORD = "long enough today"
SEED = 11


@dataclass(frozen=True)
class DoneRun:
    """A run that the server has begun. batches: made and not yet posted."""

    run_id: str
    recorder: str
    setup: Setup
    batches: tuple[Batch, ...]


@dataclass
class Coach:
    """A signed-in coach with what the club has; the run is begun when it is first asked for."""

    client: FlaskClient
    login: str
    csrf: str
    drill_id: str
    student_id: str = ""

    @cached_property
    def run(self) -> DoneRun:
        """A run of the club's first drill."""
        run_id, recorder = str(uuid.uuid4()), str(uuid.uuid4())
        view = self.begin(id=run_id, recorder=recorder).get_json()
        drill = Drill.model_validate(view["document"])
        setup = Setup(drill, RunPlan.model_validate(view["plan"]), Device())
        return DoneRun(run_id, recorder, setup, tuple(simulate(setup, Habits(), SEED)[0]))

    @property
    def run_id(self) -> str:
        return self.run.run_id

    @property
    def recorder(self) -> str:
        return self.run.recorder

    @property
    def setup(self) -> Setup:
        return self.run.setup

    @property
    def batches(self) -> tuple[Batch, ...]:
        return self.run.batches

    def get(self, path: str) -> TestResponse:
        return self.client.get(path)

    def send(self, method: str, path: str, body: Any = None) -> TestResponse:
        return self.client.open(path, method=method, json=body, headers={"X-CSRF-Token": self.csrf})

    def post(self, path: str, body: Any = None) -> TestResponse:
        return self.send("POST", path, body)

    def begin(self, **changes: Any) -> TestResponse:
        """Begin a run; `run_id` and `recorder` are new unless given."""
        body = {
            "id": str(uuid.uuid4()),
            "recorder": str(uuid.uuid4()),
            "student_id": self.student_id,
            "drill_id": self.drill_id,
            "seed": SEED,
            **changes,
        }
        return self.post("/api/runs", body)

    def drill(self) -> dict[str, Any]:
        """The newest version of the club's first drill."""
        return dict(self.get(f"/api/drills/{self.drill_id}").get_json())

    def solo_drills(self) -> list[dict[str, Any]]:
        """The newest version of each solo drill in use."""
        lines = self.get("/api/library").get_json()["drills"]
        solo = [line["id"] for line in lines if line["form"] == "solo"]
        return [self.get(f"/api/drills/{each}").get_json() for each in solo]

    def post_batch(self, batch: Batch, **changes: Any) -> TestResponse:
        body = {"recorder": self.recorder, **batch.model_dump(mode="json"), **changes}
        return self.post(f"/api/runs/{self.run_id}/batches", body)


def new_coach(app: OpenAPI, engine: Engine) -> Coach:
    login = f"{uuid.uuid4().hex[:10]}@sluice.example"
    with transaction(engine) as db:
        club = accounts.add_club(db, "Sluice Lane")
        accounts.add_coach(db, club.id, login=login, name="Ada", password=PASSWORD, role="owner")
        drill_id = str(drills.newest(db, club.id)[0].drill_id)
    client = app.test_client()
    session = client.post("/api/session", json={"login": login, "password": PASSWORD})
    coach = Coach(client, login, session.get_json()["csrf"], drill_id)
    made = coach.post("/api/students", {"name": "Bo Tarn"})
    coach.student_id = made.get_json()["id"]
    return coach
