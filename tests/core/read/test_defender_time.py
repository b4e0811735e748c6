"""What pads tell: whose strike it was, how long the defender had, who ran ahead of the beat."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from hastatus.core.adapt.needed_time_belief import need
from hastatus.core.drill.partner import Free, PartnerDrill
from hastatus.core.drill.paths import follow
from hastatus.core.loop.partner_results import partner_result
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.feed_sheet import Feed, FeedSheet, Turn
from hastatus.core.read.kept_tempo import tempos
from hastatus.core.read.partner_figures import partner_figures
from hastatus.core.run.partner_events import (
    Grade,
    Graded,
    HandLeftHome,
    Mark,
    MarkBatch,
    RoundBegun,
    RoundOver,
    Strike,
    TempoSet,
)
from hastatus.core.score.exchanges import exchanges_from_events
from hastatus.core.score.landings import arrivals, counters
from hastatus.core.score.strike_fusion import strikes_of
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.demo.pairs import NEED_SPREAD_S, NEED_TAIL_S, Pair, batches

STANCES = ("left_lead", "left_lead")


def sheet_of(pattern: str, rung: int = 1, **rounds: object) -> tuple[PartnerDrill, FeedSheet]:
    """A starter on one rung, with its rounds changed."""
    drill = PARTNER_STARTERS[pattern]()
    here = drill.rungs[rung - 1]
    here = here.model_copy(update={"rounds": here.rounds.model_copy(update=rounds)})
    drill = drill.model_copy(update={"rungs": (here,)})
    return drill, feed_sheet(drill, seed=7)


def fed(sheet: FeedSheet) -> Iterator[tuple[int, Turn, Feed]]:
    for round_ in sheet.rounds:
        for turn in round_.turns:
            for feed in turn.feeds:
                yield round_.number, turn, feed


def strikes(
    drill: PartnerDrill, sheet: FeedSheet, *, owned: bool, ahead: int | None = None
) -> list[Mark]:
    """One round on its beats, 15 ms beside them; `ahead` is 5 % faster for 8 beats from beat 60."""
    rng = np.random.default_rng(5)
    marks: list[Mark] = [RoundBegun(at_ms=0, round=1)]
    for _, turn, feed in fed(sheet):
        people = turn.roles(feed)
        for step in follow(drill, [each.passage for each in feed.path]).steps:
            if not step.strikes:
                continue
            whose = people[0] if step.person == "a" else people[1]
            beat = feed.at_s / sheet.beat_s + step.beat - 1
            if whose == ahead:
                beat -= 0.05 * min(max(beat - 60, 0), 8)
            at_s = beat * sheet.beat_s + rng.normal(0, 0.015)
            marks.append(Strike(at_ms=round(1000 * at_s, 1), source="pad" if owned else
                                "microphone", partner=whose if owned else None))  # fmt: skip
    return marks


def test_a_score_that_goes_round_is_marked_passage_by_passage() -> None:
    """Turn about: each turn is an exchange of its own, and the roles change over with it."""
    drill, sheet = sheet_of("turn about")
    (turn,) = sheet.rounds[0].turns
    assert len(turn.feeds) > 10
    assert not turn.feeds[0].goes_on
    swapped = False
    for before, feed in zip(turn.feeds, turn.feeds[1:], strict=False):
        assert feed.goes_on
        assert feed.at_s == pytest.approx(before.ends_s(sheet.beat_s), abs=2e-3)
        assert [each.passage for each in feed.path] == [feed.path[0].passage]
        assert feed.path[0].gives is not None
        swapped = swapped != drill.passage(before.path[0].passage).swap
        assert feed.swapped == swapped
    grades = [Graded(at_ms=1.0, round=1, number=feed.number, grade="covered")
              for feed in turn.feeds]  # fmt: skip
    result = partner_result(drill, sheet, [MarkBatch(number=0, marks=tuple(grades))])
    assert len(result.exchanges) == len(turn.feeds)
    defended = [exchange.defender for exchange in result.exchanges]
    assert defended == [turn.roles(feed)[1] for feed in turn.feeds]
    assert abs(defended.count(0) - defended.count(1)) <= 2
    figures = partner_figures(drill, result.exchanges, STANCES)
    assert sum(each.graded for each in figures.defended) == len(turn.feeds)


def test_a_free_exchange_is_in_the_turn_that_was_on() -> None:
    """Roles switch by time while the feeder chooses: the tap's time says who defended."""
    drill = PARTNER_STARTERS["compact guard"]()
    rung = drill.rungs[0]
    rung = rung.model_copy(
        update={
            "order": Free(),
            "turns": rung.turns.model_copy(update={"switch": "time", "every_s": 20.0}),
        }
    )
    sheet = feed_sheet(drill.model_copy(update={"rungs": (rung,)}), seed=1)
    assert sheet.free
    marks: list[Mark] = [RoundBegun(at_ms=1000, round=1)]
    marks += [Graded(at_ms=1000 + 1000 * at_s, round=1, number=number, grade="covered")
              for number, at_s in enumerate((5, 15, 25, 45), start=1)]  # fmt: skip
    told = exchanges_from_events(sheet, [MarkBatch(number=0, marks=tuple(marks))])
    assert [exchange.feeder for exchange in told.exchanges] == [0, 0, 1, 0]


