"""Turns at each defender's own pace, and marks by exception."""

from __future__ import annotations

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from hastatus.core.adapt.tempo_rule import suggested_tempo
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.loop.partner_fold import fed_of, fold_again, lately, suggestion
from hastatus.core.loop.partner_results import partner_result
from hastatus.core.plan.feed_plan import feed_sheet, room_of
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.read.partner_figures import partner_figures
from hastatus.core.run.partner_events import (
    Grade,
    Graded,
    Mark,
    MarkBatch,
    Paused,
    Resumed,
    RoundBegun,
    RoundOver,
    TempoSet,
    TurnBegun,
    WatchBegun,
    WatchOver,
)
from hastatus.core.run.sheet_clock import round_clock
from hastatus.core.score.exchanges import exchanges_from_events
from hastatus.core.score.watch import Watch, watches
from hastatus.core.starter.partner import PARTNER_STARTERS
from tests.harness.mat import Done, SimulatedMat

DRILL: PartnerDrill = PARTNER_STARTERS["compact guard"]()
RUNG = DRILL.rungs[2]
PACES = st.floats(30, 66)


def sheet(seed: int, room: float | None = None) -> FeedSheet:
    return feed_sheet(DRILL, seed=seed, rung=3, room=room or room_of(RUNG, ()))


def in_batches(marks: list[Mark], size: int = 40) -> list[MarkBatch]:
    cuts = range(0, len(marks), size)
    return [
        MarkBatch(number=number, marks=tuple(marks[at : at + size]), last=at == cuts[-1])
        for number, at in enumerate(cuts)
    ]


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_spare_exchanges_change_nothing_of_what_is_planned(pattern: str) -> None:
    """The sheet that is printed and the one that is run have the same order."""
    drill = PARTNER_STARTERS[pattern]()
    for rung in range(1, len(drill.rungs) + 1):
        printed = feed_sheet(drill, seed=5, rung=rung)
        run = feed_sheet(drill, seed=5, rung=rung, room=1.6)
        for one, other in zip(printed.rounds, run.rounds, strict=True):
            assert one.duration_s == other.duration_s
            turns = list(zip(one.turns, other.turns, strict=False))
            # Where exchanges end the turns there are more of them, and time cuts off the last.
            by_count = drill.rungs[rung - 1].turns.switch == "count"
            assert len(other.turns) == len(one.turns) or by_count
            for planned, turn in turns[:-1] if by_count else turns:
                later_s = turn.from_s - planned.from_s
                assert turn.lasts_s == planned.lasts_s
                assert [feed.path for feed in turn.feeds] == [feed.path for feed in planned.feeds]
                assert [feed.at_s for feed in turn.feeds] == pytest.approx(
                    [feed.at_s + later_s for feed in planned.feeds], abs=2e-3
                )
            feeds = [feed for turn in other.turns for feed in turn.every_feed]
            assert [feed.number for feed in feeds] == list(range(1, len(feeds) + 1))
            ends = [feed.ends_s(run.beat_s) for feed in feeds]
            assert all(end <= feed.at_s + 2e-3 for end, feed in zip(ends, feeds[1:], strict=False))


@settings(max_examples=40)
@given(st.integers(0, 999), PACES, PACES)
def test_each_defends_at_their_own_pace_to_the_end_of_their_turn(
    seed: int, one: float, other: float
) -> None:
    """Without spare exchanges a quick turn runs dry, and turns get shorter as the pace goes up."""
    mat = SimulatedMat(sheet(seed), (one, other))
    told = exchanges_from_events(mat.sheet, in_batches(mat.marks))
    assert told.fed == len(mat.done)
    longest_beats = max(passage.beats for passage in DRILL.passages)
    at_ms = {(mark.round, mark.sheet_s): mark.at_ms for mark in mat.marks
             if isinstance(mark, TurnBegun)}  # fmt: skip
    for round_ in mat.sheet.rounds:
        for turn in round_.turns:
            begun_ms = at_ms[round_.number, turn.from_s]
            assert turn.lasts_s is not None
            ends_ms = begun_ms + 1000 * turn.lasts_s
            last_ms = max(
                done.to_ms
                for done in mat.done
                if done.round == round_.number and begun_ms <= done.from_ms < ends_ms
            )
            # No more than the exchange that the switch would have cut.
            assert ends_ms - last_ms <= 60_000 / (one, other)[turn.defender] * longest_beats + 5


