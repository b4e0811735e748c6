"""The window within a run, and the ladder between runs."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest

from hastatus.core.adapt.controllers import (
    SILENT_AFTER,
    ControllerState,
    fold_outcome,
    follow,
    out_of_reach,
    settle,
    step,
)
from hastatus.core.adapt.ladder import RunEvidence, evidence, suggest
from hastatus.core.adapt.notices import Standing, notices
from hastatus.core.drill.settings import Announce
from hastatus.core.drill.solo import Drill, Pace
from hastatus.core.loop.live_run import rescore
from hastatus.core.plan.prior import Prior
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.read.difference import Difference
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.core.score.response import Response
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.demo.student import Habits, simulate

DRILL = block_on_sound_strike_on_light()
PACE = Pace(rule="weighted")
ANSWERED = Response(
    1, 0, "bell", "hear", "high_block", "rear", 1.0, 1000.0, 900.0, "clean", 500.0, None,
    "high_block", "rear", None, None, 0, "audio", 1.0,
)  # fmt: skip


def test_steps_balance_at_the_target() -> None:
    # Kaernbach 1991, Perception & Psychophysics 49:227: p · harder = (1 − p) · easier.
    for target in (0.6, 0.75, 0.84, 0.9):
        pace = Pace(rule="weighted", target=target)
        for folded in (0, 5, 200):
            harder, easier = step(pace, folded)
            assert target * harder == pytest.approx((1 - target) * easier)


def test_first_steps_are_larger_and_fade() -> None:
    sizes = [step(PACE, folded)[0] for folded in range(0, 80, 10)]
    assert sizes == sorted(sizes, reverse=True)
    assert sizes[0] == pytest.approx(4 * PACE.step)
    assert sizes[-1] == pytest.approx(PACE.step, rel=0.01)


def test_the_window_stays_within_its_bounds() -> None:
    state = ControllerState(window_s=1.0)
    for _ in range(500):
        fold_outcome(state, PACE, clean=True)
    assert state.window_s == PACE.least_s
    for _ in range(500):
        fold_outcome(state, PACE, clean=False)
    assert state.window_s == PACE.most_s


@pytest.mark.parametrize("outcome", ["late", "wrong", "missed", "jumped"])
def test_everything_but_clean_gives_more_time(outcome: str) -> None:
    state = ControllerState(window_s=1.0, answered=True)
    follow(state, PACE, replace(ANSWERED, outcome=outcome))
    assert state.window_s > 1.0


@pytest.mark.parametrize(
    "ignored", [{"left_out": "paused"}, {"asked_technique": None, "asked_side": None}]
)
def test_what_does_not_count_moves_nothing(ignored: dict[str, object]) -> None:
    state = ControllerState(window_s=1.0)
    follow(state, PACE, replace(ANSWERED, **ignored))
    assert state == ControllerState(window_s=1.0)


def test_a_student_who_has_left_does_not_stretch_the_window() -> None:
    state = ControllerState(window_s=1.0)
    follow(state, PACE, ANSWERED)
    missed = replace(ANSWERED, outcome="missed", time_ms=None)
    for _ in range(SILENT_AFTER):
        follow(state, PACE, missed)
    assert not state.holding
    stretched = state.window_s
    for _ in range(30):
        follow(state, PACE, missed)
    assert state.holding
    assert state.window_s == stretched
    follow(state, PACE, ANSWERED)
    assert not state.holding


def run_of(rung: int, window: float | None, quantile: float | None = None) -> RunEvidence:
    return RunEvidence(rung, window, quantile or window, None, None, 60, 58, 50, 60)


LADDER: list[tuple[str, list[RunEvidence], str, int]] = [
    ("nothing yet", [], "start", 1),
    ("one good run", [run_of(1, 0.8)], "hold", 1),
    ("two good runs", [run_of(1, 0.85), run_of(1, 0.8)], "next", 2),
    ("at the goal exactly", [run_of(1, 0.9), run_of(1, 0.9)], "next", 2),
    ("one over the goal", [run_of(1, 0.95), run_of(1, 0.8)], "hold", 1),
    ("the times do not agree", [run_of(1, 0.8, 1.2), run_of(1, 0.8, 1.2)], "hold", 1),
    ("good runs on another rung", [run_of(1, 0.8), run_of(2, 0.7)], "hold", 2),
    ("two far too slow", [run_of(2, 1.3), run_of(2, 1.26)], "back", 1),
    ("one far too slow", [run_of(2, 1.3), run_of(2, 0.9)], "hold", 2),
    ("too slow on the first rung", [run_of(1, 2.0), run_of(1, 2.0)], "hold", 1),
    ("the top of the ladder", [run_of(3, 0.6), run_of(3, 0.6)], "hold", 3),
    ("too few answers", [run_of(2, 0.7), run_of(2, None)], "hold", 2),
]


@pytest.mark.parametrize(("name", "runs", "kind", "rung"), LADDER)
def test_ladder(name: str, runs: list[RunEvidence], kind: str, rung: int) -> None:
    found = suggest(DRILL, runs)
    assert (found.kind, found.rung) == (kind, rung), name
    assert DRILL.pace.least_s <= found.window_s <= DRILL.pace.most_s
    assert found.reason.endswith(".")
    assert found.reason.count(". ") <= 1  # one sentence, and at most what follows from it


def test_the_reason_names_the_figures_it_rests_on() -> None:
    found = suggest(DRILL, [run_of(1, 0.85), run_of(1, 0.8)])
    assert "0.85 s and 0.80 s" in found.reason
    assert "0.90 s" in found.reason
    held = suggest(DRILL, [run_of(2, 0.83)])
    assert "83 % of the last 60" in held.reason
    assert "0.83 s" in held.reason


def test_evidence_is_read_from_a_simulated_run() -> None:
    plan = plan_run(DRILL, seed=4, rung=1)
    setup = Setup(DRILL, plan, Device())
    habits = Habits(mu_ms=520, sigma_ms=50, tau_ms=110, rear_ms=0, hear_ms=0, tiring_ms=0,
                    lapses=0, wrong=0, jumps=0)  # fmt: skip
    done = rescore(setup, simulate(setup, habits, 4)[0])
    found = evidence(DRILL, 1, done.responses)
    # The 84 % quantile of this ex-Gaussian is 0.737 s (SciPy exponnorm, K = 2.2); the run is short.
    assert found.quantile_s == pytest.approx(0.737, abs=0.09)
    assert found.settled_window_s == pytest.approx(0.737, rel=0.35)
    assert found.low_s is not None
    assert found.low_s <= (found.quantile_s or 0)
    last = [response for response in done.responses if response.asked_technique][-20:]
    mean = math.exp(sum(math.log(each.window_ms / 1000) for each in last) / 20)
    assert found.settled_window_s == pytest.approx(mean)


def test_a_quicker_student_ends_with_a_shorter_window() -> None:
    ends = []
    for mu_ms in (400.0, 520.0, 640.0):
        windows = []
        for seed in range(5):
            setup = Setup(DRILL, plan_run(DRILL, seed=seed, rung=2), Device())
            _, state = simulate(setup, Habits(mu_ms=mu_ms), seed)
            windows.append(state.controller.window_s)
        ends.append(sum(windows) / 5)
    assert ends == sorted(ends)
    assert isinstance(DRILL, Drill)


def test_the_measured_rule_comes_to_the_students_own_times() -> None:
    # By definition: 84 of 100 of these answers are inside 584 ms.
    state, pace = ControllerState(window_s=1.2), Pace(rule="measured", target=0.84)
    order = np.random.default_rng(4).permutation(100)
    for place in order.tolist():
        follow(state, pace, replace(ANSWERED, time_ms=501.0 + place, outcome="clean"))
    settle(state, pace, Prior(window_s=1.2))
    assert state.window_s == pytest.approx(0.584, abs=0.02)


def test_the_measured_rule_stays_within_the_bounds_and_knows_nothing_from_nothing() -> None:
    pace = Pace(rule="measured")
    quick, lost = ControllerState(window_s=1.0), ControllerState(window_s=1.0)
    for _ in range(20):
        follow(quick, pace, replace(ANSWERED, time_ms=160.0))
        follow(lost, pace, replace(ANSWERED, outcome="wrong"))
    settle(quick, pace, Prior(window_s=1.0))
    settle(lost, pace, Prior(window_s=1.0))
    assert quick.window_s == pace.least_s
    assert lost.window_s == 1.0
    assert len(quick.taken) == 20


def test_a_window_that_steps_between_rounds_holds_inside_them() -> None:
    state, pace = ControllerState(window_s=1.0), Pace(rule="rounds", target=0.8)
    windows = []
    for number, clean in ((1, 9), (2, 5), (3, 8)):
        for place in range(10):
            outcome = "clean" if place < clean else "late"
            follow(state, pace, replace(ANSWERED, round=number, outcome=outcome))
            windows.append(state.window_s)
    assert len(set(windows[:10])) == len(set(windows[11:20])) == 1
    assert windows[10] < windows[9]  # nine of ten were clean
    assert windows[20] > windows[19]  # five of ten
    assert windows[20] == pytest.approx(windows[9])


@pytest.mark.parametrize("rule", ["measured", "rounds", "n_down"])
def test_every_school_scores_the_same_afresh(rule: str) -> None:
    """Folded batch by batch by a player that follows its tails, or at once: the same state."""
    drill = DRILL.model_copy(update={"pace": DRILL.pace.model_copy(update={"rule": rule})})
    setup = Setup(drill, plan_run(drill, seed=3, rung=2), Device())
    batches, state = simulate(setup, Habits(), 3)
    assert rescore(setup, batches).state == state
    assert state.answers > 20


def test_the_rules_of_the_ladder_are_the_drills_own() -> None:
    def by(**rules: float) -> str:
        rule = DRILL.progress.model_copy(update=rules)
        drill = DRILL.model_copy(update={"progress": rule})
        return suggest(drill, [run_of(2, 1.0, 0.8), run_of(2, 0.7, 0.8), run_of(2, 0.7, 0.8)]).kind

    assert by() == "next"
    assert by(runs=3) == "hold"
    assert by(runs=1) == "next"
    assert by(agree=1.0) == "hold"  # the times are 0.8 s, over the goal of 0.75 s
    slow = DRILL.model_copy(update={"progress": DRILL.progress.model_copy(update={"back": 1.6})})
    runs = [run_of(2, 1.5), run_of(2, 1.5)]
    assert (suggest(DRILL, runs).kind, suggest(slow, runs).kind) == ("back", "hold")


def test_help_goes_before_only_more_speed() -> None:
    told = Announce(lead_s=1.0)
    rungs = tuple(rung.model_copy(update={"lead_in": told}) for rung in DRILL.rungs)
    helped = DRILL.model_copy(update={"rungs": rungs})
    good = [run_of(1, 0.85), run_of(1, 0.8)]
    found = suggest(helped, good)
    assert (found.kind, found.rung, found.window_s) == ("less_help", 1, 0.8)
    fading = DRILL.model_copy(update={"rungs": (rungs[0], *DRILL.rungs[1:])})
    assert suggest(fading, good).kind == "next"  # the next rung takes the help away itself


def standing(rung: int, window: float, middle: float = 0.0, low: float = -30) -> Standing:
    reach = middle - low
    side = Difference("lead", "rear", middle, low, middle + reach, 30)
    return Standing(run_of(rung, window), side, FIRST)


FIRST = datetime(2026, 9, 1, 18, 30, tzinfo=UTC)


NOTICES: list[tuple[str, list[Standing], list[str]]] = [
    ("nothing yet", [], []),
    ("going down", [standing(2, 1.0 - 0.02 * place) for place in range(6)], []),
    ("level", [standing(2, 0.95)] * 6, ["stalled"]),
    ("level, too short to say", [standing(2, 0.95)] * 5, []),
    ("level at the goal", [standing(2, 0.7)] * 6, ["ready"]),
    ("level, but on two rungs", [standing(1, 1.2)] * 3 + [standing(2, 0.95)] * 3, []),
    ("one good run", [standing(2, 0.95), standing(2, 0.7)], []),
    ("level, but it scatters", [standing(2, 0.95 + 0.2 * (place % 2)) for place in range(6)], []),
    ("rear lags twice", [standing(2, 0.95, 60, 20)] * 2, ["side"]),
    ("rear lags a little, four times", [standing(2, 0.95, 40, -5)] * 4, ["side"]),
    ("rear lags once", [standing(2, 0.95), standing(2, 0.95, 60, 20)], []),
    ("sides take turns", [standing(2, 0.95, 60, 20), standing(2, 0.95, -60, -110)], []),
]


@pytest.mark.parametrize(("name", "runs", "kinds"), NOTICES)
def test_what_a_coach_should_look_at(name: str, runs: list[Standing], kinds: list[str]) -> None:
    dated = [replace(run, at=FIRST + timedelta(days=3.5 * place)) for place, run in enumerate(runs)]
    found = notices(DRILL, dated)
    assert [each.kind for each in found] == kinds, name
    if kinds == ["side"]:
        assert found[0].says.startswith("rear side slower over")


def test_somebody_who_stays_far_over_the_goal_is_offered_something_gentler() -> None:
    """A tenth over the goal, four runs, no quicker; on the first rung a goal of their own."""
    goal = DRILL.rungs[1].goal_window_s
    far = [run_of(2, 1.15 * goal)] * 4
    assert (suggest(DRILL, far).kind, suggest(DRILL, far).rung) == ("gentler", 1)
    assert suggest(DRILL, far[:3]).kind == "hold"
    near = [run_of(2, 1.05 * goal)] * 4
    assert suggest(DRILL, near).kind == "hold"
    quicker = [run_of(2, each * goal) for each in (1.3, 1.26, 1.2, 1.15)]
    assert suggest(DRILL, quicker).kind == "hold"
    first = suggest(DRILL, [run_of(1, 1.2 * DRILL.rungs[0].goal_window_s)] * 4)
    assert (first.kind, first.rung) == ("own_goal", 2)


def test_a_run_without_an_answer_counts_for_nothing() -> None:
    met = run_of(1, 0.8 * DRILL.rungs[0].goal_window_s)
    nobody = replace(met, settled_window_s=None, quantile_s=None, answered=0)
    assert suggest(DRILL, [met, nobody, met, nobody]) == suggest(DRILL, [met, met])
    assert "so the window stays the same" in suggest(DRILL, [nobody]).reason


@pytest.mark.parametrize(
    ("missed", "wrong", "told"),
    [(7, 0, "12 % are never answered"), (3, 5, "8 % are answered wrong"), (3, 2, None)],
)
def test_a_target_that_no_window_reaches_is_said(missed: int, wrong: int, told: str | None) -> None:
    """Of 60 cues at a target of 0.90."""
    pace = Pace(rule="measured", target=0.9)
    outcomes = ["missed", "late"] * missed + ["wrong"] * wrong
    found = [replace(ANSWERED, outcome=outcome) for outcome in outcomes]
    found += [ANSWERED for _ in range(60 - len(found))]
    said = out_of_reach(pace, found)
    assert (said is None) == (told is None)
    if told:
        assert said is not None
        assert said.startswith("90 % clean cannot be reached")
        assert told in said
    assert out_of_reach(pace, found[:20]) is None  # too few


def test_a_student_who_has_left_is_no_target_out_of_reach() -> None:
    left = [ANSWERED] * 40 + [replace(ANSWERED, outcome="missed")] * 30
    assert out_of_reach(Pace(rule="measured", target=0.9), left) is None
