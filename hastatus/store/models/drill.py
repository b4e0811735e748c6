"""Drills, and the words, techniques and recordings they use."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import (
    CheckConstraint,
    Double,
    ForeignKey,
    ForeignKeyConstraint,
    Integer,
    LargeBinary,
    func,
)
from sqlalchemy.orm import Mapped, mapped_column

from hastatus.store.models.base import Base, now


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
    created_at: Mapped[datetime] = now()


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
    created_at: Mapped[datetime] = now()


class DrillOutline(Base):
    """A drill version in one line (`core.drill.outline`). Derived: it can be made again."""

    __tablename__ = "drill_outlines"
    __table_args__ = (
        ForeignKeyConstraint(
            ["club_id", "drill_id", "number"],
            ["drill_versions.club_id", "drill_versions.drill_id", "drill_versions.number"],
            ondelete="CASCADE",
        ),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    drill_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True, autoincrement=False)
    body: Mapped[dict[str, Any]]
