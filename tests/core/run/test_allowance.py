"""What rungs come to tonight: lowered to what is agreed and worn, seldom refused.

The rules are common practice, no source.
"""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from hastatus.core.drill.blank import fresh_partner_drill
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import PadHold, PartnerStep
from hastatus.core.run.agreement import Agreed, Partner, refusals, tonight
from hastatus.core.run.allowance import Allowance, Tonight, allowance
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.contact import Contact, gentlest
from hastatus.core.trade.gear import HELD, Gear, bare, cap

FULL: tuple[Gear, ...] = (
    "gloves", "mouthguard", "head_guard", "chest_guard", "belly_pad", "groin_guard", "shin_guards",
)  # fmt: skip


def may(
    contact: Contact = "firm", worn: tuple[Gear, ...] = FULL, held: tuple[Gear, ...] = HELD
) -> Tonight:
    both = ("Ana", frozenset(FULL)), ("Ben", frozenset(worn))
    return Tonight(contact, f"agreed is {contact}", both, frozenset(held))


def of(technique: str, tonight_: Tonight, *, bpm: float = 60, **step: object) -> Allowance:
    """What a rung of one feed comes to."""
    blank = fresh_partner_drill()
    fed = {"lane": "feeder", "beat": 1, "technique": technique, "contact": "firm", **step}
    passage = blank.passages[0].model_copy(update={"steps": (PartnerStep.model_validate(fed),)})
    rung = blank.rungs[0].model_copy(update={"contact": "firm", "tempo_bpm": bpm, "goal_bpm": None})
    drill = blank.model_copy(update={"passages": (passage,), "rungs": (rung,)})
    return allowance(drill, rung, tonight_)


def test_firm_becomes_what_is_agreed_and_says_so() -> None:
    found = of("body_straight", may("touch"))
    assert (found.planned, found.contact) == ("firm", "touch")
    assert found.lowered == ("firm becomes touch: agreed is touch",)
    assert of("body_straight", may()).lowered == ()


def test_bare_hands_are_pulled_and_slow() -> None:
    found = of("body_straight", may(worn=()), bpm=84)
    assert (found.contact, found.fastest_bpm) == ("touch", 60)
    assert found.lowered == (
        "hits: firm becomes touch: Ben has no gloves",
        "60 bpm at most: bare hands are slow",
    )
    short = of("body_straight", may("none", worn=()), bpm=84)
    assert (short.contact, short.fastest_bpm) == ("none", None)  # it lands on nobody
    assert of("body_straight", may(worn=()), bpm=60).fastest_bpm is None


def test_a_head_is_touched_at_most_where_somebody_lacks_gear() -> None:
    worn = tuple(gear for gear in FULL if gear != "mouthguard")
    found = of("straight", may(worn=worn), target="head")
    assert found.contact == "touch"
    assert found.lowered == ("hits to the head: firm becomes touch: Ben has no mouthguard",)


def test_kicks_stop_short_of_whoever_has_bare_shins() -> None:
    found = of("body_kick", may("touch", worn=("gloves",)))
    assert found.contact == "none"
    assert found.lowered == (
        "firm becomes touch: agreed is touch",
        "kicks: touch becomes no contact: Ben has no shin guards",
    )


def test_a_pad_is_no_contact_and_an_open_palm_takes_its_place() -> None:
    pad = PadHold()
    found = of("straight", may("none"), pad=pad)
    assert (found.contact, found.on_pads, found.lowered) == ("none", True, ())
    palm = of("straight", may("none", held=()), pad=pad)
    assert palm.lowered == ("hits on a pad: firm becomes touch: there are no focus pads",)
    assert palm.impossible == ()


@pytest.mark.parametrize("technique", ["body_kick", "straight_knee"])
def test_a_kick_or_knee_is_not_thrown_at_a_pad_that_is_not_there(technique: str) -> None:
    found = of(technique, may(held=("paddles",)), pad=PadHold())
    assert len(found.impossible) == 1
    assert found.impossible[0].endswith("is thrown at a pad: there is none here")
    assert of(technique, may(held=("kick_shield",)), pad=PadHold()).impossible == ()


def test_what_is_felt_cannot_be_done_without_a_touch() -> None:
    found = of("arm_press", may("none"), contact="touch", perceived="felt")
    assert found.impossible == ("arm pressure is done by touch: agreed is none",)
    assert of("arm_press", may("touch"), contact="touch", perceived="felt").impossible == ()


def test_only_what_the_rung_asks_for_counts() -> None:
    """Counters that a rung leaves out, and passages that it does not come to, ask for no gear."""
    drill = PARTNER_STARTERS["low kick against the lead straight"]()
    first, whole = drill.rungs[0], drill.rungs[-1]
    bare_shins = may("touch", worn=("gloves", "mouthguard"))
    assert allowance(drill, first, bare_shins).lowered == ()
    assert any("kicks" in words for words in allowance(drill, whole, bare_shins).lowered)


def rungs() -> Iterator[tuple[str, PartnerDrill, PartnerRung]]:
    for pattern, make in PARTNER_STARTERS.items():
        drill = make()
        for rung in drill.rungs:
            yield pattern, drill, rung


def opened(contact: Contact, gear: tuple[Gear, ...]) -> set[str]:
    """Starters that open on some rung for people who have this gear, no pads and no more."""
    patterns = set()
    for pattern, drill, rung in rungs():
        partners = [Partner(name, "firm", gear) for name in ("Ana", "Ben", "Cy")]
        partners = partners[: drill.place.people]
        agreed = Agreed(contact=contact, stop_word="red", here=())
        if not refusals(drill, rung, partners, tonight(partners, agreed)):
            patterns.add(pattern)
    return patterns


def test_most_starters_open_for_beginners_without_gear() -> None:
    assert len(opened("touch", ())) >= 24
    assert len(opened("none", ())) >= 15
    assert opened("none", ()) <= opened("touch", ()) <= opened("firm", FULL)


@pytest.mark.parametrize("contact", ["none", "touch", "light", "firm"])
@pytest.mark.parametrize("gear", [(), ("gloves",), ("shin_guards",), FULL])
def test_nothing_opens_that_the_caps_forbid(contact: Contact, gear: tuple[Gear, ...]) -> None:
    for _, drill, rung in rungs():
        found = allowance(drill, rung, may(contact, worn=gear))
        most: list[Contact] = ["none"]
        quick = False
        for passage in drill.passages:
            for step in passage.steps:
                technique = drill.technique(step.technique)
                if technique is None or not technique.strikes or step.pad:
                    continue
                limit = cap(technique, step.target or technique.line, (*gear, *HELD)).contact
                lands = gentlest(limit, contact, rung.capped(step.contact))
                most.append(lands)
                quick = quick or (lands != "none" and bare(technique, gear))
        order = ("none", "touch", "light", "firm")
        assert order.index(found.contact) <= max(order.index(each) for each in most)
        assert order.index(found.contact) <= order.index(contact)
        slowed = rung.no_faster(found.fastest_bpm)
        assert not quick or slowed.fastest_bpm <= 60 or found.contact == "none"
