"""Who may start a partner drill, and why not: each rule of contact, gear and holds at its limit.

The rules are common practice, no source; a hold after a head knock follows the consensus statement
on concussion in sport that `core/run/medical_hold.py` names.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime

import pytest

from hastatus.core.drill.blank import fresh_partner_drill
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.run.agreement import (
    Agreed,
    Partner,
    PartnerReadiness,
    Refusal,
    asked_gear,
    hardest,
    on_the_floor,
    readiness,
    refusals,
)
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.core.trade.contact import Contact
from hastatus.core.trade.gear import Gear

SINCE = datetime(2026, 11, 3, 19, tzinfo=UTC)
ANA = Partner("Ana", "firm", ("gloves", "mouthguard"))
BEN = Partner("Ben", "light", ("gloves",))
OPEN = MedicalHold(SINCE, cleared=False, off_until=None)


def drill(*gear: Gear, contact: Contact = "light") -> tuple[PartnerDrill, PartnerRung]:
    """A lead straight at `contact`, on a rung that lets it be and is slow enough for bare hands."""
    blank = fresh_partner_drill()
    passage = blank.passages[0]
    step = passage.steps[0].model_copy(update={"contact": contact})
    rung = blank.rungs[0].model_copy(update={"contact": "firm", "goal_bpm": 60.0})
    found = blank.model_copy(
        update={
            "place": blank.place.model_copy(update={"gear": gear}),
            "passages": (passage.model_copy(update={"steps": (step,)}),),
            "rungs": (rung,),
        }
    )
    return found, rung


def why(*partners: Partner, agreed: Contact = "firm", contact: Contact = "light") -> list[Refusal]:
    return refusals(
        *drill("gloves", contact=contact), partners, Agreed(contact=agreed, stop_word="stop")
    )


def test_what_is_worn_and_what_is_held_are_apart() -> None:
    asked = drill("gloves", "focus_pads", "mouthguard", "paddles")
    assert asked_gear(*asked) == ("gloves", "mouthguard")
    assert on_the_floor(*asked) == ["focus pads", "paddles"]
    ana, ben = readiness(*asked, [ANA, replace(BEN, hold=OPEN)])
    assert ana == PartnerReadiness("Ana", "firm", ("gloves", "mouthguard"), (), None)
    assert ben == PartnerReadiness("Ben", "light", ("gloves",), ("mouthguard",), OPEN)


def test_a_rung_softens_its_steps() -> None:
    hard, rung = drill(contact="firm")
    assert hardest(hard, rung) == "firm"
    assert hardest(hard, rung.model_copy(update={"contact": "touch"})) == "touch"
    soft, rung = drill(contact="none")
    assert hardest(soft, rung) == "none"
    passage = soft.passages[0]
    steps = [passage.steps[0].model_copy(update={"contact": of}) for of in ("touch", "light")]
    both = (passage.model_copy(update={"steps": tuple(steps)}),)
    assert hardest(soft.model_copy(update={"passages": both}), rung) == "light"
    assert hardest(soft.model_copy(update={"passages": ()}), rung) == "none"


def test_those_who_may_do_start() -> None:
    assert why(ANA, BEN, agreed="light") == []
    assert why(ANA, ANA, contact="firm") == []


def test_a_drill_for_two_is_for_two() -> None:
    assert why(ANA) == [Refusal("partners", "this drill is for 2; there are 1")]
    assert why() == [Refusal("partners", "this drill is for 2; there are 0")]
    assert why(ANA, ANA, ANA) == [Refusal("partners", "this drill is for 2; there are 3")]


def test_nobody_is_hit_harder_than_agreed_or_than_their_own_limit() -> None:
    assert why(ANA, BEN, agreed="touch") == [
        Refusal("agreement.contact", "this rung comes to light, agreed is touch")
    ]
    assert why(replace(ANA, contact="touch"), BEN) == [
        Refusal("partners.0", "this rung comes to light; Ana takes part up to touch")
    ]
    assert why(ANA, BEN, contact="firm") == [
        Refusal("partners.1", "this rung comes to firm; Ben takes part up to light")
    ]


@pytest.mark.parametrize(
    ("hold", "contact", "what"),
    [
        (
            OPEN,
            "touch",
            "Ben had a head knock on 3 November: no contact work until a medical clearance is "
            "written down",
        ),
        (OPEN, "none", None),
        (replace(OPEN, cleared=True), "touch", None),
        (
            replace(OPEN, off_until=SINCE),
            "none",
            "Ben had a head knock on 3 November: off the floor, nothing with a partner today",
        ),
        (
            replace(OPEN, off_until=SINCE, cleared=True),
            "none",
            "Ben had a head knock on 3 November: off the floor, nothing with a partner today, "
            "also with a clearance",
        ),
    ],
)
def test_a_hold_after_a_head_knock(hold: MedicalHold, contact: Contact, what: str | None) -> None:
    found = why(ANA, replace(BEN, hold=hold), contact=contact)
    assert found == ([] if what is None else [Refusal("partners.1", what)])


def test_who_lacks_gear_is_named_where_the_rung_needs_it() -> None:
    bare = replace(BEN, gear=())
    (lacking,) = why(ANA, bare)
    assert lacking.where == "partners.1"
    assert lacking.what.startswith("Ben has no gloves: ")
    asked = drill("gloves", "mouthguard")
    agreed = Agreed(contact="firm", stop_word="stop")
    both = refusals(*asked, [replace(ANA, gear=()), bare], agreed)
    assert [refusal.where for refusal in both] == ["partners.0", "partners.1"]
    assert both[0].what.startswith("Ana has no gloves and no mouthguard: ")
    assert why(ANA, bare, contact="none") == []
