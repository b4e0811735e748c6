"""Who belongs to a club, signs in, and trains."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import (
    BigInteger,
    CheckConstraint,
    Double,
    ForeignKey,
    ForeignKeyConstraint,
    Identity,
    Index,
    LargeBinary,
    Text,
)
from sqlalchemy.orm import Mapped, mapped_column

from hastatus.core.drill.header import Level
from hastatus.core.hall.attendee import Consent
from hastatus.core.hall.readiness import Readiness
from hastatus.core.trade.contact import Contact
from hastatus.core.trade.technique import Stance
from hastatus.store.models.base import Base, now


class Club(Base):
    """A club: the owner of everything else. no_touch_until: until then nobody touches anybody.
    faults: its own, beside the trade's, each with its owner. film_days: how long a film's file is
    kept once its times are taken. film_blur: heads are blurred in it after a day."""

    __tablename__ = "clubs"
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    name: Mapped[str]
    created_at: Mapped[datetime] = now()
    no_touch_until: Mapped[datetime | None]
    faults: Mapped[list[Any]] = mapped_column(server_default="[]")
    film_days: Mapped[int] = mapped_column(server_default="1")
    film_blur: Mapped[bool] = mapped_column(server_default="false")


class Coach(Base):
    """Somebody who signs in. login: lower case, unique over all clubs. removed_at: they have left,
    and cannot sign in; what they did stays theirs. totp_secret: of the second factor (RFC 6238);
    totp_since: it is asked for since then, null: not yet. totp_step: the last one that was used, so
    that none is used twice. spare_codes: hashes of those that are left."""

    __tablename__ = "coaches"
    __table_args__ = (CheckConstraint("role IN ('owner', 'coach')", name="role"),)
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    login: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    role: Mapped[str]
    password_hash: Mapped[str]
    created_at: Mapped[datetime] = now()
    removed_at: Mapped[datetime | None]
    totp_secret: Mapped[str | None]
    totp_since: Mapped[datetime | None]
    totp_step: Mapped[int | None] = mapped_column(BigInteger)
    spare_codes: Mapped[list[str]] = mapped_column(server_default="[]")


class Invitation(Base):
    """A link by which somebody becomes a coach or, with `coach_id`, that coach sets a new password.
    Only a hash of its token is kept. name, role: of the coach."""

    __tablename__ = "invitations"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "coach_id"], ["coaches.club_id", "coaches.id"]),
        ForeignKeyConstraint(["club_id", "made_by"], ["coaches.club_id", "coaches.id"]),
        CheckConstraint("role IN ('owner', 'coach')", name="role"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    token_hash: Mapped[bytes] = mapped_column(LargeBinary, unique=True)
    name: Mapped[str]
    role: Mapped[str]
    coach_id: Mapped[uuid.UUID | None]
    made_by: Mapped[uuid.UUID]
    created_at: Mapped[datetime] = now()
    expires_at: Mapped[datetime]
    used_at: Mapped[datetime | None]
    revoked_at: Mapped[datetime | None]


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
    created_at: Mapped[datetime] = now()
    seen_at: Mapped[datetime] = now()
    expires_at: Mapped[datetime]
    revoked_at: Mapped[datetime | None]


class AuditEntry(Base):
    """Something that somebody did, for the log of who did what. coach_id: null: nobody who is
    signed in. what: the operation, by method and address; about: of the thing that it was done to;
    null: of none. request_id: of the request, as in the server's log."""

    __tablename__ = "audit_entries"
    __table_args__ = (
        ForeignKeyConstraint(["club_id", "coach_id"], ["coaches.club_id", "coaches.id"]),
        Index("ix_audit_entries_at", "club_id", "at"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[int] = mapped_column(BigInteger, Identity(), primary_key=True)
    at: Mapped[datetime] = now()
    coach_id: Mapped[uuid.UUID | None]
    what: Mapped[str]
    about: Mapped[uuid.UUID | None]
    request_id: Mapped[str]


class Attempt(Base):
    """A failed sign-in. subject: a hash of the login or of the address, never either in clear."""

    __tablename__ = "attempts"
    __table_args__ = (Index("ix_attempts_subject_at", "subject", "at"),)
    id: Mapped[int] = mapped_column(Identity(), primary_key=True)
    subject: Mapped[bytes] = mapped_column(LargeBinary)
    at: Mapped[datetime] = now()


class Student(Base):
    """Somebody who trains. stance: which hand is the lead hand.

    height_m, arm_m, leg_m: as measured (see `core.trade.limbs`). gear: what they have with them.
    contact: the hardest contact they may take part in. senses: what eyes or ears do not take in, in
    words; spares: what is to be spared, an injury. consent: of a guardian. readiness: their step of
    the ladder to contact. archived_at: out of every list since then; runs stay. deleted_at: not to
    be had any more, and gone for good after a while; archived, too. merged_into: the student whose
    runs and holds theirs have become; null: nobody's. merged: what they gave, by kind, as ids.
    """

    __tablename__ = "students"
    __table_args__ = (
        CheckConstraint("stance IN ('left_lead', 'right_lead')", name="stance"),
        CheckConstraint("contact IN ('none', 'touch', 'light', 'firm')", name="contact"),
        CheckConstraint("level IN ('new', 'settled', 'advanced')", name="level"),
        CheckConstraint("consent IN ('not_needed', 'needed', 'given')", name="consent"),
        CheckConstraint(
            "readiness IN ('distance', 'on_guard', 'blocks', 'light', 'free')", name="readiness"
        ),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    name: Mapped[str]
    stance: Mapped[Stance] = mapped_column(Text)
    notes: Mapped[str] = mapped_column(server_default="")
    height_m: Mapped[float | None] = mapped_column(Double)
    arm_m: Mapped[float | None] = mapped_column(Double)
    leg_m: Mapped[float | None] = mapped_column(Double)
    gear: Mapped[list[str]] = mapped_column(server_default="[]")
    contact: Mapped[Contact] = mapped_column(Text, server_default="touch")
    level: Mapped[Level] = mapped_column(Text, server_default="new")
    senses: Mapped[str] = mapped_column(server_default="")
    spares: Mapped[str] = mapped_column(server_default="")
    consent: Mapped[Consent] = mapped_column(Text, server_default="not_needed")
    readiness: Mapped[Readiness] = mapped_column(Text, server_default="free")
    archived_at: Mapped[datetime | None]
    deleted_at: Mapped[datetime | None]
    merged_into: Mapped[uuid.UUID | None]
    merged: Mapped[dict[str, Any] | None]
    created_at: Mapped[datetime] = now()


class Device(Base):
    """A tablet or computer that runs are played on, with what was measured on it."""

    __tablename__ = "devices"
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    profile: Mapped[dict[str, Any]]
    updated_at: Mapped[datetime] = now()
