"""What the API tells of a run's times, and of a student's baselines."""

from __future__ import annotations

import uuid
from typing import Any

import pytest

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from tests.harness.api_pair import pair
from tests.harness.coach import Coach


def run_a_test(coach: Coach, seed: int) -> str:
    """A five-minute test by a simulated student, posted batch by batch; the run's id."""
    drills = coach.solo_drills()
    test = next(drill for drill in drills if drill["document"]["purpose"] == "baseline")
    recorder = str(uuid.uuid4())
    view = coach.begin(recorder=recorder, drill_id=test["id"], seed=seed).get_json()
    plan = RunPlan.model_validate(view["plan"])
    setup = Setup(Drill.model_validate(view["document"]), plan, Device())
    habits = Habits(mu_ms=280, sigma_ms=25, tau_ms=40, choice_ms=90, rear_ms=0)
    for batch in simulate(setup, habits, seed)[0]:
        body = {"recorder": recorder, **batch.model_dump(mode="json")}
        assert coach.post(f"/api/runs/{view['id']}/batches", body).status_code == 200
    return str(view["id"])


def test_a_students_tests_make_a_course_of_their_own(coach: Coach) -> None:
    for batch in coach.batches:
        coach.post_batch(batch)
    before = coach.get(f"/api/students/{coach.student_id}").get_json()
    assert before["baselines"] == {"tests": [], "sound": None, "light": None}
    ids = [run_a_test(coach, seed) for seed in range(4)]
    detail: Any = coach.get(f"/api/students/{coach.student_id}").get_json()
    assert [each["run_id"] for each in detail["baselines"]["tests"]] == ids
    assert detail["baselines"]["sound"] is None  # four tests of one evening say nothing of a week
    # A test is no step of a course, and not what the next run goes on from.
    assert detail["student"]["course"] == before["student"]["course"]
    assert detail["student"]["last"]["id"] == coach.run_id
    # A drill that is new to the student starts from own times in another one.
    drills = coach.solo_drills()
    new = next(drill for drill in drills if drill["document"]["title"] == "Small guard, in turns")
    ladder = coach.get(f"/api/students/{coach.student_id}/ladders/{new['id']}").get_json()
    assert ladder["by"] == "start"
    assert "same answers in other drills" in ladder["suggestion"]["reason"]
    assert coach.begin(drill_id=new["id"]).get_json()["plan"]["window_s"] == ladder["window_s"]
    readout = coach.get(f"/api/runs/{ids[0]}/readout").get_json()
    assert readout["baseline"]["choice"]["low_s"] > 0
    assert len(readout["baseline"]["parts"]) == 5


def test_a_readout_compares_and_says_where_it_cannot(coach: Coach) -> None:
    empty = coach.get(f"/api/runs/{coach.run_id}/readout").get_json()["reading"]
    assert (empty["compared"], empty["distribution"], empty["tiring"]) == ([], None, None)
    for batch in coach.batches:
        coach.post_batch(batch)
    reading = coach.get(f"/api/runs/{coach.run_id}/readout").get_json()["reading"]
    compared = {each["contrast"]: each["found"] for each in reading["compared"]}
    assert {"side", "channel", "half"} <= set(compared)
    for found in compared.values():
        assert found is None or found["low_ms"] <= found["middle_ms"] <= found["high_ms"]
    assert sum(reading["distribution"]["counts"]) == reading["distribution"]["answers"]


def test_faults_seen_alone_and_with_a_partner_make_one_course(coach: Coach) -> None:
    """Whose fault it is decides whose course it is in; the feeder's is not the defender's."""
    made = pair(coach, "Turn about")
    assert made.begin(rung=1).status_code == 201
    feed = {"at_ms": 900, "round": 1, "number": 1}
    made.post(
        {"kind": "tagged", **feed, "fault": "pushes through"},
        {"kind": "tagged", **feed, "fault": "hand not home"},
        {"kind": "graded", **feed, "grade": "covered"},
        last=True,
    )
    feeder, defender = made.partners
    one = coach.get(f"/api/students/{feeder}/faults").get_json()["faults"]
    assert one == [{"fault": "pushes through", "total": 1, "counts": [1]}]
    begun = coach.begin(student_id=defender).get_json()
    address = f"/api/runs/{begun['id']}/faults"
    seen = {"faults": [{"fault": "hand not home", "count": 3}, {"fault": "own", "count": 0}]}
    for _ in range(2):  # the same again is the same
        kept = coach.send("PUT", address, seen).get_json()
        assert kept == {"faults": seen["faults"][:1]}
    readout = coach.get(f"/api/runs/{begun['id']}/readout").get_json()
    assert {"fault": "hand not home", "count": 3} in readout["faults"]
    course = coach.get(f"/api/students/{defender}/faults").get_json()
    assert course["faults"] == [{"fault": "hand not home", "total": 4, "counts": [1, 3]}]
    assert len(course["at"]) == 2
    wrong = coach.send("PUT", address, {"faults": [{"fault": "hand not home", "count": -1}]})
    assert wrong.status_code == 422


def test_two_runs_are_compared_and_those_of_another_club_are_not(
    two_coaches: tuple[Coach, Coach],
) -> None:
    mine, theirs = two_coaches
    for coach in two_coaches:
        for batch in coach.batches:
            assert coach.post_batch(batch).status_code == 200
    found = mine.get(f"/api/runs/{mine.run_id}/comparisons/{mine.run_id}").get_json()
    assert found["doubts"] == []
    assert found["kinds"][0]["name"] == "all answers"
    assert found["kinds"][0]["found"]["middle_ms"] == pytest.approx(0)
    assert "lead high block" in [kind["name"] for kind in found["kinds"]]
    assert found["one"] == found["other"]
    for one, other in ((mine, theirs), (theirs, mine)):
        address = f"/api/runs/{one.run_id}/comparisons/{other.run_id}"
        assert mine.get(address).status_code == 404
