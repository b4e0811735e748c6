"""The club's coaches and the links for them, as they are asked for and shown."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.club.models import Password
from hastatus.core.fields import Document, Line

Role = Literal["owner", "coach"]


class CoachView(BaseModel):
    """A coach. login, seen_at, second_factor: for owners of the club; else null. me: who asks.
    removed_at: when they left. second_factor: a code is asked for at their sign-in."""

    id: uuid.UUID
    name: str
    login: str | None
    role: Role
    me: bool
    removed_at: datetime | None
    seen_at: datetime | None
    second_factor: bool | None


class InvitationView(BaseModel):
    """A link that still opens something. is_new: for a new coach; else for a new password."""

    id: uuid.UUID
    name: str
    role: Role
    is_new: bool
    expires_at: datetime


class CoachList(BaseModel):
    coaches: list[CoachView]
    invitations: list[InvitationView]


class InvitationRequest(Document):
    name: Line
    role: Role = "coach"


class LinkMade(BaseModel):
    """A link, told this once. path: of the address, to be put after the server's own."""

    id: uuid.UUID
    path: str
    expires_at: datetime


class CoachChange(Document):
    """What is left out stays as it is. removed: they have left, or come back."""

    role: Role | None = None
    removed: bool | None = None


class JoinView(BaseModel):
    """What a link is for. is_new: to become a coach of `club`; else to set a new password."""

    name: str
    club: str
    is_new: bool


class JoinRequest(Document):
    """login: of a new coach; null for a new password."""

    login: Line | None = None
    password: Password


class CoachPath(BaseModel):
    coach_id: uuid.UUID


class InvitationPath(BaseModel):
    invitation_id: uuid.UUID


class JoinPath(BaseModel):
    """token: of a link."""

    token: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,60}$")]
