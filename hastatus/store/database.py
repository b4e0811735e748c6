"""Engine, transactions and migrations."""

from __future__ import annotations

import logging
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

from alembic import command
from alembic.autogenerate import compare_metadata
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from pydantic_core import from_json, to_json
from sqlalchemy import Connection, Engine, create_engine, text
from sqlalchemy.exc import OperationalError
from sqlalchemy.orm import Session

from hastatus.store import derived, early_schema
from hastatus.store.models import Base

URL_VARIABLE = "HASTATUS_DATABASE_URL"
"""The environment says there which database is used."""

MIGRATIONS = Path(__file__).parent / "migrations"
_MIGRATION_LOCK = 4_217_300_119
"""Key of the advisory lock that lets one process migrate at a time."""

OPTIONS = "-c timezone=UTC -c lock_timeout=5s -c statement_timeout=30s"
"""One locked row, or one statement that never ends, must not hold every thread for good."""

log = logging.getLogger("hastatus.store")


class StoreError(RuntimeError):
    """The database cannot be used; the message says why in one sentence."""


def _dump(value: Any) -> str:
    return to_json(value).decode()


def make_engine(url: str) -> Engine:
    """An engine for a PostgreSQL URL; psycopg 3 is used whatever driver the URL names."""
    if "://" not in url or not url.startswith("postgres"):
        raise StoreError(f"{URL_VARIABLE} must be a PostgreSQL address (postgresql://…)")
    rest = url.split("://", 1)[1]
    return create_engine(
        f"postgresql+psycopg://{rest}",
        json_serializer=_dump,
        json_deserializer=from_json,
        pool_pre_ping=True,
        pool_size=10,  # as many as threads: a connection costs too much to open for one request
        max_overflow=2,
        hide_parameters=True,  # what people wrote does not belong in a log
        connect_args={"connect_timeout": 5, "options": OPTIONS},
    )


def new_session(engine: Engine) -> Session:
    """A session that takes its connection with its first statement. Whoever asks closes it."""
    return Session(engine, expire_on_commit=False)


@contextmanager
def transaction(engine: Engine, begun: Session | None = None) -> Iterator[Session]:
    """A session whose work is committed at the end, or not at all. begun: one to go on in."""
    with begun or new_session(engine) as session:
        yield session
        session.commit()


def _config(connection: Connection) -> Config:
    config = Config()
    config.set_main_option("script_location", str(MIGRATIONS))
    config.attributes["connection"] = connection
    return config


def head() -> str:
    """The newest schema revision this program knows."""
    script = ScriptDirectory(str(MIGRATIONS))
    revision = script.get_current_head()
    assert revision is not None
    return revision


def current(connection: Connection) -> str | None:
    """The schema revision of the database, None when it is empty."""
    return MigrationContext.configure(connection).get_current_revision()


def needs_migration(engine: Engine) -> bool:
    """Whether an existing database is older than this program; `StoreError` where it is newer."""
    with engine.connect() as connection:
        revision = current(connection)
    _check_known(revision)
    return revision is not None and revision != head()


def knows(revision: str) -> bool:
    """Whether a schema revision is one of this program's, old or new."""
    script = ScriptDirectory(str(MIGRATIONS))
    return revision in {known.revision for known in script.walk_revisions()}


def _check_known(revision: str | None) -> None:
    if revision is not None and not knows(revision):
        raise StoreError(
            f"the database has schema {revision}, which is newer than this program; "
            "update Hastatus or restore an older backup"
        )


def migrate(engine: Engine) -> None:
    """Bring the schema to the newest revision, one process at a time.

    Raises `StoreError` when the database cannot be reached or is newer than this program.
    """
    try:
        with engine.begin() as connection:
            # A schema change takes as long as it takes, and waits for another one.
            connection.execute(text("SET LOCAL lock_timeout = 0; SET LOCAL statement_timeout = 0"))
            connection.execute(text("SELECT pg_advisory_xact_lock(:key)"), {"key": _MIGRATION_LOCK})
            revision = current(connection)
            _check_known(revision)
            for mended in early_schema.mend(connection, ScriptDirectory(str(MIGRATIONS)), revision):
                log.warning("schema mended", extra={"revision": mended})
            command.upgrade(_config(connection), "head")
            _check_schema(
                [difference for difference in _differences(connection) if _lacks(difference)]
            )
            derived.renew(connection)
    except OperationalError as error:
        raise StoreError(f"cannot reach the database: {_first_line(error)}") from error


def _differences(connection: Connection) -> list[Any]:
    """What would have to be done to the database for it to be as the models say."""
    return list(compare_metadata(MigrationContext.configure(connection), Base.metadata))


def _lacks(difference: Any) -> bool:
    """Whether something is missing or other; what an operator has added does no harm."""
    what = difference[0] if isinstance(difference, list) else difference
    return not str(what[0]).startswith("remove_")


def _check_schema(differences: list[Any]) -> None:
    """Rather no start than one that fails in mid-class on a table that is not as it should be."""
    if differences:
        raise StoreError(
            "the database says that it is up to date, but its schema is another one "
            f"({', '.join(_told(one) for one in differences[:3])}); restore it from a backup"
        )


def _told(difference: Any) -> str:
    """A difference in words: what is to be done, and to what."""
    what = difference[0] if isinstance(difference, list) else difference
    names = [str(getattr(thing, "name", thing)) for thing in what[1:] if thing is not None]
    return " ".join([str(what[0]).replace("_", " "), *names[:3]])


def check(engine: Engine) -> None:
    """Raise `StoreError` when the database is not as the models say."""
    with engine.begin() as connection:
        _check_schema(_differences(connection))


def downgrade(engine: Engine, revision: str) -> None:
    """Take the schema back to `revision` ("base" empties it)."""
    with engine.begin() as connection:
        command.downgrade(_config(connection), revision)


def _first_line(error: Exception) -> str:
    return str(error.__cause__ or error).strip().splitlines()[0]
