"""Practices for home and the links that open them, as coaches make and see them."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import Annotated

from pydantic import BaseModel, Field

from hastatus.api.http.code_picture import Origin
from hastatus.core.fields import Document, Line
from hastatus.core.home.dose import DoseProposal, Week
from hastatus.core.home.practice import HomeWord, Practice
from hastatus.core.run.medical_hold import MedicalHold

Members = Annotated[list[uuid.UUID], Field(min_length=1, max_length=60)]


class PracticePath(BaseModel):
    practice_id: uuid.UUID


class MemberPath(BaseModel):
    practice_id: uuid.UUID
    student_id: uuid.UUID


class HomeStudentPath(BaseModel):
    student_id: uuid.UUID


class HomeLinkPath(BaseModel):
    link_id: uuid.UUID


class PracticeRequest(Document):
    """A new practice. id is made by the browser, so that a repeat is harmless."""

    id: uuid.UUID
    practice: Practice
    students: Members


class PracticeChange(Document):
    practice: Practice
    students: Members


class PracticeEnd(Document):
    ended: bool


class OwnDays(Document):
    """days: a week, for one of those who have it; None: as the practice has it."""

    days: Annotated[int, Field(ge=1, le=7)] | None


class PieceView(BaseModel):
    """A drill of a practice. rounds: None: as many as its rung has."""

    drill_id: uuid.UUID
    title: str
    rounds: int | None


class HomeDone(BaseModel):
    """A drill that was done at home. rounds: done, of those planned. clean, of: answers in the
    window where it was measured. median_ms: of its right answers. run_id: with its results; None:
    it was not measured."""

    run_id: uuid.UUID | None
    drill: str
    started_at: datetime
    rounds: int
    planned: int
    said: HomeWord | None
    finished: bool
    clean: int | None
    of: int | None
    median_ms: float | None


class MemberView(BaseModel):
    """Somebody who has a practice. days: a week, that they are asked for. weeks: up to this one,
    oldest first. last: what they did, the newest first. linked: a link is open; seen_at: when it
    was last opened. proposal: what a coach may change."""

    student_id: uuid.UUID
    name: str
    days: int
    weeks: list[Week]
    last: list[HomeDone]
    linked: bool
    seen_at: datetime | None
    hold: MedicalHold | None
    proposal: DoseProposal | None


class PracticeView(BaseModel):
    id: uuid.UUID
    practice: Practice
    pieces: list[PieceView]
    members: list[MemberView]
    ended: bool


class PracticeList(BaseModel):
    practices: list[PracticeView]


class HomeLinkView(BaseModel):
    """A link that opens something. guardian, guardian_on: who allowed it for a minor, and when."""

    id: uuid.UUID
    created_at: datetime
    expires_at: datetime
    seen_at: datetime | None
    guardian: str
    guardian_on: date | None


class HomeStudentView(BaseModel):
    """What a student practises at home. needs_guardian: they get no link without."""

    needs_guardian: bool
    practices: list[PracticeView]
    links: list[HomeLinkView]


class HomeLinkRequest(Document):
    """A new link. origin: of the address that the phone opens, as the coach's browser knows it.
    guardian, guardian_on: who allowed it for a minor, and when. days: that it lasts."""

    origin: Origin
    guardian: Line | None = None
    guardian_on: date | None = None
    days: Annotated[int, Field(ge=1, le=366)] = 60


class HomeLinkMade(BaseModel):
    """A link, told this once. path: of the address, to be put after the server's own. size:
    squares on a side of its picture; squares: of the picture, as an SVG path, one unit a square."""

    id: uuid.UUID
    path: str
    expires_at: datetime
    size: int
    squares: str


class HomeLinkChange(Document):
    """revoked: it opens nothing any more."""

    revoked: bool
