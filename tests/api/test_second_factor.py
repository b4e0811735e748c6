"""The second factor at sign-in, against the values of RFC 6238, and what may go wrong with it."""

from __future__ import annotations

import time
from typing import Any

import pyotp
import pytest
from flask import Flask

from hastatus.store import second_factor
from tests.api.test_coaches import joined, login_of, of
from tests.harness.coach import PASSWORD, Coach

RFC_SECRET = "GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ"
"""12345678901234567890 in base 32 (RFC 6238, appendix B, SHA-1)."""
RFC_CODES = {59: "94287082", 1111111109: "07081804", 2000000000: "69279037"}


@pytest.mark.parametrize(("at_s", "code"), RFC_CODES.items())
def test_codes_are_those_of_the_standard(at_s: int, code: str) -> None:
    assert pyotp.TOTP(RFC_SECRET, digits=8).at(at_s) == code


def sign_in(app: Flask, coach: Coach, code: str | None = None) -> Any:
    said = {"login": coach.login, "password": PASSWORD}
    body = said if code is None else {**said, "code": code}
    return app.test_client().post("/api/session", json=body)


def add(coach: Coach) -> tuple[str, list[str]]:
    """The secret and the spare codes."""
    begun = coach.post("/api/session/second-factor", {"password": PASSWORD})
    assert begun.status_code == 200
    secret = begun.get_json()["secret"]
    assert secret in begun.get_json()["address"]
    done = coach.send("PUT", "/api/session/second-factor", {"code": code_of(secret)})
    assert done.status_code == 200, done.get_json()
    return secret, done.get_json()["codes"]


def code_of(secret: str, steps: int = 0) -> str:
    at_s = int(time.time()) + steps * second_factor.STEP_S
    return str(pyotp.TOTP(secret).at(at_s))


def test_after_the_password_a_code_is_asked_for_and_each_opens_once(
    app: Flask, coach: Coach
) -> None:
    secret, spare = add(coach)
    asked = sign_in(app, coach)
    assert (asked.status_code, asked.get_json()["title"]) == (401, "Code needed")
    used = code_of(secret)
    assert sign_in(app, coach, used).status_code == 401  # confirmed with it
    following = code_of(secret, steps=1)
    assert sign_in(app, coach, following).status_code == 200
    assert sign_in(app, coach, following).status_code == 401
    assert "spare code" in sign_in(app, coach, "000000").get_json()["detail"]
    assert sign_in(app, coach, f"{spare[0][:4]} {spare[0][4:]}").status_code == 200


def test_each_spare_code_opens_once(app: Flask, coach: Coach) -> None:
    _, spare = add(coach)
    assert len(set(spare)) == second_factor.SPARE_CODES
    assert sign_in(app, coach, spare[3]).status_code == 200
    assert sign_in(app, coach, spare[3]).status_code == 401


def test_a_wrong_code_counts_as_a_failed_attempt(app: Flask, coach: Coach) -> None:
    add(coach)
    codes = [sign_in(app, coach, "123456").status_code for _ in range(7)]
    assert codes[0] == 401
    assert 429 in codes


def test_it_is_added_and_removed_with_the_password_alone(app: Flask, coach: Coach) -> None:
    wrong = {"password": "not this one at all"}
    assert coach.post("/api/session/second-factor", wrong).status_code == 403
    assert coach.send("PUT", "/api/session/second-factor", {"code": "123456"}).status_code == 409
    coach.post("/api/session/second-factor", {"password": PASSWORD})
    assert coach.send("PUT", "/api/session/second-factor", {"code": "123456"}).status_code == 422
    assert sign_in(app, coach).status_code == 200  # not confirmed: not asked for
    add(coach)
    assert coach.get("/api/session").get_json()["second_factor"]
    assert coach.post("/api/session/second-factor/removal", wrong).status_code == 403
    right = {"password": PASSWORD}
    assert coach.post("/api/session/second-factor/removal", right).status_code == 204
    assert sign_in(app, coach).status_code == 200


def test_an_owner_helps_a_coach_who_has_lost_the_phone(app: Flask, coach: Coach) -> None:
    cleo = joined(app, coach, login_of(coach))
    begun = cleo.post("/api/session/second-factor", {"password": "rope bridge lantern"})
    code = code_of(begun.get_json()["secret"])
    cleo.send("PUT", "/api/session/second-factor", {"code": code})
    assert of(coach)["second_factor"]
    address = f"/api/coaches/{of(coach)['id']}/second-factor"
    assert cleo.send("DELETE", address).status_code == 403
    assert coach.send("DELETE", address).status_code == 200
    assert not of(coach)["second_factor"]
    said = {"login": cleo.login, "password": "rope bridge lantern"}
    assert app.test_client().post("/api/session", json=said).status_code == 200
