"""Practice at home: what is assigned, what a link opens and to whom, and what comes back."""

from __future__ import annotations

import uuid
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from flask import Flask
from sqlalchemy import Engine, select, update

from hastatus.core.home.practice import AHEAD
from hastatus.store.database import transaction
from hastatus.store.models import HomeLink, PlannedRun
from tests.harness.coach import Coach, new_coach
from tests.harness.home import Phone, assign, batches, link, phone, practice


def numbers(view: dict[str, Any]) -> set[int]:
    return {one["number"] for one in view["planned"]}


def member(coach: Coach) -> dict[str, Any]:
    listed = coach.get("/api/practices").get_json()["practices"]
    return dict(listed[0]["members"][0])


def test_a_phone_gets_all_it_needs_for_days_and_says_a_first_name_only(
    app: Flask, coach: Coach
) -> None:
    assign(coach)
    answer = phone(app, coach)
    view = answer.view()
    assert view["first_name"] == "Bo"
    assert "Tarn" not in str(view)
    assert "Sluice Lane" not in str(view)
    assert numbers(view) == set(range(1, AHEAD + 1))
    seeds = {one["plan"]["seed"] for one in view["planned"]}
    assert len(seeds) == AHEAD  # another order every day
    again = answer.view()
    assert again["planned"] == view["planned"]
    for sound in view["drills"][0]["sounds"]:
        got = answer.client.get(sound["url"])
        assert got.status_code == 200
        assert got.data[:4] == b"RIFF"


def test_each_window_that_a_phone_may_come_to_is_laid_out_by_the_planner(
    app: Flask, coach: Coach
) -> None:
    assign(coach)
    one = phone(app, coach).view()["planned"][0]
    steps = one["ahead"]["steps"]
    windows = [step["window_s"] for step in steps]
    assert windows == sorted(windows)
    assert len(windows) > 4
    first = steps[one["ahead"]["start"]]
    assert first["window_s"] == one["plan"]["window_s"]
    assert first["rounds"][0]["cues"] == one["plan"]["rounds"][0]["cues"]
    for step in steps:
        slots = [cue["slot"] for cue in step["rounds"][0]["cues"]]
        assert slots == list(range(len(slots)))


def test_answers_that_come_back_are_a_run_of_the_student_once_and_move_where_they_stand(
    app: Flask, coach: Coach
) -> None:
    assign(coach)
    bo = phone(app, coach)
    view = bo.view()
    planned, run_id = view["planned"][0], str(uuid.uuid4())
    assert bo.keep(run_id, planned["id"]).status_code == 200
    sent = batches(view, planned)
    for _ in range(2):  # an answer that was lost on the way: all of it again
        assert bo.keep(run_id, planned["id"]).status_code == 200
        for batch in sent:
            assert bo.post(run_id, batch).status_code == 200
    rounds = len(planned["plan"]["rounds"])
    assert member(coach)["weeks"][-1]["days"] == 0  # begun, and no round done yet
    said = {"rounds": rounds, "said": "right", "finished": True}
    assert bo.keep(run_id, planned["id"], **said).get_json()["said"] == "right"
    runs = coach.get(f"/api/runs?student_id={coach.student_id}").get_json()["runs"]
    assert [run["id"] for run in runs] == [run_id]
    done = member(coach)["last"]
    assert [(one["rounds"], one["said"], one["finished"]) for one in done] == [
        (rounds, "right", True)
    ]
    assert done[0]["of"] > 10
    assert done[0]["clean"] / done[0]["of"] > 0.5
    assert member(coach)["weeks"][-1]["days"] == 1
    after = bo.view()
    assert numbers(after) == set(range(1, AHEAD + 1))
    assert [one["done"] for one in after["planned"]][:2] == [True, False]
    # The next ones are planned from where the student now stands.
    assert after["planned"][1]["plan"]["window_s"] != planned["plan"]["window_s"]


