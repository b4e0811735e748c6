"""Tables. A club owns everything, so every key starts with `club_id`.

Documents (drills, plans, batches) are JSONB with their schema version. Times are UTC.
"""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import (
    CheckConstraint,
    DateTime,
    Double,
    ForeignKey,
    ForeignKeyConstraint,
    Identity,
    Index,
    Integer,
    LargeBinary,
    MetaData,
    Text,
    func,
    text,
)
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Base(DeclarativeBase):
    """Base of all tables, with constraint names that migrations can rely on."""

    metadata = MetaData(
        naming_convention={
            "ix": "ix_%(column_0_N_label)s",
            "uq": "uq_%(table_name)s_%(column_0_N_name)s",
            "ck": "ck_%(table_name)s_%(constraint_name)s",
            "fk": "fk_%(table_name)s_%(column_0_N_name)s",
            "pk": "pk_%(table_name)s",
        }
    )
    type_annotation_map = {  # noqa: RUF012
        datetime: DateTime(timezone=True),
        dict[str, Any]: JSONB,
        list[str]: JSONB,
        list[Any]: JSONB,
        str: Text,
    }


def _now() -> Mapped[datetime]:
    return mapped_column(server_default=func.now())


class Club(Base):
    """A club: the owner of everything else."""

    __tablename__ = "clubs"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    name: Mapped[str]
    created_at: Mapped[datetime] = _now()


class Coach(Base):
    """Somebody who signs in. login: lower case, unique over all clubs."""

    __tablename__ = "coaches"
    __table_args__ = (CheckConstraint("role IN ('owner', 'coach')", name="role"),)
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    login: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    role: Mapped[str]
    password_hash: Mapped[str]
    created_at: Mapped[datetime] = _now()


class SignIn(Base):
    """A sign-in session. Only a hash of its token is kept, so a copy of the table opens nothing."""

    __tablename__ = "sign_ins"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "coach_id"], ["coaches.club_id", "coaches.id"]),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    coach_id: Mapped[uuid.UUID]
    token_hash: Mapped[bytes] = mapped_column(LargeBinary, unique=True)
    device: Mapped[str]
    created_at: Mapped[datetime] = _now()
    seen_at: Mapped[datetime] = _now()
    expires_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]


class Attempt(Base):
    """A failed sign-in. subject: a hash of the login or of the address, never either in clear."""

    __tablename__ = "attempts"
    __table_args__ = (Index("ix_attempts_subject_at", "subject", "at"),)
    id: Mapped[int] = mapped_column(Identity(), primary_key=True)
    subject: Mapped[bytes] = mapped_column(LargeBinary)
    at: Mapped[datetime] = _now()


class Student(Base):
    """Somebody who trains. stance: which hand is the lead hand."""

    __tablename__ = "students"
    __table_args__ = (CheckConstraint("stance IN ('left_lead', 'right_lead')", name="stance"),)
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    name: Mapped[str]
    stance: Mapped[str]
    notes: Mapped[str] = mapped_column(server_default="")
    created_at: Mapped[datetime] = _now()


class ClubWords(Base):
    """How a club names techniques: a label pack, and renames over it, by key."""

    __tablename__ = "club_words"
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    pack: Mapped[str] = mapped_column(server_default="plain")
    renames: Mapped[dict[str, Any]] = mapped_column(server_default="{}")


class ClubTechnique(Base):
    """A technique of the club's own. removed_at: no longer offered; drills keep their copy."""

    __tablename__ = "club_techniques"
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    key: Mapped[str] = mapped_column(primary_key=True)
    document: Mapped[dict[str, Any]]
    removed_at: Mapped[datetime | None]


class Asset(Base):
    """A recording, a picture or a clip, by the SHA-256 of its bytes.

    length_s: of what sounds. Recordings are kept as 48 kHz WAV whose first sample is their onset.
    """

    __tablename__ = "assets"
    __table_args__ = (CheckConstraint("kind IN ('sound', 'picture', 'clip')", name="kind"),)
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[str] = mapped_column(primary_key=True)
    kind: Mapped[str]
    media_type: Mapped[str]
    data: Mapped[bytes] = mapped_column(LargeBinary)
    length_s: Mapped[float | None] = mapped_column(Double)
    created_at: Mapped[datetime] = _now()


class TechniqueNote(Base):
    """How a technique is shown: the right way, the usual fault, and a picture or clip."""

    __tablename__ = "technique_notes"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "asset_id"], ["assets.club_id", "assets.id"]),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    technique: Mapped[str] = mapped_column(primary_key=True)
    right_way: Mapped[str] = mapped_column(server_default="")
    usual_fault: Mapped[str] = mapped_column(server_default="")
    asset_id: Mapped[str | None]


class Device(Base):
    """A tablet or computer that runs are played on, with what was measured on it."""

    __tablename__ = "devices"
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    profile: Mapped[dict[str, Any]]
    updated_at: Mapped[datetime] = _now()


class SpokenClip(Base):
    """A rendered call. digest: of words, voice, speed and engine. Derived: it can be made again."""

    __tablename__ = "spoken_clips"
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    digest: Mapped[str] = mapped_column(primary_key=True)
    data: Mapped[bytes] = mapped_column(LargeBinary)
    length_s: Mapped[float] = mapped_column(Double)


class Drill(Base):
    """A drill: a name for its versions. version: the newest. archived_at: put away, not gone."""

    __tablename__ = "drills"
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    version: Mapped[int] = mapped_column(Integer)
    tags: Mapped[list[str]] = mapped_column(server_default="[]")
    archived_at: Mapped[datetime | None]
    # Not now(): a club's first drills come in one transaction and keep their order.
    created_at: Mapped[datetime] = mapped_column(server_default=func.clock_timestamp())


class DrillVersion(Base):
    """A drill document. Never changed: a trigger in the database refuses it."""

    __tablename__ = "drill_versions"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "drill_id"], ["drills.club_id", "drills.id"]),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    drill_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    schema_version: Mapped[int]
    document: Mapped[dict[str, Any]]
    created_at: Mapped[datetime] = _now()


IS_TEST = "jsonb_typeof(figures -> 'baseline') = 'object'"
"""Whether a run was a five-minute test, in the words of the index that finds them."""


class Run(Base):
    """One student doing one drill version once.

    recorder: the one player that may post events. closed_at: somebody ended it by hand.
    figures: summary and evidence of the last scoring, for lists. simulated: its answers came from
    the pad kit's stand-in, so it says nothing of the student.
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
    started_at: Mapped[datetime] = _now()
    closed_at: Mapped[datetime | None]
    scoring_version: Mapped[int | None]
    simulated: Mapped[bool] = mapped_column(server_default="false")
    figures: Mapped[dict[str, Any] | None]


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
    received_at: Mapped[datetime] = _now()


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
    updated_at: Mapped[datetime] = _now()


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
    at: Mapped[datetime] = _now()
