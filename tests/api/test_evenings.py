"""An evening through the API: planned, who is here, who works with whom, numbered calls."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from itertools import chain
from typing import Any

import pytest

from hastatus.core.starter.partner import PARTNER_STARTERS
from tests.harness.coach import Coach

NAMES = ("Ada", "Bo", "Cy", "Di", "Ed", "Flo", "Gus", "Hal", "Ivy", "Joe")


def plan(*blocks: dict[str, Any], in_h: float = 1.0, **rest: Any) -> dict[str, Any]:
    starts = datetime.now(UTC) + timedelta(hours=in_h)
    return {
        "title": "Tuesday class",
        "starts_at": starts.isoformat(),
        "ends_at": (starts + timedelta(minutes=90)).isoformat(),
        "zone": "Europe/London",
        "blocks": list(blocks),
        **rest,
    }


def block(key: str = "pairs", kind: str = "partner", **rest: Any) -> dict[str, Any]:
    return {"key": key, "kind": kind, "name": f"Block {key}", **rest}


def add(coach: Coach, body: dict[str, Any]) -> dict[str, Any]:
    answer = coach.post("/api/evenings", {"id": str(uuid.uuid4()), "plan": body})
    assert answer.status_code == 201, answer.get_json()
    made: dict[str, Any] = answer.get_json()
    return made


def drill(coach: Coach, name: str = "compact guard") -> str:
    new = str(uuid.uuid4())
    document = PARTNER_STARTERS[name]().model_dump(mode="json")
    assert coach.post("/api/drills", {"id": new, "document": document}).status_code == 201
    return new


def students(coach: Coach, count: int = 10, **rest: Any) -> list[str]:
    return [
        coach.post("/api/students", {"name": name, **rest}).get_json()["id"]
        for name in NAMES[:count]
    ]


def come(coach: Coach, evening: str, student: str, **said: Any) -> dict[str, Any]:
    answer = coach.send(
        "PATCH", f"/api/evenings/{evening}/people/{student}", {"here": True, **said}
    )
    assert answer.status_code == 200, answer.get_json()
    seen: dict[str, Any] = answer.get_json()
    return seen


def together(coach: Coach, evening: str, **body: Any) -> Any:
    return coach.send("PUT", f"/api/evenings/{evening}/blocks/pairs/groups", body)


def test_an_evening_is_planned_timed_changed_and_put_away(coach: Coach) -> None:
    made = add(coach, plan(block("warm", "base", minutes=10), block(drill_id=drill(coach))))
    starts = datetime.fromisoformat(made["plan"]["starts_at"])
    warm, pairs = made["blocks"]
    assert datetime.fromisoformat(warm["starts_at"]) == starts
    assert warm["minutes"] == 10
    assert datetime.fromisoformat(pairs["starts_at"]) == starts + timedelta(minutes=11)
    assert made["over_min"] < 0
    path = f"/api/evenings/{made['id']}"
    longer = {**made["plan"], "blocks": [{**made["plan"]["blocks"][0], "minutes": 100}]}
    over = coach.send("PUT", path, {"base": 1, "plan": longer}).get_json()
    assert over["over_min"] == pytest.approx(15)
    assert over["offers"][0]["saves_min"] >= 15
    stale = coach.send("PUT", path, {"base": 1, "plan": longer})
    assert (stale.status_code, stale.get_json()["title"]) == (409, "Changed meanwhile")
    assert coach.get("/api/evenings").get_json()["tonight"] == made["id"]
    assert coach.send("PATCH", path, {"deleted": True}).status_code == 200
    assert coach.get(path).status_code == 404
    assert coach.get("/api/evenings").get_json() == {"evenings": [], "tonight": None}
    assert coach.send("PATCH", path, {"deleted": False}).status_code == 200
    assert coach.get(path).status_code == 200


def test_who_is_here_is_put_together_and_who_comes_late_moves_nobody(coach: Coach) -> None:
    made = add(coach, plan(block(drill_id=drill(coach))))
    evening, everybody = made["id"], students(coach)
    for student in everybody[:8]:
        come(coach, evening, student)
    first = together(coach, evening).get_json()["blocks"][0]
    groups = [group["members"] for group in first["groups"]]
    assert sorted(chain(*groups)) == sorted(everybody[:8])
    assert {len(group) for group in groups} == {2}
    late = come(coach, evening, everybody[8])["blocks"][0]
    assert late["stale"]
    answer = together(coach, evening, kept=groups, base=first["edit"]).get_json()["blocks"][0]
    now = [group["members"] for group in answer["groups"]]
    assert sum(group in groups for group in now) == 3
    assert not answer["stale"]
    # A second coach who still sees the old pairs is told.
    stale = together(coach, evening, kept=groups, base=first["edit"])
    assert stale.status_code == 409
    # By hand: two are put together, the rest finds its place.
    mine = [everybody[0], everybody[7]]
    by_hand = together(coach, evening, kept=[mine], base=answer["edit"]).get_json()["blocks"][0]
    assert mine in [group["members"] for group in by_hand["groups"]]
    gone = coach.send("PATCH", f"/api/evenings/{evening}/people/{everybody[8]}", {"here": False})
    assert gone.get_json()["here"] == 8
    assert gone.get_json()["blocks"][0]["stale"]


def test_in_the_next_block_each_works_with_somebody_new(coach: Coach) -> None:
    """Of the same evening, too, whether it has begun or not."""
    one = drill(coach)
    blocks = [block(key, drill_id=one, people="new") for key in ("pairs", "second", "third")]
    made = add(coach, plan(*blocks))
    for student in students(coach, 4):
        come(coach, made["id"], student)
    had = list[frozenset[str]]()
    for key in ("pairs", "second", "third"):
        path = f"/api/evenings/{made['id']}/blocks/{key}/groups"
        seen = coach.send("PUT", path, {}).get_json()["blocks"]
        groups = next(one["groups"] for one in seen if one["key"] == key)
        had += [frozenset(group["members"]) for group in groups]
    assert len(set(had)) == 6


def test_what_somebody_may_not_is_kept_to(coach: Coach) -> None:
    """Off for the day: in no pair. No touch tonight, or no consent of a guardian: no contact."""
    made = add(coach, plan(block(drill_id=drill(coach))))
    hurt, spared, child, *others = students(coach, 5)
    child_said = {"name": "Cy", "consent": "needed", "spares": "left knee"}
    assert coach.send("PUT", f"/api/students/{child}", child_said).status_code == 200
    assert coach.post(f"/api/students/{hurt}/head-knock", {}).status_code < 300
    for student in (hurt, child, *others):
        come(coach, made["id"], student)
    come(coach, made["id"], spared, no_touch=True, gear=["gloves"], ready_before=3)
    seen = together(coach, made["id"]).get_json()
    people = {person["student_id"]: person for person in seen["people"]}
    assert "head knock" in people[hurt]["off"]
    assert people[spared]["contact"] == people[child]["contact"] == "none"
    assert (people[spared]["gear"], people[spared]["ready_before"]) == (["gloves"], 3)
    assert "left knee" in people[child]["note"]
    (pairs,) = seen["blocks"]
    assert [one["student_id"] for one in pairs["alone"]] == [hurt]
    assert hurt not in chain(*(group["members"] for group in pairs["groups"]))
    assert any("no contact" in words for group in pairs["groups"] for words in group["but"])


def test_numbered_calls_have_a_card_for_each_feeder_and_round(coach: Coach) -> None:
    made = add(coach, plan(block(drill_id=drill(coach), rungs=[2], feeds="numbered")))
    for student in students(coach, 4):
        come(coach, made["id"], student)
    together(coach, made["id"])
    path = f"/api/evenings/{made['id']}/blocks/pairs/calls"
    calls = coach.get(path).get_json()
    assert calls == coach.get(path).get_json()
    for one in calls["rounds"]:
        of_pair: dict[tuple[str, ...], list[dict[str, Any]]] = {}
        for card in calls["cards"]:
            if card["round"] == one["round"]:
                of_pair.setdefault(tuple(card["pair"]), []).append(card)
                assert card["feeder"] in card["pair"]
        assert len(of_pair) == 2
        for parts in of_pair.values():
            assert sum(len(card["lines"]) for card in parts) == len(one["calls"])
    solo = add(coach, plan(block(kind="solo", drill_id=coach.drill_id)))
    refused = coach.get(f"/api/evenings/{solo['id']}/blocks/pairs/calls")
    assert (refused.status_code, "only a partner drill" in refused.get_json()["detail"]) == (
        422,
        True,
    )


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"floor_m2": -1}, "Floor: at least 0 m²"),
        ({"zone": "Nowhere"}, "time zone"),
        ({"blocks": [block()]}, "needs a drill"),
        ({"blocks": [block(kind="talk")]}, "needs its minutes"),
        ({"starts_at": 1_700_000_000}, "date"),
    ],
)
def test_a_plan_that_makes_no_sense_is_refused_in_words(
    coach: Coach, change: dict[str, Any], says: str
) -> None:
    body = {"id": str(uuid.uuid4()), "plan": {**plan(), **change}}
    answer = coach.post("/api/evenings", body)
    assert answer.status_code == 422
    assert says in answer.get_json()["detail"]


def test_another_club_sees_nothing_of_it(two_coaches: tuple[Coach, Coach]) -> None:
    coach, other_coach = two_coaches
    made = add(coach, plan(block(drill_id=drill(coach))))
    path = f"/api/evenings/{made['id']}"
    assert other_coach.get(path).status_code == 404
    assert other_coach.get("/api/evenings").get_json()["evenings"] == []
    mine = students(coach, 1)[0]
    assert other_coach.send("PATCH", f"{path}/people/{mine}", {"here": True}).status_code == 404
    assert coach.send("PATCH", f"{path}/people/{uuid.uuid4()}", {"here": True}).status_code == 404
