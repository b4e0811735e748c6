"""What each pair of a class feeds in a block, on the clock of the block: its own, like nobody's.

Drawn from a seed of the pair's own, so balanced and not to be guessed, as on any feed sheet. In
rings of three the third is out and the places go round from round to round.
"""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.hall.class_voice import BlockCalls
from hastatus.core.hall.numbered_call import Card, attacks_of
from hastatus.core.hall.stretch import Piece, Stretch, piece_drill
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.feed_sheet import Feed, FeedRound, FeedSheet

_ROOM = 1.5
"""So many times as fast as its sheet a pair may come to feed; see `pair_review.pace`."""
_SEEDS = 2**53

PaceOf = Callable[[float], float]
"""The pace at a moment of the block, as a share of the sheet's."""


@dataclass(frozen=True, slots=True)
class PairFeed:
    """One exchange of a pair. at_s, ends_s: on the clock of the block. feeder, defender, out: who
    that is; out: None in a pair. passages: keys, one after another. number: that is called for it;
    None: none is. feed: as on the pair's sheet; None: it is on a card."""

    at_s: float
    ends_s: float
    feeder: str
    defender: str
    out: str | None
    passages: tuple[str, ...]
    number: int | None = None
    feed: Feed | None = None


def block_seed(evening_id: uuid.UUID, block: str, *parts: str) -> int:
    """A seed for a block, or for a pair in it: the same whenever it is asked for."""
    digest = hashlib.sha256("\0".join([str(evening_id), block, *parts]).encode()).digest()
    return int.from_bytes(digest[:8]) % _SEEDS


def places(members: Sequence[str], round_: int) -> tuple[str, ...]:
    """Who has which place in a round, from 1: a pair keeps its own, a ring moves on by one."""
    if len(members) == 2:
        return tuple(members)
    by = (round_ - 1) % len(members)
    return (*members[by:], *members[:by])


def pair_sheets(
    drill: PartnerDrill, done: Sequence[Piece], members: Sequence[str], seed: int
) -> list[FeedSheet]:
    """A pair's feed sheet for each piece of a block."""
    people = min(drill.place.people, len(members))
    fitting = drill.model_copy(update={"place": drill.place.model_copy(update={"people": people})})
    return [
        feed_sheet(
            piece_drill(fitting, piece), seed=(seed + number) % _SEEDS, rung=piece.rung, room=_ROOM
        )
        for number, piece in enumerate(done)
    ]


def sheet_feeds(
    sheets: Sequence[FeedSheet],
    row: Sequence[Stretch],
    members: Sequence[str],
    pace_of: PaceOf = lambda _: 1.0,
) -> list[PairFeed]:
    """What the sheets come to on the clock of a block. row: its stretches, as they were lengthened;
    a longer round goes on with the exchanges that its sheet has to spare. A new pace holds from the
    next round on."""
    return [
        feed
        for stretch in row
        if stretch.kind == "work" and not sheets[stretch.piece].free
        for feed in _of_round(sheets[stretch.piece], stretch, members, pace_of(stretch.starts_s))
    ]


def _of_round(
    sheet: FeedSheet, stretch: Stretch, members: Sequence[str], pace: float
) -> Iterator[PairFeed]:
    who = places(members, stretch.round)
    round_ = sheet.rounds[stretch.round - 1]
    for at_s, feeder, defender, feed in _on_time(round_, pace, stretch.ends_s - stretch.starts_s):
        ends_s = at_s + feed.beats * sheet.beat_s
        out = next((one for one in who if one not in (who[feeder], who[defender])), None)
        yield PairFeed(
            at_s=round(stretch.starts_s + at_s, 3),
            ends_s=round(stretch.starts_s + ends_s, 3),
            feeder=who[feeder],
            defender=who[defender],
            out=out,
            passages=tuple(part.passage for part in feed.path),
            feed=feed,
        )


def _on_time(
    round_: FeedRound, pace: float, lasts_s: float
) -> Iterator[tuple[float, int, int, Feed]]:
    """The exchanges of a round at a pace, from its start, with who feeds and who defends. Where the
    clock ends a turn it does so at its own time; the last turn goes on to the end of the round."""
    for place, turn in enumerate(round_.turns):
        last = place == len(round_.turns) - 1
        by_clock = turn.lasts_s is not None
        from_s = turn.from_s if by_clock else turn.from_s / pace
        to_s = lasts_s if last else min(lasts_s, turn.to_s if by_clock else turn.to_s / pace)
        for feed in turn.every_feed:
            at_s = from_s + (feed.at_s - turn.from_s) / pace
            if at_s >= to_s:
                break
            yield (at_s, *turn.roles(feed), feed)


def card_feeds(
    calls: Sequence[BlockCalls],
    cards: Sequence[Sequence[Card]],
    row: Sequence[Stretch],
    members: Sequence[str],
) -> list[PairFeed]:
    """What a pair's cards come to on the clock of a block. cards: the pair's own, for each of
    `calls`. In each round the next of them feeds."""
    rungs = []
    for one, mine in zip(calls, cards, strict=True):
        rung = one.drill.rungs[one.rung - 1]
        for stretch in row:
            if stretch.kind != "work" or stretch.piece != one.piece:
                continue
            round_ = one.rounds[stretch.round - 1]
            attacks = attacks_of([card for card in mine if card.round == round_.round], round_)
            who = card_places(members, round_.round)
            for call, attack in zip(round_.calls, attacks, strict=True):
                at_s = stretch.starts_s + call.at_s
                beats = one.drill.passage(attack).beats
                if at_s < stretch.ends_s:
                    rungs.append(
                        PairFeed(at_s, at_s + beats * rung.beat_s, *who, (attack,), call.number)
                    )
    return rungs


def card_places(members: Sequence[str], round_: int) -> tuple[str, str, str | None]:
    """Who feeds, who defends and who is out in a round of numbered calls, from 1."""
    turn = (round_ - 1) % len(members)
    order = [*members[turn:], *members[:turn]]
    return order[0], order[1], order[2] if len(order) == 3 else None