def test_a_quick_turn_runs_dry_without_spare_exchanges() -> None:
    dry = SimulatedMat(sheet(3, room=1.0), (RUNG.tempo_bpm or 0.0, 66.0)).attacks_a_minute()
    full = SimulatedMat(sheet(3), (RUNG.tempo_bpm or 0.0, 66.0)).attacks_a_minute()
    assert dry[1] < 0.75 * full[1]
    assert dry[0] == pytest.approx(full[0], rel=0.05)


@settings(max_examples=40)
@given(
    st.integers(0, 999), st.tuples(PACES, PACES), st.floats(0, 40), st.floats(3, 45),
    st.integers(2, 9),
)  # fmt: skip
@example(seed=0, paces=(60.1015625, 30.0), from_s=1.076171875, for_s=7.409326799933237, every=2)
def test_what_is_watched_and_not_tapped_is_clean(
    seed: int, paces: tuple[float, float], from_s: float, for_s: float, every: int
) -> None:
    def struck(done: Done) -> Grade | None:
        return "struck" if done.feed.number % every == 0 else None

    to_s = min(from_s + for_s, RUNG.rounds.duration_s)
    mat = SimulatedMat(sheet(seed), paces, watch_s=(from_s, to_s), grade=struck)
    told = exchanges_from_events(mat.sheet, in_batches(mat.marks))
    begun = {mark.round: mark.at_ms for mark in mat.marks if isinstance(mark, RoundBegun)}

    def seen(done: Done) -> bool:
        low, high = (begun[done.round] + 1000 * s for s in (from_s, to_s))
        tapped_ms = (done.from_ms + done.to_ms) / 2 if struck(done) else None
        whole = low <= done.from_ms and done.to_ms <= high
        return whole or (tapped_ms is not None and low <= tapped_ms <= high)

    def is_close(done: Done) -> bool:
        """It begins, ends or is tapped with an end of the watch, and may be told either way."""
        low, high = (begun[done.round] + 1000 * s for s in (from_s, to_s))
        tapped_ms = (done.from_ms + done.to_ms) / 2
        gaps = (done.from_ms - low, done.to_ms - high, tapped_ms - low, tapped_ms - high)
        return any(abs(gap) < 5 for gap in gaps)

    close = sum(map(is_close, mat.done))
    watched = [exchange for exchange in told.exchanges if exchange.watched]
    assert abs(len(watched) - sum(map(seen, mat.done))) <= close
    assert all(exchange.clean == (exchange.grade is None) for exchange in watched)
    others = [exchange for exchange in told.exchanges if not exchange.watched]
    assert all(exchange.grade == "struck" for exchange in others)
    who = {(done.round, done.feed.number): done.defender for done in mat.done}
    assert all(who[each.round, each.number] == each.defender for each in told.exchanges)


@settings(max_examples=60)
@given(
    st.integers(0, 99), st.tuples(PACES, PACES), st.floats(0, 30), st.floats(5, 60),
    st.integers(3, 12), st.integers(1, 30),
)  # fmt: skip
def test_the_climb_follows_what_was_watched_of_who_defends(
    seed: int, paces: tuple[float, float], from_s: float, for_s: float, every: int, size: int
) -> None:
    """What is kept batch by batch suggests what the whole run does."""
    to_s = min(from_s + for_s, RUNG.rounds.duration_s - 1)
    mat = SimulatedMat(
        sheet(seed),
        paces,
        watch_s=(from_s, to_s),
        grade=lambda done: "struck" if done.feed.number % every == 0 else None,
    )
    state = fold_again(in_batches(mat.marks, size), fed_of(mat.sheet), mat.sheet.tempo_bpm)
    assert state.defender is not None
    told = exchanges_from_events(mat.sheet, in_batches(mat.marks))
    own = [each for each in told.exchanges if each.defender == state.defender]
    kept = lately(state, mat.sheet.tempo_bpm or 0.0)
    whole = {(each.round, each.number): bool(each.clean) for each in own}
    # At the very edge of a stretch, to a thousandth of a second, one may be told either way.
    assert sum(exchange not in whole for exchange, *_ in kept) <= len(mat.sheet.rounds)
    assert all(whole.get(exchange, clean) == clean for exchange, clean, _ in kept)
    assert {bpm for _, _, bpm in kept} <= {paces[state.defender]}
    last = [(each.round, each.number) for each in own][-2 * RUNG.climb.clean :]
    assert len(set(last) - {exchange for exchange, _, _ in kept}) <= len(mat.sheet.rounds)
    climb = suggestion(RUNG, mat.sheet.tempo_bpm, state)
    bpm = paces[state.defender]
    assert climb == suggested_tempo(RUNG, bpm, [clean for _, clean, _ in kept])


