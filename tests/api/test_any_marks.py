"""Marks in any order, of any round, with anything beside them: they are read, never a 500."""

from __future__ import annotations

from typing import Any, get_args

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from hastatus.core.run.partner_events import Grade
from tests.harness.api_pair import Pair, pair
from tests.harness.coach import Coach

TIMES = st.floats(0, 4e5, allow_nan=False)
ROUNDS = st.integers(1, 6)
NUMBERS = st.integers(1, 40)
PARTNERS = st.integers(0, 2)


def mark(kind: str, **fields: st.SearchStrategy[Any]) -> st.SearchStrategy[dict[str, Any]]:
    return st.fixed_dictionaries({"kind": st.just(kind), "at_ms": TIMES, **fields})


MARKS = st.one_of(
    mark("round_begun", round=ROUNDS),
    mark("round_over", round=ROUNDS),
    mark("paused"),
    mark("resumed"),
    mark("graded", round=ROUNDS, number=NUMBERS, grade=st.sampled_from(get_args(Grade))),
    mark("tagged", round=ROUNDS, number=NUMBERS, fault=st.sampled_from(["static guard", "late"])),
    mark("undone"),
    mark("tempo_set", bpm=st.floats(20, 300), by=st.sampled_from(["coach", "rule"])),
    mark("carried_over", round=ROUNDS, partner=PARTNERS),
    mark("strike", source=st.sampled_from(["microphone", "pad", "simulated"]),
         partner=st.none() | PARTNERS),
    mark("set_off", source=st.sampled_from(["pad", "simulated"]), partner=PARTNERS),
)  # fmt: skip
"""Every kind but head knocks, which would hold the students for the next example."""

BENT = st.one_of(
    st.none(), st.booleans(), st.integers(-5, 10**9), st.floats(-1e6, 1e6, allow_nan=False),
    st.just("x" * 300), st.just([]), st.just({}), st.just("round_begun"),
)  # fmt: skip


def begun(coach: Coach, title: str, rung: int) -> Pair:
    made = pair(coach, title)
    assert made.begin(rung=rung).status_code == 201
    return made


@settings(max_examples=25, suppress_health_check=list(HealthCheck))
@given(
    marks=st.lists(MARKS, max_size=60),
    cut=st.integers(1, 60),
    which=st.sampled_from(
        [("Turn about", 1), ("Two beats, then in", 4), ("One hits, one guards", 3)]
    ),
)
def test_marks_in_any_order_are_read(
    two_coaches: tuple[Coach, Coach], marks: list[dict[str, Any]], cut: int, which: tuple[str, int]
) -> None:
    coach = two_coaches[0]
    made = begun(coach, *which)
    for at in range(0, len(marks), cut):
        assert made.post(*marks[at : at + cut]).status_code == 200
    assert made.post(last=True).get_json()["complete"] is True
    read = made.read()
    graded = [each for each in read["exchanges"] if each["grade"]]
    assert read["reading"]["overall"]["graded"] == len(graded)
    numbers = [(each["round"], each["number"]) for each in read["exchanges"]]
    assert len(set(numbers)) == len(numbers)  # one line an exchange
    assert all(each["feeder"] != each["defender"] for each in read["exchanges"])
    for each in read["rhythms"]:
        assert each["rhythm"]["beat_s"] > 0
        assert all(one["partner"] in (0, 1) for one in each["alone"])
    page = coach.get(f"/api/students/{made.partners[1]}/defended").get_json()
    assert all(one["clean"] <= one["graded"] for run in page["runs"] for one in run["partners"])


@settings(max_examples=30, suppress_health_check=list(HealthCheck))
@given(good=MARKS, data=st.data())
def test_a_bent_mark_is_refused_and_nothing_of_its_batch_is_kept(
    two_coaches: tuple[Coach, Coach], good: dict[str, Any], data: Any
) -> None:
    made = begun(two_coaches[0], "Turn about", 1)
    field = data.draw(st.sampled_from(sorted(good)))
    bent = {**good, field: data.draw(BENT)}
    answer = made.post(good, bent)
    assert answer.status_code in (200, 422)
    if answer.status_code == 422:
        assert answer.get_json()["faults"]
        assert made.read()["exchanges"] == []
