"""Carry-over: chances in free rounds, by answer. That it is a share of chances is common practice,
no source; the interval is Wilson's (1927)."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.loop.partner_results import partner_result
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.read.carry_over import by_answer, carry_over, free_s
from hastatus.core.run.partner_events import (
    CarriedOver,
    ChanceMissed,
    FreeBegun,
    FreeOver,
    Mark,
    MarkBatch,
    TapUndone,
)
from hastatus.core.starter.partner import PARTNER_STARTERS

DRILL = PARTNER_STARTERS["compact guard"]()
SHEET = feed_sheet(DRILL, seed=1)
ANSWERS = st.sampled_from([None, "parry", "forearm_block"])
TAPS = st.lists(
    st.one_of(
        st.builds(
            CarriedOver,
            at_ms=st.just(1.0), round=st.just(4), partner=st.integers(0, 1), answer=ANSWERS,
        ),
        st.builds(
            ChanceMissed,
            at_ms=st.just(1.0), round=st.just(4), partner=st.integers(0, 1), answer=ANSWERS,
        ),
    ),
    max_size=30,
)  # fmt: skip


@given(TAPS)
def test_every_chance_is_told_once_by_partner_and_by_answer(
    taps: list[CarriedOver | ChanceMissed],
) -> None:
    result = partner_result(DRILL, SHEET, [MarkBatch(number=0, marks=tuple(taps))])
    assert sum(one.used + one.missed for one in result.chances) == len(taps)
    for partner in (0, 1):
        own = [one for one in result.chances if one.partner == partner]
        mine = [tap for tap in taps if tap.partner == partner]
        whole, shares = carry_over(own), by_answer(own)
        assert (whole is None) == (not mine)
        for share in shares:
            tapped = [tap for tap in mine if tap.answer == share.answer]
            used = [tap for tap in tapped if isinstance(tap, CarriedOver)]
            assert (share.used, share.of) == (len(used), len(tapped))
            assert (share.interval is None) == (len(used) == len(tapped))
            if share.interval:
                assert share.interval.low <= share.used / share.of <= share.interval.high
        if whole:
            assert (whole.used, whole.of) == (
                sum(share.used for share in shares), sum(share.of for share in shares),
            )  # fmt: skip


def test_a_tap_taken_back_is_no_chance() -> None:
    used = CarriedOver(at_ms=1, round=4, partner=0, answer="parry")
    marks = (used, ChanceMissed(at_ms=2, round=4, partner=0), TapUndone(at_ms=3))
    result = partner_result(DRILL, SHEET, [MarkBatch(number=0, marks=marks)])
    assert [(one.answer, one.used, one.missed) for one in result.chances] == [("parry", 1, 0)]


def test_how_long_free_rounds_lasted_whatever_ended_them() -> None:
    tap = CarriedOver(at_ms=150_000, round=4, partner=0)
    marks: list[Mark] = [
        FreeBegun(at_ms=0, lasts_s=60), FreeOver(at_ms=60_000),
        FreeBegun(at_ms=100_000, lasts_s=60), tap,
    ]  # fmt: skip
    assert free_s(marks[:1]) == 0
    assert free_s(marks[:2]) == 60
    assert free_s(marks) == 110
    assert free_s([*marks, FreeBegun(at_ms=200_000, lasts_s=60), FreeOver(at_ms=230_000)]) == 140
    assert free_s([tap]) == 0
