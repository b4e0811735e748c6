"""A run without cues: counted or held. It is begun, done, kept and read like any other."""

from __future__ import annotations

import uuid
from typing import Any

import pytest

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from tests.harness.coach import Coach

HELD = ("Hold the frame, step to the mark", 1)
COUNTED = ("Base, by the count, alone", 1)
UNDER_A_BALL = ("Roll under, two and stop", 4)


def done(coach: Coach, title: str, rung: int) -> tuple[str, dict[str, Any], Setup]:
    """A run of a guided rung, from its start to its close; its id, the drill, and its setup."""
    drill = next(each for each in coach.solo_drills() if each["document"]["title"] == title)
    ladder = f"/api/students/{coach.student_id}/ladders/{drill['id']}"
    at = {"kind": "by_hand", "rung": rung, "window_s": coach.get(ladder).get_json()["window_s"]}
    assert coach.post(f"{ladder}/choices", at).status_code == 201
    recorder = str(uuid.uuid4())
    begun = coach.begin(drill_id=drill["id"], recorder=recorder)
    assert begun.status_code in (200, 201), begun.get_json()
    view = begun.get_json()
    setup = Setup(
        Drill.model_validate(drill["document"]), RunPlan.model_validate(view["plan"]), Device()
    )
    for batch in simulate(setup, Habits(), 5)[0]:
        body = {"recorder": recorder, **batch.model_dump(mode="json")}
        assert coach.post(f"/api/runs/{view['id']}/batches", body).status_code == 200
    return view["id"], drill, setup


@pytest.mark.parametrize(("title", "rung"), [HELD, COUNTED, UNDER_A_BALL])
def test_a_guided_run_is_planned_done_and_read(coach: Coach, title: str, rung: int) -> None:
    run_id, drill, setup = done(coach, title, rung)
    assert all(not round_plan.cues and round_plan.calls for round_plan in setup.plan.rounds)
    readout = coach.get(f"/api/runs/{run_id}/readout").get_json()
    assert readout["run"]["state"] == "complete"
    assert readout["responses"] == []
    assert readout["run"]["rung"] == rung
    ladder = coach.get(f"/api/students/{coach.student_id}/ladders/{drill['id']}").get_json()
    assert ladder["rung"] == ladder["suggestion"]["rung"] == rung
    assert ladder["suggestion"]["reason"] == (
        "Counted or held: nothing is timed here, so you say when to go on."
    )
    for path in (
        f"/api/runs/{run_id}/results.csv", f"/api/runs/{run_id}/results.json", "/api/runs",
        f"/api/students/{coach.student_id}", "/api/library", f"/api/runs/{run_id}",
    ):  # fmt: skip
        assert coach.get(path).status_code == 200, path
