"""Runs, what came of them, and where a student stands."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import (
    CheckConstraint,
    ColumnElement,
    Double,
    ForeignKeyConstraint,
    Index,
    LargeBinary,
    and_,
    text,
)
from sqlalchemy.ext.hybrid import hybrid_property
from sqlalchemy.orm import Mapped, mapped_column

from hastatus.store.models.base import Base, now

IS_TEST = "jsonb_typeof(figures -> 'baseline') = 'object'"
"""Whether a run was a five-minute test, in the words of the index that finds them."""
IS_NO_TEST = f"({IS_TEST}) IS NOT TRUE"

IS_ANSWERED = "coalesce((figures #>> '{evidence,answered}')::integer, 0) > 0 OR figures IS NULL"
"""Whether a run had an answer, or is still open, in the words of the index that counts them."""


class Run(Base):
    """One student doing one drill version once.

    recorder: the one player that may post events. closed_at: somebody ended it by hand.
    figures: summary and evidence of the last scoring, for lists. simulated: its answers came from
    the pad kit's stand-in, so it says nothing of the student. faults: that the coach saw, each with
    how often. archived_at: out of every list and figure since then. deleted_at: not to be had any
    more, and gone for good after a day; archived, too. away_by: the coach who did that; null:
    nobody did, it ended without an answer.
    """

    __tablename__ = "runs"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        ForeignKeyConstraint(
            ["club_id", "drill_id", "version"],
            ["drill_versions.club_id", "drill_versions.drill_id", "drill_versions.number"],
        ),
        ForeignKeyConstraint(["club_id", "coach_id"], ["coaches.club_id", "coaches.id"]),
        Index("ix_runs_student", "club_id", "student_id", "started_at"),
        Index("ix_runs_started", "club_id", "started_at"),
        Index("ix_runs_drill", "club_id", "drill_id", "student_id", "started_at"),
        Index("ix_runs_answered", "club_id", "student_id", postgresql_where=text(IS_ANSWERED)),
        Index("ix_runs_tests", "club_id", "started_at", postgresql_where=text(IS_TEST)),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    student_id: Mapped[uuid.UUID]
    drill_id: Mapped[uuid.UUID]
    version: Mapped[int]
    coach_id: Mapped[uuid.UUID]
    recorder: Mapped[uuid.UUID]
    plan: Mapped[dict[str, Any]]
    device: Mapped[dict[str, Any]]
    rung: Mapped[int]
    started_at: Mapped[datetime] = now()
    closed_at: Mapped[datetime | None]
    scoring_version: Mapped[int | None]
    simulated: Mapped[bool] = mapped_column(server_default="false")
    figures: Mapped[dict[str, Any] | None]
    faults: Mapped[list[Any]] = mapped_column(server_default="[]")
    archived_at: Mapped[datetime | None]
    deleted_at: Mapped[datetime | None]
    away_by: Mapped[uuid.UUID | None]

    @hybrid_property
    def counts(self) -> bool:
        """Whether it says something of the student."""
        return not self.simulated and self.archived_at is None

    @counts.inplace.expression
    @classmethod
    def _counts(cls) -> ColumnElement[bool]:
        return and_(cls.simulated.is_(False), cls.archived_at.is_(None))


class RunFold(Base):
    """Folded state of a run, locked while a batch is folded. highest: newest batch number received.

    Apart from `runs`, so that a write every half second does not rewrite the plan.
    """

    __tablename__ = "run_folds"
    __table_args__ = (ForeignKeyConstraint(["club_id", "run_id"], ["runs.club_id", "runs.id"]),)
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    state: Mapped[dict[str, Any]]
    highest: Mapped[int] = mapped_column(server_default="-1")
    complete: Mapped[bool] = mapped_column(server_default="false")


class EventBatch(Base):
    """A batch as it came. Append-only."""

    __tablename__ = "event_batches"
    __table_args__ = (ForeignKeyConstraint(["club_id", "run_id"], ["runs.club_id", "runs.id"]),)
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    recorder: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    payload_hash: Mapped[bytes] = mapped_column(LargeBinary)
    event_version: Mapped[int]
    body: Mapped[dict[str, Any]]
    received_at: Mapped[datetime] = now()


class Response(Base):
    """What became of one cue. Derived: it can be made again from the batches."""

    __tablename__ = "responses"
    __table_args__ = (ForeignKeyConstraint(["club_id", "run_id"], ["runs.club_id", "runs.id"]),)
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    round: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    slot: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    cue: Mapped[str]
    channel: Mapped[str]
    asked_technique: Mapped[str | None]
    asked_side: Mapped[str | None]
    at_s: Mapped[float] = mapped_column(Double)
    onset_ms: Mapped[float] = mapped_column(Double)
    window_ms: Mapped[float] = mapped_column(Double)
    outcome: Mapped[str]
    time_ms: Mapped[float | None] = mapped_column(Double)
    censored_ms: Mapped[float | None] = mapped_column(Double)
    given_technique: Mapped[str | None]
    given_side: Mapped[str | None]
    gap_ms: Mapped[float | None] = mapped_column(Double)
    left_out: Mapped[str | None]
    revision: Mapped[int]
    source: Mapped[str]
    spread_ms: Mapped[float] = mapped_column(Double)
    timed_by: Mapped[str] = mapped_column(server_default="answer")
    offset_ms: Mapped[float] = mapped_column(Double, server_default="0")
    own_window: Mapped[bool] = mapped_column(server_default="false")
    steps: Mapped[list[Any]] = mapped_column(server_default="[]")
    timed_with: Mapped[str | None]
    reaction_ms: Mapped[float | None] = mapped_column(Double)
    home_ms: Mapped[float | None] = mapped_column(Double)
    holds: Mapped[list[Any]] = mapped_column(server_default="[]")
    before_ms: Mapped[float | None] = mapped_column(Double)


class LadderState(Base):
    """Where a student stands on a drill: what the next run starts with."""

    __tablename__ = "ladder_states"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        ForeignKeyConstraint(["club_id", "drill_id"], ["drills.club_id", "drills.id"]),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    student_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    drill_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    rung: Mapped[int]
    window_s: Mapped[float] = mapped_column(Double)
    updated_at: Mapped[datetime] = now()


class LadderChoice(Base):
    """A coach's decision about the ladder, beside what had been suggested. Append-only."""

    __tablename__ = "ladder_choices"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        ForeignKeyConstraint(["club_id", "drill_id"], ["drills.club_id", "drills.id"]),
        ForeignKeyConstraint(["club_id", "coach_id"], ["coaches.club_id", "coaches.id"]),
        CheckConstraint("kind IN ('taken', 'by_hand')", name="kind"),
        Index("ix_ladder_choices_student", "club_id", "student_id", "at"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    student_id: Mapped[uuid.UUID]
    drill_id: Mapped[uuid.UUID]
    coach_id: Mapped[uuid.UUID]
    kind: Mapped[str]
    rung: Mapped[int]
    window_s: Mapped[float] = mapped_column(Double)
    suggested: Mapped[dict[str, Any]]
    at: Mapped[datetime] = now()


class StudentStanding(Base):
    """What the runs of a student amount to (`core.adapt.notices`). Derived: it can be made again.

    mark: changes with any run of the student. drill_id, drill_version: what the notices are about,
    and the version that they hold for.
    """

    __tablename__ = "student_standings"
    __table_args__ = (
        ForeignKeyConstraint(
            ["club_id", "student_id"], ["students.club_id", "students.id"], ondelete="CASCADE"
        ),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    student_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    mark: Mapped[str]
    drill_id: Mapped[uuid.UUID | None]
    drill_version: Mapped[int | None]
    body: Mapped[dict[str, Any]]
