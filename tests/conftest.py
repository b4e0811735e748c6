"""What holds for all tests; a private PostgreSQL for those that need one, stopped at the end."""

import gc
from collections.abc import Iterator

import pytest
from hypothesis import HealthCheck, settings
from sqlalchemy import Engine

from tests.harness.database import temporary_database

# A machine that others share stands still for seconds, which is no fault of what is tested.
settings.register_profile("shared", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("shared")


def pytest_collection_finish() -> None:
    """What is loaded by now stays, so the collector need not go through it again and again (a tenth
    of the API's tests), as in the server."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 50)


@pytest.fixture(scope="session")
def engine() -> Iterator[Engine]:
    with temporary_database(lasting=False) as made:
        yield made
