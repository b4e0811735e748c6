"""Bad input: a clear problem document, never a 500, never a half-written row."""

from __future__ import annotations

import json
import time
import uuid
from collections.abc import Callable
from typing import Any

import pytest
from flask_openapi3 import OpenAPI
from sqlalchemy import Engine, text
from werkzeug.test import TestResponse

from hastatus.api.http.session import COOKIE
from hastatus.store import attempts
from tests.harness.addresses import rows
from tests.harness.coach import PASSWORD, Coach


def drill_with(coach: Coach, change: Callable[[dict[str, Any]], object]) -> dict[str, Any]:
    document = coach.drill()["document"]
    change(document)
    return {"base": 1, "document": document}


def check_refused(answer: Any, status: int, says: str) -> None:
    assert answer.status_code == status
    assert answer.content_type == "application/problem+json"
    problem = answer.get_json()
    assert problem["status"] == status
    assert problem["request_id"] == answer.headers["X-Request-Id"]
    told = json.dumps(problem)
    assert says in told
    assert "Traceback" not in told


DRILLS: dict[str, tuple[Callable[[dict[str, Any]], object], str]] = {
    "no cue": (lambda d: d.update(cues=[]), "no cue here asks for an answer"),
    "weight 0": (lambda d: d["cues"][0].update(weight=0), "document.cues.0.weight"),
    "weight below 0": (lambda d: d["cues"][1].update(weight=-1), "document.cues.1.weight"),
    "10^9 rounds": (
        lambda d: d["rungs"][0]["rounds"].update(count=10**9),
        "document.rungs.0.rounds.count",
    ),
    "no such technique": (
        lambda d: d["cues"][0]["asks"][0]["steps"][0].update(technique="spin"),
        "unknown technique",
    ),
    "asks for nothing": (lambda d: [cue.update(asks=[]) for cue in d["cues"]], "no cue here asks"),
    "two alike": (lambda d: d["cues"].append(d["cues"][0]), "another cue has the key"),
    "window over the round": (
        lambda d: d["rungs"][0]["rounds"].update(duration_s=5),
        "longer than the round",
    ),
    "catch share 1": (
        lambda d: d["rungs"][0].update(catch_share=1),
        "document.rungs.0.catch_share",
    ),
    "overlapping with one channel only": (
        lambda d: (
            d.update(cues=[cue for cue in d["cues"] if cue["stimulus"]["kind"] == "sound"])
            or [rung.update(catch_share=0) for rung in d["rungs"]]
        ),
        "document.rungs.2.overlap",
    ),
    "capped below the weights": (
        lambda d: d["cues"][0].update(weight=100),
        "raise the cap or even out",
    ),
    "unknown field": (lambda d: d.update(colour="loud"), "document.colour"),
    "newer schema": (lambda d: d.update(schema_version=4), "newer version of Hastatus"),
    "300 characters": (lambda d: d.update(title="x" * 300), "document.title"),
}


@pytest.mark.parametrize("name", DRILLS)
def test_drills_that_cannot_be_planned(engine: Engine, coach: Coach, name: str) -> None:
    change, says = DRILLS[name]
    body = drill_with(coach, change)
    before = rows(engine)
    answer = coach.post(f"/api/drills/{coach.drill_id}/versions", body)
    check_refused(answer, 422, says)
    assert rows(engine) == before


@pytest.mark.parametrize("value", ["1.7", True, [1.7], "1,7 m"])
def test_a_number_is_a_number(engine: Engine, coach: Coach, value: Any) -> None:
    before = rows(engine)
    answer = coach.post("/api/students", {"name": "Cy Rill", "body": {"height_m": value}})
    check_refused(answer, 422, "body.height_m")
    assert rows(engine) == before


@pytest.mark.parametrize("value", [1, "true", "yes", 0])
def test_a_switch_is_a_switch(coach: Coach, value: Any) -> None:
    check_refused(
        coach.send("PATCH", f"/api/drills/{coach.drill_id}", {"archived": value}), 422, "archived"
    )


@pytest.mark.parametrize("body", [json.dumps({"name": "Cy Rill"}), [{"name": "Cy"}], None, 7])
def test_a_body_is_an_object(engine: Engine, coach: Coach, body: Any) -> None:
    """A text that holds JSON was read as JSON once more, past the checks of texts and of size."""
    before = rows(engine)
    answer = coach.client.post(
        "/api/students",
        data=json.dumps(body),
        content_type="application/json",
        headers={"X-CSRF-Token": coach.csrf},
    )
    check_refused(answer, 422, "JSON object")
    assert rows(engine) == before