def test_a_phone_that_was_away_for_a_week_brings_everything_back_in_order(
    app: Flask, coach: Coach
) -> None:
    assign(coach)
    bo = phone(app, coach)
    view = bo.view()
    for day, planned in enumerate(view["planned"][:7]):
        run_id = str(uuid.uuid4())
        ago_s = (7 - day) * 86_400.0
        bo.keep(run_id, planned["id"], ago_s=ago_s)
        for batch in batches(view, planned, seed=day):
            assert bo.post(run_id, batch).status_code == 200
    runs = coach.get(f"/api/runs?student_id={coach.student_id}").get_json()["runs"]
    assert len(runs) == 7
    assert all(run["state"] == "complete" for run in runs)
    assert numbers(bo.view()) == set(range(7, 7 + AHEAD))


def test_the_moment_of_a_run_does_not_hang_on_the_phones_clock(app: Flask, coach: Coach) -> None:
    assign(coach)
    bo = phone(app, coach)
    planned = bo.view()["planned"][0]
    bo.keep(str(uuid.uuid4()), planned["id"], ago_s=86_400 * 30, measured=False)
    began = datetime.fromisoformat(member(coach)["last"][0]["started_at"])
    assert abs(datetime.now(UTC) - began) < timedelta(minutes=5)  # not before it was planned


def test_what_nothing_measured_counts_for_the_dose_and_moves_the_window_by_what_was_said(
    app: Flask, coach: Coach
) -> None:
    assign(coach)
    bo = phone(app, coach)
    before = bo.view()["planned"][0]
    run_id = str(uuid.uuid4())
    said = {"measured": False, "said": "too_hard", "rounds": 3, "finished": True}
    assert bo.keep(run_id, before["id"], **said).status_code == 200
    assert coach.get(f"/api/runs?student_id={coach.student_id}").get_json()["runs"] == []
    last = member(coach)["last"][0]
    assert (last["run_id"], last["said"], last["clean"]) == (None, "too_hard", None)
    after = next(one for one in bo.view()["planned"] if one["number"] == 2)
    assert after["plan"]["window_s"] == pytest.approx(before["plan"]["window_s"] * 1.21, rel=1e-3)
    batch = {"recorder": str(uuid.uuid4()), "number": 0, "epoch": 0, "until_ms": 0}
    assert bo.post(run_id, batch).status_code == 404  # nothing of it is kept by mistake


def test_the_dose_follows_what_is_said_and_the_coach_sees_why(app: Flask, coach: Coach) -> None:
    rung = coach.drill()["document"]["rungs"][0]
    assign(coach)
    bo = phone(app, coach)
    for planned in bo.view()["planned"][:2]:
        said = {"measured": False, "said": "too_hard", "finished": True}
        bo.keep(str(uuid.uuid4()), planned["id"], **said)
    following = next(one for one in bo.view()["planned"] if one["number"] == 3)
    assert len(following["plan"]["rounds"]) == rung["rounds"]["count"] - 1
    assert following["reason"] == "2 in a row were too hard"


def test_a_drill_that_its_cues_end_is_not_cut_where_it_fits(app: Flask, coach: Coach) -> None:
    """Its rounds last as long as they are planned, not as long as any round may."""
    lines = coach.get("/api/library").get_json()["drills"]
    slips = next(line["id"] for line in lines if line["title"] == "One thing more")
    assign(coach, slips, minutes=15)
    planned = phone(app, coach).view()["planned"][0]
    rounds = planned["plan"]["rounds"]
    assert len(rounds) > 1
    assert sum(one["duration_s"] for one in rounds) < 15 * 60
    assert planned["reason"] == ""


