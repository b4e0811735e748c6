"""A private PostgreSQL for a while, and nothing left of it."""

from __future__ import annotations

import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from sqlalchemy import Engine

from hastatus.store.cluster import Cluster
from hastatus.store.database import make_engine, migrate


@contextmanager
def reachable_folder() -> Iterator[Path]:
    """A temporary folder that PostgreSQL's own user may enter too, when root runs the tests."""
    folder = Path(tempfile.mkdtemp(prefix="hastatus-"))
    folder.chmod(0o755)
    try:
        yield folder
    finally:
        shutil.rmtree(folder, ignore_errors=True)


@contextmanager
def temporary_database() -> Iterator[Engine]:
    """A migrated database on a server of its own."""
    with reachable_folder() as folder:
        cluster = Cluster(folder / "pg")
        try:
            engine = make_engine(cluster.start())
            migrate(engine)
            yield engine
            engine.dispose()
        finally:
            cluster.stop()


def url_of(engine: Engine) -> str:
    """The address of an engine's database, password and all."""
    return engine.url.set(drivername="postgresql").render_as_string(hide_password=False)
