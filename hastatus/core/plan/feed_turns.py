"""The turns of a round: which exchanges come in each, and what follows at a quicker pace."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import ceil

from hastatus.core.drill.partner import PartnerRung
from hastatus.core.drill.passage import Gives
from hastatus.core.plan.feed_draws import Draws
from hastatus.core.plan.feed_sheet import FedPassage, Feed, Turn

EARLY_S = 2.0
"""A feed is shown and said at least this long before it starts, in seconds."""
SWITCH_S = 3.0
"""Time to change roles, in seconds."""
_LONGEST = 64
"""Most passages in one exchange."""


def roles(turn: int, people: int) -> tuple[int, int, int | None]:
    """Feeder, defender and who is out in a turn, from 0: two change, three go round."""
    feeder = turn % people
    out = (feeder + 2) % people if people == 3 else None
    return feeder, (feeder + 1) % people, out


@dataclass(slots=True)
class Course:
    """Where the exchanges of a turn have come to. at_s: when the next one starts. onward: where a
    drill that only goes round goes on. swapped: whether it has changed the roles over."""

    at_s: float
    onward: FedPassage | None = None
    swapped: bool = False


def turns_of(
    draws: Draws, longest_s: float, wanted: int | None, first: int
) -> Iterator[tuple[Turn, Course]]:
    """The turns of a round, until its time or its exchanges are through, and where each ended."""
    rung, people = draws.rung, draws.drill.place.people
    number, from_s, given = first, 0.0, 0
    course = Course(0.0)
    switching = rung.turns.switch
    while True:
        until = min(longest_s, from_s + rung.turns.every_s) if switching == "time" else longest_s
        most = rung.turns.every if switching == "count" else None
        if wanted is not None:
            most = min(most, wanted - given) if most else wanted - given
        if not (rung.alternates and from_s):  # else the pause after an exchange is all there is
            course = Course(_ready_s(rung, from_s))
        feeder, defender, out = roles(number, people)
        draws.turn(feeder, defender)
        feeds = tuple(_feeds(draws, course, until, most, given))
        given += len(feeds)
        last = feeds[-1].ends_s(rung.beat_s) if feeds else until
        done = given >= wanted if wanted is not None else False
        counted = most is not None and len(feeds) >= most
        to_s = min(until, last) if counted else until
        turn = Turn(
            from_s=round(from_s, 3), to_s=round(to_s, 3),
            feeder=feeder, defender=defender, out=out, feeds=feeds,
            lasts_s=None if counted else round(to_s - from_s, 3),
        )  # fmt: skip
        yield turn, course
        from_s, number = to_s, number + 1
        if done or from_s >= longest_s - 1e-9 or (counted and not feeds):
            return


def _ready_s(rung: PartnerRung, from_s: float) -> float:
    """When the first exchange of a turn starts: there is time to get ready."""
    ready = max(EARLY_S, SWITCH_S if from_s else 0.0)
    return _on_beat(rung, from_s + ready)


def _on_beat(rung: PartnerRung, at_s: float) -> float:
    """The first beat from `at_s` on; on the feeder's own time that very moment."""
    return ceil(at_s / rung.beat_s - 1e-9) * rung.beat_s if rung.tempo_bpm else at_s


def _feeds(
    draws: Draws, course: Course, until_s: float, most: int | None, given: int
) -> Iterator[Feed]:
    """Exchanges that start and end before `until_s`, from where the course is; it goes along."""
    rung = draws.rung
    if rung.order.kind in ("free", "both"):
        return
    beat = rung.beat_s
    count = without = 0
    while most is None or count < most:
        way = _way(draws, course.onward)
        if way.beats > (until_s - course.at_s) / beat + 1e-6:
            return
        count += 1
        counter = draws.counter(without)
        without = 0 if counter else without + 1
        yield Feed(
            number=given + count, at_s=round(course.at_s, 3), path=way.path,
            gives_last=way.gives_last, beats=way.beats, tell=draws.tell(), counter=counter,
            goes_on=course.onward is not None, swapped=course.swapped,
        )  # fmt: skip
        course.onward = way.onward
        course.swapped = way.onward is not None and course.swapped != way.swaps
        course.at_s += way.beats * beat + (0.0 if way.onward else draws.pause_s())


def with_spare(
    planned: Sequence[tuple[Turn, Course]], draws_of: Callable[[int], Draws], room: float
) -> Iterator[Turn]:
    """The turns with spare exchanges where the clock ends them: those that end a round, and those
    that the call ends. What follows one is later on the sheet by as much."""
    later_s, more, number = 0.0, 0, 0
    for index, (turn, course) in enumerate(planned):
        draws = draws_of(index + 1)
        draws.turn(turn.feeder, turn.defender)
        feeds = tuple(_moved(feed, later_s, more) for feed in turn.feeds)
        spare: tuple[Feed, ...] = ()
        from_s, to_s = turn.from_s + later_s, turn.to_s + later_s
        if turn.lasts_s is not None:
            course.at_s += later_s
            # A whole number of beats, so that what follows stays on the beat.
            beats = ceil((turn.to_s - turn.from_s) * (room - 1) / draws.rung.beat_s)
            to_s += beats * draws.rung.beat_s
            number = feeds[-1].number if feeds else number
            spare = tuple(_feeds(draws, course, to_s, None, number))
            number += len(spare)
            later_s, more = later_s + beats * draws.rung.beat_s, more + len(spare)
        yield turn.model_copy(
            update={"from_s": round(from_s, 3), "to_s": round(to_s, 3),
                    "feeds": feeds, "spare": spare}
        )  # fmt: skip


def _moved(feed: Feed, later_s: float, more: int) -> Feed:
    return feed.model_copy(
        update={"at_s": round(feed.at_s + later_s, 3), "number": feed.number + more}
    )


@dataclass(frozen=True, slots=True)
class _Way:
    """The passages of one exchange. onward: where a drill that only goes round goes on. swaps:
    whether the roles are changed over once it is through."""

    path: tuple[FedPassage, ...]
    gives_last: Gives | None
    beats: float
    onward: FedPassage | None
    swaps: bool


def _way(draws: Draws, onward: FedPassage | None) -> _Way:
    """The way of the next exchange; it is over where the drill begins to go round for ever."""
    passage = draws.drill.written(onward.passage) if onward else draws.start()
    first = FedPassage(passage=draws.chosen(passage), gives=onward.gives if onward else None)
    path, beats, swaps = [first], passage.beats, passage.swap
    while draws.rung.branches and passage.then and len(path) < _LONGEST:
        branch = passage.then[draws.branch(passage)]
        if branch.to is None:
            return _Way(tuple(path), branch.gives, beats, None, swaps)
        following = FedPassage(passage=branch.to, gives=branch.gives)
        if branch.to in draws.endless:
            return _Way(tuple(path), None, beats, following, swaps)
        passage = draws.drill.written(branch.to)
        path.append(following.model_copy(update={"passage": draws.chosen(passage)}))
        beats, swaps = beats + passage.beats, swaps != passage.swap
    return _Way(tuple(path), None, beats, None, swaps)
