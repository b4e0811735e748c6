"""Practice at home: what is assigned, links, what is planned ahead, what was done."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import Any

from sqlalchemy import (
    CheckConstraint,
    Double,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    LargeBinary,
    Text,
)
from sqlalchemy.orm import Mapped, mapped_column

from hastatus.core.home.practice import HomeWord
from hastatus.store.models.base import Base, now


class Practice(Base):
    """What some students practise at home. document: as `core.home.practice.Practice`; ends_on: of
    it, to be found by. ended_at: a coach has ended it."""

    __tablename__ = "practices"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "coach_id"], ["coaches.club_id", "coaches.id"]),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    coach_id: Mapped[uuid.UUID]
    document: Mapped[dict[str, Any]]
    ends_on: Mapped[date]
    created_at: Mapped[datetime] = now()
    ended_at: Mapped[datetime | None]


class PracticeStudent(Base):
    """Somebody who has a practice. days: a week, of their own; null: as the practice has it.
    removed_at: they have it no more."""

    __tablename__ = "practice_students"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "practice_id"], ["practices.club_id", "practices.id"]),
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        Index("ix_practice_students_student", "club_id", "student_id"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    practice_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    student_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    days: Mapped[int | None]
    removed_at: Mapped[datetime | None]


class HomeLink(Base):
    """A link by which somebody practises on a phone, without an account. Only a hash of its token
    is kept. guardian, guardian_on: who allowed it for a minor, and when. sound_only: lights are
    left out, by the word of whoever has it. seen_at: last opened."""

    __tablename__ = "home_links"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        ForeignKeyConstraint(["club_id", "made_by"], ["coaches.club_id", "coaches.id"]),
        Index("ix_home_links_student", "club_id", "student_id"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    student_id: Mapped[uuid.UUID]
    token_hash: Mapped[bytes] = mapped_column(LargeBinary, unique=True)
    made_by: Mapped[uuid.UUID]
    guardian: Mapped[str] = mapped_column(server_default="")
    guardian_on: Mapped[date | None]
    sound_only: Mapped[bool] = mapped_column(server_default="false")
    created_at: Mapped[datetime] = now()
    expires_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]
    seen_at: Mapped[datetime | None]


class PlannedRun(Base):
    """A run planned ahead for somebody's phone. number: of the practice, from 1; position: in its
    order. asked: rounds that the practice asks for; reason: why there are others. plan: as
    `core.plan.run_plan.RunPlan`; beside it what it was made from, to see whether that still holds:
    the drill's version, rung and window."""

    __tablename__ = "planned_runs"
    __table_args__ = (
        ForeignKeyConstraint(
            ["club_id", "practice_id", "student_id"],
            [
                "practice_students.club_id",
                "practice_students.practice_id",
                "practice_students.student_id",
            ],
        ),
        ForeignKeyConstraint(
            ["club_id", "drill_id", "version"],
            ["drill_versions.club_id", "drill_versions.drill_id", "drill_versions.number"],
        ),
        Index("ix_planned_runs_number", "club_id", "student_id", "practice_id", "number"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    practice_id: Mapped[uuid.UUID]
    student_id: Mapped[uuid.UUID]
    number: Mapped[int]
    position: Mapped[int]
    drill_id: Mapped[uuid.UUID]
    version: Mapped[int]
    rung: Mapped[int]
    window_s: Mapped[float] = mapped_column(Double)
    rounds: Mapped[int]
    asked: Mapped[int]
    reason: Mapped[str] = mapped_column(server_default="")
    plan: Mapped[dict[str, Any]]
    created_at: Mapped[datetime] = now()


class HomeRun(Base):
    """A planned run that was begun on a phone. id: made there; the run of the same id has its
    answers where it was measured. rounds: done so far. said: what it was like. finished: to its
    end."""

    __tablename__ = "home_runs"
    __table_args__ = (
        ForeignKeyConstraint(
            ["club_id", "planned_id"], ["planned_runs.club_id", "planned_runs.id"]
        ),
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        ForeignKeyConstraint(["club_id", "link_id"], ["home_links.club_id", "home_links.id"]),
        CheckConstraint("said IN ('too_easy', 'right', 'too_hard')", name="said"),
        Index("ix_home_runs_student", "club_id", "student_id", "started_at"),
        Index("ix_home_runs_planned", "club_id", "planned_id"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    planned_id: Mapped[uuid.UUID]
    student_id: Mapped[uuid.UUID]
    link_id: Mapped[uuid.UUID]
    measured: Mapped[bool]
    started_at: Mapped[datetime]
    rounds: Mapped[int] = mapped_column(server_default="0")
    said: Mapped[HomeWord | None] = mapped_column(Text)
    finished: Mapped[bool] = mapped_column(server_default="false")