def held_run(
    pattern: str, *, simulated: bool = False, heard: bool = True, had_s: float = 0.6
) -> list[Mark]:
    """Every attack sets off `had_s` before its beat; every third gets through."""
    drill, sheet = sheet_of(pattern)
    rng = np.random.default_rng(2)
    source = "simulated" if simulated else "pad"
    marks: list[Mark] = []
    for number in range(1, len(sheet.rounds) + 1):
        marks.append(RoundBegun(at_ms=1e6 * number, round=number))
    for round_, turn, feed in fed(sheet):
        feeder, _ = turn.roles(feed)
        step = next(each for each in follow(drill, [feed.path[0].passage]).steps if each.strikes)
        at_ms = 1e6 * round_ + 1000 * (feed.at_s + (step.beat - 1) * sheet.beat_s)
        at_ms += float(rng.normal(0, 10))
        marks.append(HandLeftHome(at_ms=at_ms - 1000 * had_s, source=source, partner=feeder))
        if heard:
            marks.append(Strike(at_ms=at_ms, source=source, partner=feeder))
        grade: Grade = "struck" if feed.number % 3 == 0 else "covered"
        marks.append(Graded(at_ms=at_ms + 500, round=round_, number=feed.number, grade=grade))
    return marks


def test_the_time_a_defender_had_is_from_the_hand_leaving_home_to_its_arrival() -> None:
    drill, sheet = sheet_of("compact guard")
    marks = tuple(held_run("compact guard"))[:500]
    result = partner_result(drill, sheet, [MarkBatch(number=0, marks=marks)])
    held = partner_figures(drill, result.exchanges, STANCES).held
    assert len(held) >= 15
    assert {each.defender for each in held} <= {0, 1}
    assert all(each.held.start_to_arrival_s == pytest.approx(0.6, abs=1e-3) for each in held)
    clean = [each.held.clean for each in held]
    assert 0.5 < np.mean(clean) < 0.8
    for marks in (held_run("compact guard", simulated=True), strikes(drill, sheet, owned=True)):
        result = partner_result(drill, sheet, [MarkBatch(number=0, marks=tuple(marks)[:500])])
        assert partner_figures(drill, result.exchanges, STANCES).held == ()  # nobody's own times


def test_an_attack_that_lands_on_nothing_is_timed_to_its_beat() -> None:
    """Evaded: the arrival is not heard, but on a kept tempo the beat stands for it."""
    drill, sheet = sheet_of("compact guard")
    marks = held_run("compact guard", heard=False)[:500]
    result = partner_result(drill, sheet, [MarkBatch(number=0, marks=tuple(marks))])
    held = partner_figures(drill, result.exchanges, STANCES)
    assert held.held
    assert np.median([each.held.start_to_arrival_s for each in held.held]) == pytest.approx(
        0.6, abs=0.02
    )


@pytest.mark.parametrize("owned", [True, False])
@pytest.mark.parametrize("ahead", [None, 0, 1])
def test_who_ran_ahead_of_a_kept_pulse_is_told(owned: bool, ahead: int | None) -> None:
    """By pads, or by the sheet where only the room was listened to."""
    drill, sheet = sheet_of("turn about", count=1, ends="time", duration_s=240.0)
    marks = strikes(drill, sheet, owned=owned, ahead=ahead)
    (told,) = tempos(drill, sheet, marks)
    assert told.pulse
    assert [each.partner for each in told.alone] == ([] if ahead is None else [ahead])
    assert told.rhythm.tempo_bpm == pytest.approx(sheet.tempo_bpm, rel=0.01)


@settings(max_examples=60)
@given(
    delays=st.lists(st.floats(-50, 50), min_size=1, max_size=30),
    lost=st.sets(st.integers(0, 29)),
    unheard=st.sets(st.integers(0, 29)),
)
def test_a_strike_both_heard_and_felt_is_one_strike(
    delays: list[float], lost: set[int], unheard: set[int]
) -> None:
    """Whatever either misses, each strike is there once, and the pad's word goes before."""
    marks: list[Mark] = []
    for number, delay_ms in enumerate(delays):
        at_ms = 1000.0 + 214 * number  # halves of a beat at 140 BPM
        if number not in lost:
            marks.append(Strike(at_ms=at_ms, source="pad", partner=number % 2))
        if number not in unheard:
            marks.append(Strike(at_ms=at_ms + delay_ms, source="microphone", partner=None))
    once = [number for number in range(len(delays)) if number not in lost & unheard]
    told = strikes_of(marks[::-1])
    assert [round((each.at_ms - 1000) / 214) for each in told] == once
    assert [each.partner for each in told] == [
        None if number in lost else number % 2 for number in once
    ]


