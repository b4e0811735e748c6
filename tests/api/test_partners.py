"""Partner runs through the API: who may start, marks once each and in any order, head knocks."""

from __future__ import annotations

import json
import uuid
from typing import Any

import pytest
from flask_openapi3 import OpenAPI
from sqlalchemy import Engine, text

from tests.harness.addresses import rows
from tests.harness.api_pair import Pair, pair, student
from tests.harness.coach import Coach, new_coach


def graded(number: int, grade: str, at_ms: float = 1000.0, round_: int = 1) -> dict[str, Any]:
    return {"kind": "graded", "at_ms": at_ms, "round": round_, "number": number, "grade": grade}


@pytest.fixture
def begun(coach: Coach) -> Pair:
    made = pair(coach)
    assert made.begin().status_code == 201
    return made


def test_a_pair_starts_is_marked_and_read(begun: Pair) -> None:
    assert begun.start().get_json()["refusals"] == []
    assert begun.begin().status_code == 200  # the same again is the same run
    begin = {"kind": "round_begun", "at_ms": 0, "round": 1}
    fault = {"kind": "tagged", "at_ms": 900, "round": 1, "number": 2, "fault": "hand not home"}
    assert begun.post(begin, graded(1, "countered"), graded(2, "struck"), fault).status_code == 200
    undo = {"kind": "undone", "at_ms": 4000}
    ended = begun.post(graded(3, "struck"), undo, graded(3, "covered"), last=True)
    assert ended.get_json() == {"next_batch": 2, "complete": True, "climb": None}
    read = begun.read()
    assert [each["grade"] for each in read["exchanges"]] == ["countered", "struck", "covered"]
    assert (read["reading"]["overall"]["clean"], read["reading"]["overall"]["graded"]) == (2, 3)
    assert read["reading"]["faults"] == [
        {"fault": "hand not home", "count": 1, "owner": "defender", "partners": [1, 0]}
    ]
    assert read["reading"]["next"]["kind"] == "hold"
    assert "too few" in read["reading"]["next"]["reason"]
    made = begun.coach.get(f"/api/partner-runs/{begun.id}").get_json()
    feeds = made["sheet"]["rounds"][0]["turns"][0]["feeds"]
    assert read["exchanges"][0]["path"] == [each["passage"] for each in feeds[0]["path"]]
    line = begun.coach.get("/api/partner-runs").get_json()["runs"][0]
    assert (line["id"], line["state"]) == (begun.id, "closed")
    # They attack in turn: the second exchange is defended by the first of the two.
    assert [(each["clean"], each["graded"]) for each in line["partners"]] == [(0, 1), (2, 2)]
    shelf = begun.coach.get("/api/library").get_json()["drills"]
    assert {each["runs"] for each in shelf if each["id"] == begun.drill_id} == {1}


def test_batches_come_once_each_in_any_order(engine: Engine, begun: Pair) -> None:
    first, second, third = graded(1, "struck"), graded(1, "covered"), graded(2, "evaded")
    address = f"/api/partner-runs/{begun.id}/batches"

    def post(number: int, *marks: dict[str, Any], **rest: Any) -> Any:
        body = {"recorder": begun.recorder, "number": number, "marks": list(marks), **rest}
        return begun.coach.post(address, body)

    assert post(2, third, last=True).get_json()["complete"] is False
    assert begun.read()["missing"] == [0, 1]
    assert post(0, first).get_json()["next_batch"] == 1
    before = rows(engine)
    assert post(0, first).get_json()["next_batch"] == 1  # the same again
    assert rows(engine) == before
    other = post(0, second)
    assert (other.status_code, other.get_json()["title"]) == (409, "Batch conflict")
    done = post(1, second).get_json()
    assert (done["next_batch"], done["complete"]) == (3, True)
    assert [each["grade"] for each in begun.read()["exchanges"]] == ["covered", "evaded"]
    stranger = begun.coach.post(address, {"recorder": str(uuid.uuid4()), "number": 3, "marks": []})
    assert (stranger.status_code, stranger.get_json()["title"]) == (409, "Recorded elsewhere")


