"""Drills at large: anything the drill language can say, and the rules that every plan keeps."""

from __future__ import annotations

from itertools import pairwise
from typing import Any

from hypothesis import strategies as st
from pydantic import ValidationError

from hastatus.core.drill import foreperiod
from hastatus.core.drill.checks import solo
from hastatus.core.drill.repeats import longest_repeat
from hastatus.core.drill.requirement import ask
from hastatus.core.drill.settings import Balanced
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.plan import flash_limit
from hastatus.core.plan.run_plan import RoundPlan, RunPlan
from hastatus.core.plan.timeline import PlacedCue
from hastatus.core.trade.colours import HEX

SHAPES = ("circle", "triangle", "square", "diamond", "ring", "bar")
SOUNDS = ("low_knock", "high_knock", "bang", "bell", "high_bell", "low_tone", "tone", "high_tone")
PLACES = (
    "lead", "rear", "middle", "high", "low", "lead_high", "lead_low", "rear_high", "rear_low",
)  # fmt: skip
SIDES = st.sampled_from(("lead", "rear"))
ANSWERS = ("high_block", "parry", "slip", "duck", "roll_under", "low_block", "straight", "hook")
LATER = ("straight", "hook", "low_kick", "leave", "angle_off", "shove_off")


def chance(least: float, most: float) -> st.SearchStrategy[float]:
    return st.floats(least, most).map(lambda value: round(value, 3))


stimuli: st.SearchStrategy[dict[str, Any]] = st.one_of(
    st.builds(lambda name: {"kind": "sound", "sound": name}, st.sampled_from(SOUNDS)),
    st.builds(lambda words: {"kind": "call", "words": words}, st.sampled_from(("jab", "ho", "x"))),
    st.builds(lambda place: {"kind": "light", "place": place}, st.sampled_from(PLACES)),
    st.builds(
        lambda way: {"kind": "arrow", "direction": way},
        st.sampled_from(("up", "down", "lead", "rear")),
    ),
    st.builds(
        lambda name: {"kind": "picture", "picture": name},
        st.sampled_from(("head_target", "swing", "fists", "open_hands")),
    ),
)
withins = st.none() | st.builds(
    lambda value, unit: {"value": value, "unit": unit},
    chance(0.2, 2.5),
    st.sampled_from(("s", "beat")),
)


@st.composite
def chains(draw: st.DrawFn) -> dict[str, Any]:
    first = {
        "technique": draw(st.sampled_from(ANSWERS)),
        "side": draw(SIDES),
        "within": draw(st.none() | st.none() | withins),
    }
    parts = draw(st.sampled_from(((), ("counter",), ("counter", "exit"), ("answer", "counter"))))
    later = [
        {
            "technique": draw(st.sampled_from(LATER)),
            "side": draw(SIDES),
            "part": part,
            "within": draw(withins),
            "footwork": draw(st.sampled_from((None, "advance", "retreat"))),
            "hold_s": draw(st.sampled_from((None, None, None, 2.0))),
        }
        for part in parts
    ]
    return {"steps": [first, *later]}


@st.composite
def cues(draw: st.DrawFn) -> list[dict[str, Any]]:
    count = draw(st.integers(1, 7))
    return [
        {
            "key": f"cue_{number}",
            "stimulus": draw(stimuli),
            "mark": {
                "shape": draw(st.sampled_from(SHAPES)),
                "colour": draw(st.sampled_from(sorted(HEX))),
            },
            "asks": draw(st.lists(chains(), min_size=number < 2, max_size=2)),
            "weight": draw(chance(0.5, 3)),
        }
        for number in range(count)
    ]


