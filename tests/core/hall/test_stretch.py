"""A block second by second: as long as the timetable says, whatever its drill."""

from __future__ import annotations

import uuid
from collections import Counter
from datetime import UTC, datetime, timedelta
from itertools import pairwise

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.hall.class_clock import Act, ActKind, class_clock
from hastatus.core.hall.class_voice import block_calls, class_sounds
from hastatus.core.hall.evening import Block, Evening
from hastatus.core.hall.numbered_call import attacks_of, cards
from hastatus.core.hall.stretch import (
    Lengthening,
    Stretch,
    lengthened,
    pieces,
    stretch_at,
    stretches,
)
from hastatus.core.hall.timetable import DrillTimes, timetable
from hastatus.core.starter import STARTERS
from hastatus.core.starter.partner import PARTNER_STARTERS

DRILL = uuid.UUID(int=1)
SEVEN = datetime(2026, 11, 24, 19, tzinfo=UTC)
EVERY = [make() for make in (*STARTERS.values(), *PARTNER_STARTERS.values())]


def block_of(drill: Drill | PartnerDrill, **rest: object) -> Block:
    kind = "solo" if isinstance(drill, Drill) else "partner"
    return Block.model_validate(
        {"key": "one", "kind": kind, "name": "one", "drill_id": DRILL, **rest}
    )


@pytest.mark.parametrize("drill", EVERY, ids=lambda drill: drill.title)
@pytest.mark.parametrize("minutes", [None, 1, 7, 45])
def test_a_block_lasts_as_the_timetable_says(
    drill: Drill | PartnerDrill, minutes: float | None
) -> None:
    rungs = tuple(range(1, min(3, len(drill.rungs)) + 1))
    block = block_of(drill, minutes=minutes, rungs=rungs, stances="both", repeats=2)
    evening = Evening(
        title="x", starts_at=SEVEN, ends_at=SEVEN + timedelta(hours=2), blocks=(block,), floor_m2=40
    )
    times = {DRILL: DrillTimes(tuple(drill.lengths_s), drill.place.floor_m)}
    (planned,) = timetable(evening, times, people=10).blocks
    row = stretches(pieces(block, drill, planned.waves))
    assert row[-1].ends_s == pytest.approx(planned.ends_s, abs=0.01)
    for one, following in pairwise(row):
        assert one.ends_s == pytest.approx(following.starts_s)
        assert one.ends_s > one.starts_s


ROW = stretches(pieces(block_of(EVERY[0], repeats=3, minutes=5), None, 1))


@settings(max_examples=200)
@given(
    st.lists(
        st.tuples(st.floats(0, 900), st.sampled_from([-600.0, -60.0, 30.0, 60.0])), max_size=5
    ),
    st.floats(0, 2000),
)
def test_what_is_lengthened_stays_in_order_and_what_was_is_not_touched(
    asked: list[tuple[float, float]], now_s: float
) -> None:
    lengths = [60.0, 20.0, 90.0, 20.0, 60.0]
    ends = [sum(lengths[: place + 1]) for place in range(len(lengths))]
    row = [
        Stretch("work", end - length, end, place, 1)
        for place, (length, end) in enumerate(zip(lengths, ends, strict=True))
    ]
    at_s = 0.0
    for later_s, seconds in sorted(asked):
        before = stretch_at(row, later_s)
        changed = lengthened(row, [Lengthening(later_s, seconds)])
        assert [one.piece for one in changed] == [one.piece for one in row]
        for one, following in pairwise(changed):
            assert one.starts_s <= one.ends_s == pytest.approx(following.starts_s)
        if before is not None:
            assert changed[:before] == tuple(row[:before])
            assert changed[before].starts_s == row[before].starts_s
            assert changed[before].ends_s >= later_s
        row, at_s = list(changed), later_s
    place = stretch_at(row, max(at_s, now_s))
    assert place is None or row[place].starts_s <= max(at_s, now_s) < row[place].ends_s


def test_a_round_that_is_cut_short_is_over_at_once() -> None:
    row = lengthened(ROW, [Lengthening(10.0, -3600.0)])
    assert row[0].ends_s == 10.0
    assert stretch_at(row, 10.0) == 1


def act(kind: ActKind, after_s: float, block: str | None = None, seconds: float = 0.0) -> Act:
    at = SEVEN + timedelta(seconds=after_s)
    return Act(id=uuid.uuid4(), at=at, kind=kind, block=block, seconds=seconds)


