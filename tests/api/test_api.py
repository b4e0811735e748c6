"""The API over a real database: sign in, refuse bad input, keep clubs apart."""

import uuid

from sqlalchemy import Engine

from hastatus.api.app import create_app
from hastatus.store import clubs
from hastatus.store.database import transaction


def test_sign_in_and_bad_input(engine: Engine) -> None:
    login = f"{uuid.uuid4()}@x.example"
    with transaction(engine) as db:
        club = clubs.add_club(db, "Api club")
        clubs.add_coach(db, club.id, login=login, name="A", password="long enough", role="owner")
    client = create_app(engine).test_client()
    assert client.get("/api/students").status_code == 401
    session = client.post("/api/session", json={"login": login, "password": "long enough"})
    assert session.status_code == 200
    head = {"X-CSRF-Token": session.get_json()["csrf"]}
    assert client.post("/api/students", json={"name": "B"}).status_code == 403
    made = client.post("/api/students", json={"name": "B"}, headers=head)
    assert made.status_code == 201
    for body in (b'{"name": NaN}', b'{"name": "\\u0000"}', b'{"name": '):
        bad = client.post("/api/students", data=body, content_type="application/json", headers=head)
        assert bad.status_code == 400
        assert bad.content_type == "application/problem+json"
    assert client.get(f"/api/runs/{uuid.uuid4()}", headers=head).status_code == 404
    assert client.get("/healthz").status_code == 200
