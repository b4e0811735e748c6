"""Students who have not run, who only jump, who never answer: said plainly on every page."""

from __future__ import annotations

import uuid
from typing import Any

import pytest

from hastatus.core.run.events import Batch, CueShown, Event, Finish, Input, RoundEnd, RoundStart
from tests.harness.coach import Coach


def run(coach: Coach, answer_ms: float | None) -> str:
    """A run in which every cue is answered after `answer_ms`, or none is; its id."""
    recorder, run_id = str(uuid.uuid4()), str(uuid.uuid4())
    view = coach.begin(id=run_id, recorder=recorder).get_json()
    first = view["plan"]["rounds"][0]
    events: list[Event] = [RoundStart(t_ms=3000, round=1)]
    for cue in first["cues"]:
        onset = 3000 + cue["at_s"] * 1000
        events.append(
            CueShown(t_ms=onset, round=1, slot=cue["slot"], cue=cue["cue"], at_s=cue["at_s"],
                     window_ms=cue["window_s"] * 1000, source="audio")
        )  # fmt: skip
        if answer_ms is not None:
            events.append(Input(t_ms=onset + answer_ms, device="key", control="KeyR"))
    end = 3000 + first["duration_s"] * 1000
    events += [RoundEnd(t_ms=end, round=1, reason="time"), Finish(t_ms=end, reason="stopped")]
    batch = Batch(number=0, epoch=0, until_ms=end, last=True, events=tuple(events))
    body = {"recorder": recorder, **batch.model_dump(mode="json")}
    assert coach.post(f"/api/runs/{run_id}/batches", body).status_code == 200
    return run_id


def pages(coach: Coach, run_id: str | None) -> dict[str, Any]:
    """Every page that speaks of the student; none may fail."""
    addresses = {
        "student": f"/api/students/{coach.student_id}",
        "people": "/api/students",
        "ladder": f"/api/students/{coach.student_id}/ladders/{coach.drill_id}",
    }
    if run_id:
        addresses["readout"] = f"/api/runs/{run_id}/readout"
    answers = {name: coach.get(address) for name, address in addresses.items()}
    assert {answer.status_code for answer in answers.values()} == {200}
    return {name: answer.get_json() for name, answer in answers.items()}


@pytest.fixture
def newcomer(coach: Coach) -> Coach:
    coach.student_id = coach.post("/api/students", {"name": "Tove Marsh"}).get_json()["id"]
    return coach


def test_a_student_with_no_runs(newcomer: Coach) -> None:
    found = pages(newcomer, None)
    assert found["student"]["runs"] == found["student"]["skills"] == []
    assert found["student"]["weekly"] is None
    assert found["ladder"]["by"] == "start"
    assert found["ladder"]["suggestion"]["rule"].startswith("first run")


def test_a_student_who_only_jumps(newcomer: Coach) -> None:
    found = pages(newcomer, run(newcomer, 60.0))
    read = found["readout"]
    assert read["summary"]["jumped"] == read["summary"]["count"] > 0
    assert read["summary"]["median_ms"] is None
    assert read["reading"]["distribution"] is None
    assert found["student"]["skills"] == []
    assert found["ladder"]["suggestion"]["kind"] == "hold"


def test_a_student_who_never_answers(newcomer: Coach) -> None:
    found = pages(newcomer, run(newcomer, None))
    read = found["readout"]
    assert read["summary"]["missed"] == read["summary"]["count"] > 0
    assert read["holding"]
    assert read["run"]["away"] == "deleted"  # it counts for nothing and is not kept
    assert found["ladder"]["suggestion"]["kind"] == "start"
    assert found["student"]["weekly"] is None
