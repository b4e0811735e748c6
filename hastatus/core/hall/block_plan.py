"""A block of an evening as it runs: its drill, its pieces, its stretches, who works in it."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

from hastatus.core.drill.checks.finding import Infeasible
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.hall.class_clock import ClassClock
from hastatus.core.hall.class_voice import BlockCalls, block_calls
from hastatus.core.hall.evening import Block
from hastatus.core.hall.numbered_call import Card, cards
from hastatus.core.hall.pair_feed import (
    PaceOf,
    PairFeed,
    block_seed,
    card_feeds,
    pair_sheets,
    sheet_feeds,
)
from hastatus.core.hall.stretch import Piece, Stretch, lengthened, pieces, stretches
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.trade.contact import Contact, hardest

MOST_KEPT = 512
"""Feed sheets that are kept: each takes some milliseconds to draw, and every device asks."""


@dataclass(frozen=True)
class BlockPlan:
    """A block of an evening. version: of its drill; groups: the ids of who works together."""

    evening_id: uuid.UUID
    block: Block
    drill: Drill | PartnerDrill | None
    version: int | None
    waves: int
    clock: ClassClock
    groups: Sequence[tuple[str, ...]]

    @cached_property
    def pieces(self) -> tuple[Piece, ...]:
        return pieces(self.block, self.drill, self.waves)

    @cached_property
    def row(self) -> tuple[Stretch, ...]:
        """Its stretches, as they were lengthened so far."""
        changes = self.clock.changes if self.clock.block == self.block.key else ()
        return lengthened(stretches(self.pieces), changes)

    @cached_property
    def seed(self) -> int:
        return block_seed(self.evening_id, self.block.key)

    @cached_property
    def calls(self) -> list[BlockCalls]:
        """Its numbered rounds; none where no numbers are called."""
        if not isinstance(self.drill, PartnerDrill) or self.block.feeds != "numbered":
            return []
        return block_calls(self.drill, self.pieces, self.seed)

    @cached_property
    def cards(self) -> list[list[Card]]:
        """The cards of all pairs, for each of `calls`."""
        made = []
        for one in self.calls:
            shares = one.drill.shares(one.drill.rungs[one.rung - 1])
            made.append(cards(shares, one.rounds, len(self.groups), self.seed))
        return made

    @cached_property
    def contact(self) -> Contact:
        """The hardest contact that its rungs ask for; of a free round, firm."""
        if not isinstance(self.drill, PartnerDrill):
            return "firm" if self.block.kind == "free" else "none"
        rungs = {piece.rung for piece in self.pieces}
        return hardest(*(self.drill.rungs[rung - 1].contact for rung in rungs))

    def cards_of(self, members: tuple[str, ...]) -> list[list[Card]]:
        """A pair's own cards, for each of `calls`."""
        pair = list(self.groups).index(members)
        return [[card for card in made if card.pair == pair] for made in self.cards]

    def sheets(self, members: tuple[str, ...]) -> list[FeedSheet]:
        """A pair's own feed sheets, one for each piece."""
        assert isinstance(self.drill, PartnerDrill)
        key = (self.evening_id, self.block.key, self.version)
        return list(_sheets(key, _Whole(self.drill), self.pieces, members))

    def feeds(
        self, members: tuple[str, ...], pace: PaceOf = lambda _: 1.0
    ) -> list[PairFeed] | None:
        """A pair's exchanges on the clock of the block; None where the feeders choose, or where the
        drill has faults that nothing can be drawn from."""
        if not isinstance(self.drill, PartnerDrill) or self.block.feeds == "own":
            return None
        if self.block.feeds == "numbered":
            if members not in self.groups:  # put together anew since: their cards are others'
                return None
            return card_feeds(self.calls, self.cards_of(members), self.row, members)
        try:
            return sheet_feeds(self.sheets(members), self.row, members, pace)
        except Infeasible:
            return None


class _Whole:
    """A drill that goes along with a key that says which it is."""

    def __init__(self, drill: PartnerDrill) -> None:
        self.drill = drill

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Whole)

    def __hash__(self) -> int:
        return 0


@lru_cache(maxsize=MOST_KEPT)
def _sheets(
    key: tuple[uuid.UUID, str, int | None],
    whole: _Whole,
    done: tuple[Piece, ...],
    members: tuple[str, ...],
) -> tuple[FeedSheet, ...]:
    """Sheets take some milliseconds to draw, and every device asks."""
    seed = block_seed(key[0], key[1], *members)
    return tuple(pair_sheets(whole.drill, done, members, seed))
