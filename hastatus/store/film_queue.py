"""The queue of films that wait to be read, in the same PostgreSQL, by procrastinate.

Its tables have a schema of their own beside the club's: what waits can always be told from the
films themselves, so it is in no backup. The library is loaded with the first film: it takes a
while, and most workers of the web server never have one.
"""

from __future__ import annotations

import uuid
from typing import TYPE_CHECKING, Any

from sqlalchemy import Engine, text

if TYPE_CHECKING:
    import procrastinate

SCHEMA = "film_queue"
READ = "read_film"
_LOCK = 4_217_300_120


def conninfo(engine: Engine) -> str:
    """The database of an engine, as libpq takes it."""
    return engine.url.set(drivername="postgresql").render_as_string(hide_password=False)


def prepare(engine: Engine) -> None:
    """Make the queue's tables where there are none."""
    from procrastinate.schema import SchemaManager

    with engine.begin() as connection:
        connection.execute(text("SELECT pg_advisory_xact_lock(:key)"), {"key": _LOCK})
        there = connection.execute(
            text("SELECT to_regclass(:name)"), {"name": f"{SCHEMA}.procrastinate_jobs"}
        ).scalar()
        if there is not None:
            return
        connection.execute(text(f"CREATE SCHEMA IF NOT EXISTS {SCHEMA}"))
        connection.execute(text(f"SET LOCAL search_path = {SCHEMA}"))
        raw = connection.connection.driver_connection
        assert raw is not None
        raw.execute(SchemaManager.get_schema())


def put(engine: Engine, club_id: uuid.UUID, film_id: uuid.UUID) -> None:
    """Have a film read, once, however often it is said."""
    import procrastinate

    connector = procrastinate.SyncPsycopgConnector(
        conninfo=conninfo(engine), kwargs=_settings(), min_size=1, max_size=1
    )
    app = procrastinate.App(connector=connector)
    with app.open():
        put_in(app, club_id, film_id)


def put_in(app: procrastinate.App, club_id: uuid.UUID, film_id: uuid.UUID) -> None:
    """The same in a queue that is open."""
    from procrastinate.exceptions import AlreadyEnqueued

    job = app.configure_task(READ, queueing_lock=str(film_id), lock="films")
    try:
        job.defer(club_id=str(club_id), film_id=str(film_id))
    except AlreadyEnqueued:
        return  # it waits already


def worker_app(engine: Engine) -> procrastinate.App:
    """The queue as whoever reads the films has it."""
    import procrastinate

    connector = procrastinate.PsycopgConnector(conninfo=conninfo(engine), kwargs=_settings())
    return procrastinate.App(connector=connector)


def _settings() -> dict[str, Any]:
    return {"options": f"-c search_path={SCHEMA}", "connect_timeout": 5}
