"""Partner drills through the API: pairs, what cannot be done, and both forms in one library."""

from __future__ import annotations

import copy
import csv
import io
import uuid
from collections.abc import Callable
from typing import Any

import numpy as np
import pytest
import soundfile

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.starter.partner import PARTNER_STARTERS
from tests.harness.coach import Coach

TWO_BEATS: dict[str, Any] = PARTNER_STARTERS["two-beat counter"]().model_dump(mode="json")


def drawn(coach: Coach, document: Any = TWO_BEATS, **rest: Any) -> dict[str, Any]:
    answer = coach.post("/api/partner-bench", {"document": document, **rest})
    assert answer.status_code == 200, answer.get_data(as_text=True)
    found: dict[str, Any] = answer.get_json()
    return found


def student(coach: Coach, **rest: Any) -> str:
    made = coach.post("/api/students", {"name": "Wren Abbot", **rest})
    assert made.status_code == 201
    return str(made.get_json()["id"])


def kept(coach: Coach, document: Any = TWO_BEATS) -> str:
    new = str(uuid.uuid4())
    assert coach.post("/api/drills", {"id": new, "document": document}).status_code == 201
    return new


def test_reach_follows_the_pair(coach: Coach) -> None:
    tall = student(coach, body={"height_m": 1.92, "arm_m": None, "leg_m": None})
    small = student(coach, body={"height_m": 1.55, "arm_m": 0.66, "leg_m": 0.86})
    nobody = drawn(coach)["sheet"]
    pair = drawn(coach, feeder_id=tall, defender_id=small)
    assert pair["sheet"]["safe_gap_m"] > nobody["safe_gap_m"]
    assert pair["sheet"]["start_m"] < nobody["start_m"]  # where the shorter of the two reaches
    reaches = pair["sheet"]["reaches"]
    assert all(reaches[0][limb] > reaches[1][limb] for limb in ("elbow_m", "fist_m", "foot_m"))
    assert reaches[0]["elbow_m"] < reaches[0]["fist_m"] < reaches[0]["shin_m"]
    assert max(reach["foot_m"] for reach in reaches) == pytest.approx(
        pair["sheet"]["safe_gap_m"], abs=1e-3
    )
    assert [each["reach_from"] for each in pair["people"]] == ["estimated from height", "measured"]
    assert pair["sheet"]["budgets"][0]["pace"]["source"] == "rule"


def test_mirrored_stances_turn_the_defender_about(coach: Coach) -> None:
    left, right = student(coach), student(coach, stance="right_lead")
    same = drawn(coach, feeder_id=left, defender_id=coach.student_id)
    turned = drawn(coach, feeder_id=left, defender_id=right)
    assert (same["mirrored"], turned["mirrored"]) == (False, True)
    for before, after, step in zip(
        same["passages"][0]["steps"],
        turned["passages"][0]["steps"],
        TWO_BEATS["passages"][0]["steps"],
        strict=True,
    ):
        assert (before["side"] == after["side"]) == (step["lane"] == "feeder")
    assert turned["findings"] == same["findings"] == []


def test_solo_times_are_a_first_guess(coach: Coach) -> None:
    """What the student answered in the solo drill is taken, and said to be a guess."""
    for batch in coach.batches:
        assert coach.post_batch(batch).status_code == 200
    document = copy.deepcopy(TWO_BEATS)
    document["passages"][0]["steps"][2].update(technique="high_block")
    other = student(coach)
    found = drawn(coach, document, feeder_id=other, defender_id=coach.student_id)
    budgets = {each["step"]: each for each in found["sheet"]["budgets"]
               if each["passage"] == "pair"}  # fmt: skip
    assert budgets[0]["pace"]["source"] == "solo"
    assert "a first guess" in budgets[0]["rests_on"]
    assert budgets[0]["pace"]["answers"] >= 8
    assert budgets[1]["pace"]["source"] == "rule"


