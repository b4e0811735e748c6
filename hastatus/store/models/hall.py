"""Evenings: what is planned, who is here, who works with whom."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import CheckConstraint, ForeignKey, ForeignKeyConstraint, Index
from sqlalchemy.orm import Mapped, mapped_column

from hastatus.store.models.base import Base, now


class Evening(Base):
    """An evening. plan: as `core.hall.evening.Evening`. edit: counts its changes, so that two
    coaches who change it at once are told. starts_at: of the plan, to be found by. deleted_at: put
    away."""

    __tablename__ = "evenings"
    __table_args__ = (Index("ix_evenings_starts", "club_id", "starts_at"),)
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    plan: Mapped[dict[str, Any]]
    edit: Mapped[int] = mapped_column(server_default="1")
    starts_at: Mapped[datetime]
    created_at: Mapped[datetime] = now()
    deleted_at: Mapped[datetime | None]


class Attendance(Base):
    """Somebody on an evening. came_at: null: not here yet; left_at: gone again. no_touch: nobody is
    to touch them tonight. gear: tonight; null: what they usually have. ready_before, ready_after:
    how ready they feel, 0 to 10, by their own word or the coach's."""

    __tablename__ = "attendances"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "evening_id"], ["evenings.club_id", "evenings.id"]),
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        CheckConstraint("ready_before BETWEEN 0 AND 10", name="ready_before"),
        CheckConstraint("ready_after BETWEEN 0 AND 10", name="ready_after"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    evening_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    student_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    came_at: Mapped[datetime | None]
    left_at: Mapped[datetime | None]
    no_touch: Mapped[bool] = mapped_column(server_default="false")
    gear: Mapped[list[str] | None]
    ready_before: Mapped[int | None]
    ready_after: Mapped[int | None]


class BlockGroups(Base):
    """Who works with whom in a block. groups: the ids of each group's members, in order. edit:
    counts the changes, as of an evening."""

    __tablename__ = "block_groups"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "evening_id"], ["evenings.club_id", "evenings.id"]),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    evening_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    block: Mapped[str] = mapped_column(primary_key=True)
    groups: Mapped[list[Any]]
    edit: Mapped[int] = mapped_column(server_default="1")