def test_marks_that_were_kept_aside_take_the_place_of_their_emptied_batch(begun: Pair) -> None:
    address = f"/api/partner-runs/{begun.id}/batches"
    body = {"recorder": begun.recorder, "number": 0, "marks": []}
    begin = {"kind": "round_begun", "at_ms": 1000, "round": 1}
    full = {**body, "marks": [begin], "emptied": True}
    assert begun.coach.post(address, full).status_code == 422
    assert begun.coach.post(address, {**body, "emptied": True}).status_code == 200
    assert begun.read()["missing"] == [0]
    for _ in range(2):
        assert begun.coach.post(address, {**body, "marks": [begin]}).status_code == 200
    assert begun.read()["missing"] == []
    assert begun.coach.post(address, {**body, "emptied": True}).status_code == 409


def test_what_is_kept_of_a_closed_run_goes_when_marks_come_after_all(begun: Pair) -> None:
    address = f"/api/partner-runs/{begun.id}/batches"
    body = {"recorder": begun.recorder, "number": 0, "marks": []}
    assert begun.coach.post(address, {**body, "emptied": True}).status_code == 200
    begun.posted = 1
    assert begun.post(graded(2, "struck"), last=True).get_json()["complete"] is True
    for _ in range(2):  # read, and read again from what was kept
        assert [each["number"] for each in begun.read()["exchanges"]] == [2]
    line = begun.coach.get("/api/partner-runs").get_json()["runs"][0]
    assert [each["graded"] for each in line["partners"]] == [1, 0]
    assert begun.coach.post(address, {**body, "marks": [graded(1, "evaded")]}).status_code == 200
    read = begun.read()
    assert ([each["number"] for each in read["exchanges"]], read["missing"]) == ([1, 2], [])
    line = begun.coach.get("/api/partner-runs").get_json()["runs"][0]
    assert [each["graded"] for each in line["partners"]] == [1, 1]


def test_a_run_from_before_there_was_a_kept_state_goes_on(engine: Engine, coach: Coach) -> None:
    begun = pair(coach, "One hits, one guards")
    assert begun.begin(rung=3).status_code == 201
    begun.post(graded(1, "struck"), {"kind": "tempo_set", "at_ms": 2000, "bpm": 48, "by": "coach"})
    begun.post(graded(2, "evaded", 2500.0))
    with engine.begin() as connection:  # as the migration leaves it
        connection.execute(
            text("UPDATE mark_folds SET state = NULL, highest = -1, marks = 0 WHERE run_id = :id"),
            {"id": begun.id},
        )
    clean = [graded(number, "covered", 3000.0 + number) for number in range(3, 10)]
    assert begun.post(*clean).get_json() == {
        "next_batch": 3, "complete": False,
        "climb": {"bpm": 52.0, "reason": "8 clean in a row"},
    }  # fmt: skip


def test_two_of_one_name_are_two(coach: Coach) -> None:
    made = pair(coach)
    made.begin()
    made.post(graded(1, "struck"), graded(1, "evaded", round_=2), last=True)
    roles = made.read()["reading"]["roles"]
    assert [(role["name"], role["clean"], role["graded"]) for role in roles] == [
        ("Wren Abbot", 0, 1), ("Wren Abbot", 1, 1),
    ]  # fmt: skip


