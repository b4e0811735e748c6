"""Scoring rules, one by one, and the fold against a full re-score."""

from datetime import date

import numpy as np
import pytest

from hastatus.core.loop.live_run import RUN_STATE, rescore
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Correction, Device
from hastatus.core.run.events import Batch, CueShown, Distrust, Finish, Input, Pause, RoundEnd
from hastatus.core.run.setup import Setup
from hastatus.core.score.response import Response
from hastatus.core.score.scorer import Scorer, score
from hastatus.core.starter import block_on_sound_strike_on_light, small_guard
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


def test_an_answer_that_still_waits_when_a_run_is_given_up_counts() -> None:
    """The batch that would have made it certain never came; what still listens is left out."""
    scorer = Scorer(DRILL, PLAN, Device())
    events = (cue(0, "low_knock", 1000), press("KeyR", 1500), cue(1, "bell", 1600))
    assert scorer.fold(Batch(number=0, epoch=0, until_ms=1200, events=events)) == []
    answered, listening = scorer.stop()
    assert (answered.outcome, answered.time_ms, answered.left_out) == ("clean", 500, None)
    assert listening.left_out == "stopped"


def test_a_window_that_the_next_of_a_burst_cuts_short_is_not_the_runs() -> None:
    drill = small_guard()
    plan = plan_run(drill, seed=1, rung=3)
    slots = plan.rounds[0].slots
    goes_on = next(place for place in range(len(slots) - 1) if slots[place + 1].burst)
    alone = next(place for place in range(len(slots) - 1) if not slots[place + 1].burst)
    last = len(slots) - 1
    for slot, window_ms, own in (
        (goes_on, 699, True), (goes_on, 698.9, False), (alone, 700, False), (last, 700, False),
    ):  # fmt: skip
        shown = cue(slot, slots[slot].cue, 1000).model_copy(update={"window_ms": window_ms})
        batch = Batch(number=0, epoch=0, until_ms=1e6, last=True, events=(shown,))
        ((found,), _) = score(drill, plan, Device(), [batch])
        assert found.own_window == own, (slot, window_ms)


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


def test_a_late_answer_goes_to_its_own_cue_and_spoils_no_other() -> None:
    """Also where the next cue of the same channel has come; a catch cue is still held."""
    first, second = judged(
        cue(0, "low_knock", 1000), cue(1, "bell", 1900), press("KeyR", 2000), press("KeyU", 2400)
    )
    assert (first.outcome, first.time_ms) == ("late", 1000)
    assert (second.outcome, second.time_ms) == ("clean", 500)
    light, hold = judged(
        cue(0, "lead_light", 1000), cue(1, "hold_light", 1850), press("KeyF", 2100)
    )
    assert (light.outcome, hold.outcome) == ("late", "held")


def test_what_is_too_late_or_between_two_cues_uses_up_neither() -> None:
    lapsed, second = judged(
        cue(0, "low_knock", 1000), cue(1, "bell", 2250), press("KeyR", 2300), press("KeyU", 2800)
    )
    assert (lapsed.outcome, lapsed.censored_ms, second.outcome) == ("missed", 1200, "clean")
    older, newer = judged(
        cue(0, "low_knock", 1000), cue(1, "bell", 1500), press("KeyJ", 1560), press("KeyU", 2000)
    )
    assert (older.outcome, newer.outcome, newer.time_ms) == ("wrong", "clean", 500)
    (alone,) = judged(cue(0, "low_knock", 1000), press("KeyR", 1100), press("KeyR", 1500))
    assert alone.outcome == "jumped"


@pytest.mark.parametrize(("again_ms", "right"), [(1800, True), (1800, False), (2150, True)])
def test_a_key_struck_twice_does_not_make_the_other_cue_wrong(again_ms: int, right: bool) -> None:
    """Only where nothing right follows was the second strike the other cue's answer."""
    answer = [press("KeyJ", 2200)] if right else []
    sound, light = judged(
        cue(0, "low_knock", 1000), cue(1, "rear_light", 1400),
        press("KeyR", 1600), press("KeyR", again_ms), *answer,
    )  # fmt: skip
    assert sound.outcome == "clean"
    assert light.outcome == ("clean" if right else "wrong")


