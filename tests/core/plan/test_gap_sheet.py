"""What the sheet of distance and time says of a drill that is written by hand."""

from __future__ import annotations

import pytest

from hastatus.core.drill.blank import fresh_partner_drill
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import PadHold, PartnerStep
from hastatus.core.drill.passage import Branch, Passage
from hastatus.core.plan.gap_sheet import GapSheet, WalkedStep, gap_sheet
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.gear import PADDLE_M
from hastatus.core.trade.limbs import Limbs, estimated
from hastatus.core.trade.pair import Pair
from hastatus.core.trade.reach import bands, gap_reached, safe_gap, strike_m

PAIR = Pair(estimated(1.62), estimated(1.88))


def feed(technique: str, beat: float, **rest: object) -> PartnerStep:
    return PartnerStep.model_validate(
        {"lane": "feeder", "technique": technique, "beat": beat, **rest}
    )


def answer(technique: str, beat: float, **rest: object) -> PartnerStep:
    return PartnerStep.model_validate(
        {"lane": "defender", "technique": technique, "beat": beat, **rest}
    )


def passage(
    key: str, *steps: PartnerStep, then: tuple[Branch, ...] = (), weight: float = 1
) -> Passage:
    blank = fresh_partner_drill().passages[0]
    change = {"key": key, "name": key, "steps": steps, "then": then, "weight": weight}
    return Passage.model_validate({**blank.model_dump(), **change})


def written(*passages: Passage, **of_rung: object) -> tuple[PartnerDrill, PartnerRung]:
    blank = fresh_partner_drill()
    rung = blank.rungs[0].model_copy(update=of_rung)
    return blank.model_copy(update={"passages": passages, "rungs": (rung,)}), rung


def sheet(*passages: Passage, **of_rung: object) -> GapSheet:
    return gap_sheet(*written(*passages, **of_rung), PAIR)


ONE = passage("one", feed("straight", 1, contact="touch"), answer("parry", 1))


@pytest.mark.parametrize("gear", [(), ("gloves",), ("gloves", "paddles"), ("paddles",)])
def test_each_reaches_as_far_as_their_own_limbs_and_gear(gear: tuple[str, ...]) -> None:
    found = sheet(ONE, gear=gear)
    for reaches, body in zip(found.reaches, (PAIR.a, PAIR.b), strict=True):

        def reached(key: str, of: Limbs = body) -> float:
            return gap_reached(strike_m(TECHNIQUES[key], of, glove="gloves" in gear))

        assert reaches.fist_m == reached("straight")
        assert reaches.elbow_m == reached("round_elbow") < reaches.fist_m
        assert reaches.shin_m == reached("body_kick")
        assert reaches.foot_m == reached("front_kick") > reaches.fist_m
        assert reaches.paddle_m == (reached("tag") + PADDLE_M if "paddles" in gear else None)
    assert found.reaches[0].fist_m < found.reaches[1].fist_m
    assert found.bands == bands(PAIR.a, PAIR.b)
    assert found.safe_gap_m == safe_gap(PAIR.a, PAIR.b)


def test_a_way_is_its_passages_one_after_the_other() -> None:
    first = passage(
        "first",
        feed("straight", 1),
        answer("parry", 1),
        then=(Branch(share=1, to="second"), Branch(share=3, to=None)),
    )
    second = passage("second", feed("straight", 1.5, side="rear", until=3), weight=0)
    found = sheet(first, second)
    way = next(way for way in found.ways if way.passages == ("first", "second"))
    (begin, offset) = way.starts
    assert begin == 0
    assert offset == first.beats
    assert way.beats == first.beats + second.beats
    assert way.steps == (
        WalkedStep("first", 0, 1, None, "a"),
        WalkedStep("first", 1, 1, None, "b"),
        WalkedStep("second", 0, offset + 1.5, offset + 3, "a"),
    )
    assert way.share == 0.25
    assert way.start_m == found.start_m > 0
    straight_out = sheet(first, second, branches=False)
    assert [way.share for way in straight_out.ways if len(way.passages) == 2] == [0]


def test_shares_of_ways_go_by_weights_and_branches() -> None:
    one = passage("one", feed("straight", 1), then=(Branch(share=2, to="three"),), weight=1)
    two = passage("two", feed("straight", 1, side="rear"), weight=2)
    three = passage("three", feed("body_kick", 2), weight=0)
    found = sheet(one, two, three)
    shares = {way.passages: way.share for way in found.ways}
    assert shares[("one", "three")] == pytest.approx(1 / 3, abs=5e-5)
    assert shares[("two",)] == pytest.approx(2 / 3, abs=5e-5)


def test_what_ends_short_says_by_how_much() -> None:
    """A lead straight from far out ends short; a step in brings it there."""
    far = written(ONE)[0].model_copy(update={"start_m": 1.6})
    rung = far.rungs[0]
    (way,) = gap_sheet(far, rung, PAIR).ways
    first = way.gap[0]
    assert first.gap_m == 1.6
    assert first.reached_m is not None
    assert first.short_m == pytest.approx(first.gap_m - first.reached_m, abs=0.0015)
    assert (first.passage, first.step, first.beat) == ("one", 0, 1)
    assert way.gap[1].reached_m is None  # a parry goes nowhere
    assert way.gap[1].short_m is None
    near = far.model_copy(update={"start_m": 0.7})
    (way,) = gap_sheet(near, rung, PAIR).ways
    assert way.gap[0].short_m is None


def test_a_strike_that_is_to_stop_short_may_end_a_little_further_out() -> None:
    def short(start_m: float, **of_step: object) -> float | None:
        only = passage("one", feed("straight", 1, **of_step))
        drill, rung = written(only)
        drill = drill.model_copy(update={"start_m": start_m})
        return gap_sheet(drill, rung, PAIR).ways[0].gap[0].short_m

    reached = sheet(ONE).ways[0].gap[0].reached_m
    assert reached is not None
    just_out = reached + 0.08
    assert short(just_out, contact="none") is None
    assert short(just_out, contact="touch") is not None
    assert short(reached + 0.5, contact="none") is not None
    on_pad = {"contact": "none", "pad": PadHold(angle_deg=0, ahead_m=0.0)}
    assert short(just_out, **on_pad) is not None  # a pad is there to be hit


def test_a_budget_is_one_for_each_attack_of_the_feeder() -> None:
    held = passage(
        "two",
        feed("wrist_grab", 1),
        feed("straight", 2, side="rear"),
        answer("parry", 2, side="rear"),
        answer("straight", 3),
    )
    found = sheet(ONE, held)
    assert [(budget.passage, budget.step) for budget in found.budgets] == [("one", 0), ("two", 1)]
    first, second = found.budgets
    assert (first.name, first.answer) == ("lead straight", "lead parry")
    assert (second.name, second.answer) == ("rear straight", "rear parry")
    assert first.full_s == round(first.time.full_s, 3) > 0
    assert first.gap_m == found.ways[0].gap[0].gap_m
    assert first.speed
    assert first.rests_on
    alone = sheet(passage("one", feed("straight", 1)))
    assert alone.budgets[0].answer is None
