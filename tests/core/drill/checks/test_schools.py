"""Where coaches disagree: a drill says which school it follows, and the other is one edit away.

What the schools are is common practice of the trade, no source.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from hastatus.core.drill.checks import partner, solo
from hastatus.core.drill.checks.fault import Fault, Mend
from hastatus.core.drill.checks.schools import (
    followed_by_settings,
    more_schools,
    school_faults,
    school_lines,
)
from hastatus.core.drill.document import parse
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.starter import STARTERS
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.schools import SCHOOLS

EVERY: dict[str, Callable[[], Drill | PartnerDrill]] = {
    **{f"{pattern}, alone": make for pattern, make in STARTERS.items()},
    **PARTNER_STARTERS,
}


def taken(drill: Drill | PartnerDrill, mend: Mend) -> Drill | PartnerDrill:
    document = drill.model_dump(mode="json")
    for change in mend.changes:
        *path, last = [int(part) if part.isdigit() else part for part in change.path.split(".")]
        place: Any = document
        for part in path:
            place = place[part]
        place[last] = change.value
    return parse(document)


def stops(drill: Drill | PartnerDrill) -> set[str]:
    found: list[Fault] = (
        [*partner.find(drill)] if isinstance(drill, PartnerDrill) else [*solo.find(drill)]
    )
    return {fault.where for fault in found if fault.level == "stop"}


@pytest.mark.parametrize("pattern", EVERY)
def test_every_starter_says_why_and_whom_it_follows(pattern: str) -> None:
    drill = EVERY[pattern]()
    assert drill.reason.endswith(".")
    assert drill.schools
    assert list(school_faults(drill)) == []


@pytest.mark.parametrize("pattern", EVERY)
def test_the_other_school_is_one_edit_away(pattern: str) -> None:
    """Whatever a drill may say of itself: to follow the other school changes its settings so that
    they agree, and stops nothing that could be run."""
    drill = EVERY[pattern]()
    while more := more_schools(drill):
        drill = taken(drill, more[0])
    assert {line.question for line in school_lines(drill)} == set(SCHOOLS)
    assert list(school_faults(drill)) == []
    for place, line in enumerate(school_lines(drill)):
        decided = followed_by_settings(drill, line.question) is not None
        assert len(line.others) == len(SCHOOLS[line.question]) - 1
        for other in line.others:
            changed = taken(drill, other)
            assert changed.schools[place].why != line.why
            assert [fault.where for fault in school_faults(changed)] == [], (line.asked, other)
            assert stops(changed) <= stops(drill), (line.asked, other.label)
            assert not decided or len(other.changes) > 2, "only said, not done"


def bent(change: Callable[[dict[str, Any]], Any]) -> PartnerDrill:
    document = PARTNER_STARTERS["compact guard"]().model_dump(mode="json")
    change(document)
    return PartnerDrill.model_validate(document)


WRONG: dict[str, tuple[Callable[[dict[str, Any]], Any], str, str]] = {
    "no such school": (
        lambda d: d["schools"][0].update(follows="ajar"), "schools.0.follows",
        "there is no school 'ajar' of “closed guard, or a slit to see through”; there is closed "
        "and slit",
    ),
    "said twice": (
        lambda d: d["schools"].append(d["schools"][0]), "schools.2.question",
        "“closed guard, or a slit to see through” is said twice",
    ),
    "not what it does": (
        lambda d: d["schools"][1].update(follows="eye"), "schools.1.follows",
        "the drill says “the coach by eye”, its settings are “the measured times”",
    ),
}  # fmt: skip


@pytest.mark.parametrize("wrong", WRONG)
def test_what_a_drill_says_wrongly_of_itself_is_named_with_its_mend(wrong: str) -> None:
    change, where, what = WRONG[wrong]
    drill = bent(change)
    (found,) = [each for each in partner.find(drill) if each.where.startswith("schools")]
    assert (found.where, found.what, found.level) == (where, what, "hint")
    assert found.mend is not None
    assert list(school_faults(taken(drill, found.mend))) == []
