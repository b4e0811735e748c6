"""Slips before a live camera: found, timed, told apart from standing still; they move the window.

The camera is simulated (`hastatus.demo.simulated_camera`): its true onsets are known.
"""

from __future__ import annotations

from collections import Counter
from datetime import date

import numpy as np
import pytest

from hastatus.core.loop.live_run import rescore
from hastatus.core.motion.zone import Zone
from hastatus.core.run.device import Correction, Device, device_of
from hastatus.core.run.events import BadBatch, Batch, Input, MotionSeen, check_batch
from hastatus.core.score.response import Response
from hastatus.demo.student import Habits
from tests.harness.slips import CAMERA, HEAD, SlipRun, slip_drill, slip_run

DRILL = slip_drill()


def rescored_with(run: SlipRun, more: list[Input]) -> dict[float, Response]:
    """A run's responses by their cue's onset in ms, with an input more in each cue's batch.

    more: each comes within a cue's answer; its batch is the one that holds the cue before it.
    """
    batches = list(run.batches)
    for event in more:
        onset = max(h.onset_ms for h in run.responses if h.onset_ms <= event.t_ms)
        number = next(n for n, b in enumerate(batches) if any(e.t_ms == onset for e in b.events))
        batch = batches[number]
        batches[number] = batch.model_copy(update={"events": (*batch.events, event)})
    return {heard.onset_ms: heard for heard in rescore(run.setup, batches).responses}


@pytest.fixture(scope="module")
def runs() -> list[SlipRun]:
    return [slip_run(DRILL, seed) for seed in range(4)]


def test_slips_are_found_and_timed_within_a_picture(runs: list[SlipRun]) -> None:
    pairs = [pair for run in runs for pair in run.pairs()]
    slipped = [(done, heard) for done, heard in pairs if done.what == "right" and heard.counts]
    timed = [(done, heard) for done, heard in slipped if heard.time_ms is not None]
    assert len(timed) >= 0.97 * len(slipped) > 50
    off = [(heard.time_ms or 0) - (done.time_ms or 0) for done, heard in timed]
    assert abs(np.median(off)) < 17
    assert np.quantile(np.abs(off), 0.95) < 1.5 * 1000 / 30
    left_out = Counter(heard.left_out for _, heard in pairs if not heard.counts)
    assert set(left_out) <= {"moving_before"}
    assert left_out.total() < 0.2 * len(pairs)


def test_who_stands_still_missed_and_at_a_catch_cue_held(runs: list[SlipRun]) -> None:
    still = [h for run in runs for d, h in run.pairs() if d.what == "nothing" and h.counts]
    right = Counter(heard.outcome for heard in still)
    assert right.total() > 10
    assert right["missed"] + right["held"] == right.total()


def test_who_moves_at_a_catch_cue_is_wrong() -> None:
    run = slip_run(slip_drill(catch_share=0.3), 7, Habits(answers_catch=1.0, lapses=0.0, jumps=0.0))
    caught = [heard for _, heard in run.pairs() if heard.asked_technique is None and heard.counts]
    assert len(caught) > 3
    assert {heard.outcome for heard in caught} == {"wrong"}


def test_slips_move_the_window(runs: list[SlipRun]) -> None:
    for run in runs:
        assert run.state.revision > 3
        assert abs(run.state.controller.window_s - run.setup.plan.window_s) > 0.1


def test_a_run_is_scored_alike_batch_by_batch_and_afresh(runs: list[SlipRun]) -> None:
    for run in runs:
        assert rescore(run.setup, run.batches).responses == run.responses


def test_a_measured_delay_is_taken_off() -> None:
    measured = Correction(source="camera", ms=90, spread_ms=10, measured_on=date(2026, 1, 1))
    device = device_of("camera", (measured,), ("camera",), zones=(HEAD,))
    run = slip_run(DRILL, 1, device=device)
    off = [
        (heard.time_ms or 0) - (done.time_ms or 0)
        for done, heard in run.pairs()
        if done.what == "right" and heard.right_ms is not None
    ]
    assert abs(np.median(off)) < 17


def test_without_pictures_a_slip_is_left_out_and_not_missed() -> None:
    run = slip_run(DRILL, 2)
    blind = [
        batch.model_copy(
            update={
                "events": tuple(
                    event
                    for event in batch.events
                    if not isinstance(event, MotionSeen) or event.t_ms < 20_000
                )
            }
        )
        for batch in run.batches
    ]
    later = [heard for heard in rescore(run.setup, blind).responses if heard.onset_ms > 20_000]
    assert {heard.left_out for heard in later} == {"not_seen"}


def test_a_home_key_that_was_left_goes_before_the_camera() -> None:
    device = CAMERA.model_copy(update={"home": True, "inputs": ("key", "camera")})
    run = slip_run(DRILL, 3, device=device)
    first = next(heard for done, heard in run.pairs() if done.what == "right" and heard.counts)
    left = Input(t_ms=first.onset_ms + 333, device="key", control="home", edge="up")
    heard = rescored_with(run, [left])[first.onset_ms]
    assert (heard.timed_with, heard.time_ms) == ("home", 333)


def test_who_leaves_home_at_a_catch_cue_of_slips_is_wrong() -> None:
    device = Device(inputs=("key",), home=True)
    run = slip_run(slip_drill(catch_share=0.3), 8, device=device)
    catch = next(heard for heard in run.responses if heard.asked_technique is None)
    assert catch.outcome == "held"
    left = Input(t_ms=catch.onset_ms + 400, device="key", control="home", edge="up")
    heard = rescored_with(run, [left])[catch.onset_ms]
    assert (heard.outcome, heard.timed_with, heard.time_ms) == ("wrong", "home", 400)


def test_a_strike_that_is_only_heard_is_no_wrong_slip() -> None:
    device = CAMERA.model_copy(update={"inputs": ("microphone", "camera")})
    run = slip_run(DRILL, 4, device=device)
    strikes = [
        Input(t_ms=heard.onset_ms + 250, device="microphone", control="strike", level_db=-20)
        for _, heard in run.pairs()
    ]
    noisy = rescored_with(run, strikes).values()
    quiet = [heard.outcome for heard in run.responses if heard.asked_technique]
    assert [heard.outcome for heard in noisy if heard.asked_technique] == quiet


def test_a_drill_whose_answers_land_is_scored_as_without_a_camera() -> None:
    zones = (Zone(part="feet", left=0.3, top=0.8, width=0.4, height=0.2),)
    device = device_of("camera", (), ("camera",), zones=zones)
    run = slip_run(DRILL, 5, device=device)  # the head, which slips, is in no zone
    assert {heard.left_out for heard in run.responses if heard.asked_technique} == {"not_sensed"}


def test_motion_of_other_zones_than_the_runs_is_refused() -> None:
    run = slip_run(DRILL, 6)
    motion = next(e for batch in run.batches for e in batch.events if isinstance(e, MotionSeen))
    batch = Batch(number=0, epoch=0, until_ms=0, events=(motion,))
    setup = run.setup
    check_batch(batch, setup.drill, setup.plan, setup.device)
    for device in (Device(), setup.device.model_copy(update={"zones": (HEAD, HEAD)})):
        with pytest.raises(BadBatch, match="zones"):
            check_batch(batch, setup.drill, setup.plan, device)
    with pytest.raises(ValueError, match="one row"):
        MotionSeen.model_validate(motion.model_dump() | {"times_ms": (motion.t_ms,)})
    with pytest.raises(ValueError, match="ascend"):
        MotionSeen.model_validate(motion.model_dump() | {"t_ms": motion.t_ms + 1})
