"""A second club at every address: generated from the API's own list, so that none is forgotten."""

from __future__ import annotations

import hashlib
import uuid
from typing import Any

import pytest
from flask_openapi3 import OpenAPI
from sqlalchemy import Engine, func, select

from hastatus.api.app import create_app
from hastatus.store.database import make_engine, transaction
from hastatus.store.models import Base
from tests.api.conftest import Coach
from tests.api.pairs import pair
from tests.api.test_devices import recording

PUBLIC = {
    ("POST", "/api/session"),
    ("GET", "/api/schemas/drill.json"),
    ("GET", "/api/schemas/api.json"),
}
"""Addresses that need nobody signed in."""

DEVICE = str(uuid.uuid4())
"""Made by the browser, and no secret: in another club it is another device."""

METHODS = ("get", "post", "put", "patch", "delete")


def addresses() -> list[tuple[str, str]]:
    """Every method and path template below /api, from the generated description."""
    document = create_app(make_engine("postgresql://nobody@127.0.0.1/none")).api_doc
    return [
        (method.upper(), path)
        for path, item in document["paths"].items()
        for method in METHODS
        if method in item and path.startswith("/api/")
    ]


def bodies(coach: Coach) -> dict[tuple[str, str], Any]:
    """A body that is valid for each address that takes one, about `coach`'s own things."""
    choice = {"kind": "by_hand", "rung": 2, "window_s": 0.9}
    drill = coach.drill()["document"]
    run = {
        "id": str(uuid.uuid4()),
        "recorder": str(uuid.uuid4()),
        "student_id": coach.student_id,
        "drill_id": coach.drill_id,
        "seed": 1,
    }
    new = {"id": str(uuid.uuid4()), "recorder": str(uuid.uuid4())}
    together = {
        "drill_id": coach.drill_id,
        "partners": [coach.student_id, str(uuid.uuid4())],
        "agreement": {"contact": "touch", "stop_word": "red"},
    }
    batch = {"recorder": coach.recorder, "number": 0, "epoch": 0, "until_ms": 1.0}
    moments = [1000.0 * place for place in range(10)]
    strikes = {"source": "key", "struck_ms": moments, "heard_ms": [at + 50 for at in moments]}
    own = {
        "key": "hip_check", "name": "hip check", "use": "defense", "family": "check",
        "line": "body", "reach": "clinch", "limb": "trunk",
    }  # fmt: skip
    return {
        ("PUT", "/api/catalogue/words"): {"pack": "boxing", "renames": {"slip": "slide"}},
        ("PUT", "/api/catalogue/techniques/{key}"): own,
        ("PUT", "/api/catalogue/notes/{key}"): {"right_way": "hips first"},
        ("POST", "/api/library/starters"): {"titles": ["Turn about"]},
        ("POST", "/api/drills"): {"id": str(uuid.uuid4()), "document": drill},
        ("PATCH", "/api/drills/{drill_id}"): {"archived": True},
        ("POST", "/api/drills/{drill_id}/file"): {"drill": drill},
        ("PUT", "/api/session/password"): {"old": "not this one", "new": "also long enough"},
        ("POST", "/api/students"): {"name": "Cy Rill"},
        ("PUT", "/api/students/{student_id}"): {"name": "Cy Rill"},
        ("POST", "/api/students/{student_id}/ladders/{drill_id}/choices"): choice,
        ("POST", "/api/drills/{drill_id}/versions"): {"base": 1, "document": drill},
        ("POST", "/api/plans"): {"drill_id": coach.drill_id, "seed": 1},
        ("POST", "/api/scores"): {"drill_id": coach.drill_id, "seed": 1},
        ("POST", "/api/partner-runs/start"): together,
        ("POST", "/api/partner-runs"): {**together, **new},
        ("POST", "/api/partner-runs/{partner_run_id}/batches"): {
            "recorder": new["recorder"],
            "number": 0,
            "marks": [],
        },
        ("POST", "/api/partner-runs/{partner_run_id}/head-knocks"): {
            "recorder": new["recorder"],
            "knock": {"kind": "head_knock", "at_ms": 900, "partner": 0},
        },
        ("PUT", "/api/partner-runs/{partner_run_id}/stands"): {
            "recorder": new["recorder"],
            "phase": "ready",
            "round": 1,
            "sheet_s": 0,
        },
        ("POST", "/api/students/{student_id}/clearance"): {"words": "seen by a doctor"},
        ("POST", "/api/runs"): run,
        ("POST", "/api/runs/{run_id}/batches"): batch,
        ("PUT", "/api/devices/{device_id}"): {"name": "Tablet"},
        ("POST", "/api/devices/{device_id}/loopback"): recording(40),
        ("POST", "/api/devices/{device_id}/strikes"): strikes,
    }


def ids(coach: Coach) -> dict[str, str]:
    sign_in = coach.get("/api/sign-ins").get_json()["sign_ins"][0]["id"]
    return {
        "student_id": coach.student_id,
        "drill_id": coach.drill_id,
        "run_id": coach.run_id,
        "sign_in_id": sign_in,
        "number": "1",
        "name": "bell",
        "key": "hip_check",
        "ending": "mid",
        "device_id": DEVICE,
        "partner_run_id": partner_run(coach),
        "asset_id": hashlib.sha256(coach.login.encode()).hexdigest(),
    }


_begun: dict[str, str] = {}


def partner_run(coach: Coach) -> str:
    """A partner run of the coach's club, begun once."""
    if coach.login not in _begun:
        made = pair(coach)
        assert made.begin().status_code == 201
        _begun[coach.login] = made.id
    return _begun[coach.login]


QUERIES = {"/api/spoken.wav": "?words=jab"}
NEW_ID = {("POST", "/api/drills/{drill_id}/file")}
"""Addresses whose id the client makes: another club's id is as good as any other."""


def rows(engine: Engine) -> dict[str, int]:
    with transaction(engine) as db:
        return {
            table.name: db.scalar(select(func.count()).select_from(table)) or 0
            for table in Base.metadata.sorted_tables
        }


def test_every_write_with_a_body_is_covered(app: OpenAPI, two_coaches: tuple[Coach, Coach]) -> None:
    document = app.api_doc
    takes_body = {
        (method, path)
        for method, path in addresses()
        if "requestBody" in document["paths"][path][method.lower()]
    }
    files = {("POST", "/api/assets")}
    assert takes_body - PUBLIC - files == set(bodies(two_coaches[0]))


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
        theirs_in_path["drill_id"] = str(uuid.uuid4())
    if path.endswith("/strikes"):
        mine.post(f"/api/devices/{DEVICE}/loopback", recording(40))
    if "{key}" in path:
        keep = bodies(mine)["PUT", "/api/catalogue/techniques/{key}"]
        mine.send("PUT", "/api/catalogue/techniques/hip_check", keep)
    before = rows(engine)
    answer = mine.send(method, path.format(**theirs_in_path) + QUERIES.get(path, ""), body)
    owned = [
        name
        for name in ("student_id", "drill_id", "run_id", "sign_in_id", "asset_id", "partner_run_id")
        if f"{{{name}}}" in path and (method, path) not in NEW_ID
    ]
    names_theirs = body is not None and any(
        value in (theirs.student_id, theirs.drill_id) for value in body.values()
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
