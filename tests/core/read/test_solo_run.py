"""Reading a run's times, and a baseline: what was planted in simulated students is found."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from hastatus.core.drill.settings import Overlap, Rounds
from hastatus.core.drill.solo import Pace
from hastatus.core.loop import results
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.read.baseline import baseline_trend
from hastatus.core.read.solo_run import Reading, read_times
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch, CueShown, Event, Input, RoundStart
from hastatus.core.run.setup import Setup
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.core.starter.baseline import five_minute_test
from hastatus.demo.student import Habits, simulate

STEADY = Habits(rear_ms=0, hear_ms=0, tiring_ms=0, wrong=0, jumps=0, lapses=0)


def reading_of(habits: Habits, seed: int, minutes: int = 10, rung: int = 2) -> Reading:
    rounds = Rounds(count=minutes, duration_s=60, rest_s=5)
    drill = block_on_sound_strike_on_light().in_rounds(rounds)
    drill = drill.model_copy(update={"pace": Pace(rule="hold")})
    setup = Setup(drill, plan_run(drill, seed=seed, rung=rung), Device())
    return read_times(drill, results.read(setup, simulate(setup, habits, seed)[0]).responses)


def found(reading: Reading, contrast: str) -> tuple[float, float, float] | None:
    for each in reading.compared:
        if each.contrast == contrast and each.found:
            return each.found.low_ms, each.found.middle_ms, each.found.high_ms
    return None


def test_a_slower_side_is_found_and_nothing_else_is() -> None:
    reading = reading_of(replace(STEADY, rear_ms=80), 5)
    side, half = found(reading, "side"), found(reading, "half")
    assert side is not None
    assert half is not None
    assert side[0] > 0
    assert side[0] <= 80 <= side[2]
    assert half[0] <= 0 <= half[2]
    assert reading.distribution is not None
    assert sum(reading.distribution.counts) == reading.distribution.answers


def test_tiring_is_found_minute_by_minute() -> None:
    """Ten rounds of a minute; tiring counts from each round's start, as the student does."""
    tired = reading_of(replace(STEADY, tiring_ms=0), 6).tiring
    assert tired is not None
    assert tired.low <= 0 <= tired.high
    rounds = Rounds(count=1, duration_s=900)
    drill = block_on_sound_strike_on_light().in_rounds(rounds)
    drill = drill.model_copy(update={"pace": Pace(rule="hold")})
    setup = Setup(drill, plan_run(drill, seed=7, rung=1), Device())
    habits = replace(STEADY, tiring_ms=15)
    responses = results.read(setup, simulate(setup, habits, 7)[0]).responses
    tired = read_times(drill, responses).tiring
    assert tired is not None
    assert tired.low > 0
    assert tired.low <= 15 <= tired.high


def test_the_second_of_a_pair_waits_for_the_first() -> None:
    """The simulated student needs 160 ms between two answers, so close pairs queue."""
    drill = block_on_sound_strike_on_light()
    close = Overlap(share=0.4, least_gap_s=0.1, most_gap_s=0.16)
    rung = drill.rungs[2].model_copy(
        update={"overlap": close, "rounds": Rounds(count=1, duration_s=1500)}
    )
    drill = drill.model_copy(update={"pace": Pace(rule="hold"), "rungs": (rung,)})
    setup = Setup(drill, plan_run(drill, seed=8), Device())
    habits = replace(STEADY, sigma_ms=15, tau_ms=15)
    reading = read_times(drill, results.read(setup, simulate(setup, habits, 8)[0]).responses)
    overlap = found(reading, "overlap")
    assert overlap is not None
    assert overlap[0] > 0
    assert reading.queue is not None
    assert reading.queue.low <= -0.8
    assert reading.queue.high < -0.4


def test_too_few_answers_say_so() -> None:
    reading = reading_of(STEADY, 9, minutes=1, rung=1)
    unsaid = {each.contrast for each in reading.compared if each.found is None}
    assert unsaid == {"side", "channel", "switch", "half"}
    assert len(reading.compared) == len(unsaid)
    assert reading.tiring is None
    assert reading.distribution is not None  # a picture of the times, with no model of them
    assert reading.distribution.answers == 15
    assert (reading.distribution.curve, reading.distribution.mu_ms) == ([], None)


