"""What the web server loads."""

from __future__ import annotations

import os

from flask_openapi3 import OpenAPI

from hastatus.api.app import create_app
from hastatus.command import logs
from hastatus.store.database import make_engine


def create() -> OpenAPI:
    """The application on the database that HASTATUS_DATABASE_URL names."""
    logs.to_stderr()
    return create_app(make_engine(os.environ["HASTATUS_DATABASE_URL"]))
