"""What may come in the middle of an exchange: bad input is named at its place, with its mend."""

from __future__ import annotations

import copy
from collections.abc import Callable
from typing import Any

import pytest

from hastatus.core.drill.checks.partner import find
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import follow, walks
from hastatus.core.plan.gap_sheet import gap_sheet
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.pair import USUAL_PAIR

DRILL = PARTNER_STARTERS["two-beat counter"]()
OVERHAND, COVER = 7, 8
"""Their places among the steps of the exchange."""


def changed(change: Callable[[dict[str, Any]], Any]) -> PartnerDrill:
    document = copy.deepcopy(DRILL.model_dump(mode="json"))
    change(document["passages"][0])
    return PartnerDrill.model_validate(document)


def mended(drill: PartnerDrill, where: str) -> PartnerDrill:
    finding = next(each for each in find(drill) if each.where == where)
    assert finding.mend is not None
    document = drill.model_dump(mode="json")
    for change in finding.mend.changes:
        *path, last = [int(part) if part.isdigit() else part for part in change.path.split(".")]
        place: Any = document
        for part in path:
            place = place[part]
        place[last] = change.value
    return PartnerDrill.model_validate(document)


BROKEN: dict[str, tuple[Callable[[dict[str, Any]], Any], str, str, str]] = {
    "met before it comes": (
        lambda p: p["steps"][COVER].update(beat=2.5), f"passages.0.steps.{COVER}.beat", "hint",
        "nobody can know it by then",
    ),
    "met when it has landed": (
        lambda p: p["steps"][COVER].update(beat=4.5), f"passages.0.steps.{COVER}.beat", "hint",
        "it has landed by then",
    ),
    "never met": (
        lambda p: p["steps"].pop(COVER), f"passages.0.steps.{OVERHAND}.beat", "hint",
        "it is never met",
    ),
    "a choice that is none": (
        lambda p: p["steps"][OVERHAND].update(when="under"), f"passages.0.steps.{OVERHAND}.when",
        "stop", "no choice of “lead, rear” has the key 'under'",
    ),
    "a choice that gives nothing": (
        lambda p: p.update(choices=[*p["choices"], {**p["choices"][0], "key": "under"}]),
        "passages.0.choices.1", "stop", "gives nothing",
    ),
    "a key twice": (
        lambda p: p.update(choices=p["choices"] * 2), "passages.0.choices.1.key", "stop",
        "another choice",
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", BROKEN)
def test_a_choice_that_cannot_be_met_is_named_at_its_place(name: str) -> None:
    change, where, level, words = BROKEN[name]
    drill = changed(change)
    found = next(each for each in find(drill) if each.where == where)
    assert found.level == level
    assert words in found.what
    if found.mend:
        assert where not in {each.where for each in find(mended(drill, where))}


def test_the_hand_that_is_to_cover_must_be_free_in_time() -> None:
    """The chain goes on while it comes: a hand that hooks cannot cover on the same beat."""
    drill = changed(lambda p: p["steps"][COVER].update(side="lead"))
    assert {each.step for each in find(drill) if each.check == "limb"} >= {COVER}


def test_walks_and_shares_are_with_it_and_without() -> None:
    assert [[passage.key for passage in walk.passages] for walk in walks(DRILL)] == [
        ["pair"], ["pair+over"],
    ]  # fmt: skip
    without, with_it = (follow(DRILL, [key]) for key in ("pair", "pair+over"))
    assert len(with_it.steps) - len(without.steps) == 2
    ways = gap_sheet(DRILL, DRILL.rungs[-1], USUAL_PAIR).ways
    assert [(way.names, way.share) for way in ways] == [
        (("lead, rear",), 0.65), (("lead, rear, overhand",), 0.35),
    ]  # fmt: skip
    first = gap_sheet(DRILL, DRILL.rungs[0], USUAL_PAIR).ways
    assert [way.share for way in first] == [1, 0]  # nothing is chosen on the first rung
    with pytest.raises(KeyError):
        DRILL.passage("pair+under")
