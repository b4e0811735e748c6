"""The club's coaches: links for new ones and for new passwords, who leaves, and who may."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import Engine, update

from hastatus.store.database import transaction
from hastatus.store.models import Invitation
from tests.harness.coach import Coach

PASSWORD = "rope bridge lantern"


def link(coach: Coach, **body: Any) -> str:
    made = coach.post("/api/invitations", {"name": "Cleo Wharf", **body})
    assert made.status_code == 201
    path: str = made.get_json()["path"]
    return path.removeprefix("/join/")


def join(app: Flask, token: str, login: str | None = None, password: str = PASSWORD) -> Any:
    body = {"login": login, "password": password}
    return app.test_client().post(f"/api/joins/{token}", json=body)


def joined(app: Flask, coach: Coach, login: str, **body: Any) -> Coach:
    """A second coach of the club, signed in."""
    client: FlaskClient = app.test_client()
    said = {"login": login, "password": PASSWORD}
    answer = client.post(f"/api/joins/{link(coach, **body)}", json=said)
    assert answer.status_code == 200, answer.get_json()
    return Coach(client, login, answer.get_json()["csrf"], coach.drill_id)


def of(coach: Coach, name: str = "Cleo Wharf") -> dict[str, Any]:
    listed = coach.get("/api/coaches").get_json()["coaches"]
    return next(one for one in listed if one["name"] == name)


def sign_in(app: Flask, login: str, password: str = PASSWORD) -> int:
    body = {"login": login, "password": password}
    return app.test_client().post("/api/session", json=body).status_code


def login_of(coach: Coach) -> str:
    return f"cleo-{coach.login}"


def test_a_link_makes_one_coach_and_says_nothing_to_whoever_finds_it_later(
    app: Flask, coach: Coach
) -> None:
    token = link(coach)
    told = app.test_client().get(f"/api/joins/{token}").get_json()
    assert told == {"name": "Cleo Wharf", "club": "Sluice Lane", "is_new": True}
    assert join(app, token, login_of(coach), "short").status_code == 422
    assert join(app, token, "   ").status_code == join(app, token).status_code == 422
    assert join(app, token, coach.login).status_code == 409
    assert join(app, token, login_of(coach)).get_json()["role"] == "coach"
    assert join(app, token, f"again-{coach.login}").status_code == 404
    assert app.test_client().get(f"/api/joins/{token}").status_code == 404
    assert sign_in(app, login_of(coach)) == 200
    assert coach.get("/api/coaches").get_json()["invitations"] == []


def test_a_link_that_is_old_revoked_or_mistyped_opens_nothing(
    app: Flask, engine: Engine, coach: Coach
) -> None:
    revoked, old = link(coach), link(coach, name="Dara Weir")
    lines = coach.get("/api/coaches").get_json()["invitations"]
    mine = next(line["id"] for line in lines if line["name"] == "Cleo Wharf")
    assert coach.send("DELETE", f"/api/invitations/{mine}").status_code == 204
    assert coach.send("DELETE", f"/api/invitations/{mine}").status_code == 404
    with transaction(engine) as db:
        past = datetime.now(UTC) - timedelta(seconds=1)
        db.execute(update(Invitation).values(expires_at=past))
    for token in (revoked, old, f"{old[:-1]}_", "nobody-has-this"):
        answer = join(app, token, login_of(coach))
        assert answer.status_code == 404
        assert "Ask an owner" in answer.get_json()["detail"]


def test_a_new_password_by_link_ends_every_sign_in_and_older_links(
    app: Flask, coach: Coach
) -> None:
    other = joined(app, coach, login_of(coach))
    path = f"/api/coaches/{of(coach)['id']}/resets"
    first, second = (coach.post(path).get_json()["path"].split("/")[-1] for _ in range(2))
    assert join(app, first, password="lantern rope bridge").status_code == 404
    assert join(app, second, password="lantern rope bridge").status_code == 200
    assert other.get("/api/session").status_code == 401
    assert sign_in(app, login_of(coach)) == 401
    assert sign_in(app, login_of(coach), "lantern rope bridge") == 200


def test_who_leaves_is_out_at_once_and_comes_back_as_they_were(app: Flask, coach: Coach) -> None:
    other = joined(app, coach, login_of(coach))
    path = f"/api/coaches/{of(coach)['id']}"
    assert coach.send("PATCH", path, {"removed": True}).status_code == 200
    assert of(coach)["removed_at"]
    assert other.get("/api/session").status_code == 401
    assert sign_in(app, login_of(coach)) == 401
    assert coach.post(f"{path}/resets").status_code == 409
    assert join(app, link(coach), login_of(coach)).status_code == 409  # the login stays theirs
    assert coach.send("PATCH", path, {"removed": False}).status_code == 200
    assert other.get("/api/session").status_code == 401  # a sign-in that has ended stays so
    assert sign_in(app, login_of(coach)) == 200


def test_a_club_keeps_an_owner(app: Flask, coach: Coach) -> None:
    """The last one can neither leave nor stop being one; with two, either can."""
    me = f"/api/coaches/{of(coach, 'Ada')['id']}"
    for change in ({"removed": True}, {"role": "coach"}):
        refused = coach.send("PATCH", me, change)
        assert refused.status_code == 409
        assert "only owner" in refused.get_json()["detail"]
    other = joined(app, coach, login_of(coach), role="owner")
    assert coach.send("PATCH", me, {"role": "coach"}).status_code == 200
    assert coach.post("/api/invitations", {"name": "Eli"}).status_code == 403
    last = f"/api/coaches/{of(other)['id']}"
    assert other.send("PATCH", last, {"removed": True}).status_code == 409
    assert other.send("PATCH", me, {"removed": True}).status_code == 200


@pytest.mark.parametrize(
    ("method", "path", "body"),
    [
        ("POST", "/api/invitations", {"name": "Eli"}),
        ("DELETE", "/api/invitations/{invitation}", None),
        ("POST", "/api/coaches/{owner}/resets", None),
        ("PATCH", "/api/coaches/{owner}", {"removed": True}),
        ("PATCH", "/api/coaches/{me}", {"role": "owner"}),
    ],
)
def test_a_coach_who_is_no_owner_is_told_so_and_sees_no_logins(
    app: Flask, coach: Coach, method: str, path: str, body: Any
) -> None:
    other = joined(app, coach, login_of(coach))
    link(coach, name="Dara Weir")
    listed = coach.get("/api/coaches").get_json()
    ids = {"owner": of(coach, "Ada")["id"], "me": of(coach)["id"],
           "invitation": listed["invitations"][0]["id"]}  # fmt: skip
    refused = other.send(method, path.format(**ids), body)
    assert refused.status_code == 403
    assert "owner" in refused.get_json()["detail"]
    assert coach.get("/api/coaches").get_json() == listed
    seen = other.get("/api/coaches").get_json()
    assert {one["login"] for one in seen["coaches"]} == {None}
    assert seen["invitations"] == []
