"""A private PostgreSQL for the tests that need one, stopped at the end."""

from collections.abc import Iterator

import pytest
from sqlalchemy import Engine

from tests.harness.database import temporary_database


@pytest.fixture(scope="session")
def engine() -> Iterator[Engine]:
    with temporary_database(lasting=False) as made:
        yield made
