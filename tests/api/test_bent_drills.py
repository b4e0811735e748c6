"""Whatever stands on a bench is planned, or its faults are named: never a 500."""

from __future__ import annotations

import copy
from collections.abc import Iterator
from typing import Any

from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from tests.harness.coach import Coach
from tests.harness.drills import drills, put

ANYTHING = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-5, 10**12),
    st.floats(-10, 1e6, allow_nan=False),
    st.text(st.characters(exclude_characters="\0"), max_size=12),  # U+0000 is no text: a 400
    st.just("x" * 300),
    st.lists(st.sampled_from(["cue_0", "cue_1", "gong", 7]), max_size=3),
    st.just({}),
    st.just({"kind": "set"}),
)


def paths(document: Any, so_far: str = "") -> Iterator[str]:
    """Every place of a document."""
    items = document.items() if isinstance(document, dict) else enumerate(document)
    for key, value in items:
        here = f"{so_far}.{key}" if so_far else str(key)
        yield here
        if isinstance(value, dict | list):
            yield from paths(value, here)


@settings(max_examples=60, suppress_health_check=list(HealthCheck))
@given(drill=drills(), data=st.data())
def test_a_bent_drill_says_what_is_wrong(
    two_coaches: tuple[Coach, Coach], drill: Any, data: Any
) -> None:
    document = copy.deepcopy(drill.model_dump(mode="json"))
    for _ in range(data.draw(st.integers(1, 3))):
        put(document, data.draw(st.sampled_from(sorted(paths(document)))), data.draw(ANYTHING))
    coach = two_coaches[0]
    answer = coach.post("/api/plans", {"document": document, "seed": 1})
    assert answer.status_code == 200, answer.get_data(as_text=True)
    found = answer.get_json()
    assert bool(found["rounds"]) != any(each["level"] == "stop" for each in found["faults"])
    assert all(each["what"] for each in found["faults"])
