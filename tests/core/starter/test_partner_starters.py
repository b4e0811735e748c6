"""What makes each partner starter the practitioner's drill: facts of its pattern (common practice,
no source)."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.partner_step import Lane, PartnerStep
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.run.agreement import Agreed, Partner, tonight
from hastatus.core.run.allowance import allowance
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.gear import BARE_BPM


def of(pattern: str) -> PartnerDrill:
    return PARTNER_STARTERS[pattern]()


def steps(drill: PartnerDrill, lane: Lane) -> Iterator[PartnerStep]:
    for passage in drill.passages:
        yield from (step for step in passage.steps if step.lane == lane)


def test_touch_and_away_is_one_who_touches_and_one_who_opens() -> None:
    """Nobody parries, nobody hits back; pulled touches with a step; first stands, moves, opens."""
    drill = of("touch and away")
    assert {step.technique for step in steps(drill, "feeder")} == {
        "stay", "retreat", "step_off", "hands_up",
    }  # fmt: skip
    touches = [step for step in steps(drill, "defender") if step.technique != "step_back"]
    assert {step.spot for step in touches} == {"shoulder", "ribs"}
    assert {step.contact for step in touches} == {"touch"}
    assert all(step.footwork != "hold" for step in touches)
    assert drill.gear_throughout == ()
    assert [set(rung.passages) for rung in drill.rungs] == [
        {"stand"}, {"back", "side"}, {"open_low", "open_high"}, set(),
    ]  # fmt: skip


@pytest.mark.parametrize("rung", range(4))
def test_touch_and_away_needs_no_gear(rung: int) -> None:
    drill = of("touch and away")
    bare = [Partner("Ana", "touch", ()), Partner("Ben", "touch", ())]
    may = tonight(bare, Agreed(contact="touch", stop_word="red", here=()))
    found = allowance(drill, drill.rungs[rung], may)
    assert (found.contact, found.lowered, found.impossible) == ("touch", (), ())
    assert drill.rungs[rung].fastest_bpm <= BARE_BPM


def test_the_entry_is_one_and_its_two_answers_are_learned_apart() -> None:
    """Lead and rear; duck, or slip, each with its whole chain; named before, then read."""
    drill = of("read the entry")
    duck, slip = drill.passage("duck"), drill.passage("slip")
    for passage in (duck, slip):
        fed = [step for step in passage.steps if step.lane == "feeder"]
        assert [(step.technique, step.side) for step in fed] == [
            ("straight", "lead"), ("straight", "rear"),
        ]  # fmt: skip

    def chain(key: str) -> list[tuple[str, str]]:
        own = [step for step in drill.passage(key).steps if step.lane == "defender"]
        return [(step.technique, step.side) for step in own if step.beat >= 3]

    assert chain("duck") == [("straight", "rear"), ("hook", "lead"), ("uppercut", "rear")]
    assert chain("slip") == [("straight", "rear"), ("straight", "lead"), ("straight", "rear")]
    assert [(rung.passages, rung.announced) for rung in drill.rungs] == [
        (("duck",), True), (("slip",), True), ((), True), ((), False), ((), False),
    ]  # fmt: skip


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_every_rung_of_every_starter_can_be_fed(pattern: str) -> None:
    drill = of(pattern)
    for number, rung in enumerate(drill.rungs, start=1):
        sheet = feed_sheet(drill, seed=5, rung=number)
        fed = sum(len(turn.feeds) for round_ in sheet.rounds for turn in round_.turns)
        assert (fed == 0) == (rung.order.kind in ("free", "both"))


COUNTED = [
    (pattern, number)
    for pattern, make in PARTNER_STARTERS.items()
    for number, rung in enumerate(make().rungs)
    if rung.rounds.ends != "time"
]


@pytest.mark.parametrize(("pattern", "rung"), COUNTED)
def test_the_minutes_of_a_counted_rung_are_those_of_its_sheets(pattern: str, rung: int) -> None:
    """Of ten sheets, to a fifth: exchanges at their own length, pauses and rests."""
    drill = of(pattern)
    shape = drill.rungs[rung].rounds
    lengths = []
    for seed in range(10):
        rounds = feed_sheet(drill, seed=seed, rung=rung + 1).rounds
        ends = sum(min(each.turns[-1].to_s, each.duration_s) for each in rounds)
        lengths.append(ends + (shape.count - 1) * shape.rest_s)
    assert drill.lengths_s[rung] == pytest.approx(sum(lengths) / 10, rel=0.2)
