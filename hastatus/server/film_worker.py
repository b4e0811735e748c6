"""The process that reads the films that wait, one after the other, and ends when none is left.

`python -m hastatus.server.film_worker LOG`, with the database and the folder of films in its
environment.
"""

from __future__ import annotations

import logging
import os
import sys
import uuid
from datetime import UTC, datetime
from pathlib import Path

import procrastinate
from procrastinate.jobs import Status
from sqlalchemy import Connection, Engine, text
from sqlalchemy.orm import Session

from hastatus.core.motion.zone import CameraPlace, Zone
from hastatus.film_io.film_file import BadFilm
from hastatus.film_io.head_blur import blur_heads
from hastatus.server import logs
from hastatus.server.film_reading import read_one
from hastatus.store import film_queue, films
from hastatus.store.database import URL_VARIABLE, make_engine, transaction
from hastatus.store.models import Film

log = logging.getLogger("hastatus.films")

_ONE_AT_A_TIME = 4_217_300_121
FAILED = "it could not be read; the server’s log says more. Try it again, or film it anew"


def work(engine: Engine, folder: films.Folder) -> bool:
    """Read what waits, then delete the files whose time is over. False: another process does."""
    with engine.connect() as connection:
        if not _alone(connection):
            return False
        try:
            film_queue.prepare(engine)
            _read_all(engine, folder)
            _tidy(engine, folder)
        finally:
            connection.execute(text("SELECT pg_advisory_unlock(:key)"), {"key": _ONE_AT_A_TIME})
    return True


def _tidy(engine: Engine, folder: films.Folder) -> None:
    with transaction(engine) as db:
        films.take_away_old(db, folder, datetime.now(UTC))
        films.remove_files(folder, films.without_a_row(db, folder))
    blur_kept(engine, folder, datetime.now(UTC))


def blur_kept(engine: Engine, folder: films.Folder, now: datetime) -> None:
    """Blur heads in the films that clubs keep for longer than a day and want so."""
    while True:
        with transaction(engine) as db:
            waiting = films.to_blur(db, now)
            if not waiting:
                return
            _blur(db, folder, waiting[0])


def _blur(db: Session, folder: films.Folder, film: Film) -> None:
    """Put a film with blurred heads in the place of one; where that cannot be made, none."""
    file = folder.file(film.club_id, film.id)
    made = folder.path / ".blurred"
    now = datetime.now(UTC)
    try:
        blur_heads(file, made, _zones(db, film))
        os.replace(made, file)
        film.blurred_at = now
    except (BadFilm, OSError):
        log.exception("heads in film %s could not be blurred: its file is deleted", film.id)
        made.unlink(missing_ok=True)
        folder.remove(film.club_id, film.id)
        film.file_gone_at = now


def _zones(db: Session, film: Film) -> tuple[Zone, ...]:
    row = films.place(db, film.club_id, film.place_id) if film.place_id else None
    zones = CameraPlace.model_validate(row.document).zones if row else ()
    if not any(zone.part == "head" for zone in zones):
        raise BadFilm("nobody has said where the heads are")
    return zones


def _alone(connection: Connection) -> bool:
    """Whether no other process reads films of this database; held until the connection closes."""
    query = text("SELECT pg_try_advisory_lock(:key)")
    return bool(connection.execute(query, {"key": _ONE_AT_A_TIME}).scalar())


def _read_all(engine: Engine, folder: films.Folder) -> None:
    app = film_queue.worker_app(engine)

    @app.task(name=film_queue.READ)
    def read_film(club_id: str, film_id: str) -> None:
        club, film = uuid.UUID(club_id), uuid.UUID(film_id)
        try:
            read_one(engine, folder, club, film)
        except Exception:
            log.exception("film %s could not be read", film)
            with transaction(engine) as db:
                row = db.get(Film, (club, film))
                if row is not None:
                    row.state, row.said, row.read_at = "refused", FAILED, datetime.now(UTC)

    with app.open():
        _take_up(app, engine)
        # Signals end the process as they find it: what was being read is read again.
        app.run_worker(
            wait=False,
            concurrency=1,
            listen_notify=False,
            delete_jobs="always",
            install_signal_handlers=False,
        )


def _take_up(app: procrastinate.App, engine: Engine) -> None:
    """What a process that has ended was reading, and what was never put into the queue."""
    for job in app.job_manager.list_jobs(status=Status.DOING.value):
        assert job.id is not None
        app.job_manager.retry_job_by_id(job.id, retry_at=datetime.now(UTC))
    with transaction(engine) as db:
        waiting = films.unread(db)
    for club_id, film_id in waiting:
        film_queue.put_in(app, club_id, film_id)


def main() -> int:
    """Read what waits; the exit code."""
    logs.to_file(Path(sys.argv[1]))
    work(
        make_engine(os.environ[URL_VARIABLE]), films.Folder(Path(os.environ[films.FOLDER_VARIABLE]))
    )
    return 0


if __name__ == "__main__":
    sys.exit(main())
