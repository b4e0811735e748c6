"""A feed sheet on one time line, for the feeder's ear: a phone plays it where no app is at hand.

The beat and the calls come as at the mat; what comes is said ahead of each exchange, as soon as the
last call is over. Where exchanges follow so closely that a call would come too late for its own, it
is left out: the exchange still has its line in the captions and the list.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.plan import sounds
from hastatus.core.plan.announcements import Kind
from hastatus.core.plan.cue_track import BEFORE_FIRST_S, Sounding, Track
from hastatus.core.plan.feed_sheet import Feed, FeedRound, FeedSheet, Turn
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound.tones import ClickName

AHEAD_S = 2.5
"""How long before an exchange its call begins, at the most."""
LEAST_AHEAD_S = 0.4
"""How long before an exchange its call is over, at the least: time to act on it."""
MOVE_EVERY_S = 20.0
"""How often "move around" is called."""
NUMBERS = ("one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten")
_TEN_S = 10.0


@dataclass(frozen=True, slots=True)
class _Told:
    """An exchange with its turn, and when it starts on the track, in seconds."""

    feed: Feed
    turn: Turn
    at_s: float


def make_feed_track(
    drill: PartnerDrill, sheet: FeedSheet, call_s: dict[str, float], partner: int | None = None
) -> Track:
    """The track of `sheet`, which was made from `drill`.

    call_s: how long each exchange's call sounds, in seconds, by its words. partner: whose ear it is
    for, who hears what comes only where feeding; None: whoever feeds hears it.
    """
    rung = drill.rungs[sheet.rung - 1]
    soundings: list[Sounding] = []
    starts: list[float] = []
    start = BEFORE_FIRST_S
    for round_ in sheet.rounds:
        starts.append(start)
        exchanges = _told(round_, start, partner)
        soundings += _beats(sheet, rung, round_, start)
        soundings += _calls(rung, round_, start)
        soundings += _cues(drill, sheet, round_.number, exchanges)
        soundings += _ahead(drill, round_.number, exchanges, call_s)
        start += round_.duration_s + sheet.rest_s
    soundings.sort(key=lambda sounding: sounding.at_s)
    return Track(drill.title, tuple(soundings), tuple(starts), start - sheet.rest_s + 1.0)


def calls_of(drill: PartnerDrill, sheet: FeedSheet) -> list[str]:
    """What is said for the exchanges of a sheet, each once: what to pass to `make_feed_track`."""
    feeds = (feed for round_ in sheet.rounds for turn in round_.turns for feed in turn.feeds)
    return list(dict.fromkeys(_called(drill, feed) for feed in feeds))


def _called(drill: PartnerDrill, feed: Feed) -> str:
    return drill.passage(feed.path[0].passage).called


def _key(drill: PartnerDrill, feed: Feed) -> str:
    """The passage that it starts with, as it is written."""
    return drill.written(feed.path[0].passage).key


def _told(round_: FeedRound, start: float, partner: int | None) -> list[_Told]:
    """The exchanges that whoever listens feeds."""
    return [
        _Told(feed, turn, start + feed.at_s)
        for turn in round_.turns
        for feed in turn.feeds
        if partner is None or turn.roles(feed)[0] == partner
    ]


def _beats(
    sheet: FeedSheet, rung: PartnerRung, round_: FeedRound, start: float
) -> Iterator[Sounding]:
    """The metronome: the first beat of an exchange is higher, and may be counted."""
    if sheet.tempo_bpm is None or not rung.metronome:
        return
    firsts = {
        round(feed.at_s / sheet.beat_s): number
        for turn in round_.turns
        for number, feed in enumerate(turn.feeds)
    }
    for beat in range(1, int(round_.duration_s / sheet.beat_s + 1e-9) + 1):
        name: ClickName = "first" if beat in firsts else "beat"
        at_s = start + beat * sheet.beat_s
        yield _call(at_s, "beat", Clip("tone", name), round_.number)
        if beat in firsts and "count" in rung.rounds.calls:
            word = NUMBERS[firsts[beat] % rung.rounds.count_to]
            yield _call(at_s, "count", sounds.spoken(word), round_.number)


def _calls(rung: PartnerRung, round_: FeedRound, start: float) -> Iterator[Sounding]:
    """What is called to both: changes of roles, feet, ten seconds, time."""
    calls, length_s = rung.rounds.calls, round_.duration_s
    said = [("switch", turn.from_s) for turn in round_.turns[1:] if not rung.alternates]
    if "move_around" in calls:
        times = range(1, int(length_s / MOVE_EVERY_S - 1e-9) + 1)
        said += [("move around", number * MOVE_EVERY_S) for number in times]
    if "check_feet" in calls:
        said += [
            ("check your feet", feed.at_s)
            for turn in round_.turns
            for number, feed in enumerate(turn.feeds)
            if number and number % rung.rounds.count_to == 0
        ]
    if "ten_seconds" in calls and rung.rounds.ends == "time" and length_s >= 2 * _TEN_S:
        said.append(("ten seconds", length_s - _TEN_S))
    if "time" in calls:
        said.append(("time", length_s))
    for words, at_s in said:
        yield _call(start + at_s, "call", sounds.spoken(words), round_.number)


def _call(at_s: float, kind: Kind, clip: Clip, number: int) -> Sounding:
    return Sounding(at_s, kind, clip, number, None, None, clip.what, at_s)


def _cues(
    drill: PartnerDrill, sheet: FeedSheet, number: int, told: list[_Told]
) -> Iterator[Sounding]:
    """The exchanges themselves, from their first beat to their last; they make no sound."""
    for exchange in told:
        feed = exchange.feed
        ends_s = exchange.at_s + feed.beats * sheet.beat_s
        words, key = _words(drill, feed), _key(drill, feed)
        yield Sounding(exchange.at_s, "cue", None, number, feed.number, key, words, ends_s)


def _words(drill: PartnerDrill, feed: Feed) -> str:
    words = " → ".join(drill.passage(part.passage).name for part in feed.path)
    small = ", small wind-up" if feed.tell == "trimmed" else ""
    return words + small + ("" if feed.counter else ", no opening")


def _ahead(
    drill: PartnerDrill, number: int, told: list[_Told], call_s: dict[str, float]
) -> Iterator[Sounding]:
    """What comes, said ahead of each exchange that leaves the time for it."""
    over_s = begun_s = 0.0
    for exchange in told:
        words = _called(drill, exchange.feed)
        # Nobody is told of the next exchange before the last one has begun.
        at_s = max(exchange.at_s - AHEAD_S, over_s, begun_s)
        begun_s = exchange.at_s
        if at_s + call_s[words] > exchange.at_s - LEAST_AHEAD_S:
            continue
        over_s = at_s + call_s[words]
        key, slot = _key(drill, exchange.feed), exchange.feed.number
        yield Sounding(at_s, "ahead", sounds.spoken(words), number, slot, key, words, over_s)