def test_a_rung_is_lowered_to_what_is_worn_tonight_and_stays_so(coach: Coach) -> None:
    """Its tempo, what the rule suggests, and what the mat shows; gear at home changes nothing."""
    made = pair(coach, "Turn about")
    agreed = {"contact": "light", "stop_word": "red", "worn": [[], ["gloves", "mouthguard"]]}
    view = made.start(rung=2, agreement=agreed).get_json()
    assert view["refusals"] == []
    assert [each["wears"] for each in view["brings"]] == [[], ["gloves", "mouthguard"]]
    assert view["brings"][0]["lacks"] == ["gloves", "mouthguard"]
    assert (view["comes_to"]["contact"], view["comes_to"]["fastest_bpm"]) == ("touch", 60)
    assert any(words.startswith("Bare hands") for words in view["cautions"])
    begun = made.begin(rung=2, agreement=agreed).get_json()
    assert begun["cautions"] == view["cautions"]
    assert begun["agreement"]["comes_to"] == "touch"
    assert begun["agreement"]["lowered"] == ["60 bpm at most: bare hands are slow"]
    assert begun["sheet"]["tempo_bpm"] == 60
    clean = [graded(number, "covered", 1000.0 * number) for number in range(1, 9)]
    assert made.post(*clean).get_json()["climb"] is None  # 60 is the end of it, not 140


def test_long_names_have_room_in_what_was_lowered(coach: Coach) -> None:
    names = "Annabella " * 11, "Benno-Maria " * 9
    made = pair(coach, "Both at once, ten times")
    made.partners = [student(coach, name=name.strip(), gear=[]) for name in names]
    begun = made.begin(rung=2, agreement={"contact": "firm", "stop_word": "red"})
    assert begun.status_code == 201
    said = " ".join(begun.get_json()["agreement"]["lowered"])
    assert all(name.strip() in said for name in names)


def test_no_touch_tonight_holds_for_every_pair_of_the_club(
    app: OpenAPI, engine: Engine, coach: Coach
) -> None:
    made, rival = pair(coach), new_coach(app, engine)
    assert coach.get("/api/room").get_json() == {"no_touch": False}
    assert coach.send("PUT", "/api/room", {"no_touch": True}).status_code == 200
    comes_to = made.start().get_json()["comes_to"]
    assert (comes_to["planned"], comes_to["contact"]) == ("touch", "none")
    assert comes_to["lowered"] == ["touch becomes no contact: no touch tonight, in the whole room"]
    assert rival.get("/api/room").get_json() == {"no_touch": False}
    coach.send("PUT", "/api/room", {"no_touch": False})
    assert made.start().get_json()["comes_to"]["contact"] == "touch"


def test_each_run_has_an_order_of_its_own_unless_one_is_asked_for(coach: Coach) -> None:
    """Fifty runs, no two feed sheets alike."""
    sheets = set()
    for _ in range(50):
        made = pair(coach, "One hits, one guards")
        rounds = made.begin(rung=2, seed=None).get_json()["sheet"]["rounds"]
        sheets.add(json.dumps(rounds))
    assert len(sheets) == 50
    same = [pair(coach).begin(seed=7).get_json()["sheet"] for _ in range(2)]
    assert same[0] == same[1]


def test_who_may_not_start_is_told_why_and_nothing_is_kept(engine: Engine, coach: Coach) -> None:
    made = pair(coach)
    bare = student(coach, gear=[])
    loop = pair(coach, "Loop of the arms").drill_id
    untouched = {"contact": "none", "stop_word": "red"}
    refused = {
        "felt": ({"drill_id": loop, "rung": 1, "agreement": untouched}, "rung"),
        "alone": ({"partners": made.partners[:1]}, "partners"),
        "three": ({"partners": [*made.partners, bare]}, "partners"),
    }
    before = rows(engine)
    for changes, where in refused.values():
        found = made.start(**changes).get_json()["refusals"]
        assert where in [each["where"] for each in found]
        answer = made.begin(**changes)
        assert (answer.status_code, answer.get_json()["title"]) == (422, "Not started")
        assert where in [each["where"] for each in answer.get_json()["faults"]]
    for changes in (
        {"partners": [made.partners[0]] * 2},
        {"rung": 19},
        {"agreement": {"contact": "touch", "stop_word": ""}},
        {"drill_id": coach.drill_id},
    ):
        assert made.begin(**changes).status_code == 422
    assert made.begin(drill_id=str(uuid.uuid4())).status_code == 404
    assert made.begin(partners=[made.partners[0], str(uuid.uuid4())]).status_code == 404
    assert rows(engine) == before


