"""Recordings, pictures and clips, and the spoken calls that have been rendered."""

from __future__ import annotations

import uuid

from sqlalchemy import select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.audio import speech
from hastatus.audio.upload import Upload
from hastatus.core.sheet import Voice
from hastatus.store.models import Asset, SpokenClip


def keep(db: Session, club_id: uuid.UUID, upload: Upload) -> Asset:
    """Keep an upload; the same bytes again are the same asset."""
    values = {
        "kind": upload.kind,
        "media_type": upload.media_type,
        "data": upload.data,
        "length_s": upload.length_s,
    }
    db.execute(
        insert(Asset).values(club_id=club_id, id=upload.id, **values).on_conflict_do_nothing()
    )
    return db.get_one(Asset, (club_id, upload.id))


def find(db: Session, club_id: uuid.UUID, asset_id: str) -> Asset | None:
    """The club's asset with this id."""
    return db.get(Asset, (club_id, asset_id))


def missing(db: Session, club_id: uuid.UUID, ids: set[str]) -> set[str]:
    """Which of these assets the club does not have."""
    have = db.scalars(select(Asset.id).where(Asset.club_id == club_id, Asset.id.in_(ids)))
    return ids - set(have)


def spoken(db: Session, club_id: uuid.UUID, words: str, voice: Voice) -> bytes:
    """A WAV of a spoken call, rendered once and then kept. Raises `speech.NoSpeech`."""
    digest = speech.digest(words, voice)
    kept = db.get(SpokenClip, (club_id, digest))
    if kept is not None:
        return kept.data
    data = speech.speak(words, voice)
    db.execute(
        insert(SpokenClip)
        .values(club_id=club_id, digest=digest, data=data, length_s=speech.length_s(data))
        .on_conflict_do_nothing()
    )
    return data
