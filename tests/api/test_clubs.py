"""A second club at every address: generated from the API's own list, so that none is forgotten."""

from __future__ import annotations

import json
import uuid

import pytest
from flask_openapi3 import OpenAPI
from sqlalchemy import Engine

from tests.api.test_coaches import joined, login_of
from tests.harness.addresses import DEVICE, addresses, bodies, ids, rows
from tests.harness.chirps import recording
from tests.harness.coach import Coach
from tests.harness.home import assign, phone

PUBLIC = {
    ("POST", "/api/session"),
    ("GET", "/api/schemas/drill.json"),
    ("GET", "/api/schemas/api.json"),
    ("GET", "/api/phones/{code}"),
    ("PATCH", "/api/phones/{code}"),
    ("GET", "/api/phones/{code}/spoken.wav"),
    ("GET", "/api/joins/{token}"),
    ("POST", "/api/joins/{token}"),
    ("GET", "/api/home/{token}"),
    ("PATCH", "/api/home/{token}"),
    ("GET", "/api/home/{token}/sounds/{name}.wav"),
    ("GET", "/api/home/{token}/spoken.wav"),
    ("GET", "/api/home/{token}/assets/{asset_id}"),
    ("PUT", "/api/home/{token}/runs/{run_id}"),
    ("POST", "/api/home/{token}/runs/{run_id}/batches"),
}
"""Addresses that need nobody signed in."""

QUERIES = {
    "/api/spoken.wav": "?words=jab",
    "/api/home/{token}/spoken.wav": "?words=jab",
    "/api/evenings/{evening_id}/codes": "?origin=http://hall.example",
}
NEW_ID = {
    ("POST", "/api/drills/{drill_id}/file"),
    ("PUT", "/api/camera-places/{place_id}"),
}
"""Addresses whose id the client makes: another club's id is as good as any other."""


OWNED = (
    "student_id", "drill_id", "run_id", "sign_in_id", "asset_id", "partner_run_id", "evening_id",
    "template_id", "coach_id", "invitation_id", "practice_id", "link_id",
    "place_id", "film_id", "correction_id",
)  # fmt: skip


def test_every_write_with_a_body_is_covered(app: OpenAPI, two_coaches: tuple[Coach, Coach]) -> None:
    document = app.api_doc
    takes_body = {
        (method, path)
        for method, path in addresses()
        if "requestBody" in document["paths"][path][method.lower()]
    }
    files = {("POST", "/api/assets")}
    assert takes_body - {("POST", "/api/session")} - files == set(bodies(two_coaches[0]))


@pytest.mark.parametrize(("method", "path"), addresses())
def test_another_clubs_things_are_not_found(
    engine: Engine, two_coaches: tuple[Coach, Coach], method: str, path: str
) -> None:
    if (method, path) in PUBLIC or path.startswith("/api/session") or path == "/api/assets":
        return  # about the coach who asks, and nobody else; an upload has no body in JSON
    theirs, mine = two_coaches
    theirs_in_path = ids(theirs)
    body = bodies(theirs).get((method, path))
    if (method, path) in NEW_ID:
        for name in ("drill_id", "place_id"):
            theirs_in_path[name] = str(uuid.uuid4())
    if path.endswith("/strikes"):
        mine.post(f"/api/devices/{DEVICE}/loopback", recording(40))
    if "{key}" in path:
        keep = bodies(mine)["PUT", "/api/catalogue/techniques/{key}"]
        mine.send("PUT", "/api/catalogue/techniques/hip_check", keep)
    before = rows(engine)
    answer = mine.send(method, path.format(**theirs_in_path) + QUERIES.get(path, ""), body)
    owned = [name for name in OWNED if f"{{{name}}}" in path and (method, path) not in NEW_ID]
    names_theirs = body is not None and any(
        value in json.dumps(body) for value in (theirs.student_id, theirs.drill_id)
    )
    if owned or names_theirs:
        assert answer.status_code == 404
        assert answer.content_type == "application/problem+json"
        assert rows(engine) == before
    else:
        assert answer.status_code in (200, 201)
        told = answer.get_data()
        assert not any(
            value.encode() in told
            for name, value in theirs_in_path.items()
            if "_id" in name and f"{{{name}}}" not in path
        )


