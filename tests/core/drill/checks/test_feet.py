"""Feet: which foot moves, and a lead that changes. What the trade asks of them is common practice,
no source."""

from __future__ import annotations

from typing import Any

import pytest

from hastatus.core.drill.blank import fresh_partner_drill
from hastatus.core.drill.checks.finding import Finding
from hastatus.core.drill.checks.partner import find
from hastatus.core.drill.gap_line import gaps_at_steps
from hastatus.core.drill.mirror import in_stances
from hastatus.core.drill.partner import PartnerDrill, Stream
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.paths import Walked, follow
from hastatus.core.drill.settings import SetOrder
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.starter.partner.build import done, fed, gives, passage
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.pair import USUAL_PAIR
from hastatus.core.trade.reach import gap_reached, strike_m
from hastatus.core.trade.technique import OTHER_SIDE
from tests.core.drill.checks.test_choice import mended

BACK = PARTNER_STARTERS["three kicks back"]()


def drill(*steps: PartnerStep, **of_rung: Any) -> PartnerDrill:
    blank = fresh_partner_drill()
    rung = blank.rungs[0].model_copy(update={"order": SetOrder(), **of_rung})
    only = passage("only", "only", 4, fed("1 rear low_kick"), *steps)
    return blank.model_copy(
        update={"passages": (only,), "rungs": (rung,), "start": "kick", "start_m": 1.0}
    )


def feet(drill: PartnerDrill) -> list[Finding]:
    return [each for each in find(drill) if each.check in ("feet", "standing_leg", "limb")]


def walked(drill: PartnerDrill, key: str) -> list[Walked]:
    return [step for step in follow(drill, [key]).steps if step.person == "b"]


def test_the_hand_of_what_is_now_the_lead_side_was_the_rear_one() -> None:
    """Stepped back with the lead foot, the lead hand is the one that was behind."""
    (met,) = walked(BACK, "in_place")
    assert (met.side, met.first_side, met.step.foot, met.first_foot) == (
        "lead", "rear", "lead", "lead",
    )  # fmt: skip
    assert met.step.name() == (
        "lead forearm to the calf, retreat with the lead foot to the other stance"
    )


def test_the_same_arm_twice_and_then_the_other_whatever_they_are_called() -> None:
    arms = [walked(BACK, key)[-1].first_side for key in ("in_place", "stepping", "spinning")]
    assert arms == ["rear", "rear", "lead"]


@pytest.mark.parametrize("key", ["in_place", "stepping", "spinning"])
def test_in_mirrored_stances_hands_and_feet_stay_where_they_were(key: str) -> None:
    """Seen from outside nothing changes but which foot was in front."""
    mirrored = in_stances(BACK, mirrored=True)
    for here, there in zip(walked(BACK, key), walked(mirrored, key), strict=True):
        assert here.first_side == OTHER_SIDE[there.first_side] or not here.technique.sided
        assert here.first_foot is not None
        assert there.first_foot is not None
        assert here.first_foot == OTHER_SIDE[there.first_foot]
    assert not feet(mirrored)


def test_a_foot_put_in_front_counts_for_the_person_who_put_it() -> None:
    """b steps back and then feeds; a steps back in turn. Seen from outside, once b has put a foot
    in front, both do the same in mirrored stances as in same ones."""
    back = "1 lead withdraw_leg"
    first = passage("first", "first", 2, fed("1 rear low_kick"),
                    done(back, foot="lead", front="rear"), then=(gives("comes_on", 1, "turn"),),
                    swap=True)  # fmt: skip
    turn = passage("turn", "turn", 4, fed("1 lead straight"),
                   fed("3 lead withdraw_leg", foot="lead", front="lead"),
                   done(back, foot="lead", front="rear"), done("2 lead parry"),
                   weight=0)  # fmt: skip
    here = drill().model_copy(update={"passages": (first, turn)})
    there = in_stances(here, mirrored=True)
    assert in_stances(there, mirrored=False) == here
    pairs = list(
        zip(
            follow(here, ["first", "turn"]).steps,
            follow(there, ["first", "turn"]).steps,
            strict=True,
        )
    )
    for same, other in pairs[1:]:
        assert same.side == other.side, same.step.what()
        assert (same.turned == other.turned) == (same.person == "a"), same.step.what()


