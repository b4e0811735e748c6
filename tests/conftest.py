"""What holds for all tests; a private PostgreSQL for those that need one, stopped at the end."""

from collections.abc import Iterator

import pytest
from hypothesis import HealthCheck, settings
from sqlalchemy import Engine

from tests.harness.database import temporary_database

# A machine that others share stands still for seconds, which is no fault of what is tested.
settings.register_profile("shared", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("shared")


@pytest.fixture(scope="session")
def engine() -> Iterator[Engine]:
    with temporary_database(lasting=False) as made:
        yield made