waits = st.one_of(
    st.builds(lambda wait: {"kind": "fixed", "wait_s": wait}, chance(0.3, 2)),
    st.builds(
        lambda least, more: {"kind": "jittered", "least_s": least, "most_s": least + more},
        chance(0.3, 1.5),
        chance(0.1, 2),
    ),
    st.builds(
        lambda least, mean, cut: {
            "kind": "unguessable", "least_s": least, "mean_s": mean,
            "most_s": round(least + cut * mean, 3),
        },
        chance(0.3, 1.5), chance(0.1, 1.5), chance(2, 7),
    ),
)  # fmt: skip
leads = st.none() | st.one_of(
    st.builds(lambda lead: {"kind": "announce", "lead_s": lead}, chance(0.6, 2)),
    st.builds(
        lambda least, more: {"kind": "warning", "least_s": least, "most_s": least + more},
        chance(0.3, 1),
        chance(0, 1),
    ),
)
bursts = st.none() | st.builds(
    lambda share, least, more, inner, extra: {
        "share": share, "least": least, "most": least + more, "inner_s": inner,
        "extra_share": extra,
    },
    chance(0.1, 1), st.integers(2, 3), st.integers(0, 2), chance(0.3, 1.5), chance(0, 0.5),
)  # fmt: skip


@st.composite
def orders(draw: st.DrawFn, keys: list[str]) -> dict[str, Any]:
    kind = draw(st.sampled_from(("balanced", "balanced", "first_order", "set", "rotating")))
    if kind == "balanced":
        return {
            "kind": kind,
            "repeat_cap": draw(st.integers(1, 4)),
            "bag": draw(st.integers(4, 30)),
        }
    if kind == "set":
        return {"kind": kind, "sequence": draw(st.lists(st.sampled_from(keys), max_size=6))}
    return {"kind": kind}


@st.composite
def rungs(draw: st.DrawFn, keys: list[str]) -> dict[str, Any]:
    window = draw(chance(0.3, 1.5))
    ends = draw(st.sampled_from(("time", "time", "count", "first")))
    return {
        "name": "one",
        "window_s": window,
        "goal_window_s": max(0.2, round(window * 0.8, 3)),
        "cues": draw(st.just([]) | st.just([]) | st.lists(st.sampled_from(keys), unique=True)),
        "chain": draw(st.sampled_from(("answer", "counter", "exit"))),
        "order": draw(orders(keys)),
        "waiting": draw(waits),
        "overlap": draw(st.none() | st.builds(lambda share: {"share": share}, chance(0.05, 0.4))),
        "bursts": draw(bursts),
        "catch_share": draw(st.just(0.0) | chance(0.05, 0.3)),
        "counters": draw(
            st.none()
            | st.builds(
                lambda share, cap: {"share": share, "cap": cap}, chance(0.1, 1), st.integers(1, 4)
            )
        ),
        "stacking": draw(st.none() | st.none() | st.just({"each": 3})),
        "lead_in": draw(leads),
        "tempo_bpm": draw(st.sampled_from((40, 60, 120))),
        "rounds": {
            "count": 2,
            "ends": ends,
            "duration_s": draw(st.sampled_from((20.0, 45.0, 90.0))),
            "cues": draw(st.integers(1, 30)),
            "rest_s": 5,
            "stances": draw(st.sampled_from(("own", "in_turn"))),
            "turns": draw(st.just([]) | st.lists(st.lists(st.sampled_from(keys)), max_size=2)),
            "calls": draw(st.sampled_from(([], ["time"], ["switch", "ten_seconds", "time"]))),
        },
    }


@st.composite
def drills(draw: st.DrawFn) -> Drill:
    """A drill that the language accepts; it may still be one that has no plan."""
    drawn = draw(cues())
    keys = [cue["key"] for cue in drawn]
    document = {"title": "Any", "cues": drawn, "rungs": [draw(rungs(keys))]}
    try:
        return Drill.model_validate(document)
    except ValidationError as error:
        raise AssertionError(f"the strategy writes what the language refuses: {error}") from error


def mended(drill: Drill) -> Drill | None:
    """The drill with every offered mend of a stopping fault taken; None where one has none."""
    for _ in range(12):
        stops = [fault for fault in solo.find(drill, hints=False) if fault.level == "stop"]
        if not stops:
            return drill
        mend = stops[0].mend
        if mend is None:
            return None
        document = drill.model_dump(mode="json")
        for change in mend.changes:
            put(document, change.path, change.value)
        drill = Drill.model_validate(document)
    raise AssertionError(f"the mends do not end: {stops[0]}")


