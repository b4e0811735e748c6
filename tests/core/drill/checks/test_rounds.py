"""What a rung times fits into its rounds; where it does not, it is named at its place."""

from __future__ import annotations

from typing import Any

import pytest

from hastatus.core.drill.checks.partner import find
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.starter.partner import PARTNER_STARTERS
from tests.core.drill.checks.test_choice import mended

DRILL = PARTNER_STARTERS["compact guard"]()


def bent(**of_rung: Any) -> PartnerDrill:
    rung = DRILL.rungs[0].model_dump(mode="json")
    for field, value in of_rung.items():
        rung[field] = {**rung[field], **value} if isinstance(value, dict) else value
    document = {**DRILL.model_dump(mode="json"), "rungs": [rung]}
    return PartnerDrill.model_validate(document)


@pytest.mark.parametrize(
    ("drill", "where", "what"),
    [
        (bent(watch_s=120), "rungs.0.watch_s",
         "the coach is to watch for 120 s, in a round of 90 s"),
        (bent(turns={"every_s": 90}), "rungs.0.turns.every_s",
         "roles switch after 90 s, in a round of 90 s: nobody ever does"),
        (bent(rounds={"duration_s": 10}, watch_s=10), "rungs.0.turns.every_s",
         "roles switch after 30 s, in a round of 10 s: nobody ever does"),
    ],
)  # fmt: skip
def test_what_is_longer_than_the_round_is_named_with_its_mend(
    drill: PartnerDrill, where: str, what: str
) -> None:
    (found,) = [each for each in find(drill) if each.where == where]
    assert (found.what, found.level) == (what, "hint")
    assert not [each for each in find(mended(drill, where)) if each.where == where]


def test_a_round_by_count_has_no_length_to_fit_into() -> None:
    found = find(bent(watch_s=300, rounds={"ends": "count"}))
    assert not [each for each in found if each.where.startswith("rungs")]
