"""A phone at home, without an account: what a link opens, and what comes back from it."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from flask import Flask
from flask.testing import FlaskClient
from playwright.sync_api import Page
from werkzeug.test import TestResponse

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from tests.harness.coach import Coach


def practice(*drill_ids: str, **changes: Any) -> dict[str, Any]:
    """A practice of four weeks, from three days ago."""
    today = date.today()
    return {
        "title": "Two blocks, every other day",
        "pieces": [{"drill_id": drill_id} for drill_id in drill_ids],
        "starts_on": str(today - timedelta(days=3)),
        "ends_on": str(today + timedelta(days=25)),
        **changes,
    }


def assign(coach: Coach, *drill_ids: str, **changes: Any) -> str:
    """Have the coach's student practise these drills, or the first; the id of the practice."""
    made = str(uuid.uuid4())
    document = practice(*(drill_ids or (coach.drill_id,)), **changes)
    body = {"id": made, "practice": document, "students": [coach.student_id]}
    answer = coach.post("/api/practices", body)
    assert answer.status_code == 201, answer.get_json()
    return made


def link(coach: Coach, **body: Any) -> dict[str, Any]:
    """A link for the coach's student."""
    said = {"origin": "http://localhost", **body}
    answer = coach.post(f"/api/students/{coach.student_id}/home-links", said)
    assert answer.status_code == 201, answer.get_json()
    return dict(answer.get_json())


@dataclass
class Phone:
    """A phone that has a link, and nothing else."""

    client: FlaskClient
    token: str

    @property
    def base(self) -> str:
        return f"/api/home/{self.token}"

    def view(self) -> dict[str, Any]:
        answer = self.client.get(self.base)
        assert answer.status_code == 200, answer.get_json()
        return dict(answer.get_json())

    def keep(self, run_id: str, planned_id: str, **body: Any) -> TestResponse:
        said = {"planned_id": planned_id, "recorder": RECORDER, "measured": True, "ago_s": 60}
        inputs = {"inputs": ["touch"]} if body.get("measured", True) else {}
        return self.client.put(f"{self.base}/runs/{run_id}", json={**said, **inputs, **body})

    def post(self, run_id: str, batch: dict[str, Any]) -> TestResponse:
        return self.client.post(f"{self.base}/runs/{run_id}/batches", json=batch)


RECORDER = str(uuid.uuid4())


def phone(app: Flask, coach: Coach, **body: Any) -> Phone:
    """A phone with a new link for the coach's student."""
    return Phone(app.test_client(), link(coach, **body)["path"].removeprefix("/home/"))


def batches(view: dict[str, Any], planned: dict[str, Any], seed: int = 5) -> list[dict[str, Any]]:
    """What a phone would send of a planned run that a made-up student did."""
    drill = next(one for one in view["drills"] if one["key"] == planned["drill"])
    setup = Setup(
        Drill.model_validate(drill["document"]),
        RunPlan.model_validate(planned["plan"]),
        Device(inputs=("touch",)),
    )
    made, _ = simulate(setup, Habits(), seed)
    return [{"recorder": RECORDER, **batch.model_dump(mode="json")} for batch in made]


_SEND = """([path, body]) => fetch('/api/session').then((one) => one.json()).then(({ csrf }) =>
  fetch(path, {
    method: 'POST',
    body: JSON.stringify(body),
    headers: { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf },
  }).then((one) => one.json()))
"""


def practise(page: Page, student_id: str | uuid.UUID, drill_id: str | uuid.UUID) -> None:
    """Have a student practise a drill, from a page of a coach who is signed in."""
    document = practice(str(drill_id))
    body = {"id": str(uuid.uuid4()), "practice": document, "students": [str(student_id)]}
    assert page.evaluate(_SEND, ["/api/practices", body])["practices"]


def make_link(page: Page, student_id: str | uuid.UUID) -> str:
    """The address of a new link for a student, below the server's own."""
    said = {"origin": "http://127.0.0.1"}
    made = page.evaluate(_SEND, [f"/api/students/{student_id}/home-links", said])
    return str(made["path"])
