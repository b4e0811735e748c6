"""Cues and answers in any order and at any times are taken and scored."""

from __future__ import annotations

from itertools import count
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy import Engine

from tests.harness.coach import Coach

BEGUN = 40
_NUMBERS = count(1000)


def valid(coach: Coach, draw: Any) -> dict[str, Any]:
    """A batch about cues the plan does have, in whatever order and at whatever times."""
    slots = coach.setup.plan.rounds[0].slots
    lights = [number for number, slot in enumerate(slots) if slot.cue.endswith("light")][:4]
    numbers = draw(st.lists(st.integers(0, min(30, len(slots) - 1)), max_size=4) | st.just(lights))
    time = st.floats(0, 70_000)
    events: list[dict[str, Any]] = [
        {
            "type": "cue", "t_ms": draw(time), "round": 1, "slot": number,
            "cue": slots[number].cue, "at_s": 1.0, "window_ms": draw(st.floats(1, 2000)),
            "source": "audio",
        }
        for number in numbers
    ]  # fmt: skip
    events += [
        {"type": "input", "t_ms": draw(time), "device": "key", "control": "KeyR"} for _ in numbers
    ]
    placed = [
        {
            "slot": number,
            "cue": slots[number].cue,
            "at_s": draw(st.floats(0, 80) | st.floats(1, 1.2)),
            "window_s": draw(st.floats(0.1, 3)),
        }
        for number in numbers
    ]
    return {
        "number": next(_NUMBERS),  # a number again would be refused, and try nothing
        "epoch": draw(st.integers(0, 2)),
        "until_ms": draw(time),
        "committed": {"round": 1, "placed": placed},
        "events": events,
    }


@pytest.fixture(scope="module")
def one_coach(two_coaches: tuple[Coach, Coach]) -> Coach:
    """With a run so far on that its window has moved, so that answers carry tails."""
    coach = two_coaches[0]
    for batch in coach.batches[:BEGUN]:
        assert coach.post_batch(batch).status_code == 200
    return coach


@settings(max_examples=40, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_sense_in_any_order_is_taken(engine: Engine, one_coach: Coach, data: Any) -> None:
    path = f"/api/runs/{one_coach.run_id}/batches"
    batch = valid(one_coach, data.draw)
    answer = one_coach.post(path, {"recorder": one_coach.recorder, **batch})
    assert answer.status_code == 200
    assert one_coach.get(f"/api/runs/{one_coach.run_id}/readout").status_code == 200
