"""A student's own data: all of it out, nobody else's with it, and erased on demand."""

from __future__ import annotations

import csv
import io
import json
import uuid
import zipfile
from typing import Any

from flask import Flask
from sqlalchemy import Engine, text

from tests.api.test_coaches import joined, login_of
from tests.harness.coach import Coach
from tests.harness.home import assign, batches, phone


def taken_out(coach: Coach, student_id: str) -> zipfile.ZipFile:
    answer = coach.get(f"/api/students/{student_id}/data.zip")
    assert answer.status_code == 200
    return zipfile.ZipFile(io.BytesIO(answer.data))


def data_of(coach: Coach, student_id: str) -> dict[str, Any]:
    return dict(json.loads(taken_out(coach, student_id).read("data.json")))


def test_all_that_is_kept_of_one_is_in_it_and_nothing_of_another(app: Flask, coach: Coach) -> None:
    for batch in coach.batches:
        coach.post_batch(batch)
    assign(coach)
    bo = phone(app, coach)
    view = bo.view()
    run_id = str(uuid.uuid4())
    bo.keep(run_id, view["planned"][0]["id"], said="right")
    for sent in batches(view, view["planned"][0]):
        bo.post(run_id, sent)
    other = coach.post("/api/students", {"name": "Wim Sallow"}).get_json()["id"]
    told = data_of(coach, coach.student_id)
    assert [row["name"] for row in told["students"]] == ["Bo Tarn"]
    assert {row["id"] for row in told["runs"]} == {coach.run_id, run_id}
    assert len(told["event_batches"]) == len(coach.batches) + len(batches(view, view["planned"][0]))
    assert told["home_runs"][0]["said"] == "right"
    assert told["home_links"][0]["token_hash"] is None
    sheet = taken_out(coach, coach.student_id).read("answers.csv").decode()
    assert len(list(csv.DictReader(io.StringIO(sheet)))) == len(told["responses"])
    assert "Wim Sallow" not in json.dumps(told)
    assert set(data_of(coach, other)) <= {"students", "student_standings"}


def test_erasing_leaves_no_row_and_no_name(app: Flask, coach: Coach, engine: Engine) -> None:
    for batch in coach.batches:
        coach.post_batch(batch)
    assign(coach)
    bo = phone(app, coach)
    bo.keep(str(uuid.uuid4()), bo.view()["planned"][0]["id"])
    address = f"/api/students/{coach.student_id}"
    assert (
        coach.send("DELETE", f"{address}/data").status_code == 409
    )  # first deleted, which can be undone
    coach.send("PATCH", address, {"away": "deleted"})
    cleo = joined(app, coach, login_of(coach))
    assert cleo.send("DELETE", f"{address}/data").status_code == 403
    assert coach.send("DELETE", f"{address}/data").status_code == 204
    assert coach.get(f"{address}/data.zip").status_code == 404
    assert bo.client.get(bo.base).status_code == 404
    with engine.connect() as connection:
        columns = connection.execute(
            text(
                "SELECT table_name, column_name FROM information_schema.columns "
                "WHERE table_schema = 'public' AND column_name IN ('student_id', 'run_id')"
            )
        ).all()
        left = [
            (table, column)
            for table, column in columns
            if connection.execute(
                text(f'SELECT 1 FROM "{table}" WHERE "{column}" IN (:student, :run) LIMIT 1'),
                {"student": coach.student_id, "run": coach.run_id},
            ).first()
        ]
    assert left == []


def test_a_hold_is_a_record_that_stays(coach: Coach) -> None:
    address = f"/api/students/{coach.student_id}"
    coach.send("PATCH", address, {"away": "deleted"})
    coach.send("PATCH", address, {"away": None})
    coach.post(f"{address}/head-knock")
    assert coach.send("PATCH", address, {"away": "deleted"}).status_code == 409
    assert coach.send("DELETE", f"{address}/data").status_code == 409
