"""Recordings, pictures and clips, and the spoken calls that have been rendered."""

from __future__ import annotations

import uuid

from sqlalchemy import delete, func, select
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.core.drill.header import Voice
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound import named
from hastatus.core.sound.tones import Samples
from hastatus.sound_io import speech
from hastatus.sound_io.clip import decoded
from hastatus.sound_io.upload import Upload
from hastatus.store.models import Asset, SpokenClip

MOST_ASSETS = 2000
MOST_BYTES = 2 * 2**30
"""What one club may keep of recordings, pictures and clips."""
MOST_SPOKEN_S = 1800.0
"""What one club has rendered of calls, at 96 kB a second. Beyond it they are made again."""


class Full(RuntimeError):
    """The club keeps as much as it may; the message says how much."""


def keep(db: Session, club_id: uuid.UUID, upload: Upload) -> Asset:
    """Keep an upload; the same bytes again are the same asset. `Full` beyond what a club may."""
    sizes = select(func.count(), func.coalesce(func.sum(func.octet_length(Asset.data)), 0))
    count, size = db.execute(sizes.where(Asset.club_id == club_id)).one()
    if count >= MOST_ASSETS or size + len(upload.data) > MOST_BYTES:
        known = db.get(Asset, (club_id, upload.id))
        if known is None:
            raise Full(
                f"this club keeps {count} recordings, pictures and clips with "
                f"{size / 2**20:.0f} MB; {MOST_ASSETS} with {MOST_BYTES // 2**20} MB are the most"
            )
        return known
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
    rendered = select(func.coalesce(func.sum(SpokenClip.length_s), 0))
    if db.execute(rendered.where(SpokenClip.club_id == club_id)).scalar_one() > MOST_SPOKEN_S:
        db.execute(delete(SpokenClip).where(SpokenClip.club_id == club_id))
    db.execute(
        insert(SpokenClip)
        .values(club_id=club_id, digest=digest, data=data, length_s=speech.length_s(data))
        .on_conflict_do_nothing()
    )
    return data


def samples(db: Session, club_id: uuid.UUID, clip: Clip, voice: Voice) -> Samples | None:
    """The samples of a sound at `tones.RATE`; None for a recording that the club does not have.
    Raises `speech.NoSpeech`."""
    if clip.source == "tone":
        return named.samples(clip.what)
    if clip.source == "spoken":
        return decoded(spoken(db, club_id, clip.what, voice))
    kept = find(db, club_id, clip.what)
    return decoded(kept.data) if kept else None
