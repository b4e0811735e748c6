"""A feed sheet as a track for the feeder's ear."""

from __future__ import annotations

from itertools import pairwise

import pytest

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.plan.cue_track import Track
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.feed_track import AHEAD_S, LEAST_AHEAD_S, calls_of, make_feed_track
from hastatus.core.starter.partner import PARTNER_STARTERS

CALL_S = 0.6
TIMED = [
    (name, rung)
    for name, make in PARTNER_STARTERS.items()
    for rung in range(1, len(make().rungs) + 1)
]


def track_of(name: str, rung: int, partner: int | None = None) -> tuple[FeedSheet, Track]:
    drill = PARTNER_STARTERS[name]()
    sheet = feed_sheet(drill, seed=5, rung=rung)
    return sheet, made(drill, sheet, partner)


def made(drill: PartnerDrill, sheet: FeedSheet, partner: int | None = None) -> Track:
    return make_feed_track(drill, sheet, dict.fromkeys(calls_of(drill, sheet), CALL_S), partner)


@pytest.mark.parametrize(("name", "rung"), TIMED)
def test_every_exchange_is_on_it_and_what_is_said_of_it_comes_in_time(name: str, rung: int) -> None:
    """A call is over before its exchange, is no riddle of long ago, and speaks over no other."""
    sheet, track = track_of(name, rung)
    starts = [
        track.starts_s[round_.number - 1] + feed.at_s
        for round_ in sheet.rounds
        for turn in round_.turns
        for feed in turn.feeds
    ]
    assert [cue.at_s for cue in track.cues] == sorted(starts)
    cues = {(cue.round, cue.slot): cue.at_s for cue in track.cues}
    said = [sounding for sounding in track.soundings if sounding.kind == "ahead"]
    before_s = 0.0
    for call in said:
        comes_s = cues[call.round, call.slot]
        assert comes_s - AHEAD_S - 1e-9 <= call.at_s
        assert call.ends_s <= comes_s - LEAST_AHEAD_S + 1e-9
        assert call.at_s >= before_s - 1e-9
        before_s = call.ends_s
    apart = [later - sooner for sooner, later in pairwise(starts)]
    if apart and min(apart) >= CALL_S + LEAST_AHEAD_S:
        assert len(said) == len(starts)


def test_the_beat_is_the_sheets_and_higher_where_an_exchange_begins() -> None:
    sheet, track = track_of("compact guard", 2)
    assert sheet.tempo_bpm
    beats = [one for one in track.soundings if one.kind == "beat" and one.round == 1]
    apart = {round(b.at_s - a.at_s, 6) for a, b in pairwise(beats)}
    assert apart == {round(60 / sheet.tempo_bpm, 6)}
    higher = [one.at_s for one in beats if one.text == "first"]
    begun = [cue.at_s for cue in track.cues if cue.round == 1]
    assert begun == pytest.approx(higher, abs=0.001)


@pytest.mark.parametrize("name", PARTNER_STARTERS)
def test_each_ear_hears_what_it_feeds_and_together_they_hear_all(name: str) -> None:
    drill = PARTNER_STARTERS[name]()
    sheet = feed_sheet(drill, seed=5, rung=1)
    ears = [made(drill, sheet, partner) for partner in range(sheet.people)]
    for partner, track in enumerate(ears):
        fed = {
            feed.number: turn.roles(feed)[0]
            for round_ in sheet.rounds[:1]
            for turn in round_.turns
            for feed in turn.feeds
        }
        assert all(fed[cue.slot or 0] == partner for cue in track.cues if cue.round == 1)
    assert sum(len(track.cues) for track in ears) == len(made(drill, sheet).cues)


def test_it_lasts_as_long_as_is_asked() -> None:
    drill = PARTNER_STARTERS["compact guard"]()
    for minutes in (0.5, 7, 45):
        longer = drill.lasting(1, 60 * minutes)
        track = made(longer, feed_sheet(longer, seed=1, rung=1))
        assert track.total_s == pytest.approx(60 * minutes + 6, rel=0.15)
