"""Films of runs: where phones stand, what was filmed, and what was read of it."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Any

from sqlalchemy import BigInteger, CheckConstraint, Double, ForeignKey, ForeignKeyConstraint, Index
from sqlalchemy.orm import Mapped, mapped_column

from hastatus.store.models.base import Base, now


class CameraPlace(Base):
    """Where a phone stands that films. document: as `core.motion.zone.CameraPlace`. changed_at:
    when its zones were drawn last. removed_at: it is offered no more."""

    __tablename__ = "camera_places"
    club_id: Mapped[uuid.UUID] = mapped_column(ForeignKey("clubs.id"), primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    document: Mapped[dict[str, Any]]
    created_at: Mapped[datetime] = now()
    changed_at: Mapped[datetime] = now()
    removed_at: Mapped[datetime | None]


class Film(Base):
    """A film of a run, solo or partner, whose file is kept beside the database.

    run_id, partner_run_id: of which, the other is null. left_place: which partner stands left in
    the picture, from 0; null: of a solo run, or nobody has said. size: bytes that it has; received:
    how many of them are here. place_id: null: nobody has said where the phone stood. state: coming
    (its bytes), here, waiting (to be read), reading, read, refused. progress: how much of it is
    read, 0 to 1. said: why it is refused, or what is missing of it. facts, reading: as
    `film_io.film_file.FilmFacts`, and `core.film.reading.FilmReading` or
    `core.film.pair_reading.PairFilmReading`. blurred_at: heads are blurred in
    its file since then. file_gone_at: its file was deleted; removed_at: a coach has removed it.
    """

    __tablename__ = "films"
    __table_args__ = (
        CheckConstraint(
            "state IN ('coming', 'here', 'waiting', 'reading', 'read', 'refused')", name="state"
        ),
        CheckConstraint("(run_id IS NULL) <> (partner_run_id IS NULL)", name="run"),
        ForeignKeyConstraint(["club_id", "run_id"], ["runs.club_id", "runs.id"]),
        ForeignKeyConstraint(
            ["club_id", "partner_run_id"], ["partner_runs.club_id", "partner_runs.id"]
        ),
        ForeignKeyConstraint(
            ["club_id", "place_id"], ["camera_places.club_id", "camera_places.id"]
        ),
        ForeignKeyConstraint(["club_id", "made_by"], ["coaches.club_id", "coaches.id"]),
        Index("ix_films_run", "club_id", "run_id"),
        Index("ix_films_pair", "club_id", "partner_run_id"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    run_id: Mapped[uuid.UUID | None]
    partner_run_id: Mapped[uuid.UUID | None]
    left_place: Mapped[int | None]
    name: Mapped[str]
    size: Mapped[int] = mapped_column(BigInteger)
    received: Mapped[int] = mapped_column(BigInteger, server_default="0")
    place_id: Mapped[uuid.UUID | None]
    state: Mapped[str] = mapped_column(server_default="coming")
    progress: Mapped[float] = mapped_column(Double, server_default="0")
    said: Mapped[str] = mapped_column(server_default="")
    facts: Mapped[dict[str, Any] | None]
    reading: Mapped[dict[str, Any] | None]
    made_by: Mapped[uuid.UUID]
    created_at: Mapped[datetime] = now()
    read_at: Mapped[datetime | None]
    blurred_at: Mapped[datetime | None]
    file_gone_at: Mapped[datetime | None]
    removed_at: Mapped[datetime | None]


class FilmCorrection(Base):
    """What a coach has corrected in a film's reading. document: as
    `core.film.correction.OnsetCorrection`. taken_back_at: it counts no more."""

    __tablename__ = "film_corrections"
    __table_args__ = (
        ForeignKeyConstraint(
            ["club_id", "film_id"], ["films.club_id", "films.id"], ondelete="CASCADE"
        ),
        ForeignKeyConstraint(["club_id", "made_by"], ["coaches.club_id", "coaches.id"]),
        Index("ix_film_corrections_film", "club_id", "film_id"),
    )
    club_id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    id: Mapped[uuid.UUID] = mapped_column(primary_key=True)
    film_id: Mapped[uuid.UUID]
    document: Mapped[dict[str, Any]]
    made_by: Mapped[uuid.UUID]
    created_at: Mapped[datetime] = now()
    taken_back_at: Mapped[datetime | None]