@pytest.mark.parametrize(("again_ms", "outcome"), [(1800, "held"), (2250, "wrong")])
def test_the_last_answer_once_more_after_a_catch_cue_is_a_false_alarm(
    again_ms: float, outcome: str
) -> None:
    """At once it was struck twice; a while later it is an answer to what asks for none."""
    light, hold = judged(
        cue(0, "lead_light", 1000), cue(1, "hold_light", 1550),
        press("KeyF", 1500), press("KeyF", again_ms),
    )  # fmt: skip
    assert (light.outcome, hold.outcome) == ("clean", outcome)


def test_an_answer_before_a_pause_or_the_end_stands() -> None:
    events = cue(0, "bell", 1000), press("KeyU", 1500)
    for stop in (
        Pause(t_ms=1600, reason="coach"), RoundEnd(t_ms=1600, round=1, reason="stopped"),
        Finish(t_ms=1600, reason="stopped"),
    ):  # fmt: skip
        (found,) = judged(*events, stop)
        assert (found.outcome, found.time_ms, found.left_out) == ("clean", 500, None)
        (unanswered,) = judged(cue(0, "bell", 1000), stop)
        assert unanswered.left_out in ("paused", "stopped")


@pytest.mark.parametrize(
    ("source", "spread_ms", "reason", "left_out"),
    [
        ("presentation", 8, "blocked", None),  # confirmed, and the key has a stamp of its own
        ("audio", 1, "dropped_frames", None),
        ("audio", 1, "sound_lost", "sound_lost"),
        ("frame", 8, None, "unconfirmed"),
        ("audio", 20, None, "unconfirmed"),
    ],
)
def test_what_is_known_all_the_same_is_not_thrown_out(
    source: str, spread_ms: float, reason: str | None, left_out: str | None
) -> None:
    shown = cue(0, "bell", 1000).model_copy(update={"source": source, "spread_ms": spread_ms})
    late = [Distrust(t_ms=1700, from_ms=1200, reason=reason)] if reason else []  # type: ignore[arg-type]
    assert judged(shown, press("KeyU", 1500), *late)[0].left_out == left_out
    if reason:  # an answer that never came may be what was lost
        assert judged(shown, *late)[0].left_out == reason


def test_the_same_key_just_before_the_cue_and_after_it_is_told() -> None:
    (found,) = judged(press("KeyU", 920), cue(0, "bell", 1000), press("KeyU", 1500))
    assert (found.outcome, found.before_ms) == ("clean", -80)
    (other,) = judged(press("KeyR", 920), cue(0, "bell", 1000), press("KeyU", 1500))
    assert other.before_ms is None


HOME = Device(inputs=("key",), home=True)


def home(t_ms: float, edge: str) -> Input:
    return Input(t_ms=t_ms, device="key", control="home", edge=edge)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("leaves_ms", "outcome"),
    [(1100, "clean"), (1099, "jumped"), (1001, "jumped"), (900, "jumped")],
)
def test_leaving_home_before_anybody_reacts_is_a_false_start(
    leaves_ms: float, outcome: str
) -> None:
    """Under 0.100 s is no reaction (World Athletics Technical Rules, from memory); before the cue
    it is none either, unless the hand has come back."""
    pressed = home(500, "down"), home(leaves_ms, "up"), cue(0, "bell", 1000), press("KeyU", 1400)
    events = sorted(pressed, key=lambda event: event.t_ms)
    (found,) = judged(*events, device=HOME)
    assert (found.outcome, found.reaction_ms) == (outcome, leaves_ms - 1000)
    (back,) = judged(
        home(500, "down"), home(700, "up"), home(900, "down"), cue(0, "bell", 1000),
        home(1250, "up"), press("KeyU", 1400), device=HOME,
    )  # fmt: skip
    assert (back.outcome, back.reaction_ms) == ("clean", 250)


