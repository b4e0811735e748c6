"""The same write many times at once, at every address: one thing is made, and nobody gets a 500."""

from __future__ import annotations

import json
from concurrent.futures import ThreadPoolExecutor
from threading import Barrier
from typing import Any

from flask_openapi3 import OpenAPI
from sqlalchemy import Engine

from hastatus.api.http.session import COOKIE
from tests.harness.addresses import addresses, bodies, ids, rows
from tests.harness.coach import Coach, new_coach

AT_ONCE = 50
IN_TURN = {("DELETE", "/api/session")}
"""Ends the sign-in that the others need."""


def at_once(app: OpenAPI, coach: Coach, method: str, path: str, body: Any) -> list[int]:
    """The statuses of the same request, sent by as many clients at the same moment."""
    cookie = coach.client.get_cookie(COOKIE)
    assert cookie is not None
    barrier = Barrier(AT_ONCE)

    def send(_: int) -> int:
        client = app.test_client()
        client.set_cookie(COOKIE, cookie.value, secure=False)
        barrier.wait()
        return client.open(
            path, method=method, json=body, headers={"X-CSRF-Token": coach.csrf}
        ).status_code

    with ThreadPoolExecutor(AT_ONCE) as threads:
        return list(threads.map(send, range(AT_ONCE)))


def test_the_same_write_at_once_is_made_once(app: OpenAPI, engine: Engine) -> None:
    coach = new_coach(app, engine)
    sent, named = bodies(coach), ids(coach)
    found: dict[str, list[int]] = {}
    for method, path in addresses():
        if method == "GET" or (method, path) in IN_TURN:
            continue
        address = path.replace("{partner_run_id}", named["partner_run_id"])
        for name, value in named.items():
            address = address.replace(f"{{{name}}}", value)
        found[f"{method} {path}"] = at_once(app, coach, method, address, sent.get((method, path)))
    bad = {where: each for where, each in found.items() if max(each) >= 500}
    assert not bad, json.dumps(bad, indent=1)
    assert len(found) > 20


def test_a_run_or_a_drill_that_is_made_many_times_at_once_is_one(
    app: OpenAPI, engine: Engine
) -> None:
    coach = new_coach(app, engine)
    sent = bodies(coach)
    for method, path in (("POST", "/api/runs"), ("POST", "/api/drills")):
        before = rows(engine)
        statuses = at_once(app, coach, method, path, sent[method, path])
        assert set(statuses) <= {200, 201}, statuses
        made = {table: count - before[table] for table, count in rows(engine).items()}
        del made["audit_entries"]  # each request that was taken is noted
        assert max(made.values()) == 1, made
