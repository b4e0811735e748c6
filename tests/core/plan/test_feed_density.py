"""How dense feeds are. The bounds of a stream are common practice, no source."""

from __future__ import annotations

import pytest

from hastatus.core.drill.partner import Free, Stream
from hastatus.core.drill.settings import Fixed
from hastatus.core.plan.feed_density import DENSEST, THINNEST, FeedDensity, feed_density
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.starter.partner import STREAMS as STREAM_PATTERNS

STREAMS = [
    (pattern, number)
    for pattern in STREAM_PATTERNS
    for number, rung in enumerate(PARTNER_STARTERS[pattern]().rungs, start=1)
    if isinstance(rung.pause, Stream) or rung.turns.switch == "score"
]


def test_a_stream_is_one_attack_after_the_other_and_its_tempo_is_its_pace() -> None:
    """One attack a beat at 50 a minute; of each turn of 30 s, 3 s are for changing over."""
    drill = PARTNER_STARTERS["compact guard"]()
    sheet = feed_sheet(drill, seed=1, rung=1, tempo_bpm=50)
    for turn in sheet.rounds[0].turns:
        for feed, following in zip(turn.feeds, turn.feeds[1:], strict=False):
            assert following.at_s == pytest.approx(feed.ends_s(sheet.beat_s), abs=2e-3)
    found = feed_density(drill, sheet)
    assert found is not None
    assert 50 * 0.85 <= found.attacks_a_minute <= 50
    slower = feed_density(drill, feed_sheet(drill, seed=1, rung=1, tempo_bpm=40))
    assert slower is not None
    assert slower.attacks_a_minute < found.attacks_a_minute


@pytest.mark.parametrize(("pattern", "rung"), STREAMS)
def test_streams_of_the_starters_are_as_dense_as_they_are_done(pattern: str, rung: int) -> None:
    drill = PARTNER_STARTERS[pattern]()
    for seed in range(5):
        found = feed_density(drill, feed_sheet(drill, seed=seed, rung=rung))
        assert found is not None
        assert THINNEST <= found.attacks_a_minute <= DENSEST


def test_the_patterns_that_are_streams_are_so_on_every_rung() -> None:
    """But for the last at the wall, which is a chain that leaves it."""
    rungs = sum(len(PARTNER_STARTERS[pattern]().rungs) for pattern in STREAM_PATTERNS)
    assert len(STREAMS) == rungs - 1


def test_who_is_attacked_only_in_their_own_turns_is_counted_over_these() -> None:
    """Each defends every other round, and meets as many a minute in it as there are in it."""
    drill = PARTNER_STARTERS["third-beat answer"]()
    rung = drill.rungs[0].model_copy(update={"pause": Fixed(wait_s=10.0)})
    sheet = feed_sheet(drill.model_copy(update={"rungs": (rung,)}), seed=1)
    found = feed_density(drill, sheet)
    attacks = sum(3 for round_ in sheet.rounds for turn in round_.turns for _ in turn.feeds)
    minutes = sum(round_.duration_s for round_ in sheet.rounds) / 60
    assert found == FeedDensity(round(attacks / minutes, 1), found.share if found else 0)
    assert found is not None
    assert found.share < 0.5


def test_where_nothing_attacks_or_the_feeder_chooses_there_is_none() -> None:
    pads = PARTNER_STARTERS["kick pairs with footwork"]()
    assert feed_density(pads, feed_sheet(pads, seed=1)) is None
    drill = PARTNER_STARTERS["compact guard"]()
    free = drill.rungs[0].model_copy(update={"order": Free()})
    chosen = drill.model_copy(update={"rungs": (free,)})
    sheet: FeedSheet = feed_sheet(chosen, seed=1)
    assert feed_density(chosen, sheet) is None
