"""Devices: measured by recordings that are made here, and applied to runs."""

from __future__ import annotations

import uuid
from typing import Any

import pytest

from tests.harness.chirps import recording
from tests.harness.coach import Coach


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
