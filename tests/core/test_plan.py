"""Plans of drills at large: whatever the drill language allows is planned by its own rules."""

from __future__ import annotations

from collections import Counter
from itertools import pairwise

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from pydantic import ValidationError

from hastatus.core import safety
from hastatus.core.colour import HEX
from hastatus.core.drill import (
    Answer,
    Cue,
    Drill,
    Light,
    Mark,
    Order,
    Overlap,
    Pace,
    Rounds,
    Rung,
    Sound,
    Waiting,
)
from hastatus.core.figures import plan_figures
from hastatus.core.order import BalancedOrder, longest_repeat
from hastatus.core.plan import controls, lay_out, plan_run, without_lights
from hastatus.core.starter import block_on_sound_strike_on_light

SHAPES = ("circle", "triangle", "square", "diamond", "ring", "bar")
SOUNDS = ("low_knock", "high_knock", "bell", "tone")


@st.composite
def cues(draw: st.DrawFn) -> tuple[Cue, ...]:
    count = draw(st.integers(2, 7))
    made = []
    for number in range(count):
        stimulus = draw(
            st.one_of(
                st.sampled_from(SOUNDS).map(lambda name: Sound(sound=name)),
                st.sampled_from(("lead", "rear", "middle")).map(lambda place: Light(place=place)),
            )
        )
        answer = Answer(
            technique=draw(st.sampled_from(("high_block", "straight"))),
            side=draw(st.sampled_from(("lead", "rear"))),
        )
        asks = number < 2 or draw(st.booleans())
        mark = Mark(shape=draw(st.sampled_from(SHAPES)), colour=draw(st.sampled_from(sorted(HEX))))
        weight = draw(st.floats(0.5, 3))
        made.append(
            Cue(
                key=f"cue_{number}",
                stimulus=stimulus,
                mark=mark,
                answer=answer if asks else None,
                weight=weight,
            )
        )
    return tuple(made)


@st.composite
def plannable(draw: st.DrawFn) -> Drill | None:
    """A drill that the language accepts; None where these draws make none."""
    drawn = draw(cues())
    least, mean = draw(st.floats(0.3, 1.5)), draw(st.floats(0.1, 1.5))
    window = draw(st.floats(0.3, 1.5))
    overlap = Overlap(share=draw(st.floats(0.05, 0.4))) if draw(st.booleans()) else None
    catch = draw(st.floats(0.05, 0.3)) if any(cue.answer is None for cue in drawn) else 0.0
    try:
        return Drill(
            title="Any",
            cues=drawn,
            rungs=(
                Rung(
                    name="one",
                    window_s=window,
                    goal_window_s=window * 0.8 if window * 0.8 >= 0.2 else 0.2,
                    waiting=Waiting(least_s=least, mean_s=mean, most_s=least + 5 * mean),
                    overlap=overlap,
                    catch_share=catch,
                ),
            ),
            rounds=Rounds(count=2, duration_s=draw(st.sampled_from((20.0, 45.0, 90.0))), rest_s=5),
            order=Order(repeat_cap=draw(st.integers(1, 4)), bag=draw(st.integers(6, 30))),
        )
    except ValidationError:
        return None


@settings(max_examples=150, deadline=None)
@given(plannable(), st.integers(0, 2**40))
def test_any_drill_is_planned_by_its_own_rules(drill: Drill | None, seed: int) -> None:
    if drill is None:
        return
    rung = drill.rungs[0]
    plan = plan_run(drill, seed=seed)
    assert plan == plan_run(drill, seed=seed)
    asks = {cue.key: cue.answer is not None for cue in drill.cues}
    channel = {cue.key: cue.channel for cue in drill.cues}
    for each in plan.rounds:
        keys = [slot.cue for slot in each.slots]
        assert longest_repeat(keys) <= drill.order.repeat_cap
        assert set(keys) <= set(drill.shares(rung))
        assert all(rung.waiting.least_s - 1e-4 <= slot.wait_s for slot in each.slots)
        assert all(slot.wait_s <= rung.waiting.most_s + 1e-4 for slot in each.slots)
        flashes = [cue.at_s for cue in each.cues if channel[cue.cue] == "see"]
        safety.check_flashes(flashes)
        free = 0.0
        for before, cue in zip((None, *each.cues), each.cues, strict=False):
            slot = each.slots[cue.slot]
            if slot.overlap is None or before is None:
                assert cue.at_s >= free + slot.wait_s - 1e-3
            else:
                assert rung.overlap is not None
                assert {channel[before.cue], channel[cue.cue]} == {"hear", "see"}
                assert asks[before.cue]
                assert asks[cue.cue]
                assert cue.at_s - before.at_s >= rung.overlap.least_gap_s - 1e-3
            free = max(free, cue.closes_s)
        assert free <= drill.rounds.duration_s + 1e-6


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
    left = {each.control: (each.technique, each.side) for each in controls("left_lead")}
    right = {each.control: (each.technique, each.side) for each in controls("right_lead")}
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
        Waiting(**wrong)


def test_bounds_are_kept() -> None:
    drill = block_on_sound_strike_on_light()
    assert plan_run(drill, seed=1, window_s=99.0).window_s == drill.pace.most_s
    assert plan_run(drill, seed=1, window_s=0.01).window_s == drill.pace.least_s
    with pytest.raises(IndexError, match="no rung 0"):
        plan_run(drill, seed=1, rung=0)
    with pytest.raises(ValidationError, match="longest window"):
        Pace(least_s=2.0, most_s=1.0)