def test_nobody_is_told_apart_from_a_student_without_a_height(coach: Coach) -> None:
    plain = student(coach)
    found = drawn(coach, feeder_id=plain)["people"]
    assert [(each["name"], each["known"]) for each in found] == [
        ("Wren Abbot", False), (None, False),
    ]  # fmt: skip
    assert found[0]["reach_from"] == "no height kept: usual lengths are taken"


def test_a_pair_of_one(coach: Coach) -> None:
    ids = {"feeder_id": coach.student_id, "defender_id": coach.student_id}
    answer = coach.post("/api/partner-bench", {"document": TWO_BEATS, **ids})
    assert answer.status_code == 422
    assert "nobody works with themselves" in answer.get_json()["detail"]


def test_another_clubs_student_is_not_found(two_coaches: tuple[Coach, Coach]) -> None:
    theirs, mine = two_coaches
    for role in ("feeder_id", "defender_id"):
        answer = mine.post("/api/partner-bench", {"document": TWO_BEATS, role: theirs.student_id})
        assert answer.status_code == 404


Change = Callable[[dict[str, Any]], Any]
STOPPED: dict[str, tuple[Change, str]] = {
    "no feeder step": (
        lambda d: d["passages"][0].update(
            steps=[s for s in d["passages"][0]["steps"] if s["lane"] == "defender"]
        ),
        "passages.0.steps",
    ),
    "shares of zero": (
        lambda d: d["passages"][0].update(then=[{"gives": "goes_on", "share": 0, "to": None}]),
        "passages.0.then",
    ),
    "round for ever": (
        lambda d: d["passages"][0].update(then=[{"gives": "goes_on", "share": 1, "to": "pair"}]),
        "passages.0.then",
    ),
    "contact above the gear": (
        lambda d: (
            d["place"].update(gear=[]),
            d["rungs"][0].update(contact="light"),
            d["passages"][0]["steps"][0].update(contact="light"),
        ),
        "passages.0.steps.0.contact",
    ),
}


@pytest.mark.parametrize("name", STOPPED)
def test_what_cannot_be_done_says_where_and_is_not_kept(coach: Coach, name: str) -> None:
    change, where = STOPPED[name]
    document = copy.deepcopy(TWO_BEATS)
    change(document)
    found = drawn(coach, document)["findings"]
    assert where in [each["where"] for each in found if each["level"] == "stop"]
    answer = coach.post("/api/drills", {"id": str(uuid.uuid4()), "document": document})
    assert answer.status_code == 422
    assert f"document.{where}" in [each["where"] for each in answer.get_json()["faults"]]
    # Nothing is changed silently: the document that was sent is the one that is judged.
    assert document != TWO_BEATS


@pytest.mark.parametrize(
    ("change", "where"),
    [
        (lambda d: d["rungs"][0].update(tempo_bpm=0), "rungs.0.tempo_bpm"),
        (lambda d: d["rungs"][1].update(tempo_bpm=900), "rungs.1.tempo_bpm"),
        (lambda d: d["passages"][0]["steps"][0].update(beat=1.3), "passages.0.steps.0.beat"),
        (lambda d: d["passages"][0]["steps"][0].update(lane="third"), "passages.0.steps.0.lane"),
        (lambda d: d.update(passages=[]), "passages"),
        (lambda d: d["place"].update(people=1), "place.people"),
        (lambda d: d.update(colour="red"), "colour"),
    ],
)
def test_what_cannot_be_read_says_where(coach: Coach, change: Change, where: str) -> None:
    document = copy.deepcopy(TWO_BEATS)
    change(document)
    found = drawn(coach, document)
    assert where in [each["where"] for each in found["findings"]]
    assert found["sheet"] is None
    answer = coach.post("/api/drills", {"id": str(uuid.uuid4()), "document": document})
    assert answer.status_code == 422
    assert f"document.{where}" in [each["where"] for each in answer.get_json()["faults"]]


