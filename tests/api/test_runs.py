"""A run through the API, from its plan to its results, whatever the line does on the way."""

from __future__ import annotations

import csv
import io
import json
import uuid

import numpy as np
import pytest

from hastatus.core.loop.results import RESULTS, read
from hastatus.server.logs import JsonLines
from tests.harness.coach import Coach


def test_beginning_again_is_harmless_and_another_recorder_is_not(coach: Coach) -> None:
    again = coach.begin(id=coach.run_id, recorder=coach.recorder)
    assert again.status_code == 200
    assert again.get_json()["plan"] == coach.get(f"/api/runs/{coach.run_id}").get_json()["plan"]
    assert coach.begin(id=coach.run_id).status_code == 409


def test_batches_shuffled_doubled_and_late_give_the_same_results(coach: Coach) -> None:
    expected = read(coach.setup, coach.batches)
    order = np.random.default_rng(2).permutation(len(coach.batches)).tolist()
    late = order.pop(order.index(len(order) // 2))  # not the last one, which nobody would miss
    for number in [*order, *order[:9]]:
        ack = coach.post_batch(coach.batches[number])
        assert ack.status_code == 200
    assert coach.post(f"/api/runs/{coach.run_id}/close").get_json()["state"] == "closed"
    readout = coach.get(f"/api/runs/{coach.run_id}/readout").get_json()
    assert readout["missing"] == [late]
    assert coach.post_batch(coach.batches[late]).get_json()["complete"]
    assert coach.post_batch(coach.batches[late]).status_code == 200

    document = coach.get(f"/api/runs/{coach.run_id}/results.json")
    assert RESULTS.validate_json(document.get_data()) == expected
    sheet = coach.get(f"/api/runs/{coach.run_id}/results.csv").get_data(as_text=True)
    rows = list(csv.DictReader(io.StringIO(sheet)))
    assert [row["outcome"] for row in rows] == [response.outcome for response in expected.responses]
    times = [float(row["time_ms"]) for row in rows if row["time_ms"]]
    assert times == [
        response.time_ms for response in expected.responses if response.time_ms is not None
    ]
    readout = coach.get(f"/api/runs/{coach.run_id}/readout").get_json()
    assert readout["run"]["state"] == "complete"
    assert readout["summary"]["count"] == expected.figures.summary.count
    by_cue = {group["key"]: group["summary"]["count"] for group in readout["by_cue"]}
    assert list(by_cue) == [cue.key for cue in coach.setup.drill.cues if cue.key in by_cue]
    assert sum(by_cue.values()) == expected.figures.summary.count


def test_what_was_kept_aside_takes_the_place_of_its_emptied_batch(coach: Coach) -> None:
    """A device steps over a refused batch; once it is taken the run is as it would have been."""
    place = len(coach.batches) // 2
    assert coach.post_batch(coach.batches[0], emptied=True).status_code == 422  # it is not
    for batch in coach.batches:
        gone = batch.model_copy(update={"events": (), "emptied": True})
        assert coach.post_batch(gone if batch.number == place else batch).status_code == 200
    assert coach.get(f"/api/runs/{coach.run_id}/readout").get_json()["missing"] == [place]
    other = coach.post_batch(coach.batches[place - 1].model_copy(update={"events": ()}))
    assert other.status_code == 409
    for _ in range(2):
        assert coach.post_batch(coach.batches[place]).get_json()["complete"]
    assert coach.get(f"/api/runs/{coach.run_id}/readout").get_json()["missing"] == []
    document = coach.get(f"/api/runs/{coach.run_id}/results.json").get_data()
    assert RESULTS.validate_json(document) == read(coach.setup, coach.batches)
    assert coach.post_batch(gone.model_copy(update={"number": place})).status_code == 409


def test_what_comes_after_the_end_is_taken_once(coach: Coach) -> None:
    for batch in coach.batches:
        coach.post_batch(batch)
    before = coach.get(f"/api/runs/{coach.run_id}/results.json").get_json()["responses"]
    after = coach.batches[-1].model_copy(update={"number": len(coach.batches), "events": ()})
    for _ in range(2):
        assert coach.post_batch(after).status_code == 200
    assert coach.get(f"/api/runs/{coach.run_id}").get_json()["next_batch"] == after.number + 1
    assert coach.get(f"/api/runs/{coach.run_id}/results.json").get_json()["responses"] == before


def test_tails_follow_the_answers(coach: Coach) -> None:
    """The acknowledgements carry what the core would have said, batch by batch."""
    windows, tails = [], 0
    for batch in coach.batches:
        ack = coach.post_batch(batch).get_json()
        windows.append(ack["window_s"])
        if ack["tail"]:
            tails += 1
            committed = batch.committed
            assert committed is not None
            assert ack["tail"]["round"] == committed.round
            last = committed.placed[-1].slot if committed.placed else -1
            assert ack["tail"]["from_slot"] == last + 1
    assert tails > 10
    assert len(set(windows)) > 10


def test_the_coach_keeps_the_last_word(coach: Coach) -> None:
    for batch in coach.batches:
        coach.post_batch(batch)
    ladder = f"/api/students/{coach.student_id}/ladders/{coach.drill_id}"
    settled = coach.get(ladder).get_json()
    assert settled["by"] == "settled"
    assert settled["suggestion"]["reason"]
    suggested = settled["suggestion"]
    taken = {"kind": "taken", "rung": suggested["rung"], "window_s": suggested["window_s"]}
    assert coach.post(f"{ladder}/choices", taken).get_json()["by"] == "taken"
    by_hand = {"kind": "by_hand", "rung": 3, "window_s": 1.05}
    assert coach.post(f"{ladder}/choices", by_hand).get_json()["by"] == "by_hand"
    logged = coach.get("/api/choices").get_json()["choices"]
    assert [each["kind"] for each in logged] == ["by_hand", "taken"]
    assert logged[0]["suggested"]["reason"] == suggested["reason"]
    begun = coach.begin().get_json()
    assert (begun["plan"]["rung"], begun["plan"]["window_s"]) == (3, 1.05)
    for wrong in ({"rung": 9}, {"window_s": 9.0}, {"kind": "guessed"}):
        assert coach.post(f"{ladder}/choices", by_hand | wrong).status_code == 422


def test_a_right_lead_student_gets_the_mirrored_drill(coach: Coach) -> None:
    sides = {}
    for stance in ("left_lead", "right_lead"):
        coach.send("PUT", f"/api/students/{coach.student_id}", {"name": "Bo", "stance": stance})
        view = coach.begin().get_json()
        sides[stance] = {each["control"]: each["side"] for each in view["controls"][stance]}
    assert sides["left_lead"].keys() == sides["right_lead"].keys()
    assert all(side != sides["right_lead"][key] for key, side in sides["left_lead"].items())


def test_versions_never_change_and_two_coaches_do_not_overwrite(coach: Coach) -> None:
    drill, run_id = coach.drill(), coach.run_id
    document = {**drill["document"], "title": "Block, then strike"}
    path = f"/api/drills/{coach.drill_id}/versions"
    assert coach.post(path, {"base": 1, "document": document}).get_json()["version"] == 2
    conflict = coach.post(path, {"base": 1, "document": {**document, "title": "Mine"}})
    assert conflict.status_code == 409
    assert coach.get(f"{path}/1").get_json()["document"] == drill["document"]
    assert coach.get(f"{path}/2").get_json()["document"]["title"] == "Block, then strike"
    assert coach.get(f"{path}/3").status_code == 404
    assert coach.get(f"/api/runs/{run_id}").get_json()["version"] == 1


def test_the_same_seed_gives_the_same_plan_and_sound_only_has_no_light(coach: Coach) -> None:
    asked = {"drill_id": coach.drill_id, "seed": 77, "rung": 3}
    one, other = (coach.post("/api/plans", asked).get_json() for _ in range(2))
    assert one == other
    assert one != coach.post("/api/plans", asked | {"seed": 78}).get_json()
    quiet = coach.post("/api/plans", asked | {"sound_only": True}).get_json()
    assert quiet["figures"]["worst_second"] == 0
    assert set(quiet["figures"]["counts"]) == {"low_knock", "bell"}


@pytest.mark.parametrize("name", ["low_knock", "high_knock", "bell", "tone"])
def test_sounds_are_served_with_their_onset_first(coach: Coach, name: str) -> None:
    import soundfile

    answer = coach.get(f"/api/sounds/{name}.wav")
    samples, rate = soundfile.read(io.BytesIO(answer.get_data()))
    assert rate == 48_000
    assert abs(samples[0]) > 0.005
    assert coach.get("/api/sounds/gong.wav").status_code in (404, 422)


def test_every_sound_of_a_run_of_lights_alone_can_be_loaded(coach: Coach) -> None:
    """Its rounds begin and end with signals, by which a film is lined up."""
    lines = coach.get("/api/library").get_json()["drills"]
    drill_id = next(line["id"] for line in lines if "distance" in line["title"].lower())
    view = coach.begin(drill_id=drill_id).get_json()
    assert any("signal_" in sound["url"] for sound in view["sounds"])
    for sound in view["sounds"]:
        assert coach.get(sound["url"]).status_code == 200, sound["url"]


def test_a_run_that_nobody_finished_is_closed_and_read(coach: Coach) -> None:
    for batch in coach.batches[: len(coach.batches) // 2]:
        coach.post_batch(batch)
    open_run = coach.get(f"/api/runs/{coach.run_id}/readout").get_json()
    assert open_run["run"]["state"] == "open"
    assert open_run["responses"]
    coach.post(f"/api/runs/{coach.run_id}/close")
    closed = coach.get(f"/api/runs/{coach.run_id}/readout").get_json()
    assert closed["run"]["state"] == "closed"
    student = coach.get(f"/api/students/{coach.student_id}").get_json()
    assert student["student"]["runs"] == 1
    assert student["student"]["last"]["id"] == coach.run_id
    assert coach.get(f"/api/runs/{uuid.uuid4()}/readout").status_code == 404


def test_logs_tell_what_was_asked_but_nobodys_name(
    coach: Coach, caplog: pytest.LogCaptureFixture
) -> None:
    caplog.set_level("INFO")
    coach.post("/api/students", {"name": "Secret Tarn", "notes": "sprained wrist"})
    coach.get("/api/students")
    formatted = [JsonLines().format(record) for record in caplog.records]
    asked = [json.loads(line) for line in formatted]
    assert {(each.get("method"), each.get("route")) for each in asked} >= {
        ("POST", "/api/students"),
        ("GET", "/api/students"),
    }
    assert all(each["request_id"] for each in asked if each["event"] == "request")
    text = "".join(formatted)
    assert not any(word in text for word in ("Secret", "Tarn", "wrist", coach.login))
