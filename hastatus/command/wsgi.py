"""What the web server loads."""

from __future__ import annotations

import gc
import os

from flask_openapi3 import OpenAPI

from hastatus.api.app import create_app
from hastatus.command import logs
from hastatus.store.database import make_engine


def create() -> OpenAPI:
    """The application on the database that HASTATUS_DATABASE_URL names."""
    logs.to_stderr()
    app = create_app(make_engine(os.environ["HASTATUS_DATABASE_URL"]))
    # Plans kept for running rounds are many small objects: a full collection over them would make
    # a request wait for a tenth of a second. What is here now stays; cycles are collected seldom.
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 50, 100)
    return app