def test_two_strikes_at_once_are_two() -> None:
    """Of two sounds at one pad's hit one is somebody else's; two pads are two people."""
    heard = [Strike(at_ms=at, source="microphone", partner=None) for at in (990.0, 1005.0)]
    felt = [Strike(at_ms=1000, source="pad", partner=who) for who in (0, 1)]
    assert [each.partner for each in strikes_of([felt[0], *heard])] == [0, None]
    assert strikes_of([*felt, *heard]) == felt


def test_microphone_and_pads_together_keep_the_tempo() -> None:
    """Both on: the same rhythm, strike for strike, as with pads alone."""
    drill, sheet = sheet_of("turn about")
    felt = strikes(drill, sheet, owned=True)
    heard = [
        mark.model_copy(update={"at_ms": mark.at_ms + 18, "source": "microphone", "partner": None})
        for mark in felt
        if isinstance(mark, Strike)
    ]
    assert tempos(drill, sheet, [*felt, *heard]) == tempos(drill, sheet, felt)


def test_without_a_pulse_nobody_is_named() -> None:
    drill, sheet = sheet_of("turn about", count=1, ends="time", duration_s=240.0)
    silent = drill.rungs[0].model_copy(update={"metronome": False})
    drill = drill.model_copy(update={"rungs": (silent,)})
    (told,) = tempos(drill, sheet, strikes(drill, sheet, owned=True, ahead=1))
    assert (told.pulse, told.alone) == (False, ())


def test_each_tempo_of_a_round_has_a_rhythm_of_its_own() -> None:
    """Sped up by a quarter after 40 s of the sheet: two stretches, each with what was asked."""
    drill, sheet = sheet_of("turn about", count=1, ends="time", duration_s=120.0)
    assert sheet.tempo_bpm is not None
    marks = []
    for mark in strikes(drill, sheet, owned=False):
        at_ms = mark.at_ms if mark.at_ms < 40_000 else 40_000 + (mark.at_ms - 40_000) / 1.25
        marks.append(mark.model_copy(update={"at_ms": at_ms}))
    faster = TempoSet(at_ms=40_000, bpm=1.25 * sheet.tempo_bpm, by="coach")
    over = RoundOver(at_ms=105_000, round=1)
    first, second = tempos(drill, sheet, [*marks, faster, over])
    assert (first.asked_bpm, second.asked_bpm) == (
        pytest.approx(sheet.tempo_bpm, abs=0.01), pytest.approx(faster.bpm, abs=0.01),
    )  # fmt: skip
    for each in (first, second):
        assert each.rhythm.tempo_bpm == pytest.approx(each.asked_bpm, rel=0.01)
    assert second.from_s == pytest.approx(40, abs=0.1)


def test_chains_are_timed_in_beats_and_a_strike_is_given_to_whose_it_is() -> None:
    """A pad on the feeder is struck by the defender, however near it is to the feeder's beat."""
    drill, sheet = sheet_of("two-beat counter", rung=4, count=1)
    told = {}
    for owned in (True, False):
        marks = [*strikes(drill, sheet, owned=owned)]
        marks += [Graded(at_ms=1e5, round=1, number=feed.number, grade="countered")
                  for _, _, feed in fed(sheet)]  # fmt: skip
        told[owned] = exchanges_from_events(
            sheet, [MarkBatch(number=0, marks=tuple(marks))]
        ).exchanges
    summed = {owned: counters(arrivals(drill, each) for each in told[owned]) for owned in told}
    every, heard = summed[True], summed[False]
    assert heard.beats == pytest.approx(every.beats, abs=0.02)
    assert (heard.during, heard.after) == (every.during, every.after)
    assert every.beats is not None
    assert every.chain_beats is not None
    assert 1 <= every.beats <= every.chain_beats <= 5
    assert every.before == 0
    assert counters([[], []]).beats is None


@pytest.mark.parametrize("need_s", [0.42, 0.50])
def test_runs_of_a_pair_give_back_the_time_they_need(need_s: float) -> None:
    """From simulated partners to the feed pace: 84 % of their own times, within 60 ms.

    Some 300 attacks of each defender; seed fixed, the bound is some three standard errors.
    """
    rng = np.random.default_rng(17)
    drill = PARTNER_STARTERS["compact guard"]()
    held = []
    for number in range(8):
        sheet = feed_sheet(drill, seed=number, rung=2)
        told = exchanges_from_events(sheet, batches(drill, sheet, Pair(0.8, need_s), rng))
        held += partner_figures(drill, told.exchanges, STANCES).held
    true = rng.normal(need_s, NEED_SPREAD_S, 20_000) + rng.exponential(NEED_TAIL_S, 20_000)
    for defender in (0, 1):
        own = [each.held for each in held if each.defender == defender]
        assert len(own) > 80
        found = need(own, 0.84)
        assert found is not None
        assert found.time_s == pytest.approx(float(np.quantile(true, 0.84)), abs=0.06)
