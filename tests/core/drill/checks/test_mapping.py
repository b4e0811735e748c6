"""One feed does not ask for two answers untold (common practice, no source)."""

from __future__ import annotations

from typing import Any

import pytest

from hastatus.core.drill.blank import fresh_partner_drill
from hastatus.core.drill.checks.mapping import mapping_findings
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.passage import Branch, Passage
from hastatus.core.drill.settings import Balanced, Rotating, SetOrder
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.starter.partner.build import done, fed, pad, passage


def drill(*passages: Passage, **of_rung: Any) -> PartnerDrill:
    blank = fresh_partner_drill()
    usual = {"order": Balanced(), "announced": False, "answers": "exit"}
    rung = blank.rungs[0].model_copy(update={**usual, **of_rung})
    return blank.model_copy(update={"passages": passages, "rungs": (rung,)})


DUCK = passage("duck", "duck", 4, fed("1 lead straight"), fed("2 rear straight"),
               done("1 rear parry"), done("2 duck"))  # fmt: skip
SLIP = passage("slip", "slip", 4, fed("1 lead straight"), fed("2 rear straight"),
               done("1 rear parry"), done("2 lead slip"))  # fmt: skip


def test_the_same_feed_with_two_answers_is_named_at_its_step_with_its_mend() -> None:
    (found,) = mapping_findings(drill(DUCK, SLIP))
    assert (found.passage, found.step, found.beat) == ("slip", 3, 2)
    assert (found.level, found.check, found.kept) == ("hint", "mapping", None)
    assert found.what == (
        "on rung 1, “" + fresh_partner_drill().rungs[0].name + "”, nothing tells “slip” from "
        "“duck”: the feed is the same and the answers differ"
    )
    assert found.mend is not None
    (change,) = found.mend.changes
    assert (change.path, change.value) == ("rungs.0.announced", True)


@pytest.mark.parametrize(
    "tells", [{"announced": True}, {"order": SetOrder()}, {"order": Rotating()}]
)
def test_who_knows_what_comes_need_not_see_it(tells: dict[str, Any]) -> None:
    assert list(mapping_findings(drill(DUCK, SLIP, **tells))) == []


def test_what_can_be_seen_before_the_answer_tells() -> None:
    stepping = passage("slip", "slip", 4, fed("1 lead straight +advance"), fed("2 rear straight"),
                       done("1 rear parry"), done("2 lead slip"))  # fmt: skip
    later = passage("later", "later", 5, fed("1 lead straight"), fed("2 rear straight"),
                    fed("3 lead hook"), done("1 rear parry"), done("2 lead slip"))  # fmt: skip
    assert list(mapping_findings(drill(DUCK, stepping))) == []
    assert len(list(mapping_findings(drill(DUCK, later)))) == 1  # the hook comes too late to tell


def test_what_the_rung_does_not_ask_for_need_not_be_told() -> None:
    one = passage("one", "one", 4, fed("1 lead straight"), done("1 rear parry"),
                  done("2 lead straight"))  # fmt: skip
    other = passage("other", "other", 4, fed("1 lead straight"), done("1 rear parry"),
                    done("2 rear straight"))  # fmt: skip
    assert list(mapping_findings(drill(one, other, answers="answer"))) == []
    assert len(list(mapping_findings(drill(one, other)))) == 1


def test_where_a_pad_is_held_tells_and_its_height_too() -> None:
    high = passage("high", "high", 3, fed("1 show_target"),
                   done("1 lead straight", pad=pad(0.3)))  # fmt: skip
    low = passage("low", "low", 3, fed("1 show_target"),
                  done("1 rear body_straight", pad=pad(0.3)))  # fmt: skip
    rear = passage("rear", "rear", 3, fed("1 show_target"),
                   done("1 rear straight", pad=pad(0.3)))  # fmt: skip
    assert list(mapping_findings(drill(high, low))) == []
    (found,) = mapping_findings(drill(high, rear))
    assert found.passage == "rear"


def test_branches_are_told_by_what_the_partner_gives() -> None:
    on = (Branch(gives="arm_light", to="duck"), Branch(gives="arm_heavy", to="slip"))
    alike = tuple(branch.model_copy(update={"gives": "goes_on"}) for branch in on)
    rest = [each.model_copy(update={"weight": 0}) for each in (DUCK, SLIP)]
    press = passage("press", "press", 2, fed("1 lead arm_press ?felt"))
    told = drill(press.model_copy(update={"then": on}), *rest, branches=True)
    untold = drill(press.model_copy(update={"then": alike}), *rest, branches=True)
    assert list(mapping_findings(told)) == []
    assert len(list(mapping_findings(untold))) == 1
    without = untold.rungs[0].model_copy(update={"branches": False})
    assert list(mapping_findings(untold.model_copy(update={"rungs": (without,)}))) == []


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_no_starter_asks_for_what_nobody_can_know(pattern: str) -> None:
    assert [found.what for found in mapping_findings(PARTNER_STARTERS[pattern]())] == []


def test_a_coach_may_wave_it_through_with_a_reason() -> None:
    kept = {"kept": [{"check": "mapping", "reason": "the feeder nods first"}]}
    steps = (*SLIP.steps[:3], SLIP.steps[3].model_validate({**SLIP.steps[3].model_dump(), **kept}))
    (found,) = mapping_findings(drill(DUCK, SLIP.model_copy(update={"steps": steps})))
    assert found.kept == "the feeder nods first"


def test_only_the_rungs_on_which_nothing_tells_are_named() -> None:
    both = drill(DUCK, SLIP)
    first = both.rungs[0].model_copy(update={"announced": True})
    two = both.model_copy(update={"rungs": (first, both.rungs[0])})
    assert [found.where for found in mapping_findings(two)] == ["rungs.1.announced"]