def at(seconds: float) -> datetime:
    return SEVEN + timedelta(seconds=seconds)


def test_the_clock_stands_in_pauses_and_goes_on_from_there() -> None:
    acts = [act("begin", 0, "one"), act("pause", 30), act("pause", 40), act("go_on", 100)]
    clock = class_clock(acts)
    assert clock.elapsed_s(at(130)) == 60
    assert class_clock(acts[:2]).elapsed_s(at(500)) == 30
    assert class_clock(acts[:3]).elapsed_s(at(500)) == 30


def test_acts_count_from_when_they_were_done_in_whatever_order_they_come() -> None:
    acts = [
        act("begin", 0, "one"),
        act("pause", 30),
        act("go_on", 60),
        act("lengthen", 70, seconds=60),
        act("stop_word", 80),
    ]
    clock = class_clock(acts)
    assert class_clock(reversed(acts)) == clock
    assert class_clock([*acts, *acts[1:3]]).held_s == clock.held_s == 50
    assert clock.stopped
    assert clock.changes == (Lengthening(40.0, 60.0),)


def test_two_coaches_who_begin_a_block_together_begin_it_once() -> None:
    clock = class_clock([act("begin", 0, "one"), act("begin", 2, "one"), act("begin", 300, "two")])
    assert clock.first == {"one": at(0), "two": at(300)}
    assert clock.elapsed_s(at(310)) == 10
    assert class_clock([act("begin", 0, "one"), act("begin", 2, "one")]).elapsed_s(at(10)) == 10


def test_a_block_that_was_left_by_mistake_goes_on_where_it_was() -> None:
    acts = [act("begin", 0, "one"), act("begin", 40, "two"), act("begin", 44, "one", 44.0)]
    clock = class_clock(acts)
    assert (clock.block, clock.elapsed_s(at(50))) == ("one", 50)
    assert clock.first["two"] == at(40)


def test_an_evening_that_has_ended_can_be_taken_up_again() -> None:
    over = [act("begin", 0, "one"), act("end", 60), act("begin", 61, "two"), act("pause", 62)]
    assert class_clock(over).ended
    assert class_clock(over).block == "one"
    assert class_clock([*over, act("reopen", 70), act("go_on", 75)]).elapsed_s(at(80)) == 65
    assert class_clock([act("pause", 0), act("lengthen", 1, seconds=5)]) == class_clock([])


@pytest.mark.parametrize("drill", EVERY, ids=lambda drill: drill.title)
def test_what_is_heard_stays_within_the_block(drill: Drill | PartnerDrill) -> None:
    block = block_of(drill, stances="both")
    done = pieces(block, drill, 1)
    row = stretches(done)
    heard = class_sounds(drill, done, row, seed=7, numbered=True)
    times = [sound.at_s for sound in heard]
    assert times == sorted(times)
    assert times[0] >= 0
    assert times[-1] <= row[-1].ends_s + 1e-6
    bells = Counter(round(sound.at_s, 3) for sound in heard if sound.kind == "bell")
    for one in row:
        if one.kind == "work":
            assert bells[round(one.starts_s, 3)] >= 1
            assert bells[round(one.ends_s, 3)] >= 1
    for sound in heard:
        if sound.kind in ("number", "cue"):
            place = stretch_at(row, sound.at_s)
            assert place is not None
            assert row[place].kind == "work"


@pytest.mark.parametrize("name", list(PARTNER_STARTERS))
def test_numbers_are_called_on_every_rung_and_the_cards_know_each(name: str) -> None:
    drill = PARTNER_STARTERS[name]()
    block = block_of(drill, rungs=tuple(range(1, len(drill.rungs) + 1)), minutes=4)
    done = pieces(block, drill, 1)
    calls = block_calls(drill, done, seed=3)
    numbers = [round_.round for one in calls for round_ in one.rounds]
    assert len(numbers) == len(set(numbers))
    for one in calls:
        rung = one.drill.rungs[done[one.piece].rung - 1]
        shares = one.drill.shares(rung)
        made = cards(shares, one.rounds, 2, seed=3)
        for round_ in one.rounds:
            mine = [card for card in made if card.pair == 0 and card.round == round_.round]
            assert set(attacks_of(mine, round_)) <= set(shares)