def put(document: Any, path: str, value: Any) -> None:
    """Set the value at a dotted path of a document."""
    *way, last = path.split(".")
    for part in way:
        document = document[int(part)] if isinstance(document, list) else document[part]
    document[int(last) if isinstance(document, list) else last] = value


def broken_rules(drill: Drill, plan: RunPlan) -> list[str]:
    """The rules of the drill that a plan of its first rung breaks."""
    rung = drill.rungs[0]
    broken: list[str] = []
    for each in plan.rounds:
        broken += [f"round {each.number}: {what}" for what in _order_rules(drill, rung, each)]
        broken += [f"round {each.number}: {what}" for what in _time_rules(drill, rung, each)]
        broken += [f"round {each.number}: {what}" for what in _counter_rules(drill, rung, each)]
    return broken


def _order_rules(drill: Drill, rung: Rung, each: RoundPlan) -> list[str]:
    keys = [slot.cue for slot in each.slots]
    shares = drill.shares(rung, each.turn)
    broken = []
    if not set(keys) <= set(shares):
        broken.append("a cue that the rung does not have")
    capped = rung.order.repeat_cap if isinstance(rung.order, Balanced) else len(keys)
    if len(shares) > 1 and longest_repeat(keys) > capped:
        broken.append("more alike than the cap allows")
    catch = {cue.key for cue in drill.cues if cue.is_catch}
    asking = [key for key in keys if key not in catch]
    if rung.order.kind == "first_order" and len(asking) > len(set(asking)) ** 2:
        size = len(set(asking)) ** 2
        pairs = list(pairwise(asking[: size + 1]))
        if len(set(pairs)) != size:
            broken.append("a pair of cues twice before every pair once")
    return broken


def _time_rules(drill: Drill, rung: Rung, each: RoundPlan) -> list[str]:
    channel = {cue.key: cue.channel for cue in drill.cues}
    broken = []
    flashes = [cue.at_s for cue in each.cues if channel[cue.cue] == "see"]
    if flash_limit.worst_second(flashes) > 3:
        broken.append("more than three flashes in a second")
    least, most = foreperiod.least(rung.waiting), foreperiod.most(rung.waiting)
    free = 0.0
    before: PlacedCue | None = None
    for cue in each.cues:
        slot = each.slots[cue.slot]
        if not least - 1e-3 <= slot.wait_s <= most + 1e-3:
            broken.append(f"a wait of {slot.wait_s} s")
        gap = cue.at_s - before.at_s if before else 0.0
        if slot.overlap is not None and before:
            if {channel[before.cue], channel[cue.cue]} != {"hear", "see"}:
                broken.append("an overlap inside one channel")
            if rung.overlap is None or gap < rung.overlap.least_gap_s - 1e-3:
                broken.append(f"an overlap after {gap} s")
        elif slot.burst and before:
            if rung.bursts is None or gap < rung.bursts.inner_s - 1e-3:
                broken.append(f"a burst after {gap} s")
        elif cue.at_s < free + slot.wait_s + slot.lead_s - 1e-3:
            broken.append(f"cue {cue.slot} comes before the wait is over")
        free = max(free, cue.closes_s)
        before = cue
    if free > min(each.duration_s, rung.rounds.most_s) + 1e-3:
        broken.append("a chain that ends after the round")
    if rung.rounds.ends != "time" and len(each.cues) > rung.rounds.cues:
        broken.append("more cues than the count")
    return broken


def _counter_rules(drill: Drill, rung: Rung, each: RoundPlan) -> list[str]:
    row = 0
    broken = []
    for placed in each.cues:
        slot = each.slots[placed.slot]
        cue = drill.cue(placed.cue)
        if cue.is_catch:
            continue
        row = 0 if slot.counter else row + 1
        if rung.counters and row > rung.counters.cap:
            broken.append("more in a row without a counter than the cap allows")
        asked = ask(drill, rung, cue, stage=slot.stage, counter=slot.counter)
        if abs(asked.after_s - placed.after_s) > 1e-6:
            broken.append("a chain with another length than its steps")
    return broken
