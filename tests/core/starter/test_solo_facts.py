"""The facts of each pattern that its solo starter holds: common practice, no source."""

from __future__ import annotations

from collections.abc import Callable

import pytest

from hastatus.core.drill.guide import Count, Hold
from hastatus.core.drill.solo import Drill
from hastatus.core.starter import STARTERS


def chains(drill: Drill, key: str) -> list[list[str]]:
    """The answers that a cue accepts, each as its techniques."""
    return [[step.technique for step in chain.steps] for chain in drill.cue(key).asks]


def sides(drill: Drill, key: str) -> list[str]:
    return [step.side for step in drill.cue(key).asks[0].steps]


def kinds(drill: Drill) -> set[str]:
    return {cue.stimulus.kind for cue in drill.cues}


def led(drill: Drill) -> list[str | None]:
    """What leads each rung: a count or a hold; None: cues."""
    return [rung.guide and rung.guide.kind for rung in drill.rungs]


Fact = Callable[[Drill], bool]
FACTS: dict[str, dict[str, Fact]] = {
    "sound blocks, light strikes": {
        "two sounds for two high blocks": lambda d: chains(d, "low_knock") == [["high_block"]]
        and sides(d, "low_knock") + sides(d, "bell") == ["lead", "rear"],
        "two flashes for two straights": lambda d: chains(d, "lead_light") == [["straight"]]
        and sides(d, "lead_light") + sides(d, "rear_light") == ["lead", "rear"],
        "apart, faster, overlapping": lambda d: d.rungs[0].window_s > d.rungs[1].window_s
        and d.rungs[-1].overlap is not None and d.rungs[0].overlap != d.rungs[-1].overlap,
    },
    "compact guard": {
        "small movements": lambda d: {step for cue in ("jab_in", "cross_in")
                                      for chain in chains(d, cue) for step in chain} == {"parry"},
        "quicker as it goes": lambda d: d.rungs[0].window_s > d.rungs[1].window_s,
    },
    "high and low targets": {
        "lead hand high, rear hand low": lambda d: sides(d, "high_spot") == ["lead"]
        and sides(d, "low_spot") == ["rear"],
        "on the spot, going in, giving ground": lambda d: [
            d.cue(key).asks[0].steps[0].footwork for key in ("high_spot", "high_in", "high_back")
        ] == ["stay", "advance", "retreat"],
        "one delivery at a time": lambda d: [rung.cues for rung in d.rungs[1:]]
        == [("high_spot", "low_spot"), ("high_in", "low_in"), ("high_back", "low_back")],
        "called, then only shown": lambda d: [rung.name for rung in d.rungs[:2]]
        == ["called and shown", "only shown"],
    },
    "wide swing": {
        "four answers, the student chooses": lambda d: len(chains(d, "swing_lead")) == 4,
        "block, duck, cover, or first": lambda d: [chain[0] for chain in chains(d, "swing_lead")]
        == ["forearm_block", "duck", "double_cover", "straight"],
        "now and then nothing comes": lambda d: chains(d, "calm") == [],
    },
    "frame and step": {
        "hold, then step, then both": lambda d: led(d) == ["hold", None, None]
        and [rung.cues for rung in d.rungs[1:2]] == [("hold", "mark")],
        "up to five minutes, letting go": lambda d: d.rungs[0].rounds.duration_s == 300
        and isinstance(d.rungs[0].guide, Hold) and len(d.rungs[0].guide.let_go) >= 3,
        "step and punch together": lambda d: d.cue("punch").asks[0].steps[0].footwork
        == "step_to_mark",
    },
    "roll under": {
        "to both sides": lambda d: sides(d, "hook_lead") == ["rear", "rear"]
        and sides(d, "hook_rear") == ["lead", "lead"],
        "known first, then at random": lambda d: [rung.order.kind for rung in d.rungs[:2]]
        == ["set", "balanced"],
        "a ball is the cue, the app only counts": lambda d: [
            (rung.guide.against, rung.guide.to, rung.guide.after)
            for rung in d.rungs if isinstance(rung.guide, Count)][:2]
        == [("ball", 2, "stop"), ("ball", 4, "start the ball")],
        "rounded, never upright": lambda d: "rounded, never upright" in d.notes,
    },
    "three kicks back": {
        "the footwork by numbers": lambda d: kinds(d) == {"call"},
        "the same arm twice, then the other": lambda d: [
            sides(d, cue.key)[0] for cue in d.cues] == ["rear", "rear", "lead"],
        "nobody kicks back": lambda d: all(chains(d, cue.key) == [["calf_meet"]]
                                           for cue in d.cues),
    },
    "one thing more": {
        "slip, parry, step, counter": lambda d: chains(d, "lead_in")
        == [["slip", "parry", "step_off", "straight"]],
    },
    "head cover": {
        "cover, drive, leave": lambda d: chains(d, "swing_rear")
        == [["head_cover", "round_elbow", "leave"]],
        "step in or back": lambda d: [chain.steps[0].footwork
                                      for chain in d.cue("swing_lead").asks]
        == ["advance", "retreat"],
        "one part more each rung": lambda d: [rung.name for rung in d.rungs]
        == ["cover only", "cover and drive", "and leave"],
    },
    "solo side roll": {
        "side to side": lambda d: sides(d, "to_lead") + sides(d, "to_rear") == ["lead", "rear"],
        "pressure against a wall": lambda d: chains(d, "press") == [["wall_pressure"]],
        "held on both sides": lambda d: isinstance(d.rungs[-1].guide, Hold)
        and d.rungs[-1].guide.against == "wall" and d.rungs[-1].guide.change_s is not None,
    },
    "base by count": {
        "pivots, steps, strikes, step and strike": lambda d: [rung.name for rung in d.rungs[:4]]
        == ["pivots", "steps in four directions", "strikes", "step and strike"],
        "ten of each, feet checked between": lambda d: all(
            isinstance(rung.guide, Count)
            and (rung.guide.to, rung.guide.after) == (10, "check your feet") for rung in d.rungs),
        "four directions": lambda d: isinstance(d.rungs[1].guide, Count)
        and len(d.rungs[1].guide.of) == 4,
        "both stances, nothing timed": lambda d: not d.cues and all(
            rung.rounds.stances == "in_turn" for rung in d.rungs),
    },
    "zone tracing": {
        "crown to hip, side to side, diagonals, a wide sweep": lambda d: isinstance(
            d.rungs[0].guide, Count) and len(d.rungs[0].guide.of) == 4,
        "trace first, then meet": lambda d: led(d) == ["count", None, None]
        and d.rungs[1].cues == (),
        "then with the hit": lambda d: chains(d, "high_in") == [["high_block", "straight"]],
    },
    "keep the distance": {
        "signs of trouble are seen": lambda d: kinds(d) == {"picture"},
        "time buys leaving": lambda d: chains(d, "away") == [["leave"]],
        "shown ever shorter": lambda d: d.rungs[0].window_s > d.rungs[-1].window_s,
    },
    "baseline": {
        "a test of one rung": lambda d: d.is_test and len(d.rungs) == 1,
        "sound and light": lambda d: kinds(d) == {"sound", "light"},
    },
}  # fmt: skip
EACH = [(pattern, fact) for pattern, facts in FACTS.items() for fact in facts]


@pytest.mark.parametrize(("pattern", "fact"), EACH)
def test_a_solo_starter_is_the_practitioners_drill(pattern: str, fact: str) -> None:
    assert FACTS[pattern][fact](STARTERS[pattern]())


def test_each_solo_starter_has_its_facts() -> None:
    assert set(FACTS) == set(STARTERS)
