"""What is sent about films and camera places."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.http.query import Query
from hastatus.core.fields import Document, Line
from hastatus.core.film.correction import OnsetCorrection
from hastatus.core.film.pair_reading import PairFilmReading
from hastatus.core.film.reading import FilmReading
from hastatus.core.motion.zone import CameraPlace
from hastatus.film_io.film_file import MOST_BYTES, FilmFacts
from hastatus.store.films import MOST_DAYS

FilmState = Literal["coming", "here", "waiting", "reading", "read", "refused"]


class CameraPlacePath(BaseModel):
    place_id: uuid.UUID


class CameraPlaceView(BaseModel):
    """Where a phone stands that films. changed_at: when its zones were drawn last."""

    id: uuid.UUID
    place: CameraPlace
    changed_at: datetime


class CameraPlaceList(BaseModel):
    places: list[CameraPlaceView]


class CameraPlaceRequest(Document):
    """A new place, or other zones of one."""

    place: CameraPlace


class CameraPlaceRemoval(Document):
    """Whether it is offered no more."""

    removed: bool


class FilmedRunPath(BaseModel):
    run_id: uuid.UUID


class FilmedPairPath(BaseModel):
    partner_run_id: uuid.UUID


class FilmPath(BaseModel):
    film_id: uuid.UUID


class StillQuery(Query):
    """at_s: which moment of the film."""

    at_s: Annotated[float, Field(ge=0, le=1800, allow_inf_nan=False)] = 0.0


class PieceQuery(Query):
    """from_byte: where in the file the piece belongs."""

    from_byte: Annotated[int, Field(ge=0, le=MOST_BYTES)] = 0


class FilmRequest(Document):
    """A film that is going to be sent. id: made by whoever sends it. place_id: where the phone
    stood, where that is known."""

    id: uuid.UUID
    name: Line
    size: Annotated[int, Field(gt=0, le=MOST_BYTES)]
    place_id: uuid.UUID | None = None


class FilmPlaceRequest(Document):
    """Where the phone stood: the film is read, anew where it was read before. left_place: which
    partner stands left in the picture, from 0; of a partner run alone."""

    place_id: uuid.UUID
    left_place: Annotated[int, Field(ge=0, le=1)] | None = None


class FilmRemoval(Document):
    """Whether a film is removed; its file can be brought back for a day."""

    removed: bool


class FilmView(BaseModel):
    """A film of a run, solo or partner.

    left_place: which partner stands left in the picture. received: bytes that are here, of size.
    progress: how much is read, 0 to 1. said: why it is refused, or what is missing of it. has_file:
    it can be looked at. blurred: heads are blurred in it, so that it cannot be read again.
    """

    id: uuid.UUID
    run_id: uuid.UUID | None
    partner_run_id: uuid.UUID | None
    left_place: int | None
    name: str
    size: int
    received: int
    place_id: uuid.UUID | None
    state: FilmState
    progress: float
    said: str
    facts: FilmFacts | None
    created_at: datetime
    read_at: datetime | None
    has_file: bool
    blurred: bool


class FilmList(BaseModel):
    """kept_days: how long the club keeps a film's file once its times are taken."""

    films: list[FilmView]
    kept_days: int


class FilmDays(Document):
    """How long the club keeps a film's file once its times are taken. blur: from the second day on
    heads are blurred in it; nothing brings them back."""

    days: Annotated[int, Field(ge=1, le=MOST_DAYS)]
    blur: bool = False


class CorrectionPath(BaseModel):
    film_id: uuid.UUID
    correction_id: uuid.UUID


class CorrectionRequest(Document):
    """A correction. id: made by whoever sends it."""

    id: uuid.UUID
    correction: OnsetCorrection


class CorrectionRemoval(Document):
    """Whether a correction counts no more."""

    taken_back: bool


class CorrectionView(BaseModel):
    """A correction that counts. coach: who made it."""

    id: uuid.UUID
    correction: OnsetCorrection
    coach: str
    created_at: datetime


class FilmReadView(BaseModel):
    """A film with what it tells of a solo run, or of a pair, corrections laid over; None: it is not
    read, or tells nothing. medians: of a solo run, a sentence for each part that answers."""

    film: FilmView
    reading: FilmReading | None = None
    pair: PairFilmReading | None = None
    corrections: list[CorrectionView] = []
    medians: list[str] = []