def test_plans_that_no_phone_can_hold_any_more_are_gone(
    app: Flask, coach: Coach, engine: Engine
) -> None:
    """What was overtaken stays for as long as a link lasts, since a phone may have it still."""
    assign(coach)
    bo = phone(app, coach)
    begun = bo.view()["planned"][0]["id"]
    bo.keep(str(uuid.uuid4()), begun, measured=False, said="too_hard", finished=True)
    club = PlannedRun.student_id == uuid.UUID(coach.student_id)

    def after(days: int) -> set[str]:
        """The plans left of those of that day, seen by another standing `days` later."""
        aged = PlannedRun.created_at - timedelta(days=days)
        with transaction(engine) as db:
            db.execute(update(PlannedRun).where(club).values(created_at=aged, version=1, rung=9))
            before = set(db.scalars(select(PlannedRun.id).where(club)))
        bo.view()
        with transaction(engine) as db:
            left = set(db.scalars(select(PlannedRun.id).where(club)))
        return {str(one) for one in before & left}

    young = after(30)
    assert len(young) > 1
    assert after(400) == {begun}


def test_two_phones_on_one_link_both_keep_what_they_did(app: Flask, coach: Coach) -> None:
    assign(coach)
    bo = phone(app, coach)
    other = Phone(app.test_client(), bo.token)
    view = bo.view()
    planned = view["planned"][0]
    for each in (bo, other):
        run_id = str(uuid.uuid4())
        each.keep(run_id, planned["id"])
        for batch in batches(view, planned):
            assert each.post(run_id, batch).status_code == 200
    assert len(coach.get(f"/api/runs?student_id={coach.student_id}").get_json()["runs"]) == 2


def test_what_opens_nothing_says_one_and_the_same(app: Flask, coach: Coach, engine: Engine) -> None:
    assign(coach)
    closed, old, gone = (link(coach) for _ in range(3))
    coach.send("PATCH", f"/api/home-links/{closed['id']}", {"revoked": True})
    with transaction(engine) as db:
        past = datetime.now(UTC) - timedelta(minutes=1)
        db.execute(
            update(HomeLink).where(HomeLink.id == uuid.UUID(old["id"])).values(expires_at=past)
        )
    client = app.test_client()
    told = []
    for made in (closed, old):
        answer = client.get(f"/api{made['path']}")
        told.append((answer.status_code, answer.get_json()["detail"]))
    mistyped = gone["path"][:-1] + ("y" if gone["path"].endswith("x") else "x")
    answer = client.get(f"/api{mistyped}")
    told.append((answer.status_code, answer.get_json()["detail"]))
    coach.send("PATCH", f"/api/students/{coach.student_id}", {"away": "archived"})
    answer = client.get(f"/api{gone['path']}")
    told.append((answer.status_code, answer.get_json()["detail"]))
    assert set(told) == {
        (404, "This link opens nothing, or nothing any more. Ask your coach for a new one.")
    }
    assert "Bo" not in str(told)


def test_who_guesses_links_has_to_wait(app: Flask, coach: Coach) -> None:
    client = app.test_client()
    address = {"REMOTE_ADDR": f"10.9.8.{uuid.uuid4().int % 250}"}
    codes = [
        client.get(f"/api/home/{uuid.uuid4().hex}", environ_base=address).status_code
        for _ in range(24)
    ]
    assert codes[:20] == [404] * 20
    assert 429 in codes


def test_a_minor_gets_a_link_only_with_a_guardians_consent(app: Flask, coach: Coach) -> None:
    student = coach.get(f"/api/students/{coach.student_id}").get_json()["student"]
    body = {key: student[key] for key in ("name", "stance", "notes")} | {"consent": "needed"}
    assert coach.send("PUT", f"/api/students/{coach.student_id}", body).status_code == 200
    address = f"/api/students/{coach.student_id}/home-links"
    refused = coach.post(address, {"origin": "http://localhost"})
    assert refused.status_code == 422
    assert "guardian" in refused.get_json()["detail"]
    tomorrow = str(date.today() + timedelta(days=2))
    said = {"origin": "http://localhost", "guardian": "Ines Tarn", "guardian_on": tomorrow}
    assert coach.post(address, said).status_code == 422
    assign(coach)
    told = phone(app, coach, guardian="Ines Tarn", guardian_on=str(date.today())).view()
    assert told["planned"]
    assert "Ines" not in str(told)
    kept = coach.get(f"/api/students/{coach.student_id}/home").get_json()
    assert kept["links"][0]["guardian"] == "Ines Tarn"


