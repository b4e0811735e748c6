"""An evening as it is planned: a row of blocks, from when to when, on how much floor."""

from __future__ import annotations

import uuid
from datetime import datetime, timedelta
from typing import Annotated, Final, Literal, Self
from zoneinfo import ZoneInfo, available_timezones

from pydantic import Field, field_validator, model_validator

from hastatus.core.fields import Document, Instant, Key, Line, Note

BlockKind = Literal["base", "solo", "partner", "free", "break", "talk"]
FeedWay = Literal["numbered", "phone", "ear", "paper", "own"]
WhoWithWhom = Literal["fit", "new", "kept", "unequal"]
BLOCK_KIND_NAMES: Final[dict[BlockKind, str]] = {
    "base": "base and warm-up, all together",
    "solo": "alone, all at once",
    "partner": "in pairs",
    "free": "free round",
    "break": "break",
    "talk": "talk",
}
FEED_WAY_NAMES: Final[dict[FeedWay, str]] = {
    "paper": "feed sheets on paper",
    "numbered": "a number is called, cards",
    "phone": "feeder's phone",
    "ear": "in the feeder's ear",
    "own": "feeders choose",
}
PEOPLE_NAMES: Final[dict[WhoWithWhom, str]] = {
    "fit": "who fit best",
    "new": "each with somebody new",
    "kept": "as in the block before",
    "unequal": "of two levels, on purpose",
}
Minutes = Annotated[float, Field(ge=1, le=180, allow_inf_nan=False)]
_ZONES = available_timezones()
LONGEST_H = 12
WEEK = timedelta(days=7)


class Block(Document):
    """One block of an evening.

    kind: base by count and warm-up for all; a solo drill for all, who follow along; a partner drill
    in pairs; a free round; a break; a talk. drill_id: of a base, solo or partner block. rungs: that
    are climbed in this block, one after another; empty: the first. minutes: how long each rung is
    worked on; None: as long as the drill has it. stances: both: all of it again in the other
    stance. repeats: how often all of it is done. feeds: how each feeder knows what comes: a number
    that is called and a card of their own, their phone, their ear, paper, or their own choice.
    people: who works with whom: by how they fit, each with somebody new, as in the block before,
    or one who can with one who cannot yet.
    """

    key: Key
    kind: BlockKind
    name: Line
    drill_id: uuid.UUID | None = None
    rungs: Annotated[tuple[Annotated[int, Field(ge=1, le=20)], ...], Field(max_length=8)] = ()
    minutes: Minutes | None = None
    stances: Literal["own", "both"] = "own"
    repeats: Annotated[int, Field(ge=1, le=10)] = 1
    feeds: FeedWay = "paper"
    people: WhoWithWhom = "fit"
    notes: Note = ""

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.kind in ("solo", "partner") and self.drill_id is None:
            raise ValueError("this block needs a drill: choose one")
        if self.drill_id is None and self.minutes is None:
            raise ValueError("this block needs its minutes: nothing else says how long it is")
        return self

    @property
    def in_pairs(self) -> bool:
        """Whether people work together in it."""
        return self.kind in ("partner", "free")


class Evening(Document):
    """A whole evening. zone: of the hall's clock, by its IANA name. starts_at, ends_at: moments;
    what is over midnight or over a change of clocks is as long as it is. floor_m2: the floor, None:
    not said. changeover_s: between blocks, for water and gear. clear_up_min: at the end."""

    title: Line
    starts_at: Instant
    ends_at: Instant
    zone: str = "Europe/London"
    floor_m2: Annotated[float | None, Field(ge=0, le=5000, allow_inf_nan=False)] = None
    changeover_s: Annotated[float, Field(ge=0, le=600, allow_inf_nan=False)] = 60.0
    clear_up_min: Annotated[float, Field(ge=0, le=60, allow_inf_nan=False)] = 5.0
    blocks: Annotated[tuple[Block, ...], Field(max_length=30)] = ()

    @field_validator("zone")
    @classmethod
    def _zone(cls, zone: str) -> str:
        if zone not in _ZONES:
            raise ValueError(f"there is no time zone “{zone}”; write it like Europe/London")
        return zone

    @model_validator(mode="after")
    def _order(self) -> Self:
        if self.length_s <= 0:
            raise ValueError("it ends before it starts: set the end later")
        if self.length_s > 3600 * LONGEST_H:
            raise ValueError(f"it lasts longer than {LONGEST_H} hours: set the end earlier")
        keys = [block.key for block in self.blocks]
        if len(keys) != len(set(keys)):
            raise ValueError("two blocks have one key: give each its own")
        return self

    @property
    def length_s(self) -> float:
        """From its start to its end, seconds, whatever clocks do in between."""
        return self.ends_at.timestamp() - self.starts_at.timestamp()

    def at(self, seconds: float) -> datetime:
        """The moment so many seconds after the start."""
        return datetime.fromtimestamp(self.starts_at.timestamp() + seconds, self.starts_at.tzinfo)


def again(evening: Evening, now: datetime) -> Evening:
    """The same evening a week later on the hall's clock, or as many weeks as it takes to be still
    to come."""
    zone = ZoneInfo(evening.zone)
    starts, ends = evening.starts_at.astimezone(zone), evening.ends_at.astimezone(zone)
    while True:
        starts, ends = starts + WEEK, ends + WEEK  # the clock's hours, whatever clocks do meanwhile
        if ends > now:
            return evening.model_copy(update={"starts_at": starts, "ends_at": ends})