def test_the_time_that_was_watched_ends_with_the_round_at_the_latest() -> None:
    begun, over = RoundBegun(at_ms=0, round=1), RoundOver(at_ms=60_000, round=1)
    watch = WatchBegun(at_ms=50_000, round=1)
    left_on = WatchOver(at_ms=95_000, round=1)
    assert watches([begun, watch, over, left_on]) == [Watch(1, 50_000, 60_000, 35_000)]
    assert watches([begun, watch, over]) == [Watch(1, 50_000, 60_000)]
    assert watches([begun, watch, Paused(at_ms=55_000)]) == [Watch(1, 50_000, 55_000)]
    # Begun twice it goes on; nothing is watched outside a round, or in another one than it says.
    again = WatchBegun(at_ms=52_000, round=1)
    assert watches([begun, watch, again, over]) == [Watch(1, 50_000, 60_000)]
    assert watches([watch, begun, over, left_on]) == []
    assert watches([begun, WatchBegun(at_ms=1, round=2), over]) == []
    assert watches([begun, WatchOver(at_ms=9, round=1), over]) == []


def test_by_exception_and_by_tap_are_told_apart() -> None:
    later: dict[int, int] = {}

    def tapped(done: Done) -> Grade | None:
        """The first of a round is struck; of those after the watch one is struck, one covered."""
        if done.feed.number == 1:
            return "struck"
        at_s = done.feed.at_s - mat_sheet.rounds[0].turns[1].from_s
        if at_s < 0:
            return None
        later[done.round] = later.get(done.round, 0) + 1
        return {1: "struck", 2: "covered"}.get(later[done.round])  # type: ignore[return-value]

    mat_sheet = sheet(4)
    mat = SimulatedMat(mat_sheet, (44.0, 44.0), watch_s=(0, 20), grade=tapped)
    batches = in_batches(mat.marks)
    result = partner_result(DRILL, mat.sheet, batches)
    reading, watched = result.reading, result.reading.watched
    assert watched is not None
    rounds = len(mat.sheet.rounds)
    assert watched.fed == len(mat.done)
    assert watched.not_clean == rounds
    shares = {share.name: (share.clean, share.graded) for share in reading.marked}
    assert shares["by exception"] == (watched.exchanges - rounds, watched.exchanges)
    assert shares["by tap"] == (rounds, 2 * rounds)
    figures = partner_figures(DRILL, result.exchanges, ("left_lead",) * 2, result.paces)
    assert figures.paces == (44.0, 44.0)
    assert sum(each.watched for each in figures.defended) == watched.exchanges


def test_a_pause_in_a_watch_and_a_change_of_tempo_lose_nothing() -> None:
    fed = sheet(2)
    feeds = fed.rounds[0].turns[0].feeds
    tempo = fed.tempo_bpm or 0.0
    marks: list[Mark] = [
        RoundBegun(at_ms=0, round=1),
        WatchBegun(at_ms=0, round=1),
        Paused(at_ms=1000 * feeds[1].at_s + 100),
        Resumed(at_ms=1000 * feeds[1].at_s + 60_100),
        TempoSet(at_ms=1000 * feeds[3].at_s + 60_000, bpm=2 * tempo, by="coach"),
        Graded(at_ms=1000 * feeds[3].at_s + 60_010, round=1, number=feeds[3].number,
               grade="struck"),
        WatchOver(at_ms=1000 * feeds[3].at_s + 60_000 + 500 * (feeds[7].at_s - feeds[3].at_s),
                  round=1),
    ]  # fmt: skip
    told = exchanges_from_events(fed, in_batches(marks))
    assert [each.number for each in told.exchanges] == [feed.number for feed in feeds[:7]]
    assert [each.clean for each in told.exchanges] == [True] * 3 + [False] + [True] * 3
    clock = round_clock(marks, 1, fed.tempo_bpm)
    assert clock is not None
    span = clock.reached(feeds[1].at_s, feeds[2].at_s)
    assert span is not None
    assert span[1] - span[0] == pytest.approx(60_000 + 1000 * (feeds[2].at_s - feeds[1].at_s))
    assert clock.reached(feeds[0].at_s, 1e4) is not None  # nothing says that it was over
