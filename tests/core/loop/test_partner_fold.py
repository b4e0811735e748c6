"""A kept state of the marks suggests what the whole history does, at a cost that does not grow."""

from __future__ import annotations

from typing import get_args

from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.adapt.tempo_rule import suggested_tempo
from hastatus.core.loop.partner_fold import (
    MARK_STATE,
    MOST_TAPS,
    MarkState,
    fold_again,
    fold_batch,
    suggestion,
)
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.run.partner_events import (
    NOT_CLEAN,
    CarriedOver,
    Grade,
    Graded,
    Mark,
    MarkBatch,
    Strike,
    Tagged,
    TapUndone,
    TempoSet,
)
from hastatus.core.score.exchanges import exchanges_from_events
from hastatus.core.starter.partner import PARTNER_STARTERS

DRILL = PARTNER_STARTERS["compact guard"]()
SHEET: FeedSheet = feed_sheet(DRILL, seed=3, rung=3)
RUNG = DRILL.rungs[2]
ROUNDS, NUMBERS = st.integers(1, 3), st.integers(1, 20)

MARKS = st.lists(
    st.one_of(
        st.builds(Graded, at_ms=st.just(0.0), round=ROUNDS, number=NUMBERS,
                  grade=st.sampled_from(get_args(Grade))),
        st.builds(Graded, at_ms=st.just(0.0), round=ROUNDS, number=NUMBERS,
                  grade=st.just("covered")),
        st.builds(Tagged, at_ms=st.just(0.0), round=ROUNDS, number=NUMBERS,
                  fault=st.just("static guard")),
        st.builds(TapUndone, at_ms=st.just(0.0)),
        st.builds(CarriedOver, at_ms=st.just(0.0), round=ROUNDS, partner=st.just(1)),
        st.builds(TempoSet, at_ms=st.just(0.0), bpm=st.sampled_from([60.0, 64.0, 72.0]),
                  by=st.just("coach")),
        st.builds(Strike, at_ms=st.just(0.0), source=st.just("pad"), partner=st.just(0)),
    ),
    max_size=MOST_TAPS,
)  # fmt: skip


def in_time(marks: list[Mark]) -> list[Mark]:
    """As a mat makes them: each a little after the one before."""
    return [mark.model_copy(update={"at_ms": 500.0 * at}) for at, mark in enumerate(marks)]


def batches(marks: list[Mark], size: int) -> list[MarkBatch]:
    cuts = range(0, len(marks), size)
    return [
        MarkBatch(number=number, marks=tuple(marks[at : at + size]))
        for number, at in enumerate(cuts)
    ]


def of_the_whole(marks: list[Mark]) -> object:
    """What the rule suggests, read from every mark of the run."""
    assert SHEET.tempo_bpm is not None
    told = exchanges_from_events(SHEET, batches(marks, 500))
    bpm = told.tempos[-1].bpm if told.tempos else SHEET.tempo_bpm
    since = [
        exchange.grade not in NOT_CLEAN
        for exchange in told.exchanges
        if exchange.grade and exchange.tempo_bpm == bpm
    ]
    return suggested_tempo(RUNG, bpm, since)


@settings(max_examples=300)
@given(MARKS.map(in_time), st.integers(1, 9))
def test_what_is_kept_suggests_what_the_whole_does(marks: list[Mark], size: int) -> None:
    state = fold_again(batches(marks, size))
    assert suggestion(RUNG, SHEET.tempo_bpm, state) == of_the_whole(marks)


@settings(max_examples=50)
@given(MARKS.map(in_time), st.integers(1, 9))
def test_a_state_comes_back_from_its_json_and_goes_on(marks: list[Mark], size: int) -> None:
    kept = MarkState()
    for batch in batches(marks, size):
        fold_batch(kept, batch)
        kept = MARK_STATE.validate_json(MARK_STATE.dump_json(kept))
    assert kept == fold_again(batches(marks, size))


def test_what_is_kept_does_not_grow_with_the_run() -> None:
    marks: list[Mark] = [
        Graded(at_ms=100.0 * at, round=1 + at // 400, number=1 + at % 400, grade="evaded")
        for at in range(6000)
    ]
    early, late = fold_again(batches(marks[:500], 5)), fold_again(batches(marks, 5))
    assert len(late.taps) == len(early.taps) == MOST_TAPS
    assert len(MARK_STATE.dump_json(late)) < 1.2 * len(MARK_STATE.dump_json(early))
    assert suggestion(RUNG, SHEET.tempo_bpm, late) == of_the_whole(marks)


def test_a_gap_waits_for_its_batch() -> None:
    first, second, third = batches(
        in_time([Graded(at_ms=0, round=1, number=each, grade="struck") for each in (1, 2, 3)]), 1
    )
    assert fold_again([first, third]).next_batch == 1
    assert fold_again([first, second, third]).next_batch == 3
    assert fold_again([second, third]) == MarkState()
