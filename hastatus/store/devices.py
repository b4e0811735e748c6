"""Devices and what was measured on them."""

from __future__ import annotations

import uuid

from sqlalchemy import func
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.core.run.device_profile import Profile
from hastatus.store.models import Device


def profile(db: Session, club_id: uuid.UUID, device_id: uuid.UUID) -> Profile:
    """What is known of a device; a bare profile where nothing is."""
    row = db.get(Device, (club_id, device_id))
    return Profile.model_validate(row.profile) if row else Profile()


def keep(db: Session, club_id: uuid.UUID, device_id: uuid.UUID, profile: Profile) -> None:
    """Keep what is known of a device."""
    values = {"profile": profile.model_dump(mode="json"), "updated_at": func.now()}
    db.execute(
        insert(Device)
        .values(club_id=club_id, id=device_id, **values)
        .on_conflict_do_update(index_elements=["club_id", "id"], set_=values)
    )