@pytest.mark.parametrize(
    "address",
    ["/api/spoken.wav?words=%ff", "/api/library?archived=%c3%28", "/api/runs?x%ed%a0%80=1"],
)
def test_bytes_that_are_no_text_are_refused(coach: Coach, address: str) -> None:
    check_refused(coach.get(address), 400, "query is not written in UTF-8")
    path = {"PATH_INFO": "/api/catalogue/answers/\xff"}  # as a server gives it: bytes as Latin-1
    answer = coach.client.get("/", environ_overrides=path)
    check_refused(answer, 400, "address is not written in UTF-8")


BATCHES: dict[str, tuple[dict[str, Any], int, str]] = {
    "before the start": ({"events": [{"type": "resume", "t_ms": -1.0}]}, 422, "t_ms"),
    "until before the start": ({"until_ms": -5}, 422, "until_ms"),
    "a round there is not": (
        {"events": [{"type": "round_start", "t_ms": 1.0, "round": 39}]},
        422,
        "round",
    ),
    "an unknown event": ({"events": [{"type": "applause", "t_ms": 1.0}]}, 422, "events.0"),
    "a negative number": ({"number": -1}, 422, "number"),
    "a fraction for a number": ({"number": 0.5}, 422, "number"),
    "ten thousand events": ({"events": [{"type": "resume", "t_ms": 1.0}] * 10_000}, 422, "events"),
    "no recorder": ({"recorder": None}, 422, "recorder"),
    "another recorder": ({"recorder": str(uuid.uuid4())}, 409, "Another tab or device"),
}


@pytest.mark.parametrize("name", BATCHES)
def test_batches_that_are_refused(engine: Engine, coach: Coach, name: str) -> None:
    change, status, says = BATCHES[name]
    batch = coach.batches[0]
    before = rows(engine)
    check_refused(coach.post_batch(batch, **change), status, says)
    assert rows(engine) == before


def test_a_batch_number_again_with_other_contents(engine: Engine, coach: Coach) -> None:
    assert coach.post_batch(coach.batches[0]).status_code == 200
    before = rows(engine)
    check_refused(coach.post_batch(coach.batches[0], until_ms=12_345.0), 409, "other contents")
    assert rows(engine) == before


RAW: dict[str, tuple[bytes, str, int, str]] = {
    "NaN": (b'{"name": NaN}', "application/json", 400, "NaN"),
    "infinity": (b'{"name": 1, "x": -Infinity}', "application/json", 400, "Infinity"),
    "U+0000": (b'{"name": "a\\u0000b"}', "application/json", 400, "U+0000"),
    "cut in half": (b'{"name": "Bo', "application/json", 400, "cannot be read"),
    "no UTF-8": (b'{"name": "\xff"}', "application/json", 400, "cannot be read"),
    "deep nesting": (b"[" * 40_000, "application/json", 400, "cannot be read"),
    "a list": (b"[1]", "application/json", 422, ""),
    "wrong content type": (b'{"name": "Bo"}', "text/plain", 415, "application/json"),
    "a form": (b"name=Bo", "application/x-www-form-urlencoded", 415, "application/json"),
    "no body": (b"", "application/json", 422, ""),
    "50 MB": (b'{"name": "' + b"x" * 50_000_000 + b'"}', "application/json", 413, "MB"),
    "a control character": (b'{"name": "a\\u0007"}', "application/json", 422, "U+0007"),
    "only spaces": (b'{"name": "   "}', "application/json", 422, "name"),
}


@pytest.mark.parametrize("name", RAW)
def test_bodies_that_are_refused(engine: Engine, coach: Coach, name: str) -> None:
    body, content_type, status, says = RAW[name]
    before = rows(engine)
    answer = coach.client.post(
        "/api/students",
        data=body,
        content_type=content_type,
        headers={"X-CSRF-Token": coach.csrf},
    )
    check_refused(answer, status, says)
    assert rows(engine) == before


def test_unknown_addresses_ids_and_sites(coach: Coach) -> None:
    check_refused(coach.get("/api/nothing"), 404, "no such address")
    check_refused(coach.get("/api/students/7"), 404, "")
    check_refused(coach.get(f"/api/students/{uuid.uuid4()}"), 404, "no such student")
    assert coach.send("DELETE", "/api/students").status_code == 405
    elsewhere = {"X-CSRF-Token": coach.csrf, "Origin": "http://elsewhere.example"}
    answer = coach.client.post("/api/students", json={"name": "Bo"}, headers=elsewhere)
    check_refused(answer, 403, "another site")


