"""Every address of the API, with a valid body for it, and what a request has left behind."""

from __future__ import annotations

import hashlib
import uuid
from functools import cache
from typing import Any

from sqlalchemy import Engine, func, select

from hastatus.api.app import create_app
from hastatus.store.database import make_engine, transaction
from hastatus.store.models import Base
from tests.harness import home
from tests.harness.api_pair import pair
from tests.harness.chirps import recording
from tests.harness.coach import Coach
from tests.harness.flashes import flashes

DEVICE = str(uuid.uuid4())
"""Made by the browser, and no secret: in another club it is another device."""

_FLASHES = flashes(60)
METHODS = ("get", "post", "put", "patch", "delete")


@cache
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
    drill = _document(coach)
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
    act = {"id": str(uuid.uuid4()), "at": "2026-11-24T19:01:00Z", "kind": "begin", "block": "pairs"}
    mark = {
        "id": str(uuid.uuid4()), "at": "2026-11-24T19:02:00Z", "block": "pairs", "kind": "seen",
        "members": [coach.student_id],
    }  # fmt: skip
    own = {
        "key": "hip_check", "name": "hip check", "use": "defense", "family": "check",
        "line": "body", "reach": "clinch", "limb": "trunk",
    }  # fmt: skip
    return {
        ("PUT", "/api/runs/{run_id}/faults"): {"faults": [{"fault": "hand not home", "count": 2}]},
        ("PUT", "/api/catalogue/faults"): {"faults": [{"name": "late step", "owner": "defender"}]},
        ("PUT", "/api/catalogue/words"): {"pack": "boxing", "renames": {"slip": "slide"}},
        ("PUT", "/api/catalogue/techniques/{key}"): own,
        ("PUT", "/api/catalogue/notes/{key}"): {"right_way": "hips first"},
        ("POST", "/api/library/starters"): {"titles": ["Turn about"]},
        ("POST", "/api/drills"): {"id": str(uuid.uuid4()), "document": drill},
        ("PATCH", "/api/drills/{drill_id}"): {"archived": True},
        ("POST", "/api/drills/{drill_id}/file"): {"drill": drill},
        ("PUT", "/api/session/password"): {"old": "not this one", "new": "also long enough"},
        ("POST", "/api/students"): {"name": "Cy Rill"},
        ("PATCH", "/api/students/{student_id}"): {"away": None},
        ("PATCH", "/api/runs/{run_id}"): {"away": None},
        ("PATCH", "/api/partner-runs/{partner_run_id}"): {"away": None},
        ("POST", "/api/students/{student_id}/merges"): {"other_id": coach.student_id},
        ("PUT", "/api/students/{student_id}"): {"name": "Cy Rill"},
        ("POST", "/api/students/{student_id}/ladders/{drill_id}/choices"): choice,
        ("POST", "/api/drills/{drill_id}/versions"): {"base": 1, "document": drill},
        ("POST", "/api/plans"): {"drill_id": coach.drill_id, "seed": 1},
        ("POST", "/api/partner-bench"): {"drill_id": coach.drill_id, "seed": 1},
        ("PUT", "/api/room"): {"no_touch": False},
        ("POST", "/api/evenings"): {"id": str(uuid.uuid4()), "plan": plan()},
        ("PUT", "/api/evenings/{evening_id}"): {"base": 1, "plan": plan()},
        ("PATCH", "/api/evenings/{evening_id}"): {"deleted": False},
        ("PATCH", "/api/evenings/{evening_id}/people/{student_id}"): {"here": True},
        ("PUT", "/api/evenings/{evening_id}/blocks/{block}/groups"): {},
        ("POST", "/api/evenings/{evening_id}/acts"): {"acts": [act]},
        ("POST", "/api/evenings/{evening_id}/marks"): {"marks": [mark]},
        ("POST", "/api/evenings/{evening_id}/next"): {"id": str(uuid.uuid4())},
        ("POST", "/api/students/table"): {"data": "bmFtZQpDeQo="},
        ("POST", "/api/incidents"): {
            "id": str(uuid.uuid4()),
            "happened_at": "2026-11-24T19:10:00Z",
            "what": "Sprained ankle",
        },
        ("POST", "/api/evening-templates"): {
            "id": str(uuid.uuid4()),
            "name": "Usual",
            "plan": plan(),
        },
        ("PUT", "/api/evenings/{evening_id}/codes"): {"codes": []},
        ("PATCH", "/api/phones/{code}"): {"ready_before": 5},
        ("PATCH", "/api/sign-ins/{sign_in_id}"): {"ended": False},
        ("POST", "/api/invitations"): {"name": "Cleo Wharf"},
        ("PATCH", "/api/coaches/{coach_id}"): {"removed": False},
        ("POST", "/api/joins/{token}"): {"login": "x@y.example", "password": "quiet hands first"},
        ("POST", "/api/session/second-factor"): {"password": "not this one"},
        ("PUT", "/api/session/second-factor"): {"code": "123456"},
        ("POST", "/api/session/second-factor/removal"): {"password": "not this one"},
        ("POST", "/api/practices"): {
            "id": str(uuid.uuid4()),
            "practice": home.practice(coach.drill_id),
            "students": [coach.student_id],
        },
        ("PUT", "/api/practices/{practice_id}"): {
            "practice": home.practice(coach.drill_id),
            "students": [coach.student_id],
        },
        ("PATCH", "/api/practices/{practice_id}"): {"ended": False},
        ("PUT", "/api/practices/{practice_id}/students/{student_id}/days"): {"days": 2},
        ("POST", "/api/students/{student_id}/home-links"): {"origin": "http://hall.example"},
        ("PATCH", "/api/home-links/{link_id}"): {"revoked": False},
        ("PATCH", "/api/home/{token}"): {"sound_only": False},
        ("PUT", "/api/home/{token}/runs/{run_id}"): {
            "planned_id": str(uuid.uuid4()),
            "recorder": new["recorder"],
            "measured": True,
            "ago_s": 60,
        },
        ("POST", "/api/home/{token}/runs/{run_id}/batches"): batch,
        ("PUT", "/api/camera-places/{place_id}"): {"place": PLACE},
        ("PATCH", "/api/camera-places/{place_id}"): {"removed": False},
        ("POST", "/api/runs/{run_id}/films"): {
            "id": str(uuid.uuid4()),
            "name": "round.mp4",
            "size": 1000,
        },
        ("POST", "/api/partner-runs/{partner_run_id}/films"): {
            "id": str(uuid.uuid4()),
            "name": "round.mp4",
            "size": 1000,
        },
        ("PUT", "/api/films/{film_id}/place"): {"place_id": _filmed(coach)[0]},
        ("PATCH", "/api/films/{film_id}"): {"removed": False},
        ("PUT", "/api/film-days"): {"days": 7},
        ("POST", "/api/films/{film_id}/corrections"): {
            "id": str(uuid.uuid4()),
            "correction": CORRECTION,
        },
        ("PATCH", "/api/films/{film_id}/corrections/{correction_id}"): {"taken_back": False},
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
        ("POST", "/api/devices/{device_id}/flashes"): _FLASHES,
    }