def test_a_step_that_changes_the_lead_takes_the_body_a_stance_further() -> None:
    """A stance of a foot and a half (common practice, no source): half a foot more than a retreat.
    What still reached after the retreat is said to fall short after it."""
    body = USUAL_PAIR.b
    reached = gap_reached(strike_m(TECHNIQUES["straight"], body))
    start = round(reached - body.foot_length, 3)
    gaps: dict[str, float] = {}
    for front in ("lead", "rear"):
        stepped = done("1 lead parry +retreat", foot="lead", front=front)
        made = drill(stepped, done("2 lead straight")).model_copy(update={"start_m": start})
        gaps[front] = [stand.gap_m for stand in gaps_at_steps(
            made, follow(made, ["only"]), USUAL_PAIR)][1]  # fmt: skip
        short = [each for each in find(made) if each.check == "reach" and each.step == 2]
        assert bool(short) == (front == "rear")
    assert gaps["rear"] - gaps["lead"] == pytest.approx(body.foot_length / 2)


def test_a_leg_pulled_back_to_stay_behind_takes_the_body_with_it() -> None:
    """Pulled back and put in front again it does not; what is one move is told by its feet."""

    def gap(front: str) -> float:
        made = drill(done("1 lead withdraw_leg", foot="lead", front=front))
        return [stand.gap_m for stand in gaps_at_steps(
            made, follow(made, ["only"]), USUAL_PAIR)][1]  # fmt: skip

    assert gap("rear") - gap("lead") == pytest.approx(1.5 * USUAL_PAIR.b.foot_length)


def test_what_a_later_step_uses_counts_from_the_new_stance() -> None:
    """The leg that was behind kicks as the lead one; it is not the one that has just stepped."""
    turned = done("1 lead withdraw_leg", foot="lead", front="rear")
    assert not feet(drill(turned, done("2 lead front_kick")))
    clash = feet(drill(turned, done("2 lead straight"), done("2 lead hook")))
    assert [each.what for each in clash] == [
        "the lead hand does two things on beat 2: lead straight and lead hook"
    ]


WRONG: dict[str, tuple[tuple[PartnerStep, ...], str, str]] = {
    "the feet hold": (
        (done("1 lead parry", foot="lead"),), "foot",
        "lead parry: the feet hold, so no foot moves and the lead stays",
    ),
    "the rear foot goes back": (
        (done("1 lead parry +retreat", foot="rear", front="rear"),), "foot",
        "the lead changes where the lead foot passes the other, but the rear foot is there already",
    ),
    "no foot goes ahead": (
        (done("1 lead parry +advance", front="rear"),), "foot",
        "the lead changes where the rear foot passes the other, but no foot is named",
    ),
    "the foot that kicks": (
        (done("1 rear low_kick +advance", foot="rear"),), "foot",
        "rear low kick: that foot kicks; the other one steps",
    ),
    "the foot that is stood on": (
        (done("1 rear front_kick"), done("1.5 lead step_off", foot="lead")), "foot",
        "lead step off the line moves the foot that rear front kick stands on",
    ),
    "after the lead has changed": (
        (done("1 rear withdraw_leg +retreat", foot="lead", front="rear"),
         done("3 lead parry +retreat", foot="rear", front="lead")), "foot",
        "the rear foot is there already",
    ),
}  # fmt: skip


@pytest.mark.parametrize("wrong", WRONG)
def test_a_foot_that_cannot_move_so_is_named_at_its_step_with_its_mend(wrong: str) -> None:
    steps, field, what = WRONG[wrong]
    broken = drill(*steps)
    (found,) = feet(broken)
    assert found.where == f"passages.0.steps.{len(steps)}.{field}"
    assert what in found.what, found.what
    assert feet(mended(broken, found.where)) == []


def test_an_exchange_of_a_stream_does_not_end_in_the_other_stance() -> None:
    turned = done("1 lead withdraw_leg", foot="lead", front="rear")
    back = done("3 rear parry +retreat", foot="lead", front="lead")
    (found,) = feet(drill(turned, pause=Stream()))
    assert "there is no time to step back" in found.what
    assert feet(mended(drill(turned, pause=Stream()), found.where)) == []
    assert feet(drill(turned, back, pause=Stream())) == []


def test_a_passage_come_to_in_either_stance_is_named() -> None:
    ways = (gives("comes_on", 1, "on"),)
    stays = passage("stays", "stays", 2, fed("1 rear low_kick"), done("1 lead withdraw_leg"),
                    then=ways)  # fmt: skip
    turns = passage("turns", "turns", 2, fed("1 rear low_kick"),
                    done("1 lead withdraw_leg", foot="lead", front="rear"), then=ways)  # fmt: skip
    on = passage("on", "on", 2, fed("1 lead straight"), done("1 rear parry"), weight=0)
    both = drill().model_copy(update={"passages": (stays, turns, on)})
    (found,) = feet(both)
    assert found.passage == "on"
    assert "“on” is come to in either stance" in found.what
