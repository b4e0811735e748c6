"""The figures of a group of answers, counted by hand."""

from __future__ import annotations

from dataclasses import replace

import pytest

from hastatus.core.read.proportion import wilson_of
from hastatus.core.read.summary import grouped, quantile, right_times, summarise
from hastatus.core.score.response import HoldResult, Outcome, Response, StepResult
from tests.harness.responses import response

OUTCOMES: list[Outcome] = (
    ["clean"] * 12 + ["late"] * 3 + ["wrong"] * 2 + ["missed"] * 2 + ["jumped"]
)


def counter(outcome: str) -> StepResult:
    return StepResult("counter", "straight", "rear", 900.0, 1200.0, outcome)  # type: ignore[arg-type]


def asked() -> list[Response]:
    """Twenty cues: right answers at 400, 410 … 540 ms, two missed after 800 ms."""
    return [
        response(
            number,
            outcome=outcome,
            time_ms=None if outcome == "missed" else 400.0 + 10 * number,
        )
        for number, outcome in enumerate(OUTCOMES)
    ]


def test_every_outcome_is_counted_once() -> None:
    cues = asked()
    cues[0] = replace(cues[0], steps=(counter("clean"),), before_ms=-80.0)
    cues[1] = replace(cues[1], steps=(counter("late"),))
    cues[2] = replace(cues[2], steps=(counter("clean"),))
    cues[3] = replace(
        cues[3],
        holds=(HoldResult("high_block", 900.0, 1000.0), HoldResult("parry", 500.0, 500.0)),
    )
    catch = [response(n, asked=None, time_ms=None, outcome="held") for n in (20, 21)]
    alarm = response(22, asked=None, outcome="wrong")
    out = [response(23, left_out="hidden"), response(24, left_out="unconfirmed")]
    unseen = response(25, left_out="not_sensed")
    found = summarise([*cues, *catch, alarm, *out, unseen])
    assert (found.count, found.clean, found.late, found.wrong) == (20, 12, 3, 2)
    assert (found.missed, found.jumped, found.censored) == (2, 1, 2)
    assert found.clean_share == 0.6
    assert (found.held, found.held_of) == (2, 3)
    assert (found.left_out, found.not_sensed) == (2, 1)
    assert (found.counters, found.counters_of) == (2, 3)
    assert (found.holds_cut, found.holds_of, found.before) == (1, 2, 1)


def test_quarters_and_median_are_those_of_the_right_answers_and_the_missed_ones() -> None:
    """Of 15 right and 2 missed: the 5th, the 9th and the 13th of 17."""
    found = summarise(asked())
    assert (found.quarter_ms, found.median_ms, found.three_quarter_ms) == (440.0, 480.0, 520.0)
    assert found.median_low_ms is not None
    assert found.median_high_ms is not None
    assert 400 <= found.median_low_ms < 480 < found.median_high_ms <= 540


def test_answers_that_go_together_say_less() -> None:
    """Neighbours that are alike widen both intervals; the middle stays."""
    alike = [response(n, time_ms=400.0 + (150.0 if n % 20 < 10 else 0.0) + n) for n in range(40)]
    apart = [replace(cue, slot=(n * 7) % 40) for n, cue in enumerate(alike)]
    apart.sort(key=lambda cue: cue.slot)
    one, other = summarise(alike), summarise(apart)
    assert one.median_ms == other.median_ms
    assert one.clean_interval is not None
    assert one.clean_interval.low < wilson_of(1.0, 40).low
    assert other.clean_interval is not None
    assert one.clean_interval.low < other.clean_interval.low


def test_few_answers_have_no_median_but_are_counted() -> None:
    few = summarise(asked()[:7])
    assert (few.count, few.clean, few.clean_share) == (7, 7, 1.0)
    assert (few.quarter_ms, few.median_ms, few.three_quarter_ms) == (None, None, None)
    assert (few.median_low_ms, few.median_high_ms) == (None, None)
    eight = summarise(asked()[:8])
    assert eight.median_ms == 430.0
    nothing = summarise([])
    assert (nothing.count, nothing.clean_share, nothing.clean_interval) == (0, None, None)


def test_times_are_of_right_answers_and_limits_of_missed_ones() -> None:
    cues = asked()
    times, limits = right_times([*cues, response(30, asked=None), response(31, left_out="hidden")])
    assert times == [400.0 + 10 * number for number in range(15)]
    assert limits == [800.0, 800.0]
    later = [replace(cue, offset_ms=100.0) for cue in cues]
    times, limits = right_times(later, less_offset=True)
    assert times[0] == 300.0
    assert limits == [700.0, 700.0]
    assert right_times(later)[0][0] == 400.0


def test_groups_are_in_order_of_appearance_without_those_of_no_group() -> None:
    cues = [replace(cue, cue="abcx"[n % 4]) for n, cue in enumerate(asked()[:8])]
    groups = grouped(cues, lambda cue: None if cue.cue == "x" else cue.cue)
    assert list(groups) == ["a", "b", "c"]
    assert [cue.slot for cue in groups["b"]] == [1, 5]


@pytest.mark.parametrize(
    ("times", "limits", "share", "found"),
    [
        ([1.0, 2.0, 3.0, 4.0], [], 0.5, 2.0),
        ([1.0, 2.0, 3.0, 4.0], [], 0.51, 3.0),
        ([1.0, 2.0], [0.5, 0.5], 0.5, 1.0),  # who left before anything happened says nothing
        ([1.0, 2.0], [5.0, 5.0], 0.5, 2.0),
        ([1.0, 2.0], [5.0, 5.0], 0.51, None),
        ([], [], 0.5, None),
    ],
)
def test_a_quantile_is_the_smallest_time_by_which_so_many_had_answered(
    times: list[float], limits: list[float], share: float, found: float | None
) -> None:
    assert quantile(times, limits, share) == found
