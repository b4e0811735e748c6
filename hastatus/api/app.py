"""The application."""

from __future__ import annotations

import logging
from importlib.metadata import version

from flask import Response, current_app
from flask_openapi3 import Info
from sqlalchemy import Engine

from hastatus.api.adapt import ladders
from hastatus.api.club import (
    accounts,
    audit_log,
    coaches,
    head_knocks,
    people_tables,
    personal_data,
    students,
)
from hastatus.api.drill import drills, files
from hastatus.api.film import camera_places, corrections, films
from hastatus.api.hall import (
    calls,
    class_log,
    class_members,
    evenings,
    incidents,
    live,
    phones,
    review,
    sheets,
    templates,
)
from hastatus.api.home import home, practices
from hastatus.api.http import metrics, problems, screens, security
from hastatus.api.http.document import Api
from hastatus.api.http.reply import Health, Readiness, reply
from hastatus.api.plan import exports, feeder_card, partner_bench
from hastatus.api.read import comparisons, defended_attacks, faults, readouts, tables
from hastatus.api.run import devices, partner_runs, room, round_position, runs
from hastatus.api.sound import assets
from hastatus.api.trade import catalogue
from hastatus.store.database import current, head
from hastatus.store.films import Folder


def create_app(engine: Engine, film_folder: Folder | None = None) -> Api:
    """The API on a migrated database. film_folder: of films' files; None: no film is taken."""
    app = Api(
        __name__,
        info=Info(title="Hastatus", version=version("hastatus")),
        validation_error_callback=problems.invalid,
        validation_error_model=problems.ProblemDocument,
        doc_ui=False,
    )
    app.config["ENGINE"] = engine
    app.config["AUTHORITY"] = None
    app.config["FILMS"] = film_folder
    logging.getLogger("werkzeug").setLevel(logging.WARNING)
    problems.register(app)
    security.register(app)
    for blueprint in (
        accounts.bp,
        coaches.bp,
        audit_log.bp,
        personal_data.bp,
        students.bp,
        people_tables.bp,
        ladders.bp,
        catalogue.bp,
        drills.bp,
        partner_bench.bp,
        files.bp,
        assets.bp,
        runs.bp,
        readouts.bp,
        comparisons.bp,
        tables.bp,
        exports.bp,
        feeder_card.bp,
        devices.bp,
        partner_runs.bp,
        room.bp,
        defended_attacks.bp,
        faults.bp,
        head_knocks.bp,
        round_position.bp,
        evenings.bp,
        class_members.bp,
        calls.bp,
        live.bp,
        phones.bp,
        review.bp,
        sheets.bp,
        incidents.bp,
        class_log.bp,
        templates.bp,
        practices.bp,
        home.bp,
        films.bp,
        corrections.bp,
        camera_places.bp,
    ):
        app.take(blueprint)
    app.register_blueprint(screens.bp)
    app.register_blueprint(metrics.bp)

    newest = head()

    @app.get("/healthz", responses={200: Health})
    def health() -> Response:
        """Whether the program is alive, with or without its database."""
        return reply(Health(status="alive", version=version("hastatus")))

    @app.get("/readyz", responses={200: Readiness})
    def readiness() -> Response:
        """Whether answers can be taken: the database answers and has this program's schema."""
        with current_app.config["ENGINE"].connect() as connection:
            revision = current(connection)
        problems.check_disk(current_app)
        if revision != newest:
            raise problems.Problem(
                503, "Not ready", f"The database has schema {revision}, this program {newest}."
            )
        return reply(Readiness(status="ready", schema_revision=revision))

    return app