_documents: dict[str, dict[str, Any]] = {}


def _document(coach: Coach) -> dict[str, Any]:
    """The document of the coach's drill as it was first, asked for once."""
    if coach.login not in _documents:
        _documents[coach.login] = coach.drill()["document"]
    return _documents[coach.login]


_signed_in: dict[str, tuple[str, str]] = {}


def _accounts(coach: Coach) -> tuple[str, str]:
    """The coach's first sign-in, and the coach, asked for once."""
    if coach.login not in _signed_in:
        sign_in = coach.get("/api/sign-ins").get_json()["sign_ins"][0]["id"]
        _signed_in[coach.login] = sign_in, coach.get("/api/coaches").get_json()["coaches"][0]["id"]
    return _signed_in[coach.login]


def ids(coach: Coach) -> dict[str, str]:
    sign_in, coach_id = _accounts(coach)
    return {
        "student_id": coach.student_id,
        "drill_id": coach.drill_id,
        "run_id": coach.run_id,
        "other_id": coach.run_id,
        "sign_in_id": sign_in,
        "number": "1",
        "name": "bell",
        "key": "hip_check",
        "ending": "mid",
        "device_id": DEVICE,
        "partner_run_id": partner_run(coach),
        "evening_id": evening(coach),
        "block": "pairs",
        "code": "nobody-has-this-code",
        "template_id": template(coach),
        "coach_id": coach_id,
        "invitation_id": invitation(coach),
        "token": _practised(coach)[2],
        "practice_id": _practised(coach)[0],
        "link_id": _practised(coach)[1],
        "place_id": _filmed(coach)[0],
        "film_id": _filmed(coach)[1],
        "correction_id": _filmed(coach)[2],
        "asset_id": hashlib.sha256(coach.login.encode()).hexdigest(),
    }


