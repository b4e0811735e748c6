"""Scoring rules, one by one, and the fold against a full re-score."""

import numpy as np
import pytest

from hastatus.core.device import Device
from hastatus.core.events import Batch, CueShown, Input, Pause
from hastatus.core.follow import RUN_STATE, Setup, rescore
from hastatus.core.plan import plan_run
from hastatus.core.response import Response
from hastatus.core.score import score
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.demo.student import Habits, simulate

DRILL = block_on_sound_strike_on_light()
PLAN = plan_run(DRILL, seed=1, rung=3)


def cue(slot: int, key: str, t_ms: float) -> CueShown:
    return CueShown(
        t_ms=t_ms, round=1, slot=slot, cue=key, at_s=t_ms / 1000, window_ms=800, source="audio"
    )


def press(key: str, t_ms: float) -> Input:
    return Input(t_ms=t_ms, device="key", control=key)


def judged(*events, device: Device | None = None) -> list[Response]:
    batch = Batch(number=0, epoch=0, until_ms=1e6, last=True, events=events)
    return score(DRILL, PLAN, device or Device(), [batch])[0]


@pytest.mark.parametrize(
    ("key", "after_ms", "outcome"),
    [
        ("KeyR", 500, "clean"),
        ("KeyR", 800, "clean"),
        ("KeyR", 801, "late"),
        ("KeyR", 149, "jumped"),
        ("KeyU", 500, "wrong"),
        ("KeyF", 500, "wrong"),
        ("KeyR", 1201, "missed"),
        ("KeyQ", 500, "missed"),
    ],
)
def test_one_answer(key: str, after_ms: float, outcome: str) -> None:
    (found,) = judged(cue(0, "low_knock", 1000), press(key, 1000 + after_ms))
    assert found.outcome == outcome
    assert (found.censored_ms == 1200) == (outcome == "missed")


def test_a_catch_cue_is_held_or_wrong() -> None:
    assert judged(cue(0, "hold_light", 1000))[0].outcome == "held"
    assert judged(cue(0, "hold_light", 1000), press("KeyF", 1500))[0].outcome == "wrong"


def test_overlapping_answers_go_to_the_cue_they_answer() -> None:
    sound, light = judged(
        cue(0, "low_knock", 1000),
        cue(1, "rear_light", 1250),
        press("KeyJ", 1700),
        press("KeyR", 1790),
    )
    assert (sound.outcome, sound.time_ms) == ("clean", 790)
    assert (light.outcome, light.time_ms) == ("clean", 450)
    assert sound.gap_ms == light.gap_ms == 250


def test_the_limit_ends_at_the_next_onset_on_the_channel() -> None:
    first, second = judged(cue(0, "low_knock", 1000), cue(1, "bell", 1900), press("KeyR", 2200))
    assert (first.outcome, first.censored_ms) == ("missed", 900)
    assert second.outcome == "wrong"


def test_pause_leaves_out_and_latency_is_taken_off() -> None:
    assert judged(cue(0, "bell", 1000), Pause(t_ms=1100, reason="coach"))[0].left_out == "paused"
    found = judged(cue(0, "bell", 1000), press("KeyU", 1820), device=Device(key_ms=25))
    assert (found[0].outcome, found[0].time_ms) == ("clean", 795)


@pytest.mark.parametrize("seed", range(4))
def test_the_fold_equals_a_full_rescore_in_any_order(seed: int) -> None:
    setup = Setup(DRILL, plan_run(DRILL, seed=seed, rung=1 + seed % 3), Device())
    batches, state = simulate(setup, Habits(), seed)
    shuffled = list(np.random.default_rng(seed).permutation(np.array(batches, dtype=object)))
    again = rescore(setup, shuffled)
    assert RUN_STATE.dump_python(again.state) == RUN_STATE.dump_python(state)
    assert again.state.complete
    assert not again.missing
    onsets = [each.onset_ms for each in again.responses]
    assert onsets == sorted(onsets)


def test_nobody_there_holds_the_pace() -> None:
    setup = Setup(DRILL, PLAN, Device())
    _, state = simulate(setup, Habits(lapses=1.0), 1)
    assert state.controller.window_s == PLAN.window_s
    assert state.controller.holding
