"""Whatever a player sends is taken or refused with a reason: never a 500."""

from __future__ import annotations

from itertools import count
from typing import Any

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from sqlalchemy import Engine

from tests.api.conftest import Coach

BEGUN = 40
_NUMBERS = count(1000)

TIMES = st.one_of(
    st.floats(0, 200_000), st.integers(-5, 10**12), st.just(None), st.just("soon"), st.just(1e300)
)
CUES = st.sampled_from(
    ["low_knock", "bell", "lead_light", "rear_light", "hold_light", "gong", "", 7]
)
NUMBERS = st.integers(-1, 5) | st.integers(0, 60)
EVENTS = st.one_of(
    st.fixed_dictionaries({"type": st.just("round_start"), "t_ms": TIMES, "round": NUMBERS}),
    st.fixed_dictionaries(
        {
            "type": st.just("round_end"),
            "t_ms": TIMES,
            "round": NUMBERS,
            "reason": st.sampled_from(["time", "stopped", "tired"]),
        }
    ),
    st.fixed_dictionaries(
        {
            "type": st.just("cue"),
            "t_ms": TIMES,
            "round": NUMBERS,
            "slot": NUMBERS,
            "cue": CUES,
            "at_s": st.floats(-1, 100),
            "window_ms": st.floats(-1, 3000),
            "source": st.sampled_from(["audio", "presentation", "frame", "guess"]),
        }
    ),
    st.fixed_dictionaries(
        {
            "type": st.just("input"),
            "t_ms": TIMES,
            "device": st.sampled_from(["key", "touch", "knee"]),
            "control": st.sampled_from(["KeyR", "KeyU", "zone:left:0", "F13", "", "x" * 99]),
        }
    ),
    st.fixed_dictionaries({"type": st.just("resume"), "t_ms": TIMES}),
    st.fixed_dictionaries(
        {"type": st.just("pause"), "t_ms": TIMES, "reason": st.sampled_from(["coach", "tea"])}
    ),
    st.fixed_dictionaries(
        {
            "type": st.just("distrust"),
            "t_ms": TIMES,
            "from_ms": TIMES,
            "reason": st.just("blocked"),
        }
    ),
    st.fixed_dictionaries({"type": st.just("cue_cancelled"), "t_ms": TIMES, "round": NUMBERS,
                           "slot": NUMBERS}),
    st.fixed_dictionaries(
        {"type": st.just("finish"), "t_ms": TIMES, "reason": st.sampled_from(["complete"])}
    ),
    st.dictionaries(st.text(max_size=5), st.integers(), max_size=3),
)  # fmt: skip
PLACED = st.fixed_dictionaries(
    {"slot": NUMBERS, "cue": CUES, "at_s": st.floats(0, 90), "window_s": st.floats(0, 3)}
)
BATCHES = st.fixed_dictionaries(
    {
        "number": st.integers(0, 40),
        "epoch": st.integers(0, 3),
        "until_ms": TIMES,
        "revision": st.integers(0, 3),
        "committed": st.none()
        | st.fixed_dictionaries({"round": NUMBERS, "placed": st.lists(PLACED, max_size=5)}),
        "last": st.booleans(),
        "events": st.lists(EVENTS, max_size=8),
    }
)


def valid(coach: Coach, draw: Any) -> dict[str, Any]:
    """A batch about cues the plan does have, in whatever order and at whatever times."""
    assert coach.setup is not None
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


@settings(max_examples=150, deadline=None, suppress_health_check=list(HealthCheck))
@given(batch=BATCHES)
def test_nonsense_is_refused(engine: Engine, one_coach: Coach, batch: dict[str, Any]) -> None:
    path = f"/api/runs/{one_coach.run_id}/batches"
    answer = one_coach.post(path, {"recorder": one_coach.recorder, **batch})
    assert answer.status_code in (200, 400, 409, 422)


@settings(max_examples=200, deadline=None, suppress_health_check=list(HealthCheck))
@given(data=st.data())
def test_sense_in_any_order_is_taken(engine: Engine, one_coach: Coach, data: Any) -> None:
    path = f"/api/runs/{one_coach.run_id}/batches"
    batch = valid(one_coach, data.draw)
    answer = one_coach.post(path, {"recorder": one_coach.recorder, **batch})
    assert answer.status_code == 200
    assert one_coach.get(f"/api/runs/{one_coach.run_id}/readout").status_code == 200