_begun: dict[str, str] = {}


def plan(drill_id: str | None = None) -> dict[str, Any]:
    """An evening with one block, in pairs."""
    kind = {"kind": "partner", "drill_id": drill_id} if drill_id else {"kind": "free", "minutes": 5}
    return {
        "title": "Tuesday class",
        "starts_at": "2026-11-24T19:00:00Z",
        "ends_at": "2026-11-24T20:30:00Z",
        "zone": "Europe/London",
        "blocks": [{"key": "pairs", "name": "In pairs", **kind}],
    }


_planned: dict[str, str] = {}


def evening(coach: Coach) -> str:
    """An evening of the coach's club with a partner drill, planned once."""
    if coach.login not in _planned:
        lines = coach.get("/api/library").get_json()["drills"]
        drill = next(line["id"] for line in lines if line["title"] == "One hits, one guards")
        made: dict[str, Any] = {"id": str(uuid.uuid4()), "plan": plan(drill)}
        assert coach.post("/api/evenings", made).status_code == 201
        _planned[coach.login] = made["id"]
    return _planned[coach.login]


_at_home: dict[str, tuple[str, str, str]] = {}


def _practised(coach: Coach) -> tuple[str, str, str]:
    """A practice for home, a link of the coach's club and its token, made once."""
    if coach.login not in _at_home:
        practice, link = home.assign(coach), home.link(coach)
        token = link["path"].removeprefix("/home/")
        _at_home[coach.login] = practice, link["id"], token
    return _at_home[coach.login]


PLACE = {
    "name": "by the door",
    "zones": [{"part": "head", "left": 0.4, "top": 0.1, "width": 0.2, "height": 0.3}],
}
CORRECTION = {"round": 1, "number": 0, "part": "head", "at_ms": 300, "why": "seen on the picture"}
_films: dict[str, tuple[str, str, str]] = {}


def _filmed(coach: Coach) -> tuple[str, str, str]:
    """A camera place of the coach's club, a film of its run that has not come, and a correction,
    made once."""
    if coach.login not in _films:
        place, film, correction = (str(uuid.uuid4()) for _ in range(3))
        kept = coach.send("PUT", f"/api/camera-places/{place}", {"place": PLACE})
        assert kept.status_code == 200
        said = {"id": film, "name": "round.mp4", "size": 1000}
        assert coach.post(f"/api/runs/{coach.run_id}/films", said).status_code == 201
        corrected = {"id": correction, "correction": CORRECTION}
        assert coach.post(f"/api/films/{film}/corrections", corrected).status_code == 201
        _films[coach.login] = place, film, correction
    return _films[coach.login]


_invited: dict[str, str] = {}


def invitation(coach: Coach) -> str:
    """A link for a new coach of the club, made once."""
    if coach.login not in _invited:
        made = coach.post("/api/invitations", {"name": "Cleo Wharf"})
        assert made.status_code == 201
        _invited[coach.login] = made.get_json()["id"]
    return _invited[coach.login]


_kept: dict[str, str] = {}


def template(coach: Coach) -> str:
    """A template of the coach's club, kept once."""
    if coach.login not in _kept:
        made: dict[str, Any] = {"id": str(uuid.uuid4()), "name": "Usual", "plan": plan()}
        assert coach.post("/api/evening-templates", made).status_code == 200
        _kept[coach.login] = made["id"]
    return _kept[coach.login]


def partner_run(coach: Coach) -> str:
    """A partner run of the coach's club, begun once."""
    if coach.login not in _begun:
        made = pair(coach)
        assert made.begin().status_code == 201
        _begun[coach.login] = made.id
    return _begun[coach.login]


def rows(engine: Engine) -> dict[str, int]:
    """How many rows each table has."""
    with transaction(engine) as db:
        counts = (
            select(func.count()).select_from(table).scalar_subquery().label(table.name)
            for table in Base.metadata.sorted_tables
        )
        return dict(db.execute(select(*counts)).mappings().one())