def test_plans_that_cannot_be(coach: Coach) -> None:
    asked = {"drill_id": coach.drill_id, "seed": 1}
    check_refused(coach.post("/api/plans", asked | {"rung": 4}), 422, "no rung 4")
    check_refused(coach.post("/api/plans", asked | {"seed": 2**60}), 422, "seed")
    check_refused(coach.post("/api/plans", asked | {"window_s": 0}), 422, "window_s")
    # A drill of lights only cannot be run sound only, and says so.
    lights = drill_with(coach, lambda d: d.update(cues=d["cues"][2:]))
    for rung in lights["document"]["rungs"]:
        rung["overlap"] = None
    made = coach.post(f"/api/drills/{coach.drill_id}/versions", lights)
    assert made.status_code == 201
    check_refused(coach.post("/api/plans", asked | {"sound_only": True}), 422, "needs its lights")


def guess(app: OpenAPI, login: str, password: str, address: str) -> TestResponse:
    body = {"login": login, "password": password}
    environ = {"REMOTE_ADDR": address}
    return app.test_client().post("/api/session", json=body, environ_base=environ)


def test_guessing_is_slowed_but_only_for_who_guesses(
    app: OpenAPI, coach: Coach, engine: Engine
) -> None:
    """The wait grows; it holds nobody up from elsewhere, nor other coaches at the same address."""
    tries = [guess(app, coach.login, f"guess {n}", "203.0.113.9") for n in range(5)]
    assert [each.status_code for each in tries] == [401] * 4 + [429]
    assert tries[-1].headers["Retry-After"] == "1"
    check_refused(guess(app, coach.login, PASSWORD, "203.0.113.9"), 429, "Wait for 1 s")
    assert guess(app, coach.login, PASSWORD, "203.0.113.10").status_code == 200
    for number in range(5):
        guess(app, "nobody@x.example", f"guess {number}", "127.0.0.1")
    assert guess(app, coach.login, PASSWORD, "127.0.0.1").status_code == 200
    with engine.begin() as connection:
        connection.execute(text("UPDATE attempts SET at = at - interval '2 seconds'"))
    assert guess(app, coach.login, PASSWORD, "203.0.113.9").status_code == 200


def test_guesses_at_the_old_password_are_slowed(coach: Coach) -> None:
    wrong = {"old": "not this one", "new": "a longer one still"}
    statuses = [coach.send("PUT", "/api/session/password", wrong).status_code for _ in range(5)]
    assert statuses == [403] * 4 + [429]


def test_a_wait_doubles_and_ends() -> None:
    subject = attempts.at_sign_in("a", "b")[0]
    waits = [subject.wait_s(failed) for failed in (0, 3, 4, 5, 6, 10, 1000)]
    assert waits == [0, 0, 1, 2, 4, 60, 60]


def test_a_stranger_is_refused_before_a_body_is_read(app: OpenAPI, coach: Coach) -> None:
    """What would take seconds to read and to refuse is not read; a coach's is counted first."""
    small = b'{"events":[' + b",".join([b"{}"] * 1_300_000) + b"]}"
    address = f"/api/runs/{uuid.uuid4()}/batches"
    began = time.perf_counter()
    refused = app.test_client().post(address, data=small, content_type="application/json")
    assert refused.status_code == 401
    headers = {"X-CSRF-Token": coach.csrf}
    refused = coach.client.post(
        address, data=small, content_type="application/json", headers=headers
    )
    check_refused(refused, 413, "objects and lists")
    assert time.perf_counter() - began < 2.0
    large = {"login": "x", "password": "y" * 5000}
    check_refused(app.test_client().post("/api/session", json=large), 413, "4 kB")
    coach.csrf = "Zürich"
    assert coach.post("/api/students", {"name": "A"}).status_code == 403


def test_sign_in_cookie_headers_and_revoking(app: OpenAPI, coach: Coach) -> None:
    other = app.test_client()
    signed = other.post("/api/session", json={"login": coach.login, "password": PASSWORD})
    cookie = next(value for value in signed.headers.getlist("Set-Cookie") if COOKIE in value)
    assert {"HttpOnly", "Secure", "SameSite=Strict", "Path=/"} <= set(cookie.split("; "))
    assert "default-src 'none'" in signed.headers["Content-Security-Policy"]
    assert signed.headers["X-Content-Type-Options"] == "nosniff"
    assert signed.headers["Cache-Control"] == "no-store"
    assert other.get("/api/students").status_code == 200
    change = {"old": PASSWORD, "new": "a longer one still"}
    assert coach.send("PUT", "/api/session/password", change).status_code == 204
    assert other.get("/api/students").status_code == 401
    assert coach.get("/api/students").status_code == 200
    assert coach.send("PUT", "/api/session/password", change).status_code == 403
    short = {"old": change["new"], "new": "short"}
    check_refused(coach.send("PUT", "/api/session/password", short), 422, "at least")
    assert coach.send("DELETE", "/api/session").status_code == 204
    assert coach.get("/api/students").status_code == 401