def test_a_baseline_finds_what_was_planted() -> None:
    """A hundred milliseconds a bit and forty between sound and light; means over twelve tests."""
    drill = five_minute_test()
    costs, lights, alarms, held = [], [], 0, 0
    for seed in range(12):
        habits = replace(STEADY, mu_ms=280, sigma_ms=25, tau_ms=40, choice_ms=100, hear_ms=40)
        setup = Setup(drill, plan_run(drill, seed=seed), Device())
        read = results.read(setup, simulate(setup, habits, seed)[0]).figures.baseline
        assert read is not None
        assert [(part.kind, part.choices, part.holds) for part in read.parts] == [
            ("sound", 1, False), ("light", 1, False), ("sound", 2, False),
            ("sound", 4, False), ("sound", 1, True),
        ]  # fmt: skip
        assert read.choice is not None
        assert read.light is not None
        costs.append(read.choice.cost_s)
        lights.append(read.light.middle_ms)
        alarms, held = alarms + read.false_alarms, held + read.held_of
    # Standard errors: about 2 ms of the cost and 3 ms of the light, whose onset is up to a frame
    # later than planned but logged as it was; the bounds are four of them.
    assert sum(costs) / 12 == pytest.approx(0.100, abs=0.008)
    assert sum(lights) / 12 == pytest.approx(40, abs=12)
    assert alarms / held == pytest.approx(0.12, abs=0.1)  # of about seventy
    assert results.read(setup, []).figures.baseline is not None


def test_a_trend_of_tests_is_told_only_beyond_the_noise() -> None:
    rng = np.random.default_rng(14)
    weeks = [2.0 * place for place in range(6)]
    called = [baseline_trend(weeks, (300 + rng.normal(0, 12, 6)).tolist()) for _ in range(1000)]
    # At most one in a hundred steady students is told of a trend; 1 ± 0.9 % of 1,000 (3 SE).
    assert sum(each is not None and each.weekly.told for each in called) / len(called) <= 0.02
    held = [each is not None and each.weekly.low <= 0 <= each.weekly.high for each in called]
    assert np.mean(held) == pytest.approx(0.95, abs=0.021)
    steady = baseline_trend([0, 2, 4, 6], [300, 312, 295, 306])
    quicker = baseline_trend([0, 2, 4, 6, 8], [420, 392, 366, 338, 311])
    assert steady is not None
    assert quicker is not None
    assert not steady.weekly.told
    assert quicker.weekly.told
    assert quicker.weekly.slope == pytest.approx(-13.6)
    assert baseline_trend([0, 2, 4], [300, 200, 100]) is None
    assert baseline_trend([0, 0.01, 0.02, 0.03], [300, 200, 100, 50]) is None


def test_who_taps_along_through_a_test_gets_no_verdict() -> None:
    """A key every 0.3 s, whatever comes: quick answers by chance are no result."""
    drill = five_minute_test()
    plan = plan_run(drill, seed=4)
    setup = Setup(drill, plan, Device())
    events: list[Event] = []
    at_ms = 4000.0
    for each in plan.rounds:
        events.append(RoundStart(t_ms=at_ms, round=each.number))
        events += [
            CueShown(
                t_ms=at_ms + 1000 * placed.at_s, round=each.number, slot=placed.slot,
                cue=placed.cue, at_s=placed.at_s, window_ms=1000 * placed.window_s, source="audio",
            )
            for placed in each.cues
        ]  # fmt: skip
        taps = np.arange(at_ms, at_ms + 1000 * each.duration_s, 300.0).tolist()
        events += [Input(t_ms=tap + 7, device="key", control="KeyF") for tap in taps]
        at_ms += 1000 * (each.duration_s + plan.rest_s)
    events.sort(key=lambda event: event.t_ms)
    batch = Batch(number=0, epoch=0, until_ms=at_ms, last=True, events=tuple(events))
    tapped = results.read(setup, [batch]).figures.baseline
    assert tapped is not None
    assert tapped.doubt is not None
    assert tapped.simple_ms("sound") is None
    assert tapped.jumped + tapped.extra > 100
    honest = results.read(setup, simulate(setup, Habits(), 4)[0]).figures.baseline
    assert honest is not None
    assert honest.doubt is None
    assert honest.simple_ms("sound") is not None
