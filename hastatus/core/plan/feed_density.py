"""How dense a feed sheet is: how often each defender is attacked, and for how much of the time.

A stream has 25 to 60 attacks a minute for each defender; single exchanges with pauses, for chains,
have fewer (common practice, no source).
"""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.plan.feed_sheet import FeedSheet, Turn

THINNEST, DENSEST = 25.0, 60.0
"""Attacks a minute for each defender in a stream."""


@dataclass(frozen=True, slots=True)
class FeedDensity:
    """attacks_a_minute: for each defender, over the turns in which they defend; where the drill
    changes the roles over in the middle of a turn, or they attack in turn, both defend in it.
    share: of the time of all turns that is filled with exchanges, 0 to 1.
    attacks_a_beat: the same for each beat of a stream, which its tempo follows from; None: there
    are pauses, or the feeder's own time."""

    attacks_a_minute: float
    share: float
    attacks_a_beat: float | None = None


def feed_density(drill: PartnerDrill, sheet: FeedSheet) -> FeedDensity | None:
    """The density of a sheet; None where nothing attacks, or the feeder chooses."""
    turns = [turn for round_ in sheet.rounds for turn in round_.turns]
    whole_s = sum(_length_s(turn) for turn in turns)
    if drill.rungs[sheet.rung - 1].alternates:
        defending_s = whole_s * sheet.people
    else:
        defending_s = sum(_length_s(turn) * len(_defenders(turn)) for turn in turns)
    feeds = [feed for turn in turns for feed in turn.feeds]
    comes = Counter(part.passage for feed in feeds for part in feed.path)
    attacks = sum(count * _attacks(drill, key) for key, count in comes.items())
    if not attacks or not defending_s:
        return None
    a_minute = 60 * attacks / defending_s
    rung = drill.rungs[sheet.rung - 1]
    on_beat = sheet.tempo_bpm if rung.pause.kind == "stream" else None
    filled_s = sum(feed.beats for feed in feeds) * sheet.beat_s
    return FeedDensity(
        attacks_a_minute=round(a_minute, 1),
        share=round(min(1.0, filled_s / whole_s), 3),
        attacks_a_beat=round(a_minute / on_beat, 4) if on_beat else None,
    )


def _length_s(turn: Turn) -> float:
    return turn.to_s - turn.from_s if turn.lasts_s is None else turn.lasts_s


def _defenders(turn: Turn) -> set[int]:
    """Who defends in a turn; both where the drill changes the roles over in it."""
    return {turn.roles(feed)[1] for feed in turn.feeds}


def _attacks(drill: PartnerDrill, key: str) -> int:
    """How many attacks of the feeder's a passage has."""
    techniques = [
        drill.technique(step.technique)
        for step in drill.passage(key).steps
        if step.lane == "feeder"
    ]
    return sum(technique is not None and technique.use == "attack" for technique in techniques)
