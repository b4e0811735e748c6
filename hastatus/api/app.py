"""The application."""

from __future__ import annotations

import logging
from importlib.metadata import version

from flask import Response, current_app
from flask_openapi3 import Info
from sqlalchemy import Engine

from hastatus.api import (
    accounts,
    build,
    catalogue,
    defended,
    devices,
    guard,
    head_knocks,
    partners,
    people,
    problems,
    run,
    scores,
    screens,
    shapes,
    sounds,
    stands,
    takeaway,
)
from hastatus.api.document import Api
from hastatus.store.database import current, head


def create_app(engine: Engine) -> Api:
    """The API on a migrated database."""
    app = Api(
        __name__,
        info=Info(title="Hastatus", version=version("hastatus")),
        validation_error_callback=problems.invalid,
        validation_error_model=problems.ProblemDocument,
        doc_ui=False,
    )
    app.config["ENGINE"] = engine
    logging.getLogger("werkzeug").setLevel(logging.WARNING)
    problems.register(app)
    guard.register(app)
    for blueprint in (
        accounts.bp,
        people.bp,
        catalogue.bp,
        build.bp,
        scores.bp,
        takeaway.bp,
        sounds.bp,
        run.bp,
        devices.bp,
        partners.bp,
        defended.bp,
        head_knocks.bp,
        stands.bp,
    ):
        app.register_api(blueprint)
    app.register_blueprint(screens.bp)

    newest = head()

    @app.get("/healthz", responses={200: shapes.Health})
    def health() -> Response:
        """Whether the program is alive, with or without its database."""
        return shapes.reply(shapes.Health(status="alive", version=version("hastatus")))

    @app.get("/readyz", responses={200: shapes.Readiness})
    def readiness() -> Response:
        """Whether answers can be taken: the database answers and has this program's schema."""
        with current_app.config["ENGINE"].connect() as connection:
            revision = current(connection)
        problems.check_disk(current_app)
        if revision != newest:
            raise problems.Problem(
                503, "Not ready", f"The database has schema {revision}, this program {newest}."
            )
        return shapes.reply(shapes.Readiness(status="ready", schema_revision=revision))

    return app
