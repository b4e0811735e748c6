"""Feed sheets: what the feeder gives, and when. For the feeder alone.

Everything is drawn from the seed: the order of passages in balance as in solo drills, the partner's
choices in balance too, the pauses unguessable (on a kept beat rounded up to whole beats, which
leaves them memoryless), the tell, and which exchanges ask for a counter.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil
from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.drill.checks.partner import check
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.passage import Gives
from hastatus.core.drill.paths import endless
from hastatus.core.fields import Document, Key, Seconds
from hastatus.core.plan.feed_draws import Draws
from hastatus.core.trade.technique import Stance, other

EARLY_S = 2.0
"""A feed is shown and said at least this long before it starts, in seconds."""
SWITCH_S = 3.0
"""Time to change roles, in seconds."""
_LONGEST = 64
"""Most passages in one exchange."""


class FedPassage(Document):
    """One passage of an exchange. gives: what the partner gave to come here; None: it starts."""

    passage: Key
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
    """A stretch of a round with the same roles. Partners are numbered from 0; out: resting."""

    from_s: Seconds
    to_s: Seconds
    feeder: int
    defender: int
    out: int | None = None
    feeds: tuple[Feed, ...]

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
    """The whole sheet of a run, kept with it. free: the feeder chooses, so there are no feeds."""

    schema_version: Literal[1] = 1
    seed: Annotated[int, Field(ge=0, lt=2**53)]
    rung: Annotated[int, Field(ge=1)]
    tempo_bpm: float | None
    beat_s: float
    free: bool
    people: int
    rounds: tuple[FeedRound, ...]
    rest_s: Seconds = 0.0


def feed_sheet(
    drill: PartnerDrill,
    *,
    seed: int,
    rung: int = 1,
    tempo_bpm: float | None = None,
    stance: Stance = "left_lead",
) -> FeedSheet:
    """The sheet of every round. The same arguments give the same sheet.

    rung counts from 1 (IndexError when there is none). tempo_bpm: where the pair stands, instead of
    the rung's own. Raises `finding.Infeasible` for a drill that cannot be done.
    """
    if not 1 <= rung <= len(drill.rungs):
        raise IndexError(f"the drill has {len(drill.rungs)} rungs, there is no rung {rung}")
    check(drill)
    step = drill.rungs[rung - 1]
    if tempo_bpm is not None and step.tempo_bpm is not None:
        step = step.model_copy(update={"tempo_bpm": tempo_bpm})
    loops = endless(drill)
    rounds = tuple(
        _round(drill, step, (seed, number), stance, loops)
        for number in range(1, step.rounds.count + 1)
    )
    return FeedSheet(
        seed=seed,
        rung=rung,
        tempo_bpm=step.tempo_bpm,
        beat_s=step.beat_s,
        free=step.order.kind == "free",
        people=drill.place.people,
        rounds=rounds,
        rest_s=step.rounds.rest_s,
    )


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
) -> FeedRound:
    number = seed[1]
    shape = rung.rounds
    longest = 1800.0 if shape.ends == "count" else shape.duration_s
    wanted = None if shape.ends == "time" else shape.exchanges
    # The next round begins with the next one's turn, so that nobody always feeds first.
    first = 0 if rung.turns.switch == "never" else number - 1
    turns = tuple(_turns(Draws(drill, rung, seed, loops), longest, wanted, first))
    in_turn = shape.stances == "in_turn" and number % 2 == 0
    return FeedRound(
        number=number,
        stance=other(stance) if in_turn else stance,
        duration_s=longest if shape.ends == "time" else turns[-1].to_s,
        turns=turns,
    )


def _turns(draws: Draws, longest_s: float, wanted: int | None, first: int) -> Iterator[Turn]:
    """The turns of a round, until its time or its exchanges are through."""
    rung, people = draws.rung, draws.drill.place.people
    number, from_s, given = first, 0.0, 0
    switching = rung.turns.switch
    while True:
        until = min(longest_s, from_s + rung.turns.every_s) if switching == "time" else longest_s
        most = rung.turns.every if switching == "count" else None
        if wanted is not None:
            most = min(most, wanted - given) if most else wanted - given
        feeds = tuple(_feeds(draws, from_s, until, most, given))
        given += len(feeds)
        last = feeds[-1].ends_s(rung.beat_s) if feeds else until
        done = given >= wanted if wanted is not None else False
        counted = most is not None and len(feeds) >= most
        to_s = min(until, last) if counted else until
        feeder, defender, out = roles(number, people)
        yield Turn(
            from_s=round(from_s, 3), to_s=round(to_s, 3),
            feeder=feeder, defender=defender, out=out, feeds=feeds,
        )  # fmt: skip
        from_s, number = to_s, number + 1
        if done or from_s >= longest_s - 1e-9 or (counted and not feeds):
            return


def _feeds(
    draws: Draws, from_s: float, until_s: float, most: int | None, given: int
) -> Iterator[Feed]:
    """Exchanges that start and end inside a turn; the first leaves time to get ready."""
    rung = draws.rung
    if rung.order.kind == "free":
        return
    beat = rung.beat_s
    ready = max(EARLY_S, SWITCH_S if from_s else 0.0)
    at_s = ceil((from_s + ready) / beat - 1e-9) * beat if rung.tempo_bpm else from_s + ready
    count = without = 0
    onward: FedPassage | None = None
    swapped = False
    while most is None or count < most:
        way = _way(draws, onward)
        if way.beats > (until_s - at_s) / beat + 1e-6:
            return
        count += 1
        counter = draws.counter(without)
        without = 0 if counter else without + 1
        yield Feed(
            number=given + count, at_s=round(at_s, 3), path=way.path, gives_last=way.gives_last,
            beats=way.beats, tell=draws.tell(), counter=counter,
            goes_on=onward is not None, swapped=swapped,
        )  # fmt: skip
        onward = way.onward
        swapped = onward is not None and swapped != way.swaps
        at_s += way.beats * beat + (0.0 if onward else draws.pause_s())


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
    passage = draws.drill.passage(onward.passage) if onward else draws.start()
    path, beats, swaps = [onward or FedPassage(passage=passage.key)], passage.beats, passage.swap
    while draws.rung.branches and passage.then and len(path) < _LONGEST:
        branch = passage.then[draws.branch(passage)]
        if branch.to is None:
            return _Way(tuple(path), branch.gives, beats, None, swaps)
        following = FedPassage(passage=branch.to, gives=branch.gives)
        if branch.to in draws.endless:
            return _Way(tuple(path), None, beats, following, swaps)
        passage = draws.drill.passage(branch.to)
        path.append(following)
        beats, swaps = beats + passage.beats, swaps != passage.swap
    return _Way(tuple(path), None, beats, None, swaps)
