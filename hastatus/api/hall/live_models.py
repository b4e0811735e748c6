"""Request and answer models of a class that runs."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.core.drill.cue import Mark
from hastatus.core.fields import Document
from hastatus.core.hall.class_clock import Act
from hastatus.core.hall.evening import BlockKind, FeedWay
from hastatus.core.hall.pair_mark import PairMark
from hastatus.core.hall.stretch import StretchKind


class ClassActs(Document):
    """What a coach did with the clock, in any order; sent again it is kept once."""

    acts: Annotated[tuple[Act, ...], Field(min_length=1, max_length=200)]


class ClassMarks(Document):
    """What a coach marked of the pairs, in any order; sent again it is kept once."""

    marks: Annotated[tuple[PairMark, ...], Field(min_length=1, max_length=200)]


class StretchView(BaseModel):
    """A stretch of a block, in seconds from its start. says: what it is, in words."""

    kind: StretchKind
    starts_s: float
    ends_s: float
    says: str


class ClockView(BaseModel):
    """The clock of a class as it was at `at`. block: that is on; null: none has begun. changes: how
    often it was lengthened or cut short."""

    at: datetime
    block: str | None
    elapsed_s: float
    running: bool
    stopped: bool
    ended: bool
    changes: int


class LiveBlock(BaseModel):
    """A block in the row. begun: whether it has been begun."""

    key: str
    name: str
    kind: BlockKind
    minutes: float
    feeds: FeedWay
    begun: bool


class TilePerson(BaseModel):
    """One of a pair. note: what a coach is to know of them. contact: what it comes to tonight."""

    student_id: uuid.UUID
    name: str
    note: str


class TileView(BaseModel):
    """A pair as a coach who walks round sees it. why: to look at it now; empty: nothing presses.
    looked: whether somebody has in this block; unseen_s: since then, or since it began. pace: of
    its feed, as a share of the sheet's. limit: what they have to keep to. knocked: who had a head
    knock in this block. faults: tagged in this block."""

    key: str
    members: list[TilePerson]
    urgency: float
    why: list[str]
    looked: bool
    unseen_s: float
    through: int
    watched_s: float
    pace: float
    limit: str
    knocked: list[str]
    faults: list[str]


class LiveEvening(BaseModel):
    """An evening that runs, as every device of a coach sees it. changes: counts all that is seen.
    stretches: of the block that is on. tiles: its pairs, whom to look at first. alone: who works
    with nobody. next_block: the key of the block that comes; null: none. faults: that are tagged in
    this block's drill."""

    changes: int
    title: str
    ends_at: datetime
    clock: ClockView
    blocks: list[LiveBlock]
    next_block: str | None
    stretches: list[StretchView]
    tiles: list[TileView]
    alone: list[str]
    faults: list[str]
    pairs: list[list[str]]


class ClassSoundView(BaseModel):
    """One thing that is heard in a block. url: where it is loaded from. shows: what the wall shows
    with it; mark: the sign of the cue that it is."""

    at_s: float
    kind: Literal["bell", "call", "number", "cue"]
    name: str
    url: str
    shows: str
    mark: Mark | None


class ClassSounds(BaseModel):
    """What a device needs of a block to go on with it alone, should the connection be lost."""

    sounds: list[ClassSoundView]
    stretches: list[StretchView]
