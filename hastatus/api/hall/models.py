"""Request and answer models of evenings."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from hastatus.core.drill.header import Level
from hastatus.core.fields import Document, Key
from hastatus.core.hall.evening import Block, Evening
from hastatus.core.hall.timetable import BlockPart
from hastatus.core.trade.contact import Contact
from hastatus.core.trade.gear import Gear
from hastatus.core.trade.technique import Stance

Ready = Annotated[int, Field(ge=0, le=10)]
Edit = Annotated[int, Field(ge=1)]


class NewEvening(Document):
    """An evening to keep. id: made by the client, so that a repeat is harmless."""

    id: uuid.UUID
    plan: Evening


class EveningChange(Document):
    """A changed plan. base: the edit that it was changed from."""

    base: Edit
    plan: Evening


class EveningAway(Document):
    """Delete an evening, or bring it back."""

    deleted: bool


class EveningPath(BaseModel):
    evening_id: uuid.UUID


class BlockPath(EveningPath):
    block: Key


class PersonPath(EveningPath):
    student_id: uuid.UUID


class Presence(Document):
    """What is known of somebody tonight; what is left out stays as it is. gear: null: what they
    usually have. ready_before, ready_after: null: not said."""

    here: bool | None = None
    no_touch: bool | None = None
    gear: Annotated[tuple[Gear, ...], Field(max_length=10)] | None = None
    ready_before: Ready | None = None
    ready_after: Ready | None = None


class GroupsRequest(Document):
    """Put everybody together who is here. kept: groups that stay as they are; base: the edit of the
    block's groups that they were taken from, null where there are none yet."""

    kept: Annotated[
        tuple[Annotated[tuple[uuid.UUID, ...], Field(min_length=2, max_length=3)], ...],
        Field(max_length=100),
    ] = ()
    base: Edit | None = None


class PersonTonight(BaseModel):
    """Somebody of the club on an evening. height_m, arm_m: as measured; null: not yet. here: now.
    off: why they work with nobody, in words; empty: they may. note: what else a coach is to know of
    them, in words."""

    student_id: uuid.UUID
    name: str
    stance: Stance
    level: Level
    height_m: float | None
    arm_m: float | None
    contact: Contact
    gear: list[Gear]
    here: bool
    came_at: datetime | None
    left_at: datetime | None
    no_touch: bool
    ready_before: int | None
    ready_after: int | None
    off: str
    note: str


class WorkGroup(BaseModel):
    """Who works together. but: what speaks against it, in words."""

    members: list[uuid.UUID]
    but: list[str]


class AloneView(BaseModel):
    student_id: uuid.UUID
    why: str


class BlockView(BaseModel):
    """A block in times. starts_at, ends_at: moments. drill: its title. edit: of its groups; null:
    nobody is put together yet. stale: somebody has come or gone since, or may not be where they
    are."""

    key: str
    starts_at: datetime
    ends_at: datetime
    minutes: float
    waves: int
    parts: list[BlockPart]
    drill: str | None
    rungs: list[str]
    groups: list[WorkGroup]
    alone: list[AloneView]
    edit: int | None
    stale: bool


class OfferView(BaseModel):
    """What would make the evening shorter. block: as it would be; null: it is left out."""

    key: str
    what: str
    block: Block | None
    saves_min: float


class EveningView(BaseModel):
    """An evening. over_min: how much longer it takes than planned; negative: so much is left.
    here: how many are. findings: what cannot be as it is planned."""

    id: uuid.UUID
    edit: int
    plan: Evening
    ends_at: datetime
    over_min: float
    offers: list[OfferView]
    findings: list[str]
    blocks: list[BlockView]
    people: list[PersonTonight]
    here: int


class EveningLine(BaseModel):
    """An evening in the list. came: how many. running: it was begun, and nobody has ended it."""

    id: uuid.UUID
    title: str
    starts_at: datetime
    ends_at: datetime
    zone: str
    blocks: list[str]
    came: int
    running: bool


class EveningList(BaseModel):
    """The furthest in the future first. tonight: the one that is on, or else the next one; null:
    none is planned."""

    evenings: list[EveningLine]
    tonight: uuid.UUID | None


class CallView(BaseModel):
    at_s: float
    number: int


class CardLineView(BaseModel):
    number: int
    call: str
    passage: str


class CardView(BaseModel):
    """A feeder's secret card. pair: their names; feeder: who feeds in this round. part: of the
    round, from 0; of: how many it has."""

    pair: list[str]
    feeder: str
    round: int
    part: int
    of: int
    lines: list[CardLineView]


class RoundOfCalls(BaseModel):
    round: int
    calls: list[CallView]


class NumberedCalls(BaseModel):
    """A block of numbered calls: what is called, for everybody, and each feeder's cards."""

    title: str
    drill: str
    rung: str
    rounds: list[RoundOfCalls]
    cards: list[CardView]
