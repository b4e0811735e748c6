"""Feed sheets: what the feeder gives, and when. For the feeder alone."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.drill.passage import Gives
from hastatus.core.fields import Document, PassageKey, Seconds
from hastatus.core.trade.technique import Stance


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
