"""How fast to feed an attack, so that the defender has the time that is needed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from hastatus.core.trade.attack_time import AttackTime
from hastatus.core.trade.technique import Side

BEHIND_S = 0.5
"""Who reacts is about half a second behind (rule of thumb, no source)."""

FromWhat = Literal["partner", "solo", "rule"]


@dataclass(frozen=True, slots=True)
class Need:
    """The time, from the start of an attack to its arrival, that keeps out a target's share.

    time_s: the likeliest; low_s, high_s: it lies between them with 95 % probability. at_least: no
    attack was that slow, so it may well be longer. feed_s: a time that is probably enough, to
    feed at. attacks: what it rests on.
    """

    time_s: float
    low_s: float
    high_s: float
    at_least: bool
    feed_s: float
    attacks: int


@dataclass(frozen=True, slots=True)
class FeedPace:
    """How fast to feed an attack.

    start_to_arrival_s: from the first visible movement. of_full: share of full speed, at most 1.
    answers: how many measured answers it rests on. source: partner rounds, solo drills (another
    stimulus and movement: a first guess), or the rule of thumb. need: what partner rounds tell.
    """

    start_to_arrival_s: float
    of_full: float
    answers: int
    source: FromWhat
    need: Need | None = None


@dataclass(frozen=True, slots=True)
class Needed:
    """The time (s) to leave a defender for an answer, on how many measured answers it rests, what
    they are from, and what partner rounds tell."""

    time_s: float
    answers: int
    source: FromWhat
    need: Need | None = None


Needs = Callable[[str | None, Side], Needed]
"""The time that the defender needs for an answer (technique, side); None: there is none."""


def by_rule(_answer: str | None, _side: Side) -> Needed:
    """The rule of thumb, where nothing is measured of the defender."""
    return Needed(BEHIND_S, 0, "rule")


def feed_pace(time: AttackTime, to_leave: Needed) -> FeedPace:
    """The pace that leaves the defender this time; no attack is faster than full speed."""
    paced = max(to_leave.time_s, time.full_s)
    return FeedPace(
        start_to_arrival_s=round(paced, 3),
        of_full=round(time.full_s / paced, 3),
        answers=to_leave.answers,
        source=to_leave.source,
        need=to_leave.need,
    )


def rests_on(pace: FeedPace) -> str:
    """What a feed pace comes from, in words."""
    return {
        "partner": _in_pairs(pace),
        "solo": f"from {pace.answers} answers in solo drills: a first guess, the cue and the "
        "movement were others",
        "rule": "nothing measured yet: who reacts is about half a second behind",
    }[pace.source]


def _in_pairs(pace: FeedPace) -> str:
    basis = f"from {pace.answers} attacks in partner rounds"
    if pace.need is None:
        return basis
    if pace.need.at_least:
        return f"{basis}: at least {pace.need.time_s:.2f} s, none was slow enough to tell"
    between = f"{pace.need.low_s:.2f} to {pace.need.high_s:.2f} s"
    return f"{basis}: about {pace.need.time_s:.2f} s are needed ({between}), fed on the safe side"


_FIFTHS = ("a fifth", "two fifths", "three fifths", "four fifths", "full speed")


def speed_in_words(of_full: float) -> str:
    """Share of full speed as a coach says it: "about three fifths of full speed"."""
    fifths = min(5, max(1, round(of_full * 5)))
    if fifths == 5:
        return "full speed" if of_full >= 0.99 else "nearly full speed"
    return f"about {_FIFTHS[fifths - 1]} of full speed"
