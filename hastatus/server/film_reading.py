"""Reading a film that waits, and keeping what it tells."""

from __future__ import annotations

import time
import uuid
from collections.abc import Callable
from datetime import UTC, datetime

from sqlalchemy import Engine, update
from sqlalchemy.orm import Session

from hastatus.core.drill.solo import Drill
from hastatus.core.film.heard_signals import rises_of
from hastatus.core.film.heard_sounds import Rises
from hastatus.core.film.line_up import REFUSAL_NAMES
from hastatus.core.film.pair_reading import PairFilmReading, read_pair_film
from hastatus.core.film.pair_sounds import PairRun, signal_rises
from hastatus.core.film.reading import FilmReading, read_film
from hastatus.core.film.scene import Film as Filmed
from hastatus.core.motion.zone import CameraPlace
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.round_signal import sounds_of_solo
from hastatus.core.plan.run_plan import RunPlan
from hastatus.film_io.film_file import FACTS, BadFilm, read_film_file
from hastatus.sound_io.speech import NoSpeech
from hastatus.store import assets, club_catalogue, films, partner_runs, runs
from hastatus.store.database import transaction
from hastatus.store.models import Film, PartnerRun, Run

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
        read = _reader(db, film)
    reading = read(place, shown)
    missing = f"its last {facts.missing_s:.0f} s cannot be read" if facts.missing_s else ""
    _keep(
        engine,
        club_id,
        film_id,
        state="refused" if reading.refusal else "read",
        said=REFUSAL_NAMES[reading.refusal] if reading.refusal else missing,
        facts=FACTS.dump_python(facts, mode="json"),
        reading=None if reading.refusal else reading.model_dump(mode="json"),
    )


Reading = FilmReading | PairFilmReading


def _reader(db: Session, film: Film) -> Callable[[CameraPlace, Filmed], Reading]:
    """What reads the film of a run, solo or partner."""
    if film.run_id is not None:
        setup = runs.setup_of(db, db.get_one(Run, (film.club_id, film.run_id)))
        batches = runs.batches_of(db, film.club_id, film.run_id)
        rises = _rises(db, film.club_id, setup.drill, setup.plan)
        return lambda place, shown: read_film(setup.drill, setup.plan, batches, place, shown, rises)
    run = db.get_one(PartnerRun, (film.club_id, film.partner_run_id))
    marks = [
        mark for batch in partner_runs.batches_of(db, film.club_id, run.id) for mark in batch.marks
    ]
    pair = PairRun(
        partner_runs.drill_of(db, run),
        FeedSheet.model_validate(run.sheet),
        marks,
        film.left_place or 0,
    )
    return lambda place, shown: read_pair_film(pair, place, shown, signal_rises(pair))


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
