"""From taps to exchanges, from exchanges to what is read; the tempo; what is agreed before."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import get_args

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hastatus.core.adapt.tempo_rule import suggested_tempo
from hastatus.core.drill.cautions import BARE_HANDS, cautions
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.gap_sheet import gap_sheet
from hastatus.core.read.partner_run import named, read
from hastatus.core.run.agreement import Agreed, Partner, refusals, tonight
from hastatus.core.run.allowance import allowance
from hastatus.core.run.medical_hold import Knock, MedicalHold, medical_hold
from hastatus.core.run.partner_events import (
    CarriedOver,
    Grade,
    Graded,
    Mark,
    MarkBatch,
    Paused,
    Resumed,
    RoundBegun,
    RoundOver,
    Strike,
    Tagged,
    TapUndone,
    TempoSet,
)
from hastatus.core.run.sheet_clock import round_clock
from hastatus.core.score.exchanges import Exchange, PartnerRecord, exchanges_from_events
from hastatus.core.score.landings import arrivals
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.gear import GEAR_NAMES
from hastatus.core.trade.pair import USUAL_PAIR

GRADES: tuple[Grade, ...] = get_args(Grade)
DRILL = PARTNER_STARTERS["two-beat counter"]()
SHEET: FeedSheet = feed_sheet(DRILL, seed=3, rung=4)
PAIR = ("Ada", "Bo")
NOW = datetime(2026, 11, 3, 20, 0, tzinfo=UTC)


def batch(*marks: Mark, number: int = 0) -> MarkBatch:
    return MarkBatch(number=number, marks=marks)


def graded(number: int, grade: Grade, at_ms: float = 0.0, round_: int = 1) -> Graded:
    return Graded(at_ms=at_ms, round=round_, number=number, grade=grade)


def exchanges(grades: str, **rest: object) -> list[Exchange]:
    """Exchanges by their first letters: s struck, c covered, h countered (hit back)."""
    names: dict[str, Grade] = {"s": "struck", "c": "covered", "h": "countered", "d": "deflected"}
    usual: dict[str, object] = {
        "round": 1, "path": ("pair",), "feeder": 0, "defender": 1, "tempo_bpm": 66.0, "faults": (),
    }  # fmt: skip
    return [
        Exchange(number=place, grade=names[letter], **{**usual, **rest})  # type: ignore[arg-type]
        for place, letter in enumerate(grades, start=1)
    ]


def test_one_tap_an_exchange_and_the_last_one_stands() -> None:
    told = exchanges_from_events(
        SHEET,
        [
            batch(
                graded(1, "struck"),
                graded(1, "covered"),
                graded(2, "countered"),
                TapUndone(at_ms=9),
                Tagged(at_ms=10, round=1, number=3, fault="hand not home"),
            )
        ],
    )
    assert [(exchange.number, exchange.grade, exchange.faults) for exchange in told.exchanges] == [
        (1, "covered", ()),
        (3, None, ("hand not home",)),
    ]
    feed = SHEET.rounds[0].turns[0].feeds[0]
    assert told.exchanges[0].path == tuple(each.passage for each in feed.path)
    assert (told.exchanges[0].feeder, told.exchanges[0].defender) == (0, 1)


def test_roles_follow_the_sheet() -> None:
    told = exchanges_from_events(
        SHEET, [batch(graded(1, "covered"), graded(1, "covered", round_=2))]
    )
    assert [(exchange.feeder, exchange.defender) for exchange in told.exchanges] == [(0, 1), (1, 0)]


taps = st.lists(
    st.one_of(
        st.builds(graded, st.integers(1, 9), st.sampled_from(GRADES), st.floats(0, 9e4)),
        st.builds(Tagged, at_ms=st.floats(0, 9e4), round=st.just(1), number=st.integers(1, 9),
                  fault=st.sampled_from(["static guard", "elbow flares"])),
        st.builds(TapUndone, at_ms=st.floats(0, 9e4)),
        st.builds(CarriedOver, at_ms=st.floats(0, 9e4), round=st.just(1), partner=st.just(1)),
    ),
    max_size=30,
)  # fmt: skip


@given(taps, st.integers(1, 7), st.randoms())
def test_however_marks_are_cut_and_come_they_tell_the_same(
    marks: list[Mark], size: int, order: object
) -> None:
    """A batch late or twice in line changes nothing: they are put in order by number."""
    whole = exchanges_from_events(SHEET, [batch(*marks)])
    cut = [batch(*marks[at : at + size], number=at) for at in range(0, len(marks), size)]
    order.shuffle(cut)  # type: ignore[attr-defined]
    assert exchanges_from_events(SHEET, cut) == whole


@given(taps, st.sampled_from(GRADES))
def test_undo_takes_back_just_one_tap(marks: list[Mark], grade: Grade) -> None:
    before = exchanges_from_events(SHEET, [batch(*marks)])
    after = exchanges_from_events(
        SHEET, [batch(*marks, graded(4, grade, 9e4), TapUndone(at_ms=9e4))]
    )
    assert after == before


def test_the_tempo_of_each_exchange_and_carry_over() -> None:
    told = exchanges_from_events(
        SHEET,
        [batch(graded(1, "covered", 1000), TempoSet(at_ms=2000, bpm=72, by="coach"),
               graded(2, "covered", 3000), CarriedOver(at_ms=4000, round=1, partner=0))],
    )  # fmt: skip
    assert [exchange.tempo_bpm for exchange in told.exchanges] == [SHEET.tempo_bpm, 72]
    assert len(told.chances) == 1


def test_a_counter_before_during_or_after_the_attack() -> None:
    """Strikes at known times around the beats of the score."""
    feed = SHEET.rounds[0].turns[0].feeds[0]
    start = 500 + 1000 * feed.at_s
    beat_ms = 1000 * SHEET.beat_s
    strikes = [0.0, beat_ms + 40, beat_ms + 5, 2 * beat_ms + 30, 2.5 * beat_ms - 20]
    marks = [Strike(at_ms=start + at, source="microphone") for at in strikes]
    told = exchanges_from_events(
        SHEET, [batch(RoundBegun(at_ms=500, round=1), *marks, graded(1, "countered"))]
    )
    found = arrivals(DRILL, told.exchanges[0])
    shot = next(each for each in found if each.step == 4)  # the body shot on beat two
    assert (shot.when, round(shot.beats)) == ("during", 1)  # with the second attack
    late = [0.0, beat_ms, 1.4 * beat_ms]
    early = [0.0, 0.7 * beat_ms, 1.1 * beat_ms]
    for strikes, when in ((late, "after"), (early, "before")):
        marks = [Strike(at_ms=start + at, source="pad") for at in strikes]
        begun = RoundBegun(at_ms=500, round=1)
        told = exchanges_from_events(SHEET, [batch(begun, *marks, graded(1, "covered"))])
        found = arrivals(DRILL, told.exchanges[0])
        assert [each.when for each in found if each.step == 4] == [when]
    nothing = exchanges_from_events(SHEET, [batch(graded(1, "covered"))])
    assert arrivals(DRILL, nothing.exchanges[0]) == []


def test_the_tempo_climbs_while_it_is_clean_and_falls_when_it_is_not() -> None:
    rung = PARTNER_STARTERS["compact guard"]().rungs[-1]
    clean = [True] * rung.climb.clean
    up = suggested_tempo(rung, 48, clean)
    assert up is not None
    assert (up.bpm, up.reason) == (52, "8 clean in a row")
    assert suggested_tempo(rung, 48, clean[1:]) is None
    down = suggested_tempo(rung, 56, [True, False, True, False])
    assert down is not None
    assert down.bpm == 52
    assert rung.goal_bpm is not None
    assert suggested_tempo(rung, rung.goal_bpm, clean) is None
    assert suggested_tempo(rung, 20, [False] * 5) is None


@given(st.lists(st.booleans(), max_size=40), st.floats(20, 200))
def test_the_tempo_never_passes_the_goal_and_moves_one_step(since: list[bool], bpm: float) -> None:
    rung = PARTNER_STARTERS["compact guard"]().rungs[-1]
    found = suggested_tempo(rung, bpm, since)
    if found is None:
        return
    assert abs(found.bpm - bpm) <= rung.climb.step_bpm + 1e-9
    if found.bpm > bpm:
        assert found.bpm <= (rung.goal_bpm or 300)
        assert False not in since[-rung.climb.clean :]


def test_a_run_is_read_by_way_tempo_side_and_role() -> None:
    mixed = [
        *exchanges("hhhhhhhc"),
        *exchanges("ssch", path=("pair+over",), tempo_bpm=70.0, defender=0, feeder=1,
                   faults=("skips the body shot",)),
    ]  # fmt: skip
    told = named(read(DRILL, 4, PartnerRecord(mixed)), PAIR)
    assert (told.overall.clean, told.overall.graded) == (10, 12)
    assert [(way.name, way.clean, way.graded) for way in told.ways] == [
        ("lead, rear", 8, 8), ("lead, rear, overhand", 2, 4),
    ]  # fmt: skip
    assert [tempo.name for tempo in told.tempos] == ["66", "70"]
    assert [(role.name, role.clean) for role in told.roles] == [("Bo", 8), ("Ada", 2)]
    assert [side.name for side in told.sides] == ["lead"]
    assert told.faults[0].count == 4
    assert (told.faults[0].owner, told.faults[0].partners) == ("defender", (4, 0))
    assert told.blocks == 3
    assert told.grades == {"countered": 8, "covered": 2, "struck": 2}


def test_what_comes_next_and_why() -> None:
    def next_of(grades: str, tempo: float | None = 66.0, rung: int = 2) -> tuple[str, int]:
        found = read(DRILL, rung, PartnerRecord(exchanges(grades, tempo_bpm=tempo))).next
        assert found.reason
        return found.kind, found.rung

    assert next_of("hhh") == ("hold", 2)
    assert next_of("h" * 30, DRILL.rungs[1].tempo_bpm) == ("faster", 2)
    assert next_of("h" * 30, DRILL.rungs[1].goal_bpm) == ("next", 3)
    assert next_of("s" * 30, DRILL.rungs[1].tempo_bpm) == ("back", 1)
    assert next_of("s" * 30, 70.0) == ("slower", 2)
    assert next_of("h" * 30, 84.0, rung=4) == ("hold", 4)
    assert next_of("h" * 16 + "s" * 4) == ("hold", 2)


def partner(name: str = "Ada", **rest: object) -> Partner:
    usual = {"contact": "firm", "gear": tuple(GEAR_NAMES)}
    return Partner(name, **{**usual, **rest})  # type: ignore[arg-type]


@pytest.mark.parametrize("pattern", PARTNER_STARTERS)
def test_who_has_everything_may_do_every_drill_as_it_is(pattern: str) -> None:
    drill = PARTNER_STARTERS[pattern]()
    people = [partner()] * drill.place.people
    for rung in drill.rungs:
        may = tonight(people, Agreed(contact="firm", stop_word="red"))
        assert refusals(drill, rung, people, may) == []
        found = allowance(drill, rung, may)
        assert (found.contact, found.lowered) == (found.planned, ())


def test_nobody_agrees_without_a_stop_word() -> None:
    with pytest.raises(ValueError, match="stop_word"):
        Agreed(contact="touch", stop_word=" ")


@pytest.mark.parametrize("cleared_after", [None, timedelta(hours=2)])
def test_after_a_head_knock_nobody_starts_until_cleared(cleared_after: timedelta | None) -> None:
    """Off at once, no return the same day whoever clears it, cleared by a medical professional
    before any contact (consensus statement on concussion in sport, Amsterdam 2022, from memory)."""
    touch = Agreed(contact="touch", stop_word="red")
    gentle = 0
    for drill in (make() for make in PARTNER_STARTERS.values()):
        people = [partner(f"P{place}") for place in range(drill.place.people)]
        for rung in drill.rungs:
            for passed, still in ((timedelta(hours=3), True), (timedelta(days=9), False)):
                cleared_at = NOW + cleared_after if cleared_after else None
                hold = medical_hold([Knock(NOW, cleared_at)], NOW + passed)
                people[1] = partner("Bo", hold=hold)
                may = tonight(people, touch)
                found = refusals(drill, rung, people, may)
                held = any("Bo had a head knock on 3 November" in each.what for each in found)
                comes_to = allowance(drill, rung, may)
                contact = comes_to.contact != "none" or comes_to.on_pads
                assert held == (still or (contact and cleared_at is None))
            gentle += not contact
    assert gentle > 3  # there is work without contact


def test_a_second_head_knock_holds_as_the_first_did() -> None:
    old = Knock(NOW - timedelta(days=30), NOW - timedelta(days=20))
    assert medical_hold([old], NOW) is None
    found = medical_hold([old, Knock(NOW - timedelta(days=2))], NOW)
    assert found == MedicalHold(NOW - timedelta(days=2), None, cleared=False)


def test_bare_hands_are_warned_of_wherever_a_rung_has_none_on() -> None:
    """An empty list of gear means that nothing is worn; none means the drill's own gear."""
    drill = PARTNER_STARTERS["bare hands, gloves"]()
    assert drill.gear_on(drill.rungs[0]) == ()
    assert "gloves" in drill.gear_on(drill.rungs[-1])
    assert BARE_HANDS in cautions(drill)
    gloved = drill.model_copy(update={"rungs": drill.rungs[-1:]})
    assert BARE_HANDS not in cautions(gloved)
    assert "gloves" not in drill.gear_throughout
    bare, worn = (gap_sheet(drill, rung, USUAL_PAIR) for rung in (drill.rungs[0], drill.rungs[-1]))
    # A glove adds about 2.5 cm of foam (common practice, no source).
    assert worn.reaches[0].fist_m - bare.reaches[0].fist_m == pytest.approx(0.025, abs=0.01)


