"""Every partner pattern of the trade, and good drills broken on purpose."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable
from itertools import pairwise
from typing import Any

import pytest
from pydantic import ValidationError

from hastatus.core.drill.checks.finding import Finding, Infeasible
from hastatus.core.drill.checks.partner import find
from hastatus.core.drill.checks.solo import find as find_solo
from hastatus.core.drill.document import parse
from hastatus.core.drill.file import DrillFile
from hastatus.core.drill.mirror import in_stances
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import walks
from hastatus.core.drill.shadow import shadow
from hastatus.core.plan.feed_draws import Draws
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.contact import CONTACTS


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_each_pattern_is_whole(pattern: str) -> None:
    drill = PARTNER_STARTERS[pattern]()
    # Common practice of the trade, no source: no fault that its step does not explain.
    assert [each for each in find(drill) if not each.kept] == []
    for rung in range(1, len(drill.rungs) + 1):
        sheet = feed_sheet(drill, seed=5, rung=rung)
        free = drill.rungs[rung - 1].order.kind in ("free", "both")
        given = [feed for round_ in sheet.rounds for turn in round_.turns for feed in turn.feeds]
        assert free or given
    # Out and in again, as a file and as a document of the one library.
    file = DrillFile(drill=drill)
    assert DrillFile.model_validate_json(file.model_dump_json()).drill == drill
    assert parse(drill.model_dump(mode="json")) == drill
    assert len(drill.rungs) > 1
    assert all(one != other for one, other in pairwise(drill.rungs))


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_each_pattern_can_be_shadowed(pattern: str) -> None:
    drill = PARTNER_STARTERS[pattern]()
    solo = shadow(drill)
    assert [fault for fault in find_solo(solo) if fault.level == "stop"] == []
    fed = {
        passage.key for passage in drill.passages if any(s.lane == "feeder" for s in passage.steps)
    }
    assert {cue.key for cue in solo.cues} <= fed
    for rung in range(1, len(solo.rungs) + 1):
        assert plan_run(solo, seed=3, rung=rung).rounds


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_the_other_stances_are_as_sound(pattern: str) -> None:
    """Mirrored, every hand is where it was, so nothing new is wrong; twice is where it began."""
    drill = PARTNER_STARTERS[pattern]()
    other = in_stances(drill, mirrored=drill.stances == "same")
    assert Counter(each.check for each in find(other)) == Counter(
        each.check for each in find(drill)
    )
    assert in_stances(other, mirrored=drill.stances == "mirrored") == drill


def test_walks_use_every_branch() -> None:
    for make in PARTNER_STARTERS.values():
        drill = make()
        used = {pair for walk in walks(drill) for pair in pairwise(walk.passages)}
        keys = {tuple(each.key.split("+")[0] for each in pair) for pair in used}
        wanted = {
            (passage.key, branch.to)
            for passage in drill.passages
            for branch in passage.then
            if branch.to and branch.share > 0
        }
        assert keys == wanted


Break = Callable[[dict[str, Any]], None]


def broken(pattern: str, change: Break) -> list[Finding]:
    document = PARTNER_STARTERS[pattern]().model_dump(mode="json")
    change(document)
    return [each for each in find(PartnerDrill.model_validate(document)) if not each.kept]


def step(document: dict[str, Any], passage: int, place: int) -> dict[str, Any]:
    found: dict[str, Any] = document["passages"][passage]["steps"][place]
    return found


def harder(document: dict[str, Any], passage: int, place: int, contact: str) -> None:
    """The step lands harder, and every rung lets it."""
    step(document, passage, place).update(contact=contact)
    for rung in document["rungs"]:
        rung["contact"] = contact


BROKEN: dict[str, tuple[str, Break, str, tuple[str | None, int | None]]] = {
    # name: pattern, what is changed, the check that says so, passage and step
    "one limb used twice": (
        "two-beat counter", lambda d: step(d, 0, 4).update(side="lead"), "limb", ("pair", 4),
    ),
    "not home before it is used again": (
        "two-beat counter", lambda d: [rung.update(tempo_bpm=140, goal_bpm=None)
                                       for rung in d["rungs"]], "limb", ("pair", 6),
    ),
    "the answer does not fit": (
        "two-beat counter", lambda d: step(d, 0, 2).update(technique="roll_under"), "fit",
        ("pair", 2),
    ),
    "the wrong ear": (
        "compact guard", lambda d: step(d, 2, 1).update(side="lead"), "side", ("hook_in", 1),
    ),
    "the arm away from the kick": (
        "blocks only", lambda d: step(d, 0, 1).update(side="lead"), "side", ("front_same", 1),
    ),
    "the gap opened by 60 cm": (
        "two-beat counter", lambda d: d.update(start_m=0.97 + 0.6), "reach", ("pair", 0),
    ),
    "a step in removed": (
        "two-beat counter", lambda d: step(d, 0, 0).update(footwork="hold"), "reach", ("pair", 5),
    ),
    "the pad too far": (
        "kick pairs with footwork",
        lambda d: step(d, 1, 3).update(footwork="hold"), "reach", ("front_hook_chase", 3),
    ),
    "a palm where a fist reaches": (
        "forearm touch and cover",
        lambda d: (d.update(start_m=1.0),
                   step(d, 0, 0).update(technique="straight", surface="palm", footwork="hold",
                                        contact="touch")), "surface", ("touch", 0),
    ),
    "too near to kick": (
        "together on ten", lambda d: d.update(start_m=0.4), "room", ("rear_leg", 0),
    ),
    "a standing leg that kicks": (
        "together on ten",
        lambda d: d["passages"][0]["steps"].append(
            {**step(d, 0, 1), "beat": 1.0, "side": "lead"}), "standing_leg", ("rear_leg", 2),
    ),
    "the counter a beat late": (
        "stop and hit", lambda d: step(d, 0, 2).update(beat=3.0), "counter_beat", ("lead_in", 2),
    ),
    "five blocks in a row": (
        "blocks only",
        lambda d: d["passages"][0].update(
            beats=6.0,
            steps=[{**s, "beat": float(n)} for n in range(1, 6)
                   for s in d["passages"][0]["steps"]]), "blocks", ("front_same", 9),
    ),
    "a sixth punch without a tie-up": (
        "guard at the wall",
        lambda d: d["passages"][2].update(
            beats=8.0,
            steps=[{**s, "beat": float(n)} for n in range(1, 7)
                   for s in d["passages"][2]["steps"][:2]]), "punches", ("lead_hook", 10),
    ),
    "eyes closed for what is to be seen": (
        "stop and hit", lambda d: d["rungs"][0].update(eyes_closed=True, announced=False),
        "sight", ("lead_in", 0),
    ),
    "harder than the gear": (
        "two-beat counter", lambda d: harder(d, 0, 6, "light"), "contact", ("pair", 6),
    ),
    "gloves left at home": (
        "two-beat counter",
        lambda d: (d["place"].update(gear=["mouthguard"]), step(d, 0, 0).update(contact="light"),
                   d["rungs"][0].update(contact="light")), "contact", ("pair", 0),
    ),
    "bare hands, too fast": (
        "bare hands, gloves", lambda d: d["rungs"][0].update(goal_bpm=90), "pace", ("lead_in", 0),
    ),
    "no step of the feeder's": (
        "stop and hit", lambda d: d["passages"][0]["steps"].pop(0), "structure", ("lead_in", None),
    ),
    "shares that add to zero": (
        "third-beat answer",
        lambda d: [branch.update(share=0) for branch in d["passages"][0]["then"]], "structure",
        ("three", None),
    ),
    "an endless loop without a switch": (
        "elbow loop",
        lambda d: (d["passages"][0].update(swap=False),
                   d["rungs"][0]["turns"].update(switch="never"),
                   d["rungs"][1]["turns"].update(switch="never")), "structure", ("loop", None),
    ),
    "after the end": (
        "stop and hit", lambda d: step(d, 0, 2).update(beat=9.0), "structure", ("lead_in", 2),
    ),
    "nobody knows it": (
        "stop and hit", lambda d: step(d, 0, 1).update(technique="hip_throw"), "structure",
        ("lead_in", 1),
    ),
    "a share that repeats cannot give": (
        "stop and hit", lambda d: d["passages"][0].update(weight=8), "structure", (None, None),
    ),
    "a branch to nowhere": (
        "third-beat answer", lambda d: d["passages"][0]["then"][1].update(to="fifth"), "structure",
        ("three", None),
    ),
}  # fmt: skip


@pytest.mark.parametrize("name", BROKEN)
def test_a_broken_score_is_caught_at_its_step(name: str) -> None:
    pattern, change, check, (passage, place) = BROKEN[name]
    found = broken(pattern, change)
    named = [each for each in found if each.check == check]
    assert (passage, place) in [(each.passage, each.step) for each in named]
    at = next(each for each in named if (each.passage, each.step) == (passage, place))
    assert at.level == ("stop" if check in ("structure", "contact", "pace") else "hint")
    assert at.what


@pytest.mark.parametrize("name", [name for name in BROKEN if BROKEN[name][2] != "structure"])
def test_the_mend_mends(name: str) -> None:
    """Taking the mend takes the finding away, at that step and check."""
    pattern, change, check, (passage, place) = BROKEN[name]
    document = PARTNER_STARTERS[pattern]().model_dump(mode="json")
    change(document)
    for _ in range(8):  # a step that reaches may leave the next one short: mend on
        found = [
            each
            for each in find(PartnerDrill.model_validate(document))
            if (each.check, each.passage, each.step) == (check, passage, place) and not each.kept
        ]
        if not found or found[0].mend is None:
            break
        for edit in found[0].mend.changes:
            put(document, edit.path, edit.value)
    # What to put instead is the coach's to say: there is no mend that could be taken.
    coachs = check in ("blocks", "punches") or name == "the gap opened by 60 cm"
    assert [each.mend for each in found] == ([None] if coachs else [])


def put(document: dict[str, Any], path: str, value: Any) -> None:
    *parts, last = [int(part) if part.isdigit() else part for part in path.split(".")]
    inside: Any = document
    for part in parts:
        inside = inside[part]
    inside[last] = value


def test_caps_cannot_be_waved_through() -> None:
    kept = [{"check": "reach", "reason": "we like it"}]
    found = broken(
        "two-beat counter",
        lambda d: (harder(d, 0, 6, "firm"), step(d, 0, 6).update(kept=kept)),
    )
    assert [each.check for each in found] == ["contact"]
    document = PARTNER_STARTERS["two-beat counter"]().model_dump(mode="json")
    harder(document, 0, 6, "firm")
    drill = PartnerDrill.model_validate(document)
    with pytest.raises(Infeasible):
        feed_sheet(drill, seed=1)
    step(document, 0, 6).update(kept=[{"check": "contact", "reason": "we like it"}])
    with pytest.raises(ValidationError):  # no way to write it down
        PartnerDrill.model_validate(document)


def test_a_check_is_kept_with_its_reason() -> None:
    document = PARTNER_STARTERS["compact guard"]().model_dump(mode="json")
    step(document, 2, 1).update(side="lead", kept=[{"check": "side", "reason": "both ways today"}])
    found = find(PartnerDrill.model_validate(document))
    assert [(each.check, each.kept) for each in found] == [("side", "both ways today")]


@pytest.mark.parametrize("tempo", [0, 900, -3, float("nan")])
def test_a_tempo_that_nobody_keeps(tempo: float) -> None:
    document = PARTNER_STARTERS["turn about"]().model_dump(mode="json")
    document["rungs"][0]["tempo_bpm"] = tempo
    with pytest.raises(ValidationError, match="tempo_bpm"):
        PartnerDrill.model_validate(document)


def test_harder_contact_needs_more_gear() -> None:
    """More gear never allows less; without any a hand is pulled, and a kick stops short (common
    practice, no source: no gear, no hard contact)."""
    from hastatus.core.trade.catalogue import TECHNIQUES
    from hastatus.core.trade.gear import GEAR_NAMES, cap

    every = tuple(GEAR_NAMES)
    for technique in TECHNIQUES.values():
        if technique.use != "attack":
            continue
        for target in ("head", "body", "leg"):
            worn: tuple[Any, ...] = ()
            before = CONTACTS.index(cap(technique, target, worn).contact)
            for gear in every:
                worn = (*worn, gear)
                now = CONTACTS.index(cap(technique, target, worn).contact)
                assert now >= before
                before = now
    straight, elbow = TECHNIQUES["straight"], TECHNIQUES["round_elbow"]
    assert cap(straight, "head", ()).contact == "touch"
    assert cap(elbow, "head", every).contact == "none"
    kick, knee = TECHNIQUES["body_kick"], TECHNIQUES["straight_knee"]
    assert cap(kick, "body", ("gloves",)).contact == "none"
    assert cap(knee, "body", ()).contact == cap(knee, "head", every).contact == "none"
    assert cap(knee, "body", ("belly_pad",)).contact == "light"


@pytest.mark.parametrize("share", [0.6, 0.75, 0.8, 0.9, 0.95])
def test_a_choice_comes_as_often_as_it_is_promised(share: float) -> None:
    """Given to within a hundredth, over 4,000 draws of several rounds."""
    drill = PARTNER_STARTERS["two-beat counter"]()
    rung = drill.rungs[-1].model_copy(update={"answers": "exit", "counter_share": share})
    free = drill.model_copy(update={"blocks": 4})
    given = [
        draws.counter(0)
        for round_ in range(1, 9)
        for draws in [Draws(free, rung, (7, round_), frozenset())]
        for _ in range(500)
    ]
    assert sum(given) / len(given) == pytest.approx(share, abs=0.01)
