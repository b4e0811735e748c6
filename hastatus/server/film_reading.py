"""Reading a film that waits, and keeping what it tells."""

from __future__ import annotations

import time
import uuid
from datetime import UTC, datetime

from sqlalchemy import Engine, update
from sqlalchemy.orm import Session

from hastatus.core.drill.solo import Drill
from hastatus.core.film.heard_signals import rises_of
from hastatus.core.film.heard_sounds import Rises
from hastatus.core.film.reading import read_film
from hastatus.core.film.zone import CameraPlace
from hastatus.core.plan.round_signal import sounds_of_solo
from hastatus.core.plan.run_plan import RunPlan
from hastatus.film_io.film_file import FACTS, BadFilm, read_film_file
from hastatus.sound_io.speech import NoSpeech
from hastatus.store import assets, club_catalogue, films, runs
from hastatus.store.database import transaction
from hastatus.store.models import Film, Run

_SAY_EVERY_S = 1.0


def read_one(engine: Engine, folder: films.Folder, club_id: uuid.UUID, film_id: uuid.UUID) -> None:
    """Read a film that waits, and keep what it tells. What is wrong with it is kept, too."""
    with transaction(engine) as db:
        film = films.find(db, club_id, film_id)
        if film is None or film.state not in ("waiting", "reading") or film.place_id is None:
            return
        film.state = "reading"
        row = films.place(db, club_id, film.place_id)
        assert row is not None, "a place is never removed for good"
        place = CameraPlace.model_validate(row.document)
    progress = _Progress(engine, club_id, film_id)
    try:
        shown, facts = read_film_file(folder.file(club_id, film_id), place.zones, progress.say)
    except (BadFilm, FileNotFoundError) as error:
        said = str(error) if isinstance(error, BadFilm) else "its file is gone; film it again"
        _keep(engine, club_id, film_id, state="refused", said=said)
        return
    with transaction(engine) as db:
        film = films.find(db, club_id, film_id)
        if film is None:
            return  # its run was removed for good meanwhile
        setup = runs.setup_of(db, db.get_one(Run, (club_id, film.run_id)))
        batches = runs.batches_of(db, club_id, film.run_id)
        rises = _rises(db, club_id, setup.drill, setup.plan)
    reading = read_film(setup.drill, setup.plan, batches, place, shown, rises)
    missing = f"its last {facts.missing_s:.0f} s cannot be read" if facts.missing_s else ""
    _keep(
        engine,
        club_id,
        film_id,
        state="refused" if reading.refusal else "read",
        said=reading.refused or missing,
        facts=FACTS.dump_python(facts, mode="json"),
        reading=None if reading.refusal else reading.model_dump(mode="json"),
    )


class _Progress:
    """Says how much of a film is read, about once a second, in transactions of its own."""

    def __init__(self, engine: Engine, club_id: uuid.UUID, film_id: uuid.UUID) -> None:
        self._engine, self._key = engine, (club_id, film_id)
        self._said = time.monotonic()

    def say(self, share: float) -> None:
        if time.monotonic() < self._said + _SAY_EVERY_S:
            return
        self._said = time.monotonic()
        _set(self._engine, *self._key, progress=share)


def _set(engine: Engine, club_id: uuid.UUID, film_id: uuid.UUID, **values: object) -> None:
    one = (Film.club_id == club_id, Film.id == film_id, Film.state == "reading")
    with transaction(engine) as db:
        db.execute(update(Film).where(*one).values(**values))


def _keep(engine: Engine, club_id: uuid.UUID, film_id: uuid.UUID, **values: object) -> None:
    """What came of a film; nothing where somebody has said meanwhile to read it anew."""
    _set(engine, club_id, film_id, progress=1.0, read_at=datetime.now(UTC), **values)


def _rises(db: Session, club_id: uuid.UUID, drill: Drill, plan: RunPlan) -> dict[str, Rises]:
    """Each sound of a run as it rises. One that cannot be made any more is not looked for."""
    labels = drill.labels(club_catalogue.labels(db, club_id))
    rises = {}
    for clip in sounds_of_solo(drill, plan, labels):
        try:
            samples = assets.samples(db, club_id, clip, drill.voice)
        except NoSpeech:
            continue
        if samples is not None:
            rises[clip.name] = rises_of(clip.name, samples)
    return rises
