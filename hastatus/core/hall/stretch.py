"""What a block is made of, one stretch of time after another: rounds, rests, changes.

A piece is one rung in one stance. A block does each of its pieces, once more in the other stance
where both are trained, as often as it is repeated, and all of that for each wave; between two
pieces there is time to change over. All stretches together last as long as the timetable says.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from itertools import product
from typing import Literal

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.settings import rounds_within
from hastatus.core.drill.solo import Drill
from hastatus.core.hall.evening import Block
from hastatus.core.hall.timetable import SWITCH_S

StretchKind = Literal["work", "rest", "change"]
LEAST_ROUND_S = 10.0
"""No round is cut shorter to make a block come out."""


@dataclass(frozen=True, slots=True)
class Piece:
    """One rung, in one stance, done once. rung: from 1. rounds, round_s, rest_s: how it is done,
    by time; a block without a drill has one round."""

    rung: int
    other_stance: bool
    repeat: int
    wave: int
    rounds: int
    round_s: float
    rest_s: float

    @property
    def lasts_s(self) -> float:
        """Rounds and the rests between them."""
        return self.rounds * self.round_s + (self.rounds - 1) * self.rest_s


@dataclass(frozen=True, slots=True)
class Stretch:
    """A stretch of a block, in seconds from its start. piece: its number, from 0; of a change: of
    the piece that comes. round: of the piece, from 1; of a rest: of the round that was; of a
    change: 0."""

    kind: StretchKind
    starts_s: float
    ends_s: float
    piece: int
    round: int


@dataclass(frozen=True, slots=True)
class Lengthening:
    """A change of how long something lasts. at_s: when it was asked for, in seconds of the block;
    seconds: so much longer; less than 0: shorter, no further than to the moment it was asked."""

    at_s: float
    seconds: float


def pieces(block: Block, drill: Drill | PartnerDrill | None, waves: int) -> tuple[Piece, ...]:
    """The pieces of a block in order. A rung that its drill does not have is left out."""
    rungs = [rung for rung in block.rungs or (1,) if drill is None or rung <= len(drill.rungs)]
    stances = (False, True) if block.stances == "both" else (False,)
    order = product(range(1, waves + 1), range(1, block.repeats + 1), stances, rungs)
    return tuple(
        Piece(rung, stance, repeat, wave, *_rounds(block, drill, rung))
        for wave, repeat, stance, rung in order
    )


def _rounds(
    block: Block, drill: Drill | PartnerDrill | None, rung: int
) -> tuple[int, float, float]:
    """How many rounds, how long each, with what rest, fill what the timetable gives a rung."""
    if drill is None:
        return 1, 60 * (block.minutes or 0.0), 0.0
    length_s = 60 * block.minutes if block.minutes else drill.lengths_s[rung - 1]
    shape = drill.rungs[rung - 1].rounds
    if shape.ends == "time" and not block.minutes:
        return shape.count, shape.duration_s, shape.rest_s
    wanted, _ = rounds_within(length_s, max(shape.duration_s, LEAST_ROUND_S), shape.rest_s)
    count = max(1, min(wanted, int((length_s + shape.rest_s) / (LEAST_ROUND_S + shape.rest_s))))
    return count, (length_s - (count - 1) * shape.rest_s) / count, shape.rest_s


def piece_drill(drill: PartnerDrill, piece: Piece) -> PartnerDrill:
    """The drill with the rounds that a piece has on its rung."""
    rung = drill.rungs[piece.rung - 1]
    rounds = rung.rounds.model_copy(
        update={"ends": "time", "count": piece.rounds, "duration_s": piece.round_s}
    )
    changed = rung.model_copy(update={"rounds": rounds})
    rungs = (*drill.rungs[: piece.rung - 1], changed, *drill.rungs[piece.rung :])
    return drill.model_copy(update={"rungs": rungs})


def stretches(done: Sequence[Piece]) -> tuple[Stretch, ...]:
    """The stretches of a block with these pieces."""
    return tuple(_laid_out(done))


def _laid_out(done: Sequence[Piece]) -> Iterator[Stretch]:
    at_s = 0.0
    for number, piece in enumerate(done):
        if number:
            yield Stretch("change", at_s, at_s + SWITCH_S, number, 0)
            at_s += SWITCH_S
        for round_ in range(1, piece.rounds + 1):
            yield Stretch("work", at_s, at_s + piece.round_s, number, round_)
            at_s += piece.round_s
            if round_ < piece.rounds and piece.rest_s:
                yield Stretch("rest", at_s, at_s + piece.rest_s, number, round_)
                at_s += piece.rest_s


def lengthened(row: Sequence[Stretch], changes: Sequence[Lengthening]) -> tuple[Stretch, ...]:
    """The stretches after each change, in the order in which they were asked for: the stretch that
    was on lasts longer or shorter, and all that follow come later or earlier. A change after the
    end lengthens the last one."""
    for change in changes:
        if not row:
            break
        place = stretch_at(row, change.at_s)
        place = len(row) - 1 if place is None else place
        on = row[place]
        ends_s = max(on.ends_s + change.seconds, min(change.at_s, on.ends_s), on.starts_s)
        row = [*row[:place], replace(on, ends_s=ends_s), *_following(row[place + 1 :], ends_s)]
    return tuple(row)


def _following(row: Sequence[Stretch], at_s: float) -> Iterator[Stretch]:
    """These stretches, as long as they are, one after another from a moment on."""
    for one in row:
        ends_s = at_s + one.ends_s - one.starts_s
        yield replace(one, starts_s=at_s, ends_s=ends_s)
        at_s = ends_s


def stretch_at(row: Sequence[Stretch], at_s: float) -> int | None:
    """The place of the stretch that is on at a moment; None: the block is over."""
    place = bisect_right([one.starts_s for one in row], max(at_s, 0.0)) - 1
    while place < len(row) and at_s >= row[place].ends_s:
        place += 1
    return place if 0 <= place < len(row) else None
