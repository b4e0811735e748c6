"""Every step of every good drill broken in the same few ways: each is caught where it is.

The rules (one limb does one thing at a time, what does not reach, what nobody knows) are common
practice of the trade, no source.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.drill.checks.finding import Finding
from hastatus.core.drill.checks.limbs import used
from hastatus.core.drill.checks.partner import find
from hastatus.core.drill.gap_line import start_gap
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import follow, walks
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.pair import USUAL_PAIR

Document = dict[str, Any]
STRIKING = [name for name in PARTNER_STARTERS if name not in ("keep the distance", "base by count")]


def document(pattern: str) -> Document:
    return PARTNER_STARTERS[pattern]().model_dump(mode="json")


def new(changed: Document) -> list[Finding]:
    """What is found and not kept with a reason."""
    return [each for each in find(PartnerDrill.model_validate(changed)) if not each.kept]


def steps(pattern: str) -> Iterator[tuple[Document, Document, tuple[str, int]]]:
    """A fresh copy of the drill for each of its steps, with that step, its passage and place."""
    whole = document(pattern)
    for place, passage in enumerate(whole["passages"]):
        for number in range(len(passage["steps"])):
            copy = document(pattern)
            yield copy, copy["passages"][place], (passage["key"], number)


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_a_step_that_makes_no_sense_is_named(pattern: str) -> None:
    """Unknown, after the end, held until before it begins: the step and what is wrong with it."""
    breaks = {
        "unknown technique 'hip_throw'": lambda step, _: step.update(technique="hip_throw"),
        "is after the end of": lambda step, beats: step.update(beat=beats + 1),
        "before it begins": lambda step, _: step.update(beat=2.0, until=1.5),
    }
    for what, break_it in breaks.items():
        for changed, passage, (key, number) in steps(pattern):
            break_it(passage["steps"][number], passage["beats"])
            named = [each for each in new(changed) if (each.passage, each.step) == (key, number)]
            assert [each.level for each in named if what in each.what] == ["stop"]


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_a_limb_that_does_two_things_at_once_is_named(pattern: str) -> None:
    drill = PARTNER_STARTERS[pattern]()
    limbs = {
        (step.written, step.index): used(step)
        for passage in drill.passages
        for came in ([], [choice.key for choice in passage.choices])
        for step in follow(drill, ["+".join([passage.key, *came])]).steps
    }
    for changed, passage, (key, number) in steps(pattern):
        passage["steps"][number]["kept"] = []
        passage["steps"].append({**passage["steps"][number], "foot": None, "front": None})
        pair = {(key, number), (key, len(passage["steps"]) - 1)}
        named = {(each.passage, each.step) for each in new(changed) if each.check == "limb"}
        assert bool(named & pair) == bool(limbs[key, number])


@pytest.mark.parametrize("pattern", STRIKING)
def test_when_the_gap_is_60_cm_wider_the_first_strike_of_each_walk_falls_short(
    pattern: str,
) -> None:
    drill = PARTNER_STARTERS[pattern]()
    wider = document(pattern) | {"start_m": round(start_gap(drill, USUAL_PAIR) + 0.6, 2)}
    short = {(each.passage, each.step) for each in new(wider) if each.check == "reach"}
    for walk in walks(drill):
        strikes = [step for step in walk.steps if step.technique.use == "attack"]
        if strikes:
            assert (strikes[0].written, strikes[0].index) in short


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_what_nothing_starts_is_named(pattern: str) -> None:
    for place, passage in enumerate(document(pattern)["passages"]):
        changed = document(pattern)
        kept = [each for each in passage["steps"] if each["lane"] == "defender"]
        changed["passages"][place]["steps"] = kept
        if not passage["weight"] or not kept:
            continue
        named = [each for each in new(changed) if "nothing starts it" in each.what]
        assert [each.passage for each in named] == [passage["key"]]


def test_keys_shares_and_switches() -> None:
    """What is wrong with the whole is named at its field, and its mend mends it."""
    twice = document("stop and hit")
    twice["passages"][1]["key"] = twice["passages"][0]["key"]
    no_start = document("stop and hit")
    for passage in no_start["passages"]:
        passage["weight"] = 0
    nothing_given = document("third-beat answer")
    for branch in nothing_given["passages"][0]["then"]:
        branch["share"] = 0
    no_switch = document("stop and hit")
    no_switch["rungs"][0]["turns"]["switch"] = "score"
    no_such = document("stop and hit")
    no_such["rungs"][0]["passages"] = ["nobody"]
    for changed, where, what in (
        (twice, "passages.1.key", "another passage has the key"),
        (no_start, "passages.0.weight", "every passage has weight 0"),
        (nothing_given, "passages.0.then", "add up to zero"),
        (no_switch, "rungs.0.turns.switch", "no passage does"),
        (no_such, "rungs.0.passages", "no exchange starts with a passage 'nobody'"),
    ):
        named = next(each for each in new(changed) if each.where == where)
        assert what in named.what
        assert named.level == "stop"
        for edit in named.mend.changes if named.mend else ():
            put(changed, edit.path, edit.value)
        assert (where in [each.where for each in new(changed)]) == (named.mend is None)


def put(changed: Document, path: str, value: Any) -> None:
    *parts, last = [int(part) if part.isdigit() else part for part in path.split(".")]
    inside: Any = changed
    for part in parts:
        inside = inside[part]
    inside[last] = value


BENDS = st.one_of(
    st.tuples(st.just("technique"), st.sampled_from(sorted(TECHNIQUES))),
    st.tuples(st.just("side"), st.sampled_from(["lead", "rear"])),
    st.tuples(st.just("lane"), st.sampled_from(["feeder", "defender"])),
    st.tuples(st.just("beat"), st.integers(2, 12).map(lambda half: half / 2)),
    st.tuples(st.just("contact"), st.sampled_from(["none", "touch", "light", "firm"])),
    st.tuples(st.just("footwork"), st.sampled_from(
        ["hold", "advance", "retreat", "slide_step", "cross_step", "pivot"])),
)  # fmt: skip


@settings(max_examples=150)
@given(
    pattern=st.sampled_from(sorted(PARTNER_STARTERS)),
    bends=st.lists(st.tuples(st.integers(0, 99), st.integers(0, 99), BENDS), max_size=6),
)
def test_a_bent_score_is_read_or_says_where_it_is_wrong(
    pattern: str, bends: list[tuple[int, int, tuple[str, Any]]]
) -> None:
    """Never a crash, never a changed drill: what is found names a place that is there."""
    changed = document(pattern)
    for passage, number, (field, value) in bends:
        inside = changed["passages"][passage % len(changed["passages"])]["steps"]
        inside[number % len(inside)][field] = value
    drill = PartnerDrill.model_validate(changed)
    found = find(drill)
    assert drill == PartnerDrill.model_validate(changed)
    lengths = {each.key: len(each.steps) for each in drill.passages}
    for each in found:
        if each.step is not None:
            assert each.passage is not None
            assert each.step < lengths[each.passage]
    if all(each.level != "stop" for each in found):
        assert feed_sheet(drill, seed=1).rounds