def test_one_library_for_both(coach: Coach) -> None:
    drill_id = kept(coach)
    line = next(each for each in coach.get("/api/library").get_json()["drills"]
                if each["id"] == drill_id)  # fmt: skip
    assert (line["form"], line["people"]) == ("partner", 2)
    view = coach.get(f"/api/drills/{drill_id}").get_json()
    assert PartnerDrill.model_validate(view["document"]).model_dump(mode="json") == TWO_BEATS
    assert any("stop word" in each for each in view["cautions"])
    newer = {**TWO_BEATS, "title": "Two beats, our way"}
    changed = coach.post(f"/api/drills/{drill_id}/versions", {"base": 1, "document": newer})
    assert (changed.status_code, changed.get_json()["version"]) == (201, 2)
    stale = coach.post(f"/api/drills/{drill_id}/versions", {"base": 1, "document": newer})
    assert stale.status_code == 409
    file = coach.get(f"/api/drills/{drill_id}/versions/2/drill.json").get_json()
    brought = coach.post(f"/api/drills/{uuid.uuid4()}/file", file)
    assert brought.get_json()["document"] == newer


def test_a_card_says_where_the_other_foot_has_come_to_the_front(coach: Coach) -> None:
    """Three kicks, three ways back: the first and the last answer change the lead, D31."""
    document = PARTNER_STARTERS["three kicks back"]().model_dump(mode="json")
    card = coach.get(f"/api/drills/{kept(coach, document)}/versions/1/feeder-card").get_json()
    met = {
        line["key"]: done["turned"]
        for line in card["lines"]
        for done in line["done"]
        if done["technique"] == "calf_meet"
    }
    assert met == {"in_place": True, "stepping": False, "spinning": True}


def test_a_partner_drill_is_a_track_for_the_feeders_ear(coach: Coach) -> None:
    """In whole, for each of two, in each format; a rung or a student that there is not is said."""
    drill_id = kept(coach)
    path = f"/api/drills/{drill_id}/versions/1/track"
    lists = [
        list(csv.DictReader(io.StringIO(coach.get(f"{path}.csv?{query}").get_data(as_text=True))))
        for query in ("minutes=2", "minutes=2&partner=0", "minutes=2&partner=1")
    ]
    whole, one, other = ([row["at_s"] for row in rows if row["kind"] == "cue"] for rows in lists)
    assert whole == sorted(one + other, key=float)
    assert {"ahead", "beat"} <= {row["kind"] for row in lists[0]}
    captions = coach.get(f"{path}.vtt?minutes=2").get_data(as_text=True)
    assert captions.count("-->") == len(whole) > 0
    assert coach.get(f"{path}.mid?minutes=0.5").get_data()[:4] == b"MThd"
    wav = coach.get(f"{path}.wav?minutes=0.5").get_data()
    read, _ = soundfile.read(io.BytesIO(wav))
    assert np.abs(read).max() > 0.1
    no_rung = coach.get(f"{path}.csv?rung=19")
    assert (no_rung.status_code, "no rung 19" in no_rung.get_json()["detail"]) == (422, True)
    assert coach.get(f"{path}.csv?feeder_id={uuid.uuid4()}").status_code == 404


def test_a_partner_drill_is_not_run_alone_but_makes_a_solo_one(coach: Coach) -> None:
    drill_id = kept(coach)
    for answer in (
        coach.begin(drill_id=drill_id),
        coach.post("/api/plans", {"drill_id": drill_id, "seed": 1}),
    ):
        assert answer.status_code == 422
        assert "partner drill" in answer.get_json()["detail"]
    alone = coach.get(f"/api/drills/{drill_id}/versions/1/alone").get_json()["document"]
    assert alone["form"] == "solo"
    assert coach.post(
        "/api/drills", {"id": str(uuid.uuid4()), "document": alone}
    ).status_code == 201  # fmt: skip
    solo = coach.get(f"/api/drills/{coach.drill_id}/versions/1/alone")
    assert (solo.status_code, solo.get_json()["title"]) == (422, "Another kind of drill")
    silent = copy.deepcopy(TWO_BEATS)
    for passage in silent["passages"]:
        passage["steps"] = [step for step in passage["steps"] if step["lane"] == "feeder"]
    nothing = coach.get(f"/api/drills/{kept(coach, silent)}/versions/1/alone")
    assert (nothing.status_code, nothing.get_json()["title"]) == (422, "Cannot be done alone")