@pytest.mark.parametrize(("method", "path"), addresses())
def test_nobody_signed_in_gets_nothing(
    app: OpenAPI, two_coaches: tuple[Coach, Coach], method: str, path: str
) -> None:
    if (method, path) in PUBLIC:
        return
    coach = two_coaches[0]
    body = {"json": bodies(coach).get((method, path))}
    if path == "/api/assets":
        body = {"data": b"RIFF", "content_type": "audio/wav"}
    address = path.format(**ids(coach)) + QUERIES.get(path, "")
    answer = app.test_client().open(address, method=method, **body)
    assert answer.status_code == 401
    without_token = coach.client.open(address, method=method, **body)
    assert (without_token.status_code == 403) == (method != "GET")


def test_one_of_mine_with_one_of_theirs_is_not_found(two_coaches: tuple[Coach, Coach]) -> None:
    theirs, mine = two_coaches
    assert mine.begin(student_id=theirs.student_id).status_code == 404
    assert mine.begin(drill_id=theirs.drill_id).status_code == 404
    mixed = f"/api/students/{mine.student_id}/ladders/{theirs.drill_id}"
    assert mine.get(mixed).status_code == 404
    plan = {"drill_id": mine.drill_id, "seed": 1, "student_id": theirs.student_id}
    assert mine.post("/api/plans", plan).status_code == 404
    assert mine.get(f"/api/runs?student_id={theirs.student_id}").status_code == 404
    # The same run id in another club is another run: ids are no secret handshake.
    assert mine.get(f"/api/runs/{theirs.run_id}/results.csv").status_code == 404


def test_an_archived_student_is_in_no_list_and_comes_back_as_before(coach: Coach) -> None:
    def names(archived: str = "") -> list[str]:
        found = coach.get(f"/api/students{archived}").get_json()["students"]
        return [student["name"] for student in found]

    before = coach.get("/api/students").get_json()
    path = f"/api/students/{coach.student_id}"
    (name,) = names()
    for _ in range(2):  # the same again changes nothing
        marked = coach.send("PATCH", path, {"away": "archived"})
        assert marked.status_code == 200
        assert marked.get_json()["archived"]
    assert (names(), names("?archived=true")) == ([], [name])
    assert coach.get(path).get_json()["student"]["name"] == name
    assert coach.begin().status_code == 201  # a run that a device had begun is still taken
    assert coach.send("PATCH", path, {"away": None}).status_code == 200
    after = coach.get("/api/students").get_json()
    assert [one["id"] for one in after["students"]] == [one["id"] for one in before["students"]]
    assert coach.send("PATCH", path, {"away": "yes"}).status_code == 422


OF_OWNERS = {
    ("POST", "/api/invitations"),
    ("DELETE", "/api/invitations/{invitation_id}"),
    ("POST", "/api/coaches/{coach_id}/resets"),
    ("PATCH", "/api/coaches/{coach_id}"),
    ("DELETE", "/api/coaches/{coach_id}/second-factor"),
    ("GET", "/api/audit"),
    ("DELETE", "/api/students/{student_id}/data"),
    ("PUT", "/api/film-days"),
}
"""What only an owner of the club may do."""


def test_a_coach_without_the_right_is_refused_what_is_for_owners_and_nothing_else(
    app: OpenAPI, coach: Coach
) -> None:
    cleo = joined(app, coach, login_of(coach))
    cleo.student_id = coach.student_id
    its = ids(coach)
    refused = set()
    for method, path in addresses():
        if (method, path) in PUBLIC or path.startswith("/api/session") or path == "/api/assets":
            continue
        body = bodies(coach).get((method, path))
        answer = cleo.send(method, path.format(**its) + QUERIES.get(path, ""), body)
        if answer.status_code == 403:
            refused.add((method, path))
    assert refused == OF_OWNERS


def test_a_home_link_opens_no_other_address(app: OpenAPI, two_coaches: tuple[Coach, Coach]) -> None:
    theirs, mine = two_coaches
    assign(mine)
    bo = phone(app, mine)
    its = {**ids(theirs), "token": bo.token}
    for method, path in addresses():
        body = {"json": bodies(theirs).get((method, path))}
        if path == "/api/assets":
            body = {"data": b"RIFF", "content_type": "audio/wav"}
        if (method, path) in PUBLIC and "{token}" not in path:
            continue
        address = path.format(**its) + QUERIES.get(path, "")
        answer = bo.client.open(address, method=method, **body)
        if not path.startswith("/api/home/"):
            assert answer.status_code == (404 if "/joins/" in path else 401), path
        elif path not in ("/api/home/{token}", "/api/home/{token}/sounds/{name}.wav"):
            assert answer.status_code == 404, path
