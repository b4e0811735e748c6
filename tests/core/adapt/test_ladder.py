"""What comes after a run, and the sentence that says why: each rule at its own limit.

The rules are Hastatus's own (no source); the limits are the drill's.
"""

from __future__ import annotations

import math
from dataclasses import replace

import pytest

from hastatus.core.adapt.ladder import RunEvidence, Suggestion, evidence, prior, suggest
from hastatus.core.drill.blank import fresh_drill
from hastatus.core.drill.settings import Announce
from hastatus.core.drill.solo import Drill, Progress
from tests.harness.responses import response

FIRST = fresh_drill().rungs[0]
RUNGS = (
    FIRST.model_copy(update={"name": "slow", "window_s": 1.4, "goal_window_s": 1.0}),
    FIRST.model_copy(update={"name": "quicker", "window_s": 1.1, "goal_window_s": 0.8}),
    FIRST.model_copy(update={"name": "quick", "window_s": 0.9, "goal_window_s": 0.6}),
)
DRILL: Drill = fresh_drill().model_copy(
    update={"rungs": RUNGS, "progress": Progress(runs=2, agree=1.1, back=1.25)}
)
RUN = RunEvidence(2, 0.9, 0.9, 0.85, 0.95, answers=60, answered=58, inside=45, of=60)


def run(rung: int, window_s: float | None, quantile_s: float | None = None) -> RunEvidence:
    return replace(RUN, rung=rung, settled_window_s=window_s, quantile_s=quantile_s or window_s)


def test_the_first_run_begins_on_the_first_rung() -> None:
    assert suggest(DRILL, []) == Suggestion(
        "start",
        1,
        1.4,
        "No run yet: begin on rung 1 with its own window.",
        "first run: from what is known",
    )


def test_a_met_goal_opens_the_next_rung() -> None:
    assert suggest(DRILL, [run(2, 0.8), run(2, 0.78)]) == Suggestion(
        "next",
        3,
        0.9,
        "The window settled at 0.80 s and 0.78 s in the last two runs, at or under this rung's "
        "goal of 0.80 s, and the times agree.",
        "next rung: goal met in 2 runs running, times within 1.1 of it",
    )
    one = DRILL.model_copy(update={"progress": Progress(runs=1)})
    found = suggest(one, [run(2, 0.8)])
    assert (found.kind, "in the last run, at" in found.reason) == ("next", True)
    assert found.rule == "next rung: goal met in the last run, times within 1.1 of it"


@pytest.mark.parametrize(
    ("runs", "kind"),
    [
        ([run(2, 0.8), run(2, 0.8, 0.88)], "next"),  # the times are at the limit of agreeing
        ([run(2, 0.8), run(2, 0.8, 0.881)], "hold"),
        ([run(2, 0.8), run(2, 0.801)], "hold"),
        ([run(2, 0.8), replace(run(2, 0.8), quantile_s=None)], "hold"),
        ([run(1, 0.7), run(2, 0.8)], "hold"),
        ([run(2, None), run(2, 0.8)], "hold"),
        ([run(3, 0.6), run(3, 0.6)], "hold"),
    ],
)
def test_a_goal_is_met_in_every_run_or_not_at_all(runs: list[RunEvidence], kind: str) -> None:
    assert suggest(DRILL, runs).kind == kind


def test_a_window_far_over_the_start_leads_back() -> None:
    back = suggest(DRILL, [run(2, 1.375), run(2, 1.4)])  # 1.25 times 1.1 s, and more
    assert back == Suggestion(
        "back",
        1,
        1.4,
        "The window settled at 1.38 s and 1.40 s in the last two runs, 25% or more over the "
        "1.10 s this rung starts with.",
        "step back: window 1.25 times the rung's start in 2 runs running",
    )
    assert suggest(DRILL, [run(2, 1.374), run(2, 1.4)]).kind == "hold"
    assert suggest(DRILL, [run(1, 2.0), run(1, 2.0)]).kind == "hold"  # there is nothing before


