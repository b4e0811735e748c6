"""Evenings: what is planned, who is here, who works with whom."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, CheckConstraint, ForeignKey, ForeignKeyConstraint, Index
from sqlalchemy.orm import Mapped, mapped_column

from hastatus.store.models.base import Base, now


class Evening(Base):
    """An evening. plan: as `core.hall.evening.Evening`. edit: counts its changes, so that two
    coaches who change it at once are told. changes: counts all that is seen of it, its clock and
    its marks too, so that who asks again knows whether to look. starts_at: of the plan, to be found
    by. deleted_at: put away."""

    __tablename__ = "evenings"
    __table_args__ = (Index("ix_evenings_starts", "club_id", "starts_at"),)
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    plan: Mapped[dict[str, Any]]
    edit: Mapped[int] = mapped_column(server_default="1")
    changes: Mapped[int] = mapped_column(BigInteger, server_default="0")
    starts_at: Mapped[datetime]
    created_at: Mapped[datetime] = now()
    deleted_at: Mapped[datetime | None]


class Attendance(Base):
    """Somebody on an evening. came_at: null: not here yet; left_at: gone again. no_touch: nobody is
    to touch them tonight. gear: tonight; null: what they usually have. ready_before, ready_after:
    how ready they feel, 0 to 10, by their own word or the coach's. code: opens the evening for them
    on any phone, without an account; null: nobody has asked for one."""

    __tablename__ = "attendances"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "evening_id"], ["evenings.club_id", "evenings.id"]),
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        Index("ix_attendances_code", "code", unique=True),
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
    code: Mapped[str | None]


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


class _Kept:
    """What was sent from a device once and never changes. document: whole; at: its moment.
    coach_id: who sent it; null: one of those who train, from a phone."""

    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    evening_id: Mapped[uuid.UUID]
    document: Mapped[dict[str, Any]]
    at: Mapped[datetime]
    coach_id: Mapped[uuid.UUID | None]
    received_at: Mapped[datetime] = now()


class ClassAct(_Kept, Base):
    """What a coach did with the clock of a class, as `core.hall.class_clock.Act`."""

    __tablename__ = "class_acts"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "evening_id"], ["evenings.club_id", "evenings.id"]),
        Index("ix_class_acts_evening", "club_id", "evening_id"),
    )


class PairMark(_Kept, Base):
    """What a coach marked of a pair, as `core.hall.pair_mark.PairMark`."""

    __tablename__ = "pair_marks"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "evening_id"], ["evenings.club_id", "evenings.id"]),
        Index("ix_pair_marks_evening", "club_id", "evening_id"),
    )


class EveningTemplate(Base):
    """A plan that evenings are begun from. plan: as of an evening; its day says nothing."""

    __tablename__ = "evening_templates"
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    name: Mapped[str]
    plan: Mapped[dict[str, Any]]
    created_at: Mapped[datetime] = now()


class Incident(Base):
    """An entry in the book of incidents, which nobody deletes or changes. amends: the entry that it
    adds to; null: it is one of its own. students: the ids of who was in it. done: what was done
    about it. cleared_by: who cleared them, and when, in words. coach_id: who wrote it; null: the
    program did, from a mark."""

    __tablename__ = "incidents"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "amends"], ["incidents.club_id", "incidents.id"]),
        Index("ix_incidents_happened", "club_id", "happened_at"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    amends: Mapped[uuid.UUID | None]
    happened_at: Mapped[datetime]
    students: Mapped[list[Any]]
    what: Mapped[str]
    done: Mapped[str]
    cleared_by: Mapped[str]
    coach_id: Mapped[uuid.UUID | None]
    written_at: Mapped[datetime] = now()