def test_a_ring_of_three(coach: Coach) -> None:
    ring = pair(coach, "Light, neutral, heavy", people=3)
    for partner in ring.partners:
        body = {"name": "Wren Abbot", "gear": ["gloves", "mouthguard", "belly_pad"]}
        assert coach.send("PUT", f"/api/students/{partner}", body).status_code == 200
    view = ring.begin(rung=1).get_json()
    turns = [turn for each in view["sheet"]["rounds"] for turn in each["turns"]]
    roles = {(turn["feeder"], turn["defender"], turn["out"]) for turn in turns}
    assert roles == {(0, 1, 2), (1, 2, 0), (2, 0, 1)}


def test_a_head_knock_stops_and_holds_until_it_is_cleared(engine: Engine, begun: Pair) -> None:
    """Off at once, nothing on the same day whoever clears it, then no contact work until a medical
    clearance is written down (C26: consensus statement on concussion in sport, Amsterdam 2022,
    from memory). Who cleared it, and when, stays to be read."""
    coach, knocked = begun.coach, begun.partners[1]
    address = f"/api/students/{knocked}"
    assert coach.get(f"{address}/head-knock").get_json()["hold"] is None
    begun.post(graded(1, "struck"), {"kind": "head_knock", "at_ms": 2000, "partner": 1})
    again = Pair(coach, begun.drill_id, begun.partners)
    refused = again.begin()
    assert refused.status_code == 422
    assert "head knock" in refused.get_json()["detail"]
    for words in ("", "  ", "x"):
        assert coach.post(f"{address}/clearance", {"words": words}).status_code == 422
    words = "Dr. Amsel, 2 December, on paper"
    hold = coach.post(f"{address}/clearance", {"words": words}).get_json()["hold"]
    assert hold["cleared"] is True
    assert hold["off_until"] is not None
    assert "also with a clearance" in again.begin().get_json()["detail"]
    listed = coach.get("/api/students").get_json()["students"]
    assert [each["id"] for each in listed if each["hold"]] == [knocked]
    with engine.begin() as connection:
        connection.execute(text("UPDATE head_knocks SET at = at - interval '25 hours'"))
    assert coach.get(f"{address}/head-knock").get_json()["hold"] is None
    assert again.begin().status_code == 201
    (logged,) = coach.get("/api/head-knocks").get_json()["head_knocks"]
    assert (logged["clearance"], logged["student"]) == (words, "Wren Abbot")
    assert logged["cleared_by"]
    assert logged["cleared_at"]
    assert coach.post(f"/api/students/{begun.partners[0]}/head-knock").status_code == 201
    assert Pair(coach, begun.drill_id, begun.partners).begin().status_code == 422


def test_a_head_knock_by_mistake_is_taken_back_at_once_or_not_at_all(
    engine: Engine, begun: Pair
) -> None:
    coach, student_id = begun.coach, begun.partners[0]
    address = f"/api/students/{student_id}/head-knock"
    assert coach.send("DELETE", address).status_code == 409  # there is none
    assert coach.post(address).get_json()["slip"] is True
    free = {"hold": None, "slip": False, "head_knocks": []}
    assert coach.send("DELETE", address).get_json() == free
    begun.post({"kind": "head_knock", "at_ms": 2000, "partner": 0})
    assert coach.get(address).get_json()["hold"] is not None
    begun.post({"kind": "knock_taken_back", "at_ms": 4000, "partner": 0})
    assert coach.get(address).get_json()["hold"] is None
    coach.post(address)
    with engine.begin() as connection:
        connection.execute(text("UPDATE head_knocks SET at = at - interval '6 minutes'"))
    late = coach.send("DELETE", address)
    assert (late.status_code, late.get_json()["title"]) == (409, "Not taken back")
    assert coach.get(address).get_json()["hold"] is not None


