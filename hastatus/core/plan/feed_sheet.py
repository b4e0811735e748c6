"""Feed sheets: what the feeder gives, and when. For the feeder alone.

Everything is drawn from the seed: the order of passages in balance as in solo drills, the partner's
choices in balance too, the pauses unguessable (on a kept beat rounded up to whole beats, which
leaves them memoryless), the tell, and which exchanges ask for a counter.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import ceil
from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.drill.checks.partner import check
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.passage import Gives
from hastatus.core.drill.paths import endless
from hastatus.core.fields import Document, PassageKey, Seconds
from hastatus.core.plan.feed_draws import Draws, FactsOf
from hastatus.core.trade.technique import Stance, other

EARLY_S = 2.0
"""A feed is shown and said at least this long before it starts, in seconds."""
SWITCH_S = 3.0
"""Time to change roles, in seconds."""
_ROOM, _ABOVE = 1.5, 1.25
"""A run may become half as fast again as its sheet, and a quarter faster than any pace foreseen."""
_LONGEST = 64
"""Most passages in one exchange."""


class FedPassage(Document):
    """One passage of an exchange, with the choices that come in it. gives: what the partner gave to
    come here; None: it starts."""

    passage: PassageKey
    gives: Gives | None = None


class Feed(Document):
    """One exchange on the sheet; of a drill that only goes round, each passage is one.

    at_s: when it starts, from the start of the round; on a kept tempo on a beat. path: its
    passages. beats: its length. gives_last: what is given where it ends. counter: whether the
    defender is to counter. tell: how big the draw-back is. goes_on: it follows on the one before
    without a pause. swapped: the drill has changed the turn's roles over.
    """

    number: Annotated[int, Field(ge=1)]
    at_s: Seconds
    path: tuple[FedPassage, ...]
    gives_last: Gives | None = None
    beats: float
    tell: Literal["big", "plain", "trimmed"]
    counter: bool = True
    goes_on: bool = False
    swapped: bool = False

    def ends_s(self, beat_s: float) -> float:
        """When it is over, in seconds from the start of the round."""
        return self.at_s + self.beats * beat_s


class Turn(Document):
    """A stretch of a round with the same roles. Partners are numbered from 0; out: resting.

    spare: what follows `feeds` where the pace is quicker than the sheet's, to the end of the turn.
    lasts_s: how long it lasts on the clock of the round, whatever the pace; None: its exchanges
    end it.
    """

    from_s: Seconds
    to_s: Seconds
    feeder: int
    defender: int
    out: int | None = None
    feeds: tuple[Feed, ...]
    spare: tuple[Feed, ...] = ()
    lasts_s: Seconds | None = None

    @property
    def every_feed(self) -> tuple[Feed, ...]:
        """What it has, spare ones included."""
        return self.feeds + self.spare

    def roles(self, feed: Feed | None) -> tuple[int, int]:
        """Who feeds and who defends in one of its exchanges."""
        swapped = feed is not None and feed.swapped
        return (self.defender, self.feeder) if swapped else (self.feeder, self.defender)


class FeedRound(Document):
    """One round. stance: of the one who feeds first, as written or mirrored."""

    number: Annotated[int, Field(ge=1)]
    stance: Stance
    duration_s: Seconds
    turns: tuple[Turn, ...]


class FeedSheet(Document):
    """The whole sheet of a run, kept with it. free: the feeder chooses, or both hunt, so there are
    no feeds.

    paces: the tempo that each partner begins with as defender, BPM; empty: the sheet's for all.
    """

    schema_version: Literal[1] = 1
    seed: Annotated[int, Field(ge=0, lt=2**53)]
    rung: Annotated[int, Field(ge=1)]
    tempo_bpm: float | None
    beat_s: float
    free: bool
    people: int
    rounds: tuple[FeedRound, ...]
    rest_s: Seconds = 0.0
    paces: tuple[float, ...] = ()


def feed_sheet(
    drill: PartnerDrill,
    *,
    seed: int,
    rung: int = 1,
    tempo_bpm: float | None = None,
    stance: Stance = "left_lead",
    room: float = 1.0,
    facts: FactsOf | None = None,
) -> FeedSheet:
    """The sheet of every round. The same arguments give the same sheet.

    rung counts from 1 (IndexError when there is none). tempo_bpm: where the pair stands, instead of
    the rung's own. room: how many times as fast it may be run; with more than 1 turns that the
    clock ends have spare exchanges. facts: of whoever feeds and defends, by their numbers; None:
    nothing is known of them. Raises `finding.Infeasible` for a drill that cannot be done.
    """
    if not 1 <= rung <= len(drill.rungs):
        raise IndexError(f"the drill has {len(drill.rungs)} rungs, there is no rung {rung}")
    check(drill)
    step = drill.rungs[rung - 1]
    if tempo_bpm is not None and step.tempo_bpm is not None:
        step = step.model_copy(update={"tempo_bpm": tempo_bpm})
    loops = endless(drill)
    rounds = tuple(
        _round(drill, step, (seed, number), stance, loops, room, facts)
        for number in range(1, step.rounds.count + 1)
    )
    return FeedSheet(
        seed=seed,
        rung=rung,
        tempo_bpm=step.tempo_bpm,
        beat_s=step.beat_s,
        free=step.order.kind in ("free", "both"),
        people=drill.place.people,
        rounds=rounds,
        rest_s=step.rounds.rest_s,
    )


def room_of(rung: PartnerRung, paces: Sequence[float]) -> float:
    """How many times as fast as its tempo a rung may well be run, for `feed_sheet`'s room.

    paces: the tempo that each begins with as defender, BPM. 1 on the feeder's own time.
    """
    if rung.tempo_bpm is None:
        return 1.0
    fastest_bpm = max(rung.fastest_bpm, *paces, rung.tempo_bpm)
    return max(_ROOM, _ABOVE * fastest_bpm / rung.tempo_bpm)


def roles(turn: int, people: int) -> tuple[int, int, int | None]:
    """Feeder, defender and who is out in a turn, from 0: two change, three go round."""
    feeder = turn % people
    out = (feeder + 2) % people if people == 3 else None
    return feeder, (feeder + 1) % people, out


def _round(
    drill: PartnerDrill,
    rung: PartnerRung,
    seed: tuple[int, int],
    stance: Stance,
    loops: frozenset[str],
    room: float,
    facts: FactsOf | None,
) -> FeedRound:
    number = seed[1]
    shape = rung.rounds
    longest = 1800.0 if shape.ends == "count" else shape.duration_s
    wanted = None if shape.ends == "time" else shape.exchanges
    # The next round begins with the next one's turn, so that nobody always feeds first.
    first = 0 if rung.turns.switch == "never" else number - 1
    quicker = room > 1 and rung.tempo_bpm and shape.ends == "time"
    by_count = rung.turns.switch == "count"
    # Where exchanges end the turns, a quicker round has more turns; else the turns have more.
    until_s = longest * room if quicker and by_count else longest
    planned = list(_turns(Draws(drill, rung, seed, loops, facts), until_s, wanted, first))
    turns = tuple(turn for turn, _ in planned)
    duration_s = longest if shape.ends == "time" else turns[-1].to_s
    if quicker and not by_count:
        turns = tuple(
            _with_spare(planned, lambda turn: Draws(drill, rung, (*seed, turn), loops, facts), room)
        )
    in_turn = shape.stances == "in_turn" and number % 2 == 0
    return FeedRound(
        number=number,
        stance=other(stance) if in_turn else stance,
        duration_s=duration_s,
        turns=turns,
    )


@dataclass(slots=True)
class _Course:
    """Where the exchanges of a turn have come to. at_s: when the next one starts. onward: where a
    drill that only goes round goes on. swapped: whether it has changed the roles over."""

    at_s: float
    onward: FedPassage | None = None
    swapped: bool = False


def _turns(
    draws: Draws, longest_s: float, wanted: int | None, first: int
) -> Iterator[tuple[Turn, _Course]]:
    """The turns of a round, until its time or its exchanges are through, and where each ended."""
    rung, people = draws.rung, draws.drill.place.people
    number, from_s, given = first, 0.0, 0
    course = _Course(0.0)
    switching = rung.turns.switch
    while True:
        until = min(longest_s, from_s + rung.turns.every_s) if switching == "time" else longest_s
        most = rung.turns.every if switching == "count" else None
        if wanted is not None:
            most = min(most, wanted - given) if most else wanted - given
        if not (rung.alternates and from_s):  # else the pause after an exchange is all there is
            course = _Course(_ready_s(rung, from_s))
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
    draws: Draws, course: _Course, until_s: float, most: int | None, given: int
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


def _with_spare(
    planned: Sequence[tuple[Turn, _Course]], draws_of: Callable[[int], Draws], room: float
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
