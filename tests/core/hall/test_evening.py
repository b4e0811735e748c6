"""What an evening takes, when it ends, and what would shorten it."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any
from zoneinfo import ZoneInfo

import pytest
from pydantic import ValidationError

from hastatus.core.hall.evening import Block, Evening, again
from hastatus.core.hall.timetable import SWITCH_S, DrillTimes, timetable

DRILL = uuid.UUID(int=1)
TIMES = {DRILL: DrillTimes(rungs_s=(300.0, 240.0), floor_m=3.0)}
SEVEN = datetime(2026, 11, 24, 19, 0, tzinfo=ZoneInfo("Europe/London"))


def block(kind: str = "partner", key: str = "one", **rest: Any) -> Block:
    needs_drill = kind in ("solo", "partner")
    given = {"drill_id": DRILL} if needs_drill else {"minutes": 10}
    return Block.model_validate({"key": key, "kind": kind, "name": key, **given, **rest})


def evening(*blocks: Block, minutes: float = 90, **rest: Any) -> Evening:
    ends = SEVEN + timedelta(minutes=minutes)
    return Evening(title="Tuesday", starts_at=SEVEN, ends_at=ends, blocks=blocks, **rest)


def work_s(one: Block, people: int = 10, **rest: Any) -> float:
    (times,) = timetable(evening(one, **rest), TIMES, people).blocks
    return times.ends_s - times.starts_s


def test_a_block_takes_its_rungs_stances_repeats_and_waves() -> None:
    assert work_s(block()) == 300
    assert work_s(block(rungs=(1, 2))) == 540 + SWITCH_S
    assert work_s(block(stances="both")) == 600 + SWITCH_S
    assert work_s(block(repeats=3)) == 900 + 2 * SWITCH_S
    assert work_s(block(minutes=4, rungs=(1, 2))) == 480 + SWITCH_S
    # Five pairs on 27 m², 9 m² each: three at once, so two waves.
    assert work_s(block(), floor_m2=27) == 600 + SWITCH_S
    assert work_s(block(), floor_m2=1) == 5 * 300 + 4 * SWITCH_S
    assert work_s(block("solo"), people=4, floor_m2=18) == 600 + SWITCH_S
    assert work_s(block("base"), floor_m2=1) == 600


def test_blocks_follow_one_another_and_the_end_is_told() -> None:
    plan = evening(block("base", "a"), block(key="b"), block("talk", "c"), minutes=45)
    table = timetable(plan, TIMES, 10)
    a, b, c = table.blocks
    assert (a.starts_s, a.ends_s) == (0, 600)
    assert b.starts_s == a.ends_s + plan.changeover_s
    assert c.ends_s == b.ends_s + plan.changeover_s + 600
    assert table.ends_s == c.ends_s + 60 * plan.clear_up_min
    assert table.over_s == pytest.approx(table.ends_s - 45 * 60)


def test_what_is_over_full_says_by_how_much_and_what_would_do() -> None:
    """Each offer saves what it says when it is taken; the first is the least that is enough."""
    plan = evening(
        block("base", "a"), block(key="b", stances="both", repeats=2), block("talk", "c"),
        minutes=30,
    )  # fmt: skip
    table = timetable(plan, TIMES, 10)
    assert table.over_s > 0
    for offer in table.offers:
        blocks = tuple(
            offer.block if one.key == offer.key else one
            for one in plan.blocks
            if one.key != offer.key or offer.block
        )
        shorter = timetable(plan.model_copy(update={"blocks": blocks}), TIMES, 10)
        assert table.ends_s - shorter.ends_s == pytest.approx(offer.saves_s)
    enough = [offer.saves_s for offer in table.offers if offer.saves_s >= table.over_s]
    assert enough
    assert table.offers[0].saves_s == min(enough)


def test_a_class_over_midnight_or_a_change_of_clocks_is_as_long_as_it_is() -> None:
    # British clocks went back at 01:00 UTC on 25 October 2026 (common knowledge): 00:30 to 01:30
    # on the wall, the second time round, is two hours.
    london = ZoneInfo("Europe/London")
    starts = datetime(2026, 10, 25, 0, 30, tzinfo=london)
    ends = datetime(2026, 10, 25, 1, 30, tzinfo=london, fold=1)
    late = Evening(title="Late", starts_at=starts, ends_at=ends)
    assert late.length_s == 2 * 3600
    assert late.at(3600).astimezone(UTC) == datetime(2026, 10, 25, 0, 30, tzinfo=UTC)


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"ends_at": SEVEN - timedelta(minutes=1)}, "ends before it starts"),
        ({"ends_at": SEVEN + timedelta(hours=13)}, "longer than 12 hours"),
        ({"zone": "Mars/Olympus"}, "no time zone"),
        ({"blocks": (block(), block())}, "two blocks have one key"),
        ({"starts_at": datetime(2026, 11, 24, 19, 0)}, "timezone"),
    ],
)
def test_what_makes_no_sense_is_refused_in_words(change: dict[str, Any], says: str) -> None:
    with pytest.raises(ValidationError, match=says):
        Evening.model_validate({**dict(evening()), **change})


def test_what_cannot_be_as_planned_is_found() -> None:
    gone = block(drill_id=uuid.UUID(int=9))
    table = timetable(evening(gone, floor_m2=0), TIMES, 10)
    assert any("no longer in the library" in finding for finding in table.findings)
    assert any("0 m²" in finding for finding in table.findings)
    assert timetable(evening(), TIMES, 0).findings == ("Nothing is planned yet: add a block.",)


def test_the_same_evening_comes_again_at_the_same_time_on_the_halls_clock() -> None:
    """Over the end of summer time on 25 October 2026 (EU directive 2000/84/EC)."""
    london = ZoneInfo("Europe/London")
    before = evening(block("talk")).model_copy(
        update={
            "starts_at": datetime(2026, 10, 20, 19, tzinfo=london),
            "ends_at": datetime(2026, 10, 20, 20, 30, tzinfo=london),
        }
    )
    after = again(before, datetime(2026, 10, 21, tzinfo=UTC))
    assert after.starts_at == datetime(2026, 10, 27, 19, tzinfo=UTC)
    assert after.length_s == before.length_s
    later = again(before, datetime(2026, 12, 1, 12, tzinfo=UTC))
    assert later.starts_at == datetime(2026, 12, 1, 19, tzinfo=UTC)
