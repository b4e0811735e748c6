"""A pair on the mat, through the API."""

from __future__ import annotations

import uuid
from dataclasses import dataclass, field
from typing import Any

from werkzeug.test import TestResponse

from tests.harness.coach import Coach

TITLE = "Two beats, then in"
GEAR = ["gloves", "mouthguard"]


@dataclass
class Pair:
    """A partner run that has begun. answer: to its beginning."""

    coach: Coach
    drill_id: str
    partners: list[str]
    id: str = field(default_factory=lambda: str(uuid.uuid4()))
    recorder: str = field(default_factory=lambda: str(uuid.uuid4()))
    posted: int = 0

    def asks(self, **changes: Any) -> dict[str, Any]:
        agreement = {"contact": "touch", "stop_word": "red"}
        return {
            "drill_id": self.drill_id, "rung": 4, "seed": 3, "partners": self.partners,
            "agreement": agreement, **changes,
        }  # fmt: skip

    def start(self, **changes: Any) -> TestResponse:
        return self.coach.post("/api/partner-runs/start", self.asks(**changes))

    def begin(self, **changes: Any) -> TestResponse:
        body = {"id": self.id, "recorder": self.recorder, **self.asks(), **changes}
        return self.coach.post("/api/partner-runs", body)

    def post(self, *marks: dict[str, Any], **changes: Any) -> TestResponse:
        """Post the next batch of marks."""
        body = {"recorder": self.recorder, "number": self.posted, "marks": list(marks), **changes}
        answer = self.coach.post(f"/api/partner-runs/{self.id}/batches", body)
        self.posted += answer.status_code == 200
        return answer

    def read(self) -> Any:
        answer = self.coach.get(f"/api/partner-runs/{self.id}/readout")
        assert answer.status_code == 200, answer.get_data(as_text=True)
        return answer.get_json()


def student(coach: Coach, **rest: Any) -> str:
    made = coach.post("/api/students", {"name": "Wren Abbot", "gear": GEAR, **rest})
    assert made.status_code == 201
    return str(made.get_json()["id"])


def pair(coach: Coach, title: str = TITLE, people: int = 2) -> Pair:
    """Students with what the drill asks for; nothing has begun."""
    drills = coach.get("/api/library").get_json()["drills"]
    drill_id = next(drill["id"] for drill in drills if drill["title"] == title)
    return Pair(coach, drill_id, [student(coach) for _ in range(people)])