def knock(begun: Pair, at_ms: float, partner: int = 1, **rest: Any) -> Any:
    told = {"kind": "head_knock", "at_ms": at_ms, "partner": partner}
    body = {"recorder": begun.recorder, "knock": told, **rest}
    return begun.coach.post(f"/api/partner-runs/{begun.id}/head-knocks", body)


def standing(begun: Pair) -> int:
    """How many head knocks of the second partner stand."""
    answer = begun.coach.get(f"/api/students/{begun.partners[1]}/head-knock").get_json()
    return len(answer["head_knocks"])


def test_a_head_knock_is_told_at_once_whatever_marks_still_wait(begun: Pair) -> None:
    """Ahead of its mark, any number of times; the mark that comes later is the same one."""
    assert knock(begun, 900).get_json() == {"hold": True}
    assert knock(begun, 900).get_json() == {"hold": True}
    begun.post({"kind": "head_knock", "at_ms": 900, "partner": 1})
    assert standing(begun) == 1
    assert knock(begun, 900, recorder=str(uuid.uuid4())).status_code == 409
    assert knock(begun, 900, partner=7).status_code == 422


def test_marks_that_come_late_take_no_other_head_knock_back(begun: Pair) -> None:
    """A slip and a real one were told at once; the marks of both come after that."""
    knock(begun, 900)
    knock(begun, 900, taken_back=True)
    assert standing(begun) == 0
    knock(begun, 2400)
    begun.post(
        {"kind": "head_knock", "at_ms": 900, "partner": 1},
        {"kind": "knock_taken_back", "at_ms": 1500, "partner": 1},
        {"kind": "head_knock", "at_ms": 2400, "partner": 1},
    )
    assert standing(begun) == 1


def test_a_page_that_was_open_for_months_loses_nothing(begun: Pair) -> None:
    days_90 = 90 * 86_400_000.0
    assert begun.post({"kind": "paused", "at_ms": days_90}).status_code == 200


def test_where_the_round_stands_is_told_to_other_devices(engine: Engine, begun: Pair) -> None:
    """It runs on by itself at the tempo that is on, and stands still in a pause."""
    coach, address = begun.coach, f"/api/partner-runs/{begun.id}/stands"
    assert coach.get(address).get_json() == {"stands": None}
    sheet_bpm = coach.get(f"/api/partner-runs/{begun.id}").get_json()["sheet"]["tempo_bpm"]
    on = {"recorder": begun.recorder, "phase": "round", "round": 1, "sheet_s": 4.0}

    def later(**changes: Any) -> float:
        """Where it stands ten seconds after this was said."""
        assert coach.send("PUT", address, {**on, **changes}).status_code == 200
        with engine.begin() as connection:
            connection.execute(
                text("UPDATE partner_runs SET stands_at = stands_at - interval '10 seconds'")
            )
        return float(coach.get(address).get_json()["stands"]["sheet_s"])

    assert later(bpm=sheet_bpm) == pytest.approx(14, abs=0.5)
    assert later(bpm=2 * sheet_bpm) == pytest.approx(24, abs=1.0)
    assert later(phase="paused") == 4.0
    other = coach.send("PUT", address, {**on, "recorder": str(uuid.uuid4())})
    assert (other.status_code, other.get_json()["title"]) == (409, "Recorded elsewhere")
    for wrong in ({"phase": "asleep"}, {"round": 0}, {"sheet_s": -1}, {"bpm": 900}):
        assert coach.send("PUT", address, {**on, **wrong}).status_code == 422


