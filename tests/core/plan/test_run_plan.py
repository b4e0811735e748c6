"""Plans of drills at large: whatever the drill language allows is planned by its own rules."""

from __future__ import annotations

from collections import Counter
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pydantic import ValidationError
from scipy import stats

from hastatus.core.drill.checks import partner, solo
from hastatus.core.drill.checks.fault import Unplannable
from hastatus.core.drill.settings import Unguessable
from hastatus.core.drill.solo import Drill, Pace
from hastatus.core.plan.order import BalancedOrder
from hastatus.core.plan.run_plan import plan_run, without_lights
from hastatus.core.plan.statistics import plan_figures
from hastatus.core.plan.timeline import lay_out
from hastatus.core.run.controls import controls
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.core.starter.partner import PARTNER_STARTERS
from tests.harness.drills import broken_rules, drills, mended, put


@settings(max_examples=150, suppress_health_check=list(HealthCheck))
@given(drills(), st.integers(0, 2**40))
def test_any_drill_is_planned_by_its_own_rules_or_says_why_not(drill: Drill, seed: int) -> None:
    try:
        plan = plan_run(drill, seed=seed)
    except Unplannable:
        mend = mended(drill)
        if mend is None:
            return
        drill = mend  # what is offered as a mend does mend
        plan = plan_run(drill, seed=seed)
    assert plan == plan_run(drill, seed=seed)
    assert broken_rules(drill, plan) == []
    figures = plan_figures(drill, plan)
    assert figures.worst_second <= 3
    assert 0 < figures.guess_last <= figures.guess_history + 0.05 <= 1.05
    assert figures.total_s == pytest.approx(plan.total_s)
    # Shannon 1948: at most log2 n, and just the entropy of the shares.
    turns = range(max(1, len(drill.rungs[0].rounds.turns)))
    shares = [list(drill.shares(drill.rungs[0], turn).values()) for turn in turns]
    assert figures.bits <= np.log2(max(map(len, shares))) + 1e-9
    assert figures.bits == pytest.approx(
        np.mean([stats.entropy(share, base=2) for share in shares])
    )
    for each in plan.rounds:
        window = max(drill.pace.least_s, 0.6 * plan.window_s)
        cues = lay_out(drill, drill.rungs[0], each.slots, window, each.cues[:3])
        tail = (*each.cues[:3], *cues)
        length = max(cue.closes_s for cue in tail) if tail else 0.0
        grown = each.model_copy(update={"cues": tail, "duration_s": max(each.duration_s, length)})
        assert broken_rules(drill, plan.model_copy(update={"rounds": (grown,)})) == []


def test_shares_come_out_as_the_weights_ask() -> None:
    shares = {"a": 0.5, "b": 0.3, "c": 0.2}
    drawn = BalancedOrder(shares, 20, 2, np.random.default_rng(3)).take(2000)
    counts = Counter(drawn)
    assert {key: counts[key] / 2000 for key in shares} == pytest.approx(shares, abs=0.005)
    # Balanced means so in every bag, not only in the long run.
    for start in range(0, 2000, 20):
        in_bag = Counter(drawn[start : start + 20])
        assert all(abs(in_bag[key] - 20 * share) <= 2 for key, share in shares.items())


def test_the_order_tells_nothing_beyond_the_cap() -> None:
    """Knowing the last cue, the next one is as open as the cap and the bag allow."""
    shares = dict.fromkeys("abcd", 0.25)
    drawn = BalancedOrder(shares, 20, 2, np.random.default_rng(4)).take(40_000)
    after = Counter(pairwise(drawn))
    for last in "abcd":
        total = sum(after[last, following] for following in "abcd")
        for following in "abcd":
            share = after[last, following] / total
            assert 0.15 < share < 0.32


def test_the_overlap_share_is_kept_and_only_where_the_rung_allows() -> None:
    drill = block_on_sound_strike_on_light()
    for rung, wanted in ((1, 0.0), (2, 0.0), (3, 0.25)):
        slots = [
            slot
            for seed in range(20)
            for slot in plan_run(drill, seed=seed, rung=rung).rounds[0].slots
        ]
        found = sum(slot.overlap is not None for slot in slots) / len(slots)
        assert found == pytest.approx(wanted, abs=0.03)