def test_after_a_head_knock_nothing_is_practised(app: Flask, coach: Coach) -> None:
    assign(coach)
    bo = phone(app, coach)
    assert coach.post(f"/api/students/{coach.student_id}/head-knock").status_code == 201
    view = bo.view()
    assert view["planned"] == []
    assert "medical" in view["held"]
    assert member(coach)["hold"]


def test_a_link_opens_its_own_student_and_nothing_else(
    app: Flask, coach: Coach, engine: Engine
) -> None:
    other = new_coach(app, engine)
    assign(coach)
    assign(other)
    bo, stranger = phone(app, coach), phone(app, other)
    theirs = stranger.view()["planned"][0]
    assert bo.keep(str(uuid.uuid4()), theirs["id"]).status_code == 404
    run_id = str(uuid.uuid4())
    mine = bo.view()["planned"][0]
    assert bo.keep(run_id, mine["id"]).status_code == 200
    sent = batches(bo.view(), mine)[0]
    assert stranger.post(run_id, sent).status_code == 404
    assert bo.keep(coach.run_id, mine["id"]).status_code == 409  # a run of the floor
    assert bo.client.get(f"{bo.base}/spoken.wav?words=anything").status_code == 404
    assert bo.client.get(f"{bo.base}/assets/{'0' * 64}").status_code == 404
    assert bo.client.get("/api/students").status_code == 401


def test_what_cannot_be_done_alone_is_not_assigned(coach: Coach) -> None:
    lines = coach.get("/api/library").get_json()["drills"]
    partner = next(line["id"] for line in lines if line["form"] == "partner")
    body = {
        "id": str(uuid.uuid4()),
        "practice": practice(partner),
        "students": [coach.student_id],
    }
    refused = coach.post("/api/practices", body)
    assert refused.status_code == 422
    assert "needs a partner" in refused.get_json()["detail"]
    body["practice"] = practice(coach.drill_id, ends_on=str(date.today() - timedelta(days=9)))
    assert coach.post("/api/practices", body).status_code == 422
    body["practice"] = practice(coach.drill_id, coach.drill_id)
    assert coach.post("/api/practices", body).status_code == 422


def test_a_practice_is_changed_and_ended_and_taken_back(app: Flask, coach: Coach) -> None:
    made = assign(coach)
    bo = phone(app, coach)
    assert bo.view()["planned"]
    days = {"days": 2}
    path = f"/api/practices/{made}/students/{coach.student_id}/days"
    assert coach.send("PUT", path, days).status_code == 200
    assert member(coach)["days"] == 2
    changed = {"practice": practice(coach.drill_id, minutes=2), "students": [coach.student_id]}
    assert coach.send("PUT", f"/api/practices/{made}", changed).status_code == 200
    fitted = bo.view()["planned"][0]
    assert fitted["total_s"] <= 120
    coach.send("PATCH", f"/api/practices/{made}", {"ended": True})
    assert bo.view()["planned"] == []
    coach.send("PATCH", f"/api/practices/{made}", {"ended": False})
    assert bo.view()["planned"]


def test_who_cannot_bear_flashes_has_sounds_only_without_asking_anybody(
    app: Flask, coach: Coach
) -> None:
    assign(coach)
    bo = phone(app, coach)
    assert bo.client.patch(bo.base, json={"sound_only": True}).status_code == 204
    view = bo.view()
    assert view["sound_only"]
    seen = {cue["key"] for cue in view["drills"][0]["cues"] if cue["channel"] == "see"}
    assert seen
    placed = {
        cue["cue"]
        for planned in view["planned"]
        for step in planned["ahead"]["steps"]
        for round_ in step["rounds"]
        for cue in round_["cues"]
    }
    assert placed
    assert not placed & seen