def timed_marks(view: dict[str, Any], had_s: float) -> list[dict[str, Any]]:
    """Pads on rounds of one attack an exchange: home left `had_s` before it lands; all kept out."""
    sheet = view["sheet"]
    marks: list[dict[str, Any]] = []
    for round_ in sheet["rounds"]:
        began_ms = 300_000.0 * round_["number"]
        marks.append({"kind": "round_begun", "at_ms": began_ms, "round": round_["number"]})
        for turn, feed in [(each, feed) for each in round_["turns"] for feed in each["feeds"]]:
            first = view["strikes"][feed["path"][0]["passage"]][0]
            at_ms = began_ms + 1000 * (feed["at_s"] + (first["beat"] - 1) * sheet["beat_s"])
            by_pad = {"source": "pad", "partner": turn["feeder"]}
            marks += [
                {"kind": "set_off", "at_ms": at_ms - 1000 * had_s, **by_pad},
                {"kind": "strike", "at_ms": at_ms, **by_pad},
                graded(feed["number"], "covered", at_ms + 600, round_["number"]),
            ]
    return marks


def test_partner_rounds_give_the_feed_pace_and_the_students_page(coach: Coach) -> None:
    """Until there are enough of them the pace is from solo drills or the rule; then from these."""
    made = pair(coach, "One hits, one guards")
    view = made.begin(rung=1).get_json()
    defender = made.partners[1]
    asked = {"drill_id": made.drill_id, "feeder_id": made.partners[0], "defender_id": defender}

    def sources() -> set[str]:
        budgets = coach.post("/api/partner-bench", asked).get_json()["sheet"]["budgets"]
        return {budget["pace"]["source"] for budget in budgets}

    assert sources() == {"rule"}
    few = timed_marks(view, 0.55)[:24]
    assert made.post(*few, last=True).status_code == 200
    assert sources() == {"rule"}  # too few of each to say
    again = Pair(coach, made.drill_id, made.partners)
    again.begin(rung=1)
    assert again.post(*timed_marks(view, 0.55)[:450]).status_code == 200
    assert sources() == {"rule"}  # it is not closed yet
    assert again.post(last=True).get_json()["complete"] is True
    assert "partner" in sources()
    page = coach.get(f"/api/students/{defender}/defended").get_json()
    me = next(each for each in page["runs"][0]["partners"] if each["id"] == defender)
    assert me["clean"] == me["graded"] > 0
    assert me["interval"]["low"] > 0.5
    enough = [each for each in page["answers"] if each["need"] is not None]
    assert enough
    assert all(each["need"]["low_s"] < 0.55 < each["need"]["feed_s"] + 0.1 for each in enough)
    assert all(each["alone_s"] is None for each in enough)
    stranger = coach.get(f"/api/students/{made.partners[0]}/defended").get_json()
    assert [each["id"] for each in stranger["runs"]] == [again.id, made.id]


def test_the_rule_suggests_a_tempo(coach: Coach) -> None:
    made = pair(coach, "One hits, one guards")
    assert made.begin(rung=3).status_code == 201
    clean = [graded(number, "covered") for number in range(1, 9)]
    assert made.post(*clean[:7]).get_json()["climb"] is None
    up = made.post(clean[7]).get_json()["climb"]
    assert up == {"bpm": 48.0, "reason": "8 clean in a row"}
    tempo = {"kind": "tempo_set", "at_ms": 2000, "bpm": 48, "by": "rule"}
    later = [graded(number, "struck", 3000) for number in (9, 10)]
    assert made.post(tempo, *later).get_json()["climb"]["bpm"] == 44


def test_strikes_tell_the_rhythm_of_a_round(begun: Pair) -> None:
    beat_ms = 60_000 / 66
    strikes = [
        {"kind": "strike", "at_ms": 20 + beat_ms * beat, "source": "microphone"}
        for beat in range(60)
    ]
    begun.post({"kind": "round_begun", "at_ms": 0, "round": 1}, *strikes)
    found = begun.read()["rhythms"]
    assert [each["round"] for each in found] == [1]
    assert 60 / found[0]["rhythm"]["beat_s"] == pytest.approx(66, abs=0.1)
    assert found[0]["rhythm"]["ran_ahead"] is None
    assert found[0]["asked_bpm"] == 66


