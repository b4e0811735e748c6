"""Chains: what is asked, by when, and what is made of what landed. Common practice, no source."""

from __future__ import annotations

import pytest

from hastatus.core.drill.cue import Cue
from hastatus.core.drill.requirement import ask
from hastatus.core.drill.settings import Rounds, SetOrder, Stacking
from hastatus.core.drill.solo import Drill, Judging, Rung
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.read.summary import summarise
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch, CueShown, Finish, Input, RoundStart
from hastatus.core.run.setup import Setup
from hastatus.core.score.response import Response
from hastatus.core.score.scorer import score
from hastatus.core.starter import STARTERS
from hastatus.core.starter.build import chain, counter, heard, leave, step
from hastatus.demo.student import Habits, simulate

WINDOW_MS = 800.0


def drill_of(*cues: Cue, **rung: object) -> Drill:
    return Drill(
        title="Chains",
        cues=cues,
        rungs=(
            Rung(
                name="one",
                window_s=WINDOW_MS / 1000,
                goal_window_s=0.6,
                order=SetOrder(),
                rounds=Rounds(count=1, duration_s=60),
                **rung,  # type: ignore[arg-type]
            ),
        ),
    )


def judged(drill: Drill, *presses: tuple[str, float]) -> Response:
    """What becomes of the first cue, shown at 1 s, when keys are pressed some ms after it."""
    plan = plan_run(drill, seed=1)
    first = plan.rounds[0].cues[0]
    events = [
        RoundStart(t_ms=0, round=1),
        CueShown(
            t_ms=1000, round=1, slot=0, cue=first.cue, at_s=1, window_ms=WINDOW_MS, source="audio"
        ),
        *(Input(t_ms=1000 + after, device="key", control=f"Key{key}") for key, after in presses),
        Finish(t_ms=60_000, reason="complete"),
    ]
    batch = Batch(number=0, epoch=0, until_ms=60_000, last=True, events=tuple(events))
    return score(drill, plan, Device(), [batch])[0][0]


# Keys: rows are parry (R, U) over straight (F, J); lead is left.
PARRY_AND_HIT = drill_of(
    heard("in", "bell", "circle blue", chain(step("lead parry"), counter("rear straight", beats=2)))
)


@pytest.mark.parametrize(
    ("presses", "outcome", "then"),
    [
        ([("R", 500), ("J", 1500)], "clean", ("clean", 1500)),
        ([("R", 500), ("J", 2500)], "clean", ("clean", 2500)),  # two beats after the parry
        ([("R", 500), ("J", 2501)], "clean", ("late", 2501)),
        ([("R", 500), ("J", 2901)], "clean", ("missed", None)),
        ([("R", 500), ("R", 700), ("J", 1500)], "clean", ("clean", 1500)),  # struck twice
        ([("R", 500), ("F", 1500)], "clean", ("wrong", 1500)),
        ([("R", 900), ("J", 1500)], "late", ("clean", 1500)),
        ([("R", 500)], "clean", ("missed", None)),
    ],
)
def test_a_counter_has_its_own_limit_in_beats(
    presses: list[tuple[str, float]], outcome: str, then: tuple[str, float | None]
) -> None:
    found = judged(PARRY_AND_HIT, *presses)
    assert (found.outcome, found.time_ms) == (outcome, presses[0][1])
    counted = found.step("counter")
    assert counted
    assert (counted.outcome, counted.time_ms) == then
    assert counted.limit_ms == presses[0][1] + 2000


WHOLE = drill_of(
    heard(
        "in", "bell", "circle blue",
        chain(step("lead parry"), counter("rear straight", beats=1), leave("shove_off", beats=1)),
    )
)  # fmt: skip


def test_steps_are_fitted_in_order_with_gaps() -> None:
    """A counter left out is missed, and the exit that was done is clean."""
    found = judged(WHOLE, ("R", 500), ("V", 1400))
    assert [(each.part, each.outcome) for each in found.steps] == [
        ("counter", "missed"), ("exit", "clean"),
    ]  # fmt: skip
    late = judged(WHOLE, ("R", 500), ("J", 1400), ("V", 2600))
    assert [each.outcome for each in late.steps] == ["clean", "late"]
    assert late.steps[1].limit_ms == 2400


def test_strikes_that_are_only_heard_are_the_steps_in_order() -> None:
    """Nothing but their times is known: the first is the answer, each later one the next step."""
    plan = plan_run(WHOLE, seed=1)
    shown = CueShown(
        t_ms=1000, round=1, slot=0, cue="in", at_s=1, window_ms=WINDOW_MS, source="audio"
    )
    strikes = [
        Input(t_ms=1000 + after, device="microphone", control="strike", level_db=-20)
        for after in (500, 1400, 2300, 2600)
    ]
    batch = Batch(number=0, epoch=0, until_ms=9000, last=True, events=(shown, *strikes))
    heard_only = Device(place="floor", inputs=("microphone",))
    (found,), scorer = score(WHOLE, plan, heard_only, [batch])
    assert (found.outcome, found.time_ms) == ("clean", 500)
    assert [(each.outcome, each.time_ms) for each in found.steps] == [
        ("clean", 1400), ("clean", 2300),
    ]  # fmt: skip
    assert [(stray.t_ms, stray.why) for stray in scorer.strays] == [(3600, "second")]


