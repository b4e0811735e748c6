"""A private PostgreSQL for the tests that need one, stopped at the end."""

from collections.abc import Iterator

import pytest
from sqlalchemy import Engine

from hastatus.store.cluster import Cluster
from hastatus.store.database import make_engine, migrate


@pytest.fixture(scope="session")
def engine(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Engine]:
    cluster = Cluster(tmp_path_factory.mktemp("pg"))
    made = make_engine(cluster.start())
    try:
        migrate(made)
        yield made
    finally:
        made.dispose()
        cluster.stop()
