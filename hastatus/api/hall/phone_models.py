"""Request and answer models of the phones of a class: codes, and what each phone shows."""

from __future__ import annotations

import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.hall.live_models import ClockView, StretchView
from hastatus.api.hall.models import Ready
from hastatus.api.http.code_picture import Origin
from hastatus.api.http.query import Query
from hastatus.core.drill.cue import Mark
from hastatus.core.fields import Document
from hastatus.core.hall.evening import FeedWay
from hastatus.core.hall.readiness import Word


class CodePath(BaseModel):
    """code: that was given out for one person and one evening."""

    code: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,40}$")]


class PhoneSpokenQuery(Document, Query):
    words: Annotated[str, Field(min_length=1, max_length=60)]


class OwnWord(Document):
    """What somebody says of themselves on their own phone; what is left out stays as it is.
    word: of the block that is on, or was last."""

    ready_before: Ready | None = None
    ready_after: Ready | None = None
    word: Word | None = None


class CodeView(BaseModel):
    """A code for somebody's phone. path: the address below the program's own. size: squares on a
    side of its picture; squares: of the picture, as an SVG path with one unit a square."""

    student_id: uuid.UUID
    name: str
    path: str
    size: int
    squares: str


class CodesQuery(Document, Query):
    """origin: of the address that phones are to open, as the coach's browser knows it."""

    origin: Origin


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