def test_a_hold_cut_short_is_told() -> None:
    held = drill_of(
        heard("in", "bell", "circle blue",
              chain(step("lead parry", hold_s=2.0), counter("rear straight", beats=1)))
    )  # fmt: skip
    short, whole = judged(held, ("R", 500), ("J", 1900)), judged(held, ("R", 500), ("J", 3000))
    assert [(hold.held_ms, hold.cut_short) for hold in short.holds] == [(1400, True)]
    assert [(hold.held_ms, hold.cut_short) for hold in whole.holds] == [(2500, False)]
    assert (summarise([short, whole]).holds_cut, summarise([short, whole]).holds_of) == (1, 2)


def test_counters_are_counted_and_what_is_not_timed_is_told_apart() -> None:
    hit = judged(PARRY_AND_HIT, ("R", 500), ("J", 1500))
    none = judged(PARRY_AND_HIT, ("R", 500))
    shown = judged(drill_of(heard("in", "bell", "circle blue", chain(step("lead slip")))))
    found = summarise([hit, none, shown])
    assert (found.counters, found.counters_of) == (1, 2)
    assert (found.count, found.not_sensed, found.left_out) == (2, 1, 0)


def test_a_wrong_answer_begins_no_chain() -> None:
    found = judged(PARRY_AND_HIT, ("F", 500), ("J", 900))
    assert found.outcome == "wrong"
    assert found.steps == ()


SLIP_AND_HIT = drill_of(
    heard("in", "bell", "circle blue", chain(step("lead slip"), counter("rear straight", beats=1)))
)


@pytest.mark.parametrize(
    ("after", "outcome"), [(1500, "clean"), (1800, "clean"), (1801, "late"), (2300, "missed")]
)
def test_a_slip_is_timed_by_the_counter_that_follows(after: float, outcome: str) -> None:
    found = judged(SLIP_AND_HIT, ("U", after))  # the one technique that lands has the first row
    assert (found.outcome, found.timed_by) == (outcome, "counter")
    assert (found.window_ms, found.offset_ms) == (1800, 1000)


def test_what_lands_on_nothing_is_shown_and_not_timed() -> None:
    found = judged(drill_of(heard("in", "bell", "circle blue", chain(step("lead slip")))))
    assert (found.left_out, found.timed_by) == ("not_sensed", "not_sensed")


def test_several_answers_are_accepted_and_each_has_its_own_limit() -> None:
    either = drill_of(
        heard("in", "bell", "circle blue", chain(step("lead parry")),
              chain(step("duck"), counter("lead straight", beats=1)))
    )  # fmt: skip
    assert judged(either, ("R", 700)).outcome == "clean"
    assert judged(either, ("R", 900)).outcome == "late"
    assert judged(either, ("F", 900)).outcome == "clean"  # the counter after a duck
    assert judged(either, ("U", 700)).outcome == "wrong"


def test_an_early_answer_is_jumped_unless_it_is_asked_for() -> None:
    reading = PARRY_AND_HIT.model_copy(update={"judging": Judging(early="asked")})
    assert judged(PARRY_AND_HIT, ("R", 90)).outcome == "jumped"
    assert judged(reading, ("R", 90)).outcome == "clean"


def test_a_technique_without_sides_is_right_on_either_key() -> None:
    shove = drill_of(heard("in", "bell", "circle blue", chain(step("rear shove_off"))))
    assert judged(shove, ("R", 500)).outcome == "clean"
    assert judged(shove, ("U", 500)).outcome == "clean"


def test_how_far_a_chain_goes_is_the_rungs_choice() -> None:
    whole = chain(step("lead parry"), counter("rear straight"), leave("leave"))
    cue = heard("in", "bell", "circle blue", whole)
    for depth, steps in (("answer", 1), ("counter", 2), ("exit", 3)):
        drill = drill_of(cue, chain=depth)
        assert len(ask(drill, drill.rungs[0], cue).chains[0].steps) == steps
    assert len(ask(drill, drill.rungs[0], cue, counter=False).chains[0].steps) == 1


def test_one_thing_more_grows_by_one_and_is_counted() -> None:
    drill = STARTERS["one thing more"]()
    slots = plan_run(drill, seed=4).rounds[0].slots
    assert [slot.stage for slot in slots] == [1] * 5 + [2] * 5 + [3] * 5 + [4] * 5
    assert [slot.count for slot in slots] == [1, 2, 3, 4, 5] * 4
    assert drill.rungs[0].stacking == Stacking(each=5, counted=True)


def test_a_limit_of_its_own_does_not_move_the_window() -> None:
    held = heard("in", "bell", "circle blue", chain(step("lead parry", within={"value": 0.5})))
    found = judged(drill_of(held), ("R", 450))
    assert (found.outcome, found.own_window) == ("clean", True)


@pytest.mark.parametrize("name", STARTERS)
def test_every_starter_is_played_and_scored_on_every_rung(name: str) -> None:
    """A perfect student is clean wherever something is timed, both stances included."""
    drill = STARTERS[name]()
    # The window stays, or it would go down until a few answers are late.
    drill = drill.model_copy(update={"pace": drill.pace.model_copy(update={"rule": "hold"})})
    perfect = Habits(mu_ms=300, sigma_ms=10, tau_ms=5, lapses=0, wrong=0, jumps=0, answers_catch=0)
    for rung in range(1, len(drill.rungs) + 1):
        setup = Setup(drill, plan_run(drill, seed=7, rung=rung), Device())
        batches, state = simulate(setup, perfect, 7)
        responses, _ = score(drill, setup.plan, Device(), batches)
        assert state.complete
        assert len(responses) >= sum(len(each.cues) for each in setup.plan.rounds)
        timed = [
            response
            for response in responses
            if response.left_out is None and response.asked_technique
        ]
        clean = sum(each.outcome == "clean" for each in timed)
        assert clean >= 0.9 * len(timed), (name, rung)
        assert all(response.left_out in (None, "not_sensed") for response in responses)
