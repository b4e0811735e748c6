"""Partner runs, the marks made in them, and head knocks that hold contact work."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import ForeignKeyConstraint, Index, LargeBinary
from sqlalchemy.orm import Mapped, mapped_column

from hastatus.store.models.base import Base, now


class PartnerRun(Base):
    """Two or three students doing one partner drill version once.

    partners: their ids, in the order of the feed sheet. sheet: the feed sheet, kept with the run.
    agreement: contact and stop word. recorder: the one device that may post marks. closed_at: when
    the last batch was in, and all before it. figures: what the marks amount to for each
    (`core.read.partner_figures`); null: not worked out yet, or not closed. stands, stands_at: where
    the round stood when the mat last said so, for the feeder's screen on another device.
    archived_at, deleted_at, away_by: as of a `Run`.
    """

    __tablename__ = "partner_runs"
    __table_args__ = (
        ForeignKeyConstraint(
            ["club_id", "drill_id", "version"],
            ["drill_versions.club_id", "drill_versions.drill_id", "drill_versions.number"],
        ),
        ForeignKeyConstraint(["club_id", "coach_id"], ["coaches.club_id", "coaches.id"]),
        Index("ix_partner_runs_started", "club_id", "started_at"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    drill_id: Mapped[uuid.UUID]
    version: Mapped[int]
    coach_id: Mapped[uuid.UUID]
    recorder: Mapped[uuid.UUID]
    rung: Mapped[int]
    sheet: Mapped[dict[str, Any]]
    agreement: Mapped[dict[str, Any]]
    figures: Mapped[dict[str, Any] | None]
    stands: Mapped[dict[str, Any] | None]
    stands_at: Mapped[datetime | None]
    started_at: Mapped[datetime] = now()
    closed_at: Mapped[datetime | None]
    archived_at: Mapped[datetime | None]
    deleted_at: Mapped[datetime | None]
    away_by: Mapped[uuid.UUID | None]


class PartnerRunStudent(Base):
    """Who takes part in a partner run. place: on the feed sheet, from 0."""

    __tablename__ = "partner_run_students"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "run_id"], ["partner_runs.club_id", "partner_runs.id"]),
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        Index("ix_partner_run_students_student", "club_id", "student_id"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    place: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    student_id: Mapped[uuid.UUID]


class MarkBatch(Base):
    """A batch of marks as it came. Append-only."""

    __tablename__ = "mark_batches"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "run_id"], ["partner_runs.club_id", "partner_runs.id"]),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    payload_hash: Mapped[bytes] = mapped_column(LargeBinary)
    mark_version: Mapped[int]
    body: Mapped[dict[str, Any]]
    received_at: Mapped[datetime] = now()


class MarkFold(Base):
    """Folded state of a partner run, locked while a batch is folded.

    Apart from `partner_runs`, so that a write every second does not rewrite the feed sheet. state:
    null where the run is older than this table; folded anew with its next batch. highest: newest
    batch number received. marks: how many have come.
    """

    __tablename__ = "mark_folds"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "run_id"], ["partner_runs.club_id", "partner_runs.id"]),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    state: Mapped[dict[str, Any] | None]
    highest: Mapped[int] = mapped_column(server_default="-1")
    marks: Mapped[int] = mapped_column(server_default="0")


class PartnerResult(Base):
    """What the marks of a closed partner run amount to (`core.loop.partner_results`).

    Derived: it can be made again from the batches. body: its JSON, as text: that of a long run is
    read from a text in half the time that it takes from JSONB.
    """

    __tablename__ = "partner_results"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "run_id"], ["partner_runs.club_id", "partner_runs.id"]),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    body: Mapped[str]


class HeadKnock(Base):
    """A head knock. It holds contact work until a medical clearance is written down.

    clearance: who cleared it and when, in the coach's words. cleared_by: the coach who wrote it.
    taken_back_at: it was a slip of the finger, taken back soon after; it holds nobody.
    """

    __tablename__ = "head_knocks"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "student_id"], ["students.club_id", "students.id"]),
        ForeignKeyConstraint(["club_id", "cleared_by"], ["coaches.club_id", "coaches.id"]),
        Index("ix_head_knocks_student", "club_id", "student_id"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    student_id: Mapped[uuid.UUID]
    run_id: Mapped[uuid.UUID | None]
    at: Mapped[datetime] = now()
    clearance: Mapped[str | None]
    cleared_at: Mapped[datetime | None]
    cleared_by: Mapped[uuid.UUID | None]
    taken_back_at: Mapped[datetime | None]