def test_a_microphone_says_when_it_cannot_tell_two_cues_apart() -> None:
    heard = Device(place="floor", inputs=("microphone",))

    def strike(t_ms: float) -> Input:
        return Input(t_ms=t_ms, device="microphone", control="strike", level_db=-20)

    both = cue(0, "low_knock", 1000), cue(1, "rear_light", 1250)
    told = judged(*both, strike(1380), strike(1800), device=heard)
    assert [(each.time_ms, each.left_out) for each in told] == [(380, None), (550, None)]
    unsure = judged(*both, strike(1500), strike(1800), device=heard)
    assert [each.left_out for each in unsure] == ["not_told_apart"] * 2


def test_pause_leaves_out_and_latency_is_taken_off() -> None:
    assert judged(cue(0, "bell", 1000), Pause(t_ms=1100, reason="coach"))[0].left_out == "paused"
    measured = Correction(source="key", ms=25, spread_ms=4, measured_on=date(2026, 10, 1))
    device = Device(corrections=(measured,))
    found = judged(cue(0, "bell", 1000), press("KeyU", 1820), device=device)
    assert (found[0].outcome, found[0].time_ms) == ("clean", 795)


def test_what_is_later_than_a_batch_promises_waits_for_the_next_one() -> None:
    """A pad's own stamp may lie ahead of what has come: the cue it answers is still to be told."""
    early = cue(0, "low_knock", 1000), press("KeyJ", 1600), press("KeyQ", 1650)
    first = Batch(number=0, epoch=0, until_ms=1200, events=early)
    later = cue(1, "rear_light", 1250), press("KeyR", 1500)
    second = Batch(number=1, epoch=0, until_ms=0, last=True, events=later)
    scorer = Scorer(DRILL, PLAN, Device())
    assert scorer.fold(first) == []
    assert [event.t_ms for _, event in scorer.state.waiting] == [1600, 1650]
    sound, light = scorer.fold(second)
    assert (sound.outcome, sound.time_ms) == ("clean", 500)
    assert (light.outcome, light.time_ms) == ("clean", 350)
    assert [stray.why for stray in scorer.strays] == ["unknown"]


def test_a_page_loaded_anew_has_another_clock_so_what_is_open_is_left_out() -> None:
    first = Batch(number=0, epoch=0, until_ms=1200, events=(cue(0, "bell", 1000),))
    anew = Batch(
        number=1, epoch=1, until_ms=900, last=True, events=(cue(1, "bell", 300), press("KeyU", 700))
    )
    scorer = Scorer(DRILL, PLAN, Device())
    assert scorer.fold(first) == []
    open_then, answered = scorer.fold(anew)
    assert (open_then.slot, open_then.left_out) == (0, "reload")
    assert (answered.slot, answered.outcome, answered.time_ms) == (1, "clean", 400)


@pytest.mark.parametrize("seed", range(4))
def test_the_fold_equals_a_full_rescore_in_any_order(seed: int) -> None:
    setup = Setup(DRILL, plan_run(DRILL, seed=seed, rung=1 + seed % 3), Device())
    batches, state = simulate(setup, Habits(), seed)
    shuffled = list(np.random.default_rng(seed).permutation(np.array(batches, dtype=object)))
    again = rescore(setup, shuffled)
    assert RUN_STATE.dump_python(again.state) == RUN_STATE.dump_python(state)
    assert again.state.complete
    assert not again.missing
    onsets = [response.onset_ms for response in again.responses]
    assert onsets == sorted(onsets)


def test_nobody_there_holds_the_pace() -> None:
    setup = Setup(DRILL, PLAN, Device())
    _, state = simulate(setup, Habits(lapses=1.0), 1)
    assert state.controller.window_s == PLAN.window_s
    assert state.controller.holding
