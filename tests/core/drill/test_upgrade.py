"""Documents that version 1 wrote are still read; those of a newer version are not."""

import pytest
from pydantic import ValidationError

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan, plan_run

OLD = {
    "schema_version": 1,
    "title": "Old",
    "notes": "as it was",
    "cues": [
        {"key": "knock", "stimulus": {"kind": "sound", "sound": "low_knock"}, "weight": 2.0,
         "mark": {"shape": "circle", "colour": "blue"},
         "answer": {"technique": "high_block", "side": "lead"}},
        {"key": "light", "stimulus": {"kind": "light", "place": "rear"},
         "mark": {"shape": "square", "colour": "orange"},
         "answer": {"technique": "straight", "side": "rear"}},
        {"key": "hold", "stimulus": {"kind": "light", "place": "middle"},
         "mark": {"shape": "ring", "colour": "sky"}, "answer": None},
    ],
    "rungs": [
        {"name": "one", "window_s": 1.2, "goal_window_s": 0.9, "catch_share": 0.1,
         "waiting": {"least_s": 0.6, "mean_s": 0.5, "most_s": 4}, "overlap": None},
    ],
    "rounds": {"count": 2, "duration_s": 45, "rest_s": 15, "rehearse": False},
    "order": {"repeat_cap": 3, "bag": 12},
    "flash_s": 0.4,
}  # fmt: skip


def test_version_1_is_read_as_it_was_meant() -> None:
    drill = Drill.model_validate(OLD)
    rung = drill.rungs[0]
    assert drill.schema_version == 3
    assert drill.cue("knock").asked() == "lead high block"
    assert drill.cue("hold").is_catch
    assert (rung.rounds.count, rung.rounds.duration_s, rung.flash_s) == (2, 45, 0.4)
    assert (rung.order.kind, rung.waiting.kind) == ("balanced", "unguessable")
    assert Drill.model_validate(drill.model_dump(mode="json")) == drill
    assert len(plan_run(drill, seed=1).rounds) == 2


def test_a_plan_of_version_1_is_read() -> None:
    slots = [{"cue": "knock", "wait_s": 1.0, "overlap": None}]
    cues = [{"slot": 0, "cue": "knock", "at_s": 1.0, "window_s": 1.2}]
    plan = RunPlan.model_validate(
        {
            "schema_version": 1, "planner_version": 1, "seed": 3, "rung": 1, "window_s": 1.2,
            "stance": "right_lead", "sound_only": False, "rehearsal": [],
            "rounds": [{"number": 1, "slots": slots, "cues": cues}],
        }
    )  # fmt: skip
    assert plan.rounds[0].stance == "right_lead"
    assert plan.rounds[0].duration_s == pytest.approx(2.2)


def test_a_newer_version_is_refused_with_what_to_do() -> None:
    with pytest.raises(ValidationError, match="newer version of Hastatus"):
        Drill.model_validate({**OLD, "schema_version": 4})