def test_the_feed_sheet_comes_when_it_is_asked_for(coach: Coach) -> None:
    assert drawn(coach)["feeds"] is None
    asked = drawn(coach, seed=7, rung=4, feeds=True)["feeds"]
    assert asked == drawn(coach, seed=7, rung=4, feeds=True)["feeds"]
    assert asked != drawn(coach, seed=8, rung=4, feeds=True)["feeds"]
    assert coach.post("/api/partner-bench", {"document": TWO_BEATS, "rung": 9}).status_code == 422


def test_the_pad_holders_card(coach: Coach) -> None:
    """Where the pads are follows from the feet: a step in later needs them no nearer."""
    kicks = PARTNER_STARTERS["kick pairs with footwork"]().model_dump(mode="json")
    pads = drawn(coach, kicks)["pads"]
    with_pad = [(passage["key"], place) for passage in kicks["passages"]
                for place, step in enumerate(passage["steps"]) if step["pad"]]  # fmt: skip
    assert sorted((pad["passage"], pad["step"]) for pad in pads) == sorted(with_pad)
    first = next(pad for pad in pads if pad["passage"] == "front_hook_in")
    assert (first["height"], first["angle_deg"], first["gives"]) == ("body", 0, False)
    kicks["passages"][1]["steps"][3]["footwork"] = "hold"  # the holder has gone back
    found = drawn(coach, kicks)
    short = next(each for each in found["findings"] if each["check"] == "reach")
    assert (short["passage"], short["step"]) == ("front_hook_chase", 3)
    assert "nearer" in short["mend"]["label"]
    nearer = short["mend"]["changes"][0]
    assert nearer["path"] == "passages.1.steps.3.pad.ahead_m"
    kicks["passages"][1]["steps"][3]["pad"]["ahead_m"] = nearer["value"]
    assert drawn(coach, kicks)["findings"] == []
    assert drawn(coach)["pads"] == []


def test_what_is_known_of_a_student_is_kept(coach: Coach) -> None:
    said = {
        "name": "Wren Abbot",
        "stance": "right_lead",
        "notes": "",
        "body": {"height_m": 1.7, "arm_m": 0.65, "leg_m": None},
        "gear": ["gloves", "shin_guards"],
        "contact": "light",
    }
    made = coach.post("/api/students", said).get_json()
    assert {key: made[key] for key in said} == said
    changed = coach.send("PUT", f"/api/students/{made['id']}", {**said, "gear": []}).get_json()
    assert changed["gear"] == []
    for wrong in (
        {"body": {"height_m": 0}},
        {"body": {"height_m": 17.0}},
        {"gear": ["sword"]},
        {"contact": "full"},
    ):
        assert coach.post("/api/students", {**said, **wrong}).status_code == 422


def test_the_card_of_a_rung_shows_what_comes_on_it(coach: Coach) -> None:
    """The overhand is a choice of the last rung: no card before it names it."""
    drill_id = kept(coach)

    def card(rung: int) -> dict[str, Any]:
        answer = coach.get(f"/api/drills/{drill_id}/versions/1/feeder-card?rung={rung}")
        assert answer.status_code == 200
        found: dict[str, Any] = answer.get_json()
        return found

    first, last = card(1), card(len(TWO_BEATS["rungs"]))
    for shown, comes in ((first, False), (last, True)):
        named = {done["technique"] for line in shown["lines"] for done in line["done"]}
        assert ("overhand" in named) == comes
        assert ("lead overhand" in str(shown["lines"])) == comes
        assert named == {way["technique"] for way in shown["ways"]}
    assert coach.get(f"/api/drills/{drill_id}/versions/1/feeder-card?rung=9").status_code == 404