def test_figures_count_what_is_planned() -> None:
    drill = block_on_sound_strike_on_light()
    plan = plan_run(drill, seed=9, rung=2)
    figures = plan_figures(drill, plan)
    placed = [cue.cue for each in plan.rounds for cue in each.cues]
    assert figures.counts == Counter(placed)
    assert figures.cues_a_minute == pytest.approx(len(placed) / 3)
    assert figures.total_s == 3 * 60 + 2 * 30
    assert figures.longest_repeat <= 2
    assert figures.worst_second <= 3
    assert figures.guessable_share < 0.01


def test_a_tail_leaves_what_is_committed_and_draws_nothing_anew() -> None:
    drill = block_on_sound_strike_on_light()
    rung = drill.rungs[1]
    each = plan_run(drill, seed=12, rung=2).rounds[0]
    head = each.cues[:6]
    tail = lay_out(drill, rung, each.slots, 0.6, head[-4:])
    assert tail[0].slot == head[-1].slot + 1
    assert tail[0].at_s >= head[-1].closes_s + rung.waiting.least_s - 1e-3
    assert [cue.cue for cue in tail] == [slot.cue for slot in each.slots[6 : 6 + len(tail)]]
    assert len(head) + len(tail) > len(each.cues)  # a shorter window leaves room for more cues
    assert lay_out(drill, rung, each.slots, 0.6, head) == tail  # the last four say enough


def test_sound_only_and_mirrored() -> None:
    drill = block_on_sound_strike_on_light()
    quiet = plan_run(drill, seed=3, rung=3, sound_only=True)
    assert {slot.cue for each in quiet.rounds for slot in each.slots} == {"low_knock", "bell"}
    assert quiet.rehearsal == ("low_knock", "bell")
    assert {cue.key for cue in without_lights(drill).cues} == {"low_knock", "bell"}
    left = {
        each.control: (each.technique, each.side)
        for each in controls(drill, drill.rungs[0], "left_lead")
    }
    right = {
        each.control: (each.technique, each.side)
        for each in controls(drill, drill.rungs[0], "right_lead")
    }
    assert len(set(left.values())) == 4
    for control, (technique, side) in left.items():
        assert right[control] == (technique, "rear" if side == "lead" else "lead")


@pytest.mark.parametrize(
    ("wrong", "says"),
    [
        ({"least_s": 1.0, "mean_s": 1.0, "most_s": 1.5}, "can be guessed"),
        ({"least_s": 0.1}, "least_s"),
        ({"mean_s": float("nan")}, "mean_s"),
    ],
)
def test_waiting_that_could_be_guessed_is_refused(wrong: dict[str, float], says: str) -> None:
    with pytest.raises(ValidationError, match=says):
        Unguessable(**wrong)


def test_bounds_are_kept() -> None:
    drill = block_on_sound_strike_on_light()
    assert plan_run(drill, seed=1, window_s=99.0).window_s == drill.pace.most_s
    assert plan_run(drill, seed=1, window_s=0.01).window_s == drill.pace.least_s
    with pytest.raises(IndexError, match="no rung 0"):
        plan_run(drill, seed=1, rung=0)
    with pytest.raises(ValidationError, match="longest window"):
        Pace(least_s=2.0, most_s=1.0)


@pytest.mark.parametrize(("count", "duration_s", "fit"), [(40, 1800.0, 8), (30, 500.0, 28)])
def test_a_day_of_rounds_is_too_much_for_one_run(count: int, duration_s: float, fit: int) -> None:
    """It took 5 s to begin and 13 MB to send; said where the drill is written, with its mend."""
    for drill in (block_on_sound_strike_on_light(), PARTNER_STARTERS["turn about"]()):
        document = drill.model_dump(mode="json")
        document["rungs"][0]["rounds"] |= {
            "count": count, "duration_s": duration_s, "ends": "time",
        }  # fmt: skip
        long = type(drill).model_validate(document)
        found = solo.find if isinstance(long, Drill) else partner.find
        (fault,) = [each for each in found(long) if each.level == "stop"]
        assert fault.where == "rungs.0.rounds.count"
        assert "a run has at most 4 h" in fault.what
        assert fault.mend is not None
        assert fault.mend.changes[0].value == fit
        put(document, fault.mend.changes[0].path, fit)
        mended_drill = type(drill).model_validate(document)
        assert not [each for each in found(mended_drill) if each.level == "stop"]
