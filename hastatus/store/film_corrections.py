"""What coaches have corrected in the readings of films."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from datetime import UTC, datetime

from sqlalchemy import select
from sqlalchemy.orm import Session

from hastatus.core.film.correction import OnsetCorrection
from hastatus.store.models import Film, FilmCorrection

MOST = 500
"""Of one film."""


def keep(
    db: Session,
    film: Film,
    correction_id: uuid.UUID,
    correction: OnsetCorrection,
    made_by: uuid.UUID,
) -> None:
    """Keep a correction; the same again changes nothing."""
    if find(db, film.club_id, correction_id) is not None:
        return
    db.add(
        FilmCorrection(
            club_id=film.club_id,
            id=correction_id,
            film_id=film.id,
            document=correction.model_dump(mode="json"),
            made_by=made_by,
            created_at=datetime.now(UTC),
        )
    )
    db.flush()


def find(db: Session, club_id: uuid.UUID, correction_id: uuid.UUID) -> FilmCorrection | None:
    """One of the club's corrections."""
    return db.get(FilmCorrection, (club_id, correction_id))


def of_film(db: Session, film: Film) -> Sequence[FilmCorrection]:
    """Those of a film that count, the oldest first."""
    query = select(FilmCorrection).where(
        FilmCorrection.club_id == film.club_id,
        FilmCorrection.film_id == film.id,
        FilmCorrection.taken_back_at.is_(None),
    )
    return db.scalars(query.order_by(FilmCorrection.created_at, FilmCorrection.id)).all()