@pytest.mark.parametrize(
    "mark",
    [
        {"kind": "graded", "at_ms": 1, "round": 1, "number": 1, "grade": "lovely"},
        {"kind": "graded", "at_ms": -1, "round": 1, "number": 1, "grade": "struck"},
        {"kind": "tempo_set", "at_ms": 1, "bpm": 0, "by": "coach"},
        {"kind": "tempo_set", "at_ms": 1, "bpm": 900, "by": "coach"},
        {"kind": "head_knock", "at_ms": 1, "partner": 7},
        {"kind": "applause", "at_ms": 1},
    ],
)
def test_marks_that_are_none_are_refused(begun: Pair, mark: dict[str, Any]) -> None:
    answer = begun.post(mark)
    assert answer.status_code == 422
    assert answer.get_json()["faults"][0]["where"].startswith("marks.0")
    assert begun.read()["exchanges"] == []


def test_each_goes_on_at_the_pace_they_had_come_to(coach: Coach) -> None:
    """The pace is kept for a drill and a rung, whoever it is done with, and whatever role comes
    first; a run that is still open says nothing."""
    made = pair(coach, "One hits, one guards")
    first = made.begin(rung=3).get_json()["sheet"]
    assert first["paces"] == [first["tempo_bpm"]] * 2
    turns = first["rounds"][0]["turns"]
    assert all(turn["spare"] for turn in turns)
    assert [turn["lasts_s"] for turn in turns[:2]] == [20, 20]
    begun = [
        {"kind": "round_begun", "at_ms": 0, "round": 1},
        {"kind": "turn_begun", "at_ms": 0, "round": 1, "sheet_s": 0, "defender": 1},
        {"kind": "tempo_set", "at_ms": 9000, "bpm": 52, "by": "rule", "partner": 1},
        {"kind": "tempo_set", "at_ms": 21000, "bpm": 40, "by": "coach", "partner": 0},
    ]
    made.post(*begun)
    ada, bo = made.partners
    again = Pair(coach, made.drill_id, [bo, student(coach), ada][::2])
    assert again.begin(rung=3).get_json()["sheet"]["paces"] == [44, 44]
    made.post(last=True)
    last = Pair(coach, made.drill_id, [bo, ada])
    assert last.begin(rung=3).get_json()["sheet"]["paces"] == [52, 40]
    other = Pair(coach, made.drill_id, [bo, student(coach)])
    assert other.begin(rung=3).get_json()["sheet"]["paces"] == [52, 44]
    assert Pair(coach, made.drill_id, [bo, ada]).begin(rung=1).get_json()["sheet"]["paces"] == [
        36,
        36,
    ]


def test_watched_exchanges_count_and_the_rule_hears_of_them(coach: Coach) -> None:
    made = pair(coach, "One hits, one guards")
    view = made.begin(rung=3).get_json()
    sheet = view["sheet"]
    turn = sheet["rounds"][0]["turns"][0]
    made.post(
        {"kind": "round_begun", "at_ms": 0, "round": 1},
        {"kind": "turn_begun", "at_ms": 0, "round": 1, "sheet_s": 0, "defender": 1},
        {"kind": "watch_begun", "at_ms": 0, "round": 1},
    )
    over = made.post({"kind": "watch_over", "at_ms": 20_000, "round": 1, "by": "time"})
    assert over.get_json()["climb"] == {"bpm": 48, "reason": "8 clean in a row"}
    made.post(
        {"kind": "watch_over", "at_ms": 99_000, "round": 1, "by": "tap"},
        {"kind": "round_over", "at_ms": 90_000, "round": 1},
        last=True,
    )
    read = made.read()
    assert read["reading"]["watched"] | {"fed": 0} == {
        "exchanges": len(turn["feeds"]), "not_clean": 0, "left_on_s": 0, "fed": 0,
    }  # fmt: skip
    line = coach.get("/api/partner-runs").get_json()["runs"][0]
    assert [each["watched"] for each in line["partners"]] == [0, len(turn["feeds"])]
    assert read["run"]["grades"] == ["struck", "covered", "deflected"]
    assert len(view["expected"][0]) == sum(
        len(turn["feeds"]) + len(turn["spare"]) for turn in sheet["rounds"][0]["turns"]
    )
    assert 0.5 < view["attacks_a_beat"] < 1