def test_the_sheet_follows_pauses_and_the_tempo() -> None:
    """Paused it stands still; at twice the tempo it passes twice as fast."""
    marks: list[Mark] = [
        RoundBegun(at_ms=1000, round=1),
        Paused(at_ms=3000),
        Resumed(at_ms=9000),
        TempoSet(at_ms=11000, bpm=120, by="coach"),
        RoundOver(at_ms=30000, round=1),
        RoundBegun(at_ms=60000, round=2),
    ]
    clock = round_clock(marks, 1, 60)
    assert clock is not None
    assert [clock.at_ms(at) for at in (0, 1, 3, 4, 6)] == [1000, 2000, 10000, 11000, 12000]
    for at in (0.5, 2.0, 3.7, 9.0):
        assert clock.sheet_s(clock.at_ms(at)) == pytest.approx(at)
    assert clock.sheet_s(5000) == clock.sheet_s(8000) == 2
    second = round_clock(marks, 2, 60)
    assert second is not None
    assert second.at_ms(2) == 61000  # the tempo that was set holds
    assert round_clock(marks, 3, 60) is None


def test_a_page_that_went_in_a_round_is_a_pause_from_when_it_was_last_noted() -> None:
    """The next page writes it down late, after marks that came a little later than it says."""
    sheet = feed_sheet(PARTNER_STARTERS["two-beat counter"](), seed=7)
    first, second = sheet.rounds[0].turns[0].feeds[:2]
    noted_ms = 1000 * (first.at_s + 1)
    away_ms = 60_000.0
    before: list[Mark] = [
        RoundBegun(at_ms=0, round=1),
        Graded(at_ms=noted_ms, round=1, number=first.number, grade="covered"),
        Strike(at_ms=noted_ms + 300, source="microphone"),
    ]
    back_ms = noted_ms + away_ms
    after: list[Mark] = [
        Paused(at_ms=noted_ms),
        Resumed(at_ms=back_ms),
        Graded(at_ms=1000 * (second.at_s + 1) + away_ms, round=1, number=second.number,
               grade="struck"),
    ]  # fmt: skip
    clock = round_clock([*before, *after], 1, sheet.tempo_bpm)
    assert clock is not None
    assert clock.sheet_s(back_ms) == pytest.approx(first.at_s + 1)
    assert clock.at_ms(second.at_s) == pytest.approx(1000 * second.at_s + away_ms)
    told = exchanges_from_events(sheet, [batch(*before), batch(*after, number=1)]).exchanges
    assert [(each.number, each.grade) for each in told] == [
        (first.number, "covered"), (second.number, "struck"),
    ]  # fmt: skip
