"""Cue sounds, spoken calls and uploads."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.http.query import Query
from hastatus.core.drill.cue import AssetId, SoundName, Words
from hastatus.core.drill.header import Language
from hastatus.core.sound import named, signal_code


class SoundPath(BaseModel):
    """name: of a cue sound, or of a signal that begins or ends a round."""

    name: SoundName | Annotated[str, Field(pattern=f"^{named.SIGNAL}{signal_code.PATTERN}$")]


class AssetPath(BaseModel):
    asset_id: AssetId


class AssetView(BaseModel):
    id: str
    kind: Literal["sound", "picture", "clip"]
    media_type: str
    length_s: float | None
    created_at: datetime


class SpokenQuery(Query):
    """A call to be spoken."""

    words: Words
    language: Language = "en-gb"
    words_a_minute: Annotated[int, Field(ge=80, le=320)] = 170