def test_a_fault_has_an_owner_the_trades_or_the_clubs(coach: Coach) -> None:
    known = coach.get("/api/catalogue").get_json()["faults"]
    assert {"name": "pushes through", "owner": "feeder", "own": False} in known
    late = {"name": "late step", "owner": "defender"}
    kept = coach.send("PUT", "/api/catalogue/faults", {"faults": [late]}).get_json()["faults"]
    assert kept == [*known, {**late, "own": True}]
    for wrong, where in (
        ([late, late], "faults.1.name"),
        ([{"name": "pushes through", "owner": "feeder"}], "faults.0.name"),
        ([{"name": "late step"}], "faults.0.owner"),
        ([{"name": "late step", "owner": "nobody"}], "faults.0.owner"),
    ):
        refused = coach.send("PUT", "/api/catalogue/faults", {"faults": wrong})
        assert refused.status_code == 422
        assert where in json.dumps(refused.get_json())
    assert coach.get("/api/catalogue").get_json()["faults"] == kept


def test_carry_over_is_a_share_of_the_chances_over_the_weeks(coach: Coach) -> None:
    made = pair(coach)
    made.begin()
    free = {"at_ms": 9e4, "round": 4, "partner": 1, "answer": "parry"}
    missed, used = {"kind": "chance_missed", **free}, {"kind": "carried_over", **free}
    begun = {"kind": "free_begun", "at_ms": 8e4, "lasts_s": 60}
    over = {"kind": "free_over", "at_ms": 1.4e5, "by": "time"}
    undone = {"kind": "undone", "at_ms": 9e4}
    made.post(begun, used, missed, missed, undone, used, used, over, last=True)
    read = made.read()
    assert read["free_s"] == 60
    nobody, (parry,) = read["carry_over"]
    assert nobody == []
    assert (parry["name"], parry["used"], parry["of"]) == ("parry", 3, 4)
    again = Pair(coach, made.drill_id, made.partners[::-1])
    again.begin()
    nobody = {**missed, "partner": 2}  # of two
    again.post({**used, "partner": 0}, {**missed, "partner": 0}, nobody, last=True)
    defended = coach.get(f"/api/students/{made.partners[1]}/defended").get_json()
    share, (by_answer,) = defended["carry_over"], defended["by_answer"]
    assert (share["used"], share["of"]) == (4, 6)
    assert (by_answer["name"], by_answer["of"]) == ("parry", 6)
    assert share["interval"]["low"] < 4 / 6 < share["interval"]["high"]
    other = coach.get(f"/api/students/{made.partners[0]}/defended").get_json()
    assert other["carry_over"] is None


def test_marks_of_an_unknown_kind_are_named_and_nothing_is_lost(coach: Coach) -> None:
    made = pair(coach)
    made.begin()
    graded = {"kind": "graded", "at_ms": 9e3, "round": 1, "number": 1, "grade": "covered"}
    refused = made.post(graded, {"kind": "danced", "at_ms": 1e4})
    assert refused.status_code == 422
    assert "marks.1" in json.dumps(refused.get_json()["faults"])
    assert made.post(graded, last=True).get_json()["complete"]
    assert [each["grade"] for each in made.read()["exchanges"]] == ["covered"]
