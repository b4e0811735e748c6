"""A class that runs, through the API: clock, pairs, marks, phones, and what is said afterwards."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from flask import Flask
from sqlalchemy import Engine, update

from hastatus.store.database import transaction
from hastatus.store.models import Attendance
from tests.api.test_evenings import add, block, come, drill, plan, students, together
from tests.harness.coach import Coach


def act(kind: str, after_s: float = 0.0, **rest: Any) -> dict[str, Any]:
    at = datetime.now(UTC) + timedelta(seconds=after_s)
    return {"id": str(uuid.uuid4()), "at": at.isoformat(), "kind": kind, **rest}


def do(coach: Coach, evening: str, *acts: dict[str, Any]) -> dict[str, Any]:
    answer = coach.post(f"/api/evenings/{evening}/acts", {"acts": list(acts)})
    assert answer.status_code == 200, answer.get_json()
    live: dict[str, Any] = answer.get_json()
    return live


def mark(kind: str, members: list[str], at_s: float, **rest: Any) -> dict[str, Any]:
    at = datetime.now(UTC).isoformat()
    return {
        "id": str(uuid.uuid4()), "at": at, "block": "pairs", "kind": kind, "members": members,
        "at_s": at_s, **rest,
    }  # fmt: skip


def tap(coach: Coach, evening: str, *marks: dict[str, Any]) -> dict[str, Any]:
    answer = coach.post(f"/api/evenings/{evening}/marks", {"marks": list(marks)})
    assert answer.status_code == 200, answer.get_json()
    live: dict[str, Any] = answer.get_json()
    return live


@pytest.fixture
def running(coach: Coach) -> str:
    """An evening of ten with a partner block that has run for five minutes, fed by phones."""
    return begin(coach, feeds="phone")


def begin(coach: Coach, **rest: Any) -> str:
    kept = block(drill_id=drill(coach, "touch and away"), minutes=10, **rest)
    made: str = add(coach, plan(block("warm", "base", minutes=10), kept))["id"]
    for student in students(coach):
        come(coach, made, student)
    assert together(coach, made).status_code == 200
    do(coach, made, act("begin", -300, block="pairs"))
    return made


def groups(coach: Coach, evening: str) -> list[list[str]]:
    view = coach.get(f"/api/evenings/{evening}").get_json()
    paired = next(one for one in view["blocks"] if one["key"] == "pairs")
    return [group["members"] for group in paired["groups"]]


def codes(coach: Coach, evening: str) -> dict[str, str]:
    answer = coach.get(f"/api/evenings/{evening}/codes?origin=http://hall.example:8000")
    return {
        one["student_id"]: one["path"].removeprefix("/mine/") for one in answer.get_json()["codes"]
    }


def phone(app: Flask, code: str, **headers: str) -> Any:
    return app.test_client().get(f"/api/phones/{code}", headers=headers)


def test_the_clock_is_one_for_all_and_the_same_acts_again_change_nothing(
    coach: Coach, running: str
) -> None:
    live = coach.get(f"/api/evenings/{running}/live").get_json()
    assert live["clock"]["block"] == "pairs"
    assert live["clock"]["elapsed_s"] == pytest.approx(300, abs=5)
    assert live["next_block"] is None
    pause = act("pause", -60)
    once = do(coach, running, pause)
    assert once["clock"]["elapsed_s"] == pytest.approx(240, abs=5)
    assert do(coach, running, pause)["changes"] == once["changes"]
    late = do(coach, running, act("go_on", -30))  # it was done before, and arrives now
    assert late["clock"]["elapsed_s"] == pytest.approx(270, abs=5)
    stretches = late["stretches"]
    longer = do(coach, running, act("lengthen", seconds=60.0))
    assert longer["stretches"][-1]["ends_s"] == stretches[-1]["ends_s"] + 60
    ahead = do(coach, running, act("pause", 3600))  # a device whose clock is wrong
    assert ahead["clock"]["elapsed_s"] < 300


def test_an_evening_that_nobody_has_ended_is_still_open(coach: Coach, running: str) -> None:
    def is_open() -> bool:
        lines = coach.get("/api/evenings").get_json()["evenings"]
        return bool(next(line["running"] for line in lines if line["id"] == running))

    assert is_open()
    do(coach, running, act("end"))
    assert not is_open()
    do(coach, running, act("reopen", 0.1))
    assert is_open()


def test_who_asks_again_is_told_nothing_until_something_changes(coach: Coach, running: str) -> None:
    path = f"/api/evenings/{running}/live"
    for _ in range(3):  # the seconds that nobody looked are told anew now and then
        first = coach.get(path)
        again = coach.client.get(path, headers={"If-None-Match": first.headers["ETag"]})
        if again.status_code == 304:
            break
    assert (again.status_code, again.get_data()) == (304, b"")
    assert float(again.headers["Hastatus-Time"]) >= float(first.headers["Hastatus-Time"])
    do(coach, running, act("pause"))
    changed = coach.client.get(path, headers={"If-None-Match": first.headers["ETag"]})
    assert changed.status_code == 200
    assert not changed.get_json()["clock"]["running"]


def test_a_block_goes_on_as_it_was_begun_when_the_drill_is_changed(
    coach: Coach, running: str
) -> None:
    before = coach.get(f"/api/evenings/{running}/live").get_json()["stretches"]
    view = coach.get(f"/api/evenings/{running}").get_json()
    kept = next(one for one in view["plan"]["blocks"] if one["key"] == "pairs")
    newest = coach.get(f"/api/drills/{kept['drill_id']}/versions/1").get_json()
    document = newest["document"]
    document["rungs"][0]["rounds"]["rest_s"] = 55
    changed = {"base": 1, "document": document}
    assert coach.post(f"/api/drills/{kept['drill_id']}/versions", changed).status_code == 201
    assert coach.get(f"/api/evenings/{running}/live").get_json()["stretches"] == before
    again = do(coach, running, act("begin", block="pairs"))
    assert again["stretches"] != before


def test_numbers_are_called_and_each_feeder_has_cards_for_every_round(coach: Coach) -> None:
    evening = begin(coach, feeds="numbered", rungs=[1, 2])
    heard = coach.get(f"/api/evenings/{evening}/blocks/pairs/sounds").get_json()["sounds"]
    numbers = [sound for sound in heard if sound["kind"] == "number"]
    calls = coach.get(f"/api/evenings/{evening}/blocks/pairs/calls").get_json()
    called = [str(call["number"]) for round_ in calls["rounds"] for call in round_["calls"]]
    assert [sound["shows"] for sound in numbers] == called
    live = coach.get(f"/api/evenings/{evening}/live").get_json()
    work = [one for one in live["stretches"] if one["kind"] == "work"]
    assert len(work) == len(calls["rounds"])
    per_round = {round_["round"]: len(round_["calls"]) for round_ in calls["rounds"]}
    for pair in {tuple(card["pair"]) for card in calls["cards"]}:
        for number, count in per_round.items():
            lines = [
                line
                for card in calls["cards"]
                if tuple(card["pair"]) == pair and card["round"] == number
                for line in card["lines"]
            ]
            assert len(lines) == count
    assert coach.get(heard[0]["url"]).status_code == 200


def test_a_phone_shows_what_its_owner_feeds_and_nothing_that_comes_at_them(
    app: Flask, coach: Coach, running: str
) -> None:
    given = codes(coach, running)
    assert len(set(given.values())) == 10
    one, other = groups(coach, running)[0]
    views = {key: phone(app, given[key]).get_json() for key in (one, other)}
    fed = {key: {feed["at_s"] for feed in view["feeds"]} for key, view in views.items()}
    assert fed[one]
    assert fed[other]
    assert not fed[one] & fed[other]
    names = {key: view["name"] for key, view in views.items()}
    assert views[one]["partners"] == [names[other]]
    assert {role["role"] for role in views[one]["roles"]} == {"feeds", "defends"}
    seen = phone(app, given[one])
    assert phone(app, given[one], **{"If-None-Match": seen.headers["ETag"]}).status_code in (
        200,
        304,
    )
    call = views[one]["feeds"][0]["call"]
    client = app.test_client()
    spoken = client.get(f"/api/phones/{given[one]}/spoken.wav", query_string={"words": call})
    assert spoken.content_type == "audio/wav"
    other_words = client.get(f"/api/phones/{given[one]}/spoken.wav", query_string={"words": "sell"})
    assert other_words.status_code == 404


def test_a_code_opens_nothing_once_it_is_old(app: Flask, coach: Coach, running: str) -> None:
    given = codes(coach, running)
    one, other = groups(coach, running)[0]
    come(coach, running, one, here=False)
    assert phone(app, given[one]).status_code == 404
    assert phone(app, given[other]).status_code == 200
    assert coach.send("DELETE", f"/api/evenings/{running}/codes").status_code == 204
    refused = phone(app, given[other])
    assert refused.status_code == 404
    assert "Ask your coach" in refused.get_json()["detail"]
    again = [{"student_id": key, "code": code} for key, code in given.items()]
    put_back = coach.send("PUT", f"/api/evenings/{running}/codes", {"codes": again})
    assert put_back.status_code == 204
    assert phone(app, given[other]).status_code == 200  # it was renewed by mistake
    coach.send("DELETE", f"/api/evenings/{running}/codes")
    new = codes(coach, running)[other]
    assert phone(app, new).status_code == 200
    do(coach, running, act("end"))
    assert phone(app, new).status_code == 404
    assert phone(app, "neverGivenOut").status_code == 404


def test_people_say_how_it_was_on_their_own_phone(app: Flask, coach: Coach, running: str) -> None:
    given = codes(coach, running)
    one = groups(coach, running)[0][0]
    client = app.test_client()
    path = f"/api/phones/{given[one]}"
    assert client.patch(path, json={"ready_before": 2}).get_json()["ready_before"] == 2
    assert client.patch(path, json={"ready_before": 11}).status_code == 422
    assert client.patch(path, json={"word": "too_much"}).get_json()["word"] == "too_much"
    assert client.patch(path, json={"word": "right"}).get_json()["word"] == "right"
    assert client.patch(path, json={"word": "too_much"}).get_json()["word"] == "too_much"
    coach.send("PUT", f"/api/students/{one}", {"name": "Ada", "readiness": "light"})
    people = coach.get(f"/api/evenings/{running}/review").get_json()["people"]
    ada = next(person for person in people if person["student_id"] == one)
    assert (ada["words"], ada["proposed"]) == (["too much"], "blocks")


def test_a_pair_is_told_what_it_has_to_keep_to(app: Flask, coach: Coach, running: str) -> None:
    one, other = groups(coach, running)[0]
    coach.send("PUT", f"/api/students/{one}", {"name": "Ada", "readiness": "distance"})
    live = coach.get(f"/api/evenings/{running}/live").get_json()
    tile = next(tile for tile in live["tiles"] if one in tile["key"])
    assert tile["limit"].startswith("no contact")
    theirs = phone(app, codes(coach, running)[other]).get_json()
    assert any(limit.startswith("no contact") for limit in theirs["limits"])


def test_a_head_knock_on_a_tile_holds_at_once_and_can_be_taken_back(
    coach: Coach, running: str
) -> None:
    pair = groups(coach, running)[0]
    knock = mark("knock", pair, 100, student=pair[0])
    live = tap(coach, running, knock, knock)
    assert live["tiles"][0]["why"][0] == "head knock"
    view = coach.get(f"/api/evenings/{running}").get_json()
    held = next(person for person in view["people"] if person["student_id"] == pair[0])
    assert held["off"]
    paired = next(one for one in view["blocks"] if one["key"] == "pairs")
    assert paired["stale"]
    others = [group for group in groups(coach, running) if group != pair]
    assert together(coach, running, kept=others, base=paired["edit"]).status_code == 200
    now = coach.get(f"/api/evenings/{running}/live").get_json()
    assert held["name"] in now["alone"]
    assert all(group in groups(coach, running) or len(group) == 2 for group in others)
    tap(coach, running, mark("back", pair, 101, of=knock["id"]))
    view = coach.get(f"/api/evenings/{running}").get_json()
    assert not next(one for one in view["people"] if one["student_id"] == pair[0])["off"]


def test_afterwards_it_is_said_what_was_seen_and_what_comes_next(
    engine: Engine, coach: Coach, running: str
) -> None:
    one, *others = groups(coach, running)
    with transaction(engine) as db:  # they came before it began
        earlier = Attendance.came_at - timedelta(minutes=10)
        db.execute(update(Attendance).values(came_at=earlier))
    tap(
        coach,
        running,
        mark("watched", one, 280, seconds=280),
        mark("through", one, 100),
        mark("fault", one, 110, student=one[0], words="elbow flares"),
        mark("note", one, 120, words="short of breath"),
        mark("slower", one, 150),
    )
    do(coach, running, act("end"))
    told = coach.get(f"/api/evenings/{running}/review").get_json()
    pairs = next(block for block in told["blocks"] if block["key"] == "pairs")
    (seen,) = pairs["pairs"]
    assert (seen["through"], seen["watched_s"], seen["pace"]) == (1, 280, 0.9)
    assert seen["exchanges"] > 8
    assert seen["notes"] == ["short of breath"]
    assert len(pairs["not_watched"]) == len(others)
    assert pairs["proposed"]
    assert "clean" in pairs["why"]
    assert pairs["lasted_min"] == pytest.approx(5, abs=0.2)
    warm = next(block for block in told["blocks"] if block["key"] == "warm")
    assert warm["lasted_min"] is None
    ada = next(person for person in told["people"] if person["student_id"] == one[0])
    assert ada["faults"] == ["elbow flares ×1"]
    assert ada["contact_min"] == pytest.approx(5, abs=0.2)
    assert len(ada["partners"]) == 1
    assert told["acts"][-1].endswith("ended the evening")


def test_what_cannot_be_is_refused_in_plain_words(coach: Coach, running: str) -> None:
    path = f"/api/evenings/{running}"
    gone = coach.post(f"{path}/acts", {"acts": [act("begin", block="nothing")]})
    assert gone.status_code == 422
    assert "no such block" in gone.get_json()["detail"]
    stranger = [str(uuid.uuid4()), str(uuid.uuid4())]
    assert coach.post(f"{path}/marks", {"marks": [mark("seen", stranger, 1)]}).status_code == 422
    assert coach.post(f"{path}/acts", {"acts": []}).status_code == 422
    assert coach.get(f"{path}/codes?origin=javascript:alert(1)").status_code == 422


def test_the_next_evening_is_planned_in_one_sweep(coach: Coach, running: str) -> None:
    one = groups(coach, running)[0][0]
    body = {
        "id": str(uuid.uuid4()),
        "blocks": [{"block": "pairs", "rungs": [2]}],
        "steps": [{"student_id": one, "readiness": "blocks"}],
    }
    made = coach.post(f"/api/evenings/{running}/next", body)
    assert made.status_code == 201
    plan_of_next = made.get_json()["plan"]
    assert plan_of_next["blocks"][1]["rungs"] == [2]
    this = coach.get(f"/api/evenings/{running}").get_json()
    days = datetime.fromisoformat(plan_of_next["starts_at"]) - datetime.fromisoformat(
        this["plan"]["starts_at"]
    )
    assert days == timedelta(days=7) or days.seconds in (3600, 23 * 3600)  # a change of clocks
    students_now = coach.get("/api/students").get_json()["students"]
    assert next(s for s in students_now if s["id"] == one)["readiness"] == "blocks"
    assert coach.post(f"/api/evenings/{running}/next", body).status_code == 200


def test_every_pair_has_a_sheet_of_its_own_on_paper(coach: Coach) -> None:
    evening = begin(coach, feeds="paper", rungs=[1, 2])
    told = coach.get(f"/api/evenings/{evening}/blocks/pairs/sheets").get_json()
    assert len(told["pairs"]) == 5
    live = coach.get(f"/api/evenings/{evening}/live").get_json()
    rounds = sum(stretch["kind"] == "work" for stretch in live["stretches"])
    orders = set()
    for pair in told["pairs"]:
        assert len(pair["rounds"]) == rounds
        assert {line["feeder"] for one in pair["rounds"] for line in one["lines"]} == set(
            pair["names"]
        )
        orders.add(str([line["calls"] for one in pair["rounds"] for line in one["lines"]]))
    assert len(orders) == 5
    chosen = begin(coach, feeds="own")
    assert coach.get(f"/api/evenings/{chosen}/blocks/pairs/sheets").status_code == 422


def test_the_log_is_found_by_person_drill_fault_date_and_words(coach: Coach, running: str) -> None:
    one, other, *_ = groups(coach, running)
    elbow = mark("fault", one, 10, student=one[0], words="elbow flares")
    tap(coach, running, elbow, mark("fault", one, 12, student=one[1], words="static guard"),
        mark("note", other, 20, words="short of breath"), mark("seen", other, 21))  # fmt: skip

    def said(**query: str) -> list[str]:
        log = coach.client.get("/api/class-log", query_string=query).get_json()
        return sorted(line["says"].split(" (")[0] for line in log["lines"])

    everything = ["elbow flares", "short of breath", "static guard"]
    assert said() == everything
    assert said(student_id=one[0]) == ["elbow flares", "static guard"]
    assert said(words="BREATH") == ["short of breath"]
    assert said(words="block pairs") == everything
    plan_now = coach.get(f"/api/evenings/{running}").get_json()["plan"]
    assert said(drill_id=plan_now["blocks"][1]["drill_id"]) == everything
    assert said(drill_id=str(uuid.uuid4())) == []
    later = (datetime.now(UTC) + timedelta(hours=1)).isoformat()
    assert said(since=later) == []
    assert said(until=later) == everything
    mine = coach.get(f"/api/class-log?student_id={one[0]}").get_json()
    assert mine["faults"] == [{"fault": "elbow flares", "times": 1}]
    tap(coach, running, mark("back", one, 11, of=elbow["id"]))
    assert said() == everything[1:]


def test_a_drilled_answer_turns_up_in_a_free_round(coach: Coach, running: str) -> None:
    """Of the chances that were tapped, by person in the log and by pair afterwards."""
    one, *_ = groups(coach, running)
    chances = [("carried_over", one[0]), ("carried_over", one[0]), ("chance_missed", one[0])]
    tap(
        coach,
        running,
        *(mark(kind, one, 10 + at, student=whose) for at, (kind, whose) in enumerate(chances)),
        mark("carried_over", one, 30, student=one[1]),
        mark("watched", one, 60, seconds=60),
    )
    mine = coach.get(f"/api/class-log?student_id={one[0]}").get_json()["carry_over"]
    assert (mine["used"], mine["of"]) == (2, 3)
    assert 0 < mine["interval"]["low"] < 2 / 3 < mine["interval"]["high"] < 1
    theirs = coach.get(f"/api/class-log?student_id={one[1]}").get_json()["carry_over"]
    assert (theirs["used"], theirs["of"], theirs["interval"]) == (1, 1, None)
    told = coach.get(f"/api/evenings/{running}/review").get_json()
    pairs = next(block for block in told["blocks"] if block["key"] == "pairs")
    assert [seen["carry_over"]["of"] for seen in pairs["pairs"]] == [4]


def test_who_looks_at_the_plan_again_is_told_nothing_until_it_changes(
    coach: Coach, running: str
) -> None:
    path = f"/api/evenings/{running}"
    for _ in range(3):  # it is told anew every ten seconds, and that may be just now
        tag = coach.get(path).headers["ETag"]
        again = coach.client.get(path, headers={"If-None-Match": tag})
        if again.status_code == 304:
            break
    assert (again.status_code, again.data) == (304, b"")
    come(coach, running, groups(coach, running)[0][0], no_touch=True)
    assert coach.client.get(path, headers={"If-None-Match": tag}).status_code == 200


def test_two_who_were_parted_in_mid_block_have_met(coach: Coach) -> None:
    body = block(drill_id=drill(coach, "touch and away"), minutes=10)
    evening: str = add(coach, plan(body, in_h=-0.2))["id"]
    for student in students(coach, 6):
        come(coach, evening, student)
    assert together(coach, evening).status_code == 200
    one, *_ = groups(coach, evening)
    do(coach, evening, act("begin", -60, block="pairs"))
    tap(coach, evening, mark("seen", one, 5))
    gone = coach.send("PATCH", f"/api/evenings/{evening}/people/{one[1]}", {"here": False})
    assert gone.status_code == 200
    edit = gone.get_json()["blocks"][0]["edit"]
    assert together(coach, evening, kept=[], base=edit).status_code == 200
    assert one not in groups(coach, evening)
    partners = coach.get(f"/api/class-log?student_id={one[0]}").get_json()["partners"]
    gone_name = coach.get(f"/api/students/{one[1]}").get_json()["student"]["name"]
    assert {"name": gone_name, "evenings": 1} in partners
