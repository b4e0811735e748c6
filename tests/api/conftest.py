"""Two clubs, each with a coach who is signed in, a student and a run that has been done."""

from __future__ import annotations

from collections.abc import Iterator

import pytest
from argon2 import PasswordHasher
from flask_openapi3 import OpenAPI
from sqlalchemy import Engine

from hastatus.api.app import create_app
from hastatus.store import accounts
from hastatus.store.films import Folder
from tests.harness.coach import Coach, new_coach


@pytest.fixture(scope="package", autouse=True)
def quick_passwords() -> Iterator[None]:
    """Each test signs somebody in: a hash that is slow on purpose would be most of its time."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(accounts, "HASHER", PasswordHasher(time_cost=1, memory_cost=8, parallelism=1))
        yield


@pytest.fixture(scope="session")
def app(engine: Engine, tmp_path_factory: pytest.TempPathFactory) -> OpenAPI:
    return create_app(engine, Folder(tmp_path_factory.mktemp("films")))


@pytest.fixture
def coach(app: OpenAPI, engine: Engine) -> Coach:
    return new_coach(app, engine)


@pytest.fixture(scope="module")
def two_coaches(app: OpenAPI, engine: Engine) -> tuple[Coach, Coach]:
    return new_coach(app, engine), new_coach(app, engine)
