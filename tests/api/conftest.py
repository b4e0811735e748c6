"""Two clubs, each with a coach who is signed in, a student and a run that has been done."""

from __future__ import annotations

import pytest
from flask_openapi3 import OpenAPI
from sqlalchemy import Engine

from hastatus.api.app import create_app
from tests.harness.coach import Coach, new_coach


@pytest.fixture(scope="session")
def app(engine: Engine) -> OpenAPI:
    return create_app(engine)


@pytest.fixture
def coach(app: OpenAPI, engine: Engine) -> Coach:
    return new_coach(app, engine)


@pytest.fixture(scope="module")
def two_coaches(app: OpenAPI, engine: Engine) -> tuple[Coach, Coach]:
    return new_coach(app, engine), new_coach(app, engine)
