"""Request and answer models of a class that runs."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.hall.models import Ready
from hastatus.core.drill.cue import Mark
from hastatus.core.fields import Document, Key
from hastatus.core.hall.class_clock import Act
from hastatus.core.hall.evening import BlockKind, FeedWay
from hastatus.core.hall.pair_mark import PairMark
from hastatus.core.hall.readiness import Readiness, Word
from hastatus.core.hall.stretch import StretchKind


class ClassActs(Document):
    """What a coach did with the clock, in any order; sent again it is kept once."""

    acts: Annotated[tuple[Act, ...], Field(min_length=1, max_length=200)]


class ClassMarks(Document):
    """What a coach marked of the pairs, in any order; sent again it is kept once."""

    marks: Annotated[tuple[PairMark, ...], Field(min_length=1, max_length=200)]


class CodePath(BaseModel):
    """code: that was given out for one person and one evening."""

    code: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,40}$")]


class PhoneSpokenQuery(Document):
    words: Annotated[str, Field(min_length=1, max_length=60)]


class OwnWord(Document):
    """What somebody says of themselves on their own phone; what is left out stays as it is.
    word: of the block that is on, or was last."""

    ready_before: Ready | None = None
    ready_after: Ready | None = None
    word: Word | None = None


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


class CodeView(BaseModel):
    """A code for somebody's phone. path: the address below the program's own. size: squares on a
    side of its picture; squares: of the picture, as an SVG path with one unit a square."""

    student_id: uuid.UUID
    name: str
    path: str
    size: int
    squares: str


class CodesQuery(Document):
    """origin: of the address that phones are to open, as the coach's browser knows it."""

    origin: Annotated[str, Field(max_length=200, pattern=r"^https?://[^\s/]+$")]


class GivenCode(Document):
    """A code as it was given out."""

    student_id: uuid.UUID
    code: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{16,40}$")]


class GivenCodes(Document):
    """Codes that are to open the evening again."""

    codes: Annotated[tuple[GivenCode, ...], Field(max_length=500)]


class CodeList(BaseModel):
    codes: list[CodeView]


class PhoneFeed(BaseModel):
    """What whoever has the phone feeds. at_s: on the clock of the block. call: the first attack;
    then: what follows; tell: how big the wind-up is; counter: whether there is an opening."""

    at_s: float
    ends_s: float
    call: str
    mark: Mark
    then: list[str]
    tell: Literal["big", "plain", "trimmed"]
    counter: bool


class PhoneRole(BaseModel):
    """What whoever has the phone does, from then on. with_: names."""

    at_s: float
    role: Literal["feeds", "defends", "out"]


class PhoneCardLine(BaseModel):
    number: int
    call: str


class PhoneCard(BaseModel):
    """The secret card of a round. from_s, to_s: on the clock of the block."""

    from_s: float
    to_s: float
    part: int
    of: int
    lines: list[PhoneCardLine]


class PhoneView(BaseModel):
    """An evening as one person sees it on a phone: never what others feed.

    here: not gone yet. block: that is on, or was last; null: none has begun. partners: whom they
    work with. feeds, roles, cards: of that block. limits: what holds for them tonight.
    """

    changes: int
    title: str
    name: str
    here: bool
    clock: ClockView
    block: str | None
    feed_way: FeedWay | None
    drill: str | None
    partners: list[str]
    stretches: list[StretchView]
    roles: list[PhoneRole]
    feeds: list[PhoneFeed]
    cards: list[PhoneCard]
    ready_before: int | None
    ready_after: int | None
    word: Word | None
    limits: list[str]


class SheetLine(BaseModel):
    """An exchange on paper. at_s: from the start of the round. calls: one after another."""

    at_s: float
    feeder: str
    calls: list[str]
    tell: Literal["big", "plain", "trimmed"]
    counter: bool


class SheetRound(BaseModel):
    round: int
    rung: str
    lines: list[SheetLine]


class PairSheet(BaseModel):
    names: list[str]
    rounds: list[SheetRound]


class PairSheets(BaseModel):
    """Every pair's feed sheet of a block."""

    title: str
    drill: str
    pairs: list[PairSheet]


class PairOutcome(BaseModel):
    """A pair in a block, afterwards. exchanges: that somebody watched; null: nobody knows how many,
    since the feeders chose."""

    names: list[str]
    watched_s: float
    exchanges: int | None
    through: int
    faults: list[str]
    forfeits: list[str]
    knocked: list[str]
    notes: list[str]
    pace: float


class BlockOutcome(BaseModel):
    """A block, afterwards. lasted_min: null: it was not begun. rung: that is proposed for the next
    time; why: by which rule; null: nothing is."""

    key: str
    name: str
    lasted_min: float | None
    kind: BlockKind
    pairs: list[PairOutcome]
    not_watched: list[str]
    rungs: list[int]
    proposed: list[int] | None
    why: str


class PersonOutcome(BaseModel):
    """Somebody, afterwards. minutes: here. contact_min: of pair work with contact. partners: whom
    they worked with. words: what they said of the blocks. proposed: another step of the ladder;
    why."""

    student_id: uuid.UUID
    name: str
    minutes: float | None
    contact_min: float
    partners: list[str]
    ready_before: int | None
    ready_after: int | None
    words: list[str]
    faults: list[str]
    readiness: Readiness
    proposed: Readiness | None
    why: str


class NextRungs(Document):
    """The rungs of a block next time. block: its key."""

    block: Key
    rungs: Annotated[
        tuple[Annotated[int, Field(ge=1, le=20)], ...], Field(min_length=1, max_length=8)
    ]


class NextStepOf(Document):
    """The step of the ladder of somebody from now on."""

    student_id: uuid.UUID
    readiness: Readiness


class NextEvening(Document):
    """The same evening a week later, or as many weeks as it takes to be still to come, with what
    was accepted or chosen. id: of the new one, made by the client, so that a repeat is harmless."""

    id: uuid.UUID
    blocks: Annotated[tuple[NextRungs, ...], Field(max_length=30)] = ()
    steps: Annotated[tuple[NextStepOf, ...], Field(max_length=200)] = ()


class EveningReview(BaseModel):
    """An evening, afterwards. acts: what was done with the clock, in order, in words."""

    title: str
    starts_at: datetime
    ended_at: datetime | None
    blocks: list[BlockOutcome]
    people: list[PersonOutcome]
    acts: list[str]