def test_help_that_stays_is_taken_out_first() -> None:
    told = {"lead_in": Announce(lead_s=1.2)}
    helped = tuple(rung.model_copy(update=told) for rung in RUNGS)
    good = [run(1, 0.98), run(1, 0.945)]
    found = suggest(DRILL.model_copy(update={"rungs": helped}), good)
    assert found == Suggestion(
        "less_help",
        1,
        0.94,
        "The window settled at 0.98 s and 0.94 s in the last two runs, at or under the goal, with "
        "every cue told ahead: take that out of the rung before it only gets quicker.",
        "less help before more speed: goal met in 2 runs running, every cue told ahead",
    )
    for some in ((helped[0], *RUNGS[1:]), (RUNGS[0], helped[1], RUNGS[2])):
        assert suggest(DRILL.model_copy(update={"rungs": some}), good).kind == "next"


def test_four_runs_far_over_the_goal_offer_something_gentler() -> None:
    far = [run(2, 0.95), run(2, 0.89), run(2, 0.9), run(2, 0.93)]
    assert suggest(DRILL, far) == Suggestion(
        "gentler",
        1,
        1.4,
        "The window has stayed at 0.89 to 0.95 s for 4 runs, over the goal of 0.80 s: rung 1, "
        "slow, is the gentler step.",
        "gentler step: 4 runs 10% or more over the goal",
    )
    assert suggest(DRILL, far[1:]).kind == "hold"
    assert suggest(DRILL, [*far[:3], run(2, 0.879)]).kind == "hold"
    assert suggest(DRILL, [run(1, 1.2), *far[1:]]).kind == "hold"
    assert suggest(DRILL, [run(2, 1.0), run(2, 1.0), run(2, 0.97), run(2, 0.98)]).kind == "hold"
    assert suggest(DRILL, [run(2, 1.0), run(2, 1.0), run(2, 0.98), run(2, 0.98)]).kind == "gentler"


def test_on_the_first_rung_what_was_reached_is_a_goal_of_their_own() -> None:
    own = suggest(DRILL, [run(1, 1.2), run(1, 1.15), run(1, 1.2), run(1, 1.16)])
    assert own == Suggestion(
        "own_goal",
        2,
        1.16,
        "The window has stayed at 1.15 to 1.20 s for 4 runs, over the goal of 1.00 s: take what "
        "was reached as a goal of their own, and go on to the next rung.",
        "a goal of their own: 4 runs 10% or more over the goal",
    )
    roomy = (RUNGS[0], RUNGS[1].model_copy(update={"window_s": 1.3}), RUNGS[2])
    wide = DRILL.model_copy(update={"rungs": roomy})
    assert suggest(wide, [run(1, 1.2)] * 4).window_s == 1.3
    alone = DRILL.model_copy(update={"rungs": RUNGS[:1]})
    assert suggest(alone, [run(1, 1.2)] * 4).kind == "hold"


@pytest.mark.parametrize(
    ("runs", "why"),
    [
        ([run(2, 0.9)], "the goal of this rung is 0.80 s."),
        (
            [run(2, 0.7)],
            "that meets the goal of 0.80 s, and one more run there leads to the next rung.",
        ),
        ([run(3, 0.5)], "this is the last rung, and its goal is met."),
        ([run(3, 0.7)], "the goal of this rung is 0.60 s."),
    ],
)
def test_what_holds_says_why(runs: list[RunEvidence], why: str) -> None:
    found = suggest(DRILL, runs)
    window_s = runs[-1].settled_window_s or 0.0
    assert found == Suggestion(
        "hold",
        runs[-1].rung,
        window_s,
        f"75 % of the last 60 answers were inside {window_s:.2f} s; {why}",
        "hold",
    )


def test_more_than_one_run_may_be_left() -> None:
    three = DRILL.model_copy(update={"progress": Progress(runs=3)})
    reason = suggest(three, [run(2, 0.7)]).reason
    assert reason.endswith("and 2 more runs there leads to the next rung.")
    assert "in 3 runs running" in suggest(three, [run(2, 0.7)] * 3).rule
    assert "in the last three runs, at" in suggest(three, [run(2, 0.7)] * 3).reason


