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
from hastatus.core.drill.partner_step import PadHold
from hastatus.core.run.agreement import (
    Agreed,
    Partner,
    PartnerReadiness,
    Refusal,
    Settled,
    asked_gear,
    held_gear,
    readiness,
    refusals,
    settled,
    tonight,
)
from hastatus.core.run.allowance import allowance
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
    may = tonight(partners, Agreed(contact=agreed, stop_word="stop"))
    return refusals(*drill("gloves", contact=contact), partners, may)


def test_what_is_worn_and_what_is_held_are_apart() -> None:
    asked = drill("gloves", "focus_pads", "mouthguard", "paddles")
    assert asked_gear(*asked) == ("gloves", "mouthguard")
    assert held_gear(*asked) == ("focus_pads", "paddles")
    agreed = Agreed(contact="touch", stop_word="stop")
    ana, ben = readiness(*asked, [ANA, replace(BEN, hold=OPEN)], agreed)
    assert ana == PartnerReadiness("Ana", "firm", ("gloves", "mouthguard"), (), None)
    assert ben == PartnerReadiness("Ben", "light", ("gloves",), ("mouthguard",), OPEN)


def test_what_is_worn_tonight_counts_and_not_what_is_at_home() -> None:
    asked = drill("gloves", "focus_pads", "mouthguard")
    agreed = Agreed(contact="touch", stop_word="stop", worn=(("mouthguard",),), here=())
    ana, ben = readiness(*asked, [ANA, BEN], agreed)
    assert (ana.wears, ana.lacks) == (("mouthguard",), ("gloves",))
    assert ben.wears == ("gloves",)  # nothing was said of him
    may = tonight([ANA, BEN], agreed)
    assert (may.gear, may.has_pads) == (frozenset(), False)
    assert tonight([ANA, BEN], Agreed(contact="touch", stop_word="stop")).has_pads


def test_nobody_is_hit_harder_than_the_gentlest_of_what_was_said() -> None:
    firm = Agreed(contact="firm", stop_word="stop")
    may = tonight([ANA, BEN], firm)
    assert (may.contact, may.why) == ("light", "Ben takes part up to light")
    may = tonight([ANA, BEN], Agreed(contact="touch", stop_word="stop"))
    assert (may.contact, may.why) == ("touch", "agreed is touch")
    may = tonight([ANA, BEN], firm, no_touch=True)
    assert (may.contact, may.why) == ("none", "no touch tonight, in the whole room")


def test_what_was_agreed_is_kept_with_what_it_came_to() -> None:
    agreed = Agreed(contact="firm", stop_word="stop", worn=((), ("gloves",)))
    hard, rung = drill("gloves", contact="firm")
    kept = settled([ANA, BEN], agreed, allowance(hard, rung, tonight([ANA, BEN], agreed)))
    assert (kept.contact, kept.comes_to, kept.worn) == ("firm", "touch", ((), ("gloves",)))
    assert kept.lowered[0] == "firm becomes light: Ben takes part up to light"
    assert kept.bare
    known = settled(
        [ANA, BEN],
        Agreed(contact="touch", stop_word="stop"),
        allowance(hard, rung, tonight([ANA, BEN], agreed)),
    )
    assert (known.worn, known.bare) == ((("gloves", "mouthguard"), ("gloves",)), False)
    old = Settled.model_validate({"contact": "touch", "stop_word": "red"})
    assert (old.comes_to, old.fastest_bpm, old.lowered, old.bare) == (None, None, (), False)


def test_those_who_may_do_start() -> None:
    assert why(ANA, BEN, agreed="light") == []
    assert why(ANA, ANA, contact="firm") == []
    assert why(replace(ANA, gear=(), contact="none"), BEN) == []  # it stops short


def test_a_drill_for_two_is_for_two() -> None:
    assert why(ANA) == [Refusal("partners", "this drill is for 2; there are 1")]
    assert why(ANA, ANA, ANA) == [Refusal("partners", "this drill is for 2; there are 3")]


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
    assert [(refusal.where, refusal.what) for refusal in found] == (
        [] if what is None else [("partners.1", what)]
    )


def on_a_pad(technique: str = "straight") -> tuple[PartnerDrill, PartnerRung]:
    """A strike at a pad."""
    plain, rung = drill("gloves", "focus_pads", contact="light")
    passage = plain.passages[0]
    step = passage.steps[0].model_copy(update={"technique": technique, "pad": PadHold()})
    steps = passage.model_copy(update={"steps": (step,)})
    return plain.model_copy(update={"passages": (steps,)}), rung


def test_a_pad_is_hit_and_held_by_nobody_who_is_on_hold() -> None:
    partners = (ANA, replace(BEN, hold=OPEN))
    may = tonight(partners, Agreed(contact="none", stop_word="stop"))
    (held,) = refusals(*on_a_pad(), partners, may)
    assert (held.where, held.remedies) == ("partners.1", ("other_person", "clearance"))


def test_a_rung_that_cannot_be_done_here_gives_way_to_another_if_there_is_one() -> None:
    on_pad, rung = on_a_pad("body_kick")
    may = tonight((ANA, ANA), Agreed(contact="none", stop_word="stop", here=()))
    (only,) = refusals(on_pad, rung, (ANA, ANA), may)
    assert (only.where, only.remedies) == ("rung", ("bench",))
    assert only.what.endswith("is thrown at a pad: there is none here")
    two = on_pad.model_copy(update={"rungs": (rung, rung)})
    (one_of_two,) = refusals(two, rung, (ANA, ANA), may)
    assert one_of_two.remedies == ("other_rung", "bench")


def test_each_refusal_says_what_may_be_done_about_it_at_once() -> None:
    """A hold is worked around without contact where that helps, never on the day itself."""
    (held,) = why(ANA, replace(BEN, hold=OPEN))
    assert held.remedies == ("no_contact", "other_person", "clearance")
    assert why(ANA, replace(BEN, hold=OPEN), agreed="none") == []
    (today,) = why(ANA, replace(BEN, hold=replace(OPEN, off_until=SINCE)), agreed="none")
    assert today.remedies == ("other_person",)
