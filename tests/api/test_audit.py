"""Who did what: kept with what was done, shown to owners alone; and what the server counts."""

from __future__ import annotations

import re
from typing import Any

from flask import Flask

from tests.api.test_coaches import joined, login_of
from tests.harness.coach import Coach
from tests.harness.home import assign, link


def lines(coach: Coach, query: str = "") -> list[dict[str, Any]]:
    return list(coach.get(f"/api/audit{query}").get_json()["lines"])


def test_what_a_coach_does_is_kept_with_whom_it_was_done_to(coach: Coach) -> None:
    answer = coach.send("PATCH", f"/api/students/{coach.student_id}", {"away": "archived"})
    newest = lines(coach)[0]
    assert newest["coach"] == "Ada"
    assert newest["about"] == "Bo Tarn"
    assert newest["what"].startswith("Archive a student")
    assert newest["request_id"] == answer.headers["X-Request-Id"]
    assert any(line["what"] == "signed in" for line in lines(coach))


def test_what_was_refused_or_only_looked_at_is_not_kept(coach: Coach) -> None:
    before = lines(coach)
    coach.get("/api/students")
    coach.post("/api/students", {"name": ""})
    coach.post_batch(coach.batches[0])
    coach.post("/api/plans", {"document": coach.drill()["document"], "seed": 1, "rung": 1})
    after = lines(coach)
    assert [line["what"] for line in after[: len(after) - len(before)]] == [
        "Begin a run; the same request again gives the same run"
    ]


def test_only_owners_see_it_and_each_coach_can_be_looked_at(app: Flask, coach: Coach) -> None:
    cleo = joined(app, coach, login_of(coach))
    assert cleo.get("/api/audit").status_code == 403
    cleo.post("/api/students", {"name": "Wim Sallow"})
    coaches = coach.get("/api/coaches").get_json()["coaches"]
    their_id = next(one["id"] for one in coaches if one["name"] == "Cleo Wharf")
    hers = lines(coach, f"?coach_id={their_id}")
    assert {line["coach"] for line in hers} == {"Cleo Wharf"}
    assert [line["what"] for line in hers] == ["Add a student", "joined by a link"]


def test_no_link_and_no_word_of_a_form_is_in_it(coach: Coach) -> None:
    assign(coach)
    token = link(coach)["path"].removeprefix("/home/")
    text = coach.get("/api/audit").get_data(as_text=True)
    assert "A link that opens a student" in text
    assert token not in text


def test_requests_are_counted_by_address_and_never_by_what_is_in_it(
    app: Flask, coach: Coach
) -> None:
    coach.get(f"/api/students/{coach.student_id}")
    answer = app.test_client().get("/metrics")
    told = answer.get_data(as_text=True)
    assert answer.content_type.startswith("text/plain")
    route = re.escape("/api/students/<uuid:student_id>")
    counted = re.search(
        rf'hastatus_requests_total{{method="GET",route="{route}",status="200"}} (\d+)', told
    )
    assert counted is not None
    assert int(counted[1]) >= 1
    assert "hastatus_database_bytes" in told
    assert coach.student_id not in told
    far = app.test_client().get("/metrics", environ_base={"REMOTE_ADDR": "192.168.1.9"})
    assert far.status_code == 404


def test_the_doors_id_of_a_request_is_the_servers_and_nothing_else_is_taken(app: Flask) -> None:
    client = app.test_client()
    given = "0d9e6f6a-5d0c-4c5c-9a43-2f1c6c1d9a10"
    for sent, same in ((given, True), ("x" * 20, False), ("<script>", False)):
        answer = client.get("/api/session", headers={"X-Request-Id": sent})
        assert (answer.headers["X-Request-Id"] == sent) is same
        assert answer.get_json()["request_id"] == answer.headers["X-Request-Id"]


def test_made_up_methods_are_counted_as_one(app: Flask) -> None:
    client = app.test_client()
    for number in range(3):
        client.open("/api/students", method=f"BREW{number}")
    told = client.get("/metrics").get_data(as_text=True)
    assert "BREW" not in told
    assert 'method="other"' in told
