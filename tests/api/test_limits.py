"""What one club, one run or one guesser may take up, and what is said where it is too much."""

from __future__ import annotations

import json
import logging
from pathlib import Path

import psycopg
import pytest
from flask_openapi3 import OpenAPI
from sqlalchemy.exc import OperationalError

from hastatus.api.http import problems
from hastatus.server import logs
from hastatus.sound_io import speech
from hastatus.store import assets, event_batches, partner_batches, students
from tests.api.test_bad_input import check_refused
from tests.api.test_bench import clap, upload
from tests.harness.api_pair import Pair, pair
from tests.harness.coach import PASSWORD, Coach


def test_a_host_that_is_not_ours_is_turned_away(coach: Coach) -> None:
    """A page elsewhere whose name is bound to this address passes the check of its origin."""
    for path in ("/api/students", "/", "/healthz"):
        answer = coach.client.get(path, headers={"Host": "rebound.example:8000"})
        check_refused(answer, 421, "HASTATUS_HOSTS")
    for name in ("localhost:1", "127.0.0.1:8000", "LocalHost"):
        assert coach.client.get("/healthz", headers={"Host": name}).status_code == 200


def test_a_password_that_is_soon_guessed_is_refused(coach: Coach) -> None:
    """Top entries of published breach lists (from memory), rows of keys, one's own login."""
    for new in ("password123", "qwertyuiop", "1234567890", coach.login, "aaaaaaaaaaaaaa"):
        change = {"old": PASSWORD, "new": new}
        answer = coach.send("PUT", "/api/session/password", change)
        check_refused(answer, 422, "first that are guessed")


def test_who_signs_in_and_who_is_refused_stands_in_the_log(
    app: OpenAPI, coach: Coach, caplog: pytest.LogCaptureFixture
) -> None:
    with caplog.at_level(logging.INFO, "hastatus.sign_in"):
        for password in ("not this one", PASSWORD):
            body = {"login": coach.login, "password": password}
            app.test_client().post("/api/session", json=body)
        coach.send("DELETE", "/api/session")
    assert [record.message for record in caplog.records] == [
        "sign-in refused", "signed in", "signed out",
    ]  # fmt: skip
    assert {vars(record)["address"] for record in caplog.records} == {"127.0.0.1"}
    assert PASSWORD not in str([vars(record) for record in caplog.records])


def test_a_call_that_takes_too_long_to_say_is_none(coach: Coach) -> None:
    """Sixty digits are read out for half a minute and would be kept as 3 MB."""
    assert coach.get("/api/spoken.wav?words=lead+block").status_code == 200
    check_refused(coach.get(f"/api/spoken.wav?words={'93817' * 12}"), 422, "takes longer")


def test_calls_beyond_what_a_club_may_keep_are_made_again(
    coach: Coach, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(assets, "MOST_SPOKEN_S", 1.0)
    first = coach.get("/api/spoken.wav?words=one+two+three").get_data()
    for words in ("four+five+six", "seven+eight", "nine"):
        assert coach.get(f"/api/spoken.wav?words={words}").status_code == 200
    monkeypatch.setattr(speech, "speak", speech.speak.__wrapped__)  # without its memory
    assert coach.get("/api/spoken.wav?words=one+two+three").get_data() == first


def test_recordings_beyond_what_a_club_may_keep_are_refused(
    coach: Coach, monkeypatch: pytest.MonkeyPatch
) -> None:
    assert upload(coach, clap(1)).status_code == 201
    monkeypatch.setattr(assets, "MOST_ASSETS", 1)
    assert upload(coach, clap(1)).status_code == 201  # the same one again
    check_refused(upload(coach, clap(1.2)), 409, "are the most")


def test_a_run_has_so_many_events_and_marks(coach: Coach, monkeypatch: pytest.MonkeyPatch) -> None:
    most = sum(len(batch.events) for batch in coach.batches[:4])
    monkeypatch.setattr(event_batches, "MOST_EVENTS", most)
    taken = [coach.post_batch(batch).status_code for batch in coach.batches[:5]]
    assert taken[:4] == [200] * 4
    check_refused(coach.post_batch(coach.batches[4]), 422, f"at most {most} events")
    monkeypatch.setattr(partner_batches, "MOST_MARKS", 2)
    begun: Pair = pair(coach)
    begun.begin()
    strike = {"kind": "strike", "at_ms": 10, "source": "microphone"}
    assert begun.post(strike, strike).status_code == 200
    check_refused(begun.post(strike), 422, "at most 2 marks")


def test_a_full_disk_is_said_to_be_one(coach: Coach, monkeypatch: pytest.MonkeyPatch) -> None:
    """Before: "the database does not answer", and the server said that it was well."""

    def full(*_: object, **__: object) -> None:
        raise OperationalError("INSERT", {}, psycopg.errors.DiskFull("no space left on device"))

    assert coach.get("/readyz").status_code == 200
    with monkeypatch.context() as patch:
        patch.setattr(students, "add", full)
        check_refused(coach.post("/api/students", {"name": "Bo"}), 507, "disk is full")
    check_refused(coach.get("/readyz"), 507, "Make room")
    coach.client.application.config.pop("DISK_FULL_AT")  # the application is other tests', too
    monkeypatch.setattr(problems, "_FULL_FOR_S", 0.0)
    assert coach.get("/readyz").status_code == 200


def test_a_log_that_grows_too_large_is_put_aside(tmp_path: Path) -> None:
    file = tmp_path / "server.log"
    handler = logs.WatchedFileHandler(file)
    handler.setFormatter(logs.JsonLines())
    for number in range(8):
        handler.handle(logging.makeLogRecord({"msg": f"line {number}"}))
        logs.rotate(file, largest=10)
    handler.close()
    kept = sorted(each.name for each in tmp_path.iterdir())
    assert kept == [f"server.log.{number}" for number in range(1, logs.KEPT + 1)]
    newest = json.loads((tmp_path / "server.log.1").read_text())
    assert newest["event"] == "line 7"