def test_too_little_holds_the_pace_and_says_so() -> None:
    few = replace(run(2, None), answers=7, answered=6)
    assert suggest(DRILL, [run(1, 0.9), few]) == Suggestion(
        "hold",
        2,
        1.1,
        "Only 7 answers counted in the last run, too few answers yet: the window stays the same.",
        "hold",
    )
    nobody = replace(few, answers=40, answered=0)
    assert suggest(DRILL, [nobody]).reason == (
        "Nobody answered in the last run, so the window stays the same."
    )


def test_the_last_run_that_was_answered_is_what_is_known_beforehand() -> None:
    nobody = replace(RUN, answered=0, settled_window_s=None)
    known = prior([run(2, 1.0), run(2, 0.9), nobody], 2)
    assert known is not None
    assert known.window_s == 0.9
    assert known.spread > 0
    assert prior([run(2, 0.9)], 1) is None
    assert prior([run(2, None)], 2) is None
    assert prior([nobody], 2) is None
    assert prior([], 2) is None


def test_evidence_is_the_last_windows_and_the_times_that_are_known() -> None:
    """Forty cues, windows falling from 1.0 to 0.61 s, one in ten missed."""
    cues = [
        response(
            place,
            window_ms=1000.0 - 10 * place,
            time_ms=None if place % 10 == 9 else 500.0 + 8 * place,
            outcome="missed" if place % 10 == 9 else "clean",
        )
        for place in range(40)
    ]
    left_out = response(40, window_ms=5000.0, time_ms=100.0, left_out="hidden")
    held = response(41, window_ms=5000.0, time_ms=None, outcome="held", asked=None)
    own = response(42, window_ms=5000.0, time_ms=100.0, own_window=True)
    found = evidence(DRILL, 2, [*cues, left_out, held, own])
    assert (found.rung, found.answers, found.answered, found.of) == (2, 40, 36, 40)
    windows = [cue.window_ms / 1000 for cue in cues[-20:]]
    settled = math.exp(sum(map(math.log, windows)) / 20)
    assert found.settled_window_s == pytest.approx(settled, abs=1e-9)
    right = [cue.time_ms for cue in cues if cue.time_ms is not None]
    assert found.inside == sum(time <= settled * 1000 for time in right) < len(right)
    # 84 % of 40 is the 34th; Kaplan and Meier take the misses, later than the slowest, for more.
    assert found.quantile_s in [time / 1000 for time in right[-5:]]
    assert found.low_s is not None
    assert found.high_s is None  # that many may be among the missed
    assert found.quantile_s is not None
    assert found.low_s < found.quantile_s


def test_what_the_window_holds_beyond_the_answer_is_taken_off() -> None:
    plain = evidence(DRILL, 1, [response(n, 800.0, 400.0 + n) for n in range(30)])
    later = evidence(DRILL, 1, [response(n, 1100.0, 700.0 + n, offset_ms=300.0) for n in range(30)])
    assert later == plain


def test_only_the_last_sixty_say_how_many_were_inside() -> None:
    cues = [response(n, 800.0, 2000.0 if n < 10 else 400.0) for n in range(70)]
    found = evidence(DRILL, 1, cues)
    assert (found.inside, found.of, found.answers) == (60, 60, 70)


def test_a_few_answers_and_a_run_without_any_settle_nothing() -> None:
    few = evidence(DRILL, 1, [response(n, 800.0, 400.0) for n in range(7)])
    assert (few.settled_window_s, few.quantile_s, few.low_s, few.high_s) == (None,) * 4
    assert (few.answers, few.answered, few.inside, few.of) == (7, 7, 0, 7)
    eight = [response(n, 800.0, 400.0) for n in range(8)]
    for enough in (eight, [*eight, response(8, 800.0, None, outcome="missed")]):
        found = evidence(DRILL, 1, enough)
        assert found.settled_window_s == pytest.approx(0.8)
        assert found.quantile_s == 0.4
    silent = evidence(DRILL, 1, [response(n, 800.0, None, outcome="missed") for n in range(30)])
    assert (silent.settled_window_s, silent.quantile_s, silent.answered) == (None, None, 0)
