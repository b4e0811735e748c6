"""Devices: measured by recordings that are made here, and applied to runs."""

from __future__ import annotations

import uuid
from typing import Any

import pytest

from tests.harness.chirps import recording
from tests.harness.coach import Coach
from tests.harness.flashes import flashes


def known(view: dict[str, Any], source: str) -> dict[str, Any]:
    return next(each for each in view["inputs"] if each["source"] == source)


def test_a_device_is_measured_and_its_runs_are_corrected(coach: Coach) -> None:
    address = f"/api/devices/{uuid.uuid4()}"
    bare = coach.get(address).get_json()
    assert known(bare, "key") == {"source": "key", "ms": 0, "spread_ms": 30, "measured_on": None}
    measured = coach.post(f"{address}/loopback", recording(62)).get_json()
    assert known(measured, "microphone")["ms"] == pytest.approx(62, abs=0.3)
    assert not measured["profile"]["wireless"]
    struck = [1000.0 * place for place in range(1, 13)]
    heard = [each - 18 + 62 for each in struck]
    body = {"source": "key", "struck_ms": struck, "heard_ms": heard}
    view = coach.post(f"{address}/strikes", body).get_json()
    assert known(view, "key")["ms"] == pytest.approx(18, abs=0.5)
    assert known(view, "key")["spread_ms"] < 12
    run = coach.begin(
        id=str(uuid.uuid4()), device_id=address.split("/")[-1], inputs=["key", "microphone"]
    ).get_json()
    assert run["device"]["calibrated"]
    assert {each["source"] for each in run["device"]["corrections"]} == {"key", "microphone"}


def test_a_long_way_is_called_wireless(coach: Coach) -> None:
    address = f"/api/devices/{uuid.uuid4()}"
    assert coach.post(f"{address}/loopback", recording(190)).get_json()["profile"]["wireless"]
    assert not coach.post(f"{address}/loopback", recording(30)).get_json()["profile"]["wireless"]


def test_what_says_nothing_is_refused_and_changes_nothing(coach: Coach) -> None:
    address = f"/api/devices/{uuid.uuid4()}"
    nothing = {"source": "key", "struck_ms": [], "heard_ms": []}
    assert coach.post(f"{address}/strikes", nothing).status_code == 409
    quiet = coach.post(f"{address}/loopback", recording(62, gain=0.0))
    assert quiet.status_code == 422
    assert "louder" in quiet.get_json()["detail"]
    for change in ({"samples": "?"}, {"rate": 1}, {"played_s": []}, {"samples": ""}):
        assert coach.post(f"{address}/loopback", {**recording(62), **change}).status_code == 422
    assert coach.get(address).get_json()["profile"]["corrections"] == []


def test_pads_are_learned_and_two_on_one_note_are_refused(coach: Coach) -> None:
    address = f"/api/devices/{uuid.uuid4()}"
    pads = [{"control": "zone:left:0", "note": 38, "channel": 10},
            {"control": "zone:right:0", "note": 40, "channel": 10}]  # fmt: skip
    view = coach.send("PUT", address, {"name": "Tablet by the door", "pads": pads}).get_json()
    assert view["profile"]["pads"] == pads
    pads[1]["note"] = 38
    refused = coach.send("PUT", address, {"name": "Tablet by the door", "pads": pads})
    assert refused.status_code == 422
    assert "two pads send note 38" in refused.get_data(as_text=True)
    assert coach.get(address).get_json()["profile"]["pads"][1]["note"] == 40


def test_a_camera_is_measured_and_its_runs_know_its_zones(two_coaches: tuple[Coach, Coach]) -> None:
    coach, other = two_coaches
    address, place = f"/api/devices/{uuid.uuid4()}", f"/api/camera-places/{uuid.uuid4()}"
    dark = coach.post(f"{address}/flashes", flashes(60, lit=0.0))
    assert dark.status_code == 422
    assert "mirror" in dark.get_json()["detail"]
    uneven = flashes(60) | {"times_ms": [1.0, 2.0]}
    assert coach.post(f"{address}/flashes", uneven).status_code == 422
    view = coach.post(f"{address}/flashes", flashes(60)).get_json()
    assert known(view, "camera")["ms"] == pytest.approx(65, abs=5)  # exposed for 10 ms
    zone = {"part": "head", "left": 0.4, "top": 0.1, "width": 0.2, "height": 0.2}
    coach.send("PUT", place, {"place": {"name": "door", "zones": [zone]}})
    wanted = {"device_id": address.split("/")[-1], "inputs": ["camera"]}
    assert coach.begin(**wanted).status_code == 422
    here = place.split("/")[-1]
    assert other.begin(inputs=["camera"], camera_place_id=here).status_code == 404
    device = coach.begin(**wanted, camera_place_id=here).get_json()["device"]
    assert device["calibrated"]
    assert [one["part"] for one in device["zones"]] == ["head"]
    two = [{**zone, "person": "left"}, {**zone, "left": 0.7, "person": "right"}]
    coach.send("PUT", place, {"place": {"name": "door", "zones": two}})
    assert coach.begin(**wanted, camera_place_id=here).status_code == 409
    coach.send("PATCH", place, {"removed": True})
    assert coach.begin(**wanted, camera_place_id=here).status_code == 404


def test_motion_of_zones_that_a_run_has_not_is_refused(coach: Coach) -> None:
    recorder = str(uuid.uuid4())
    run = coach.begin(recorder=recorder).get_json()
    motion = {
        "type": "motion", "t_ms": 33.0, "times_ms": [33.0], "moved": [[1, 2, 0, 0]],
        "rows": 480, "columns": 640,
    }  # fmt: skip
    body = {"recorder": recorder, "number": 0, "epoch": 0, "until_ms": 40.0}
    refused = coach.post(f"/api/runs/{run['id']}/batches", body | {"events": [motion]})
    assert refused.status_code == 422
    assert "0 zones" in refused.get_data(as_text=True)


def test_a_camera_is_allowed_only_where_it_is_used(coach: Coach) -> None:
    run = f"/runs/{uuid.uuid4()}/floor"
    for path, allowed in (("/run", True), ("/device", True), (run, True), ("/build", False),
                          ("/", False), ("/home/abc", False), ("/api/session", False)):  # fmt: skip
        policy = coach.get(path).headers["Permissions-Policy"]
        assert ("camera=(self)" in policy) == allowed, path
        assert "camera=" in policy


def test_a_simulated_run_says_nothing_of_the_student(coach: Coach) -> None:
    before = coach.get(f"/api/students/{coach.student_id}").get_json()["student"]
    coach.begin(id=str(uuid.uuid4()), inputs=["pad"], simulated=True)
    after = coach.get(f"/api/students/{coach.student_id}").get_json()
    assert after["runs"][0]["simulated"]
    assert after["student"]["last"] == before["last"]


def test_another_club_sees_nothing_of_a_device(two_coaches: tuple[Coach, Coach]) -> None:
    address = f"/api/devices/{uuid.uuid4()}"
    two_coaches[0].post(f"{address}/loopback", recording(62))
    assert two_coaches[1].get(address).get_json()["profile"]["corrections"] == []
