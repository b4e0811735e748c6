"""Request and answer models of what was seen in a class, and what comes next."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated

from pydantic import BaseModel, Field

from hastatus.core.fields import Document, Key
from hastatus.core.hall.evening import BlockKind
from hastatus.core.hall.readiness import Readiness
from hastatus.core.read.carry_over import CarryOver


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
    carry_over: CarryOver | None


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
