"""Errors as problem documents (RFC 9457): what is wrong, where, and what to do."""

from __future__ import annotations

import logging
import time
from typing import Any

from flask import Flask, Response, g
from flask_openapi3 import OpenAPI
from pydantic import BaseModel, ValidationError
from pydantic_core import to_json
from sqlalchemy.exc import IntegrityError, OperationalError
from werkzeug.exceptions import HTTPException, MethodNotAllowed, NotFound

from hastatus.core.limit_words import limit_sentence
from hastatus.store.assets import Full
from hastatus.store.drills import OtherForm

log = logging.getLogger("hastatus.api")


class FaultPlace(BaseModel):
    """One place in the request that is wrong."""

    where: str
    what: str


class ProblemDocument(BaseModel):
    """An error answer. request_id: name it when asking for help."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    request_id: str
    faults: list[FaultPlace] = []


class Problem(Exception):
    """Ends a request with a problem document."""

    def __init__(
        self,
        status: int,
        title: str,
        detail: str,
        faults: list[FaultPlace] | None = None,
        *,
        retry_after_s: int | None = None,
    ):
        super().__init__(detail)
        self.status, self.title, self.detail, self.faults = status, title, detail, faults or []
        self.retry_after_s = retry_after_s

    def response(self) -> Response:
        """The problem as an answer."""
        document = ProblemDocument(
            title=self.title,
            status=self.status,
            detail=self.detail,
            request_id=str(g.get("request_id", "")),
            faults=self.faults,
        )
        response = Response(
            to_json(document), status=self.status, content_type="application/problem+json"
        )
        if self.retry_after_s is not None:
            response.headers["Retry-After"] = str(self.retry_after_s)
        return response


def not_found(what: str) -> Problem:
    """A 404 that does not tell whether another club has it."""
    return Problem(404, "Not found", f"This club has no such {what}.")


def faults_of(error: ValidationError) -> list[FaultPlace]:
    """Where and why a document was refused, without echoing what it held."""
    return [
        FaultPlace(where=".".join(_place(fault["loc"])), what=limit_sentence(fault))
        for fault in error.errors(include_input=False, include_url=False)[:20]
    ]


def _place(loc: tuple[int | str, ...]) -> list[str]:
    """Where, without the form that a drill was read as: it is no part of the document."""
    parts = [str(part) for part in loc]
    return [
        part
        for number, part in enumerate(parts)
        if not (number and part in ("solo", "partner") and parts[number - 1] in _DRILLS)
    ]


_DRILLS = ("document", "drill")


def invalid(error: ValidationError) -> Response:
    """The answer to a request that does not fit its model."""
    faults = faults_of(error)
    return Problem(422, "Not valid", faults[0].what, faults).response()


_DISK_FULL = "53100"
"""PostgreSQL's state for a disk that is full."""
_FULL_FOR_S = 60.0
_TIMED_OUT = ("55P03", "57014")
"""PostgreSQL's states for a lock and for a statement that took too long."""


def _disk_full() -> Problem:
    what = "The server's disk is full; nothing was written. Make room on it: devices keep and send."
    return Problem(507, "Disk full", what, retry_after_s=10)


def check_disk(app: Flask) -> None:
    """Raise the problem of a full disk where a write has failed of it just now."""
    if time.monotonic() < app.config.get("DISK_FULL_AT", -_FULL_FOR_S) + _FULL_FOR_S:
        raise _disk_full()


def register(app: OpenAPI) -> None:
    """Turn every error into a problem document."""

    @app.errorhandler(Problem)
    def _problem(error: Problem) -> Response:
        return error.response()

    @app.errorhandler(HTTPException)
    def _http(error: HTTPException) -> Any:
        if error.response is not None:
            return error.response
        if isinstance(error, NotFound):
            return Problem(404, "Not found", "There is no such address here.").response()
        problem = Problem(error.code or 500, error.name, error.description or error.name)
        response = problem.response()
        if isinstance(error, MethodNotAllowed):
            response.headers["Allow"] = ", ".join(error.valid_methods or ())
        return response

    @app.errorhandler(OtherForm)
    def _other_form(error: OtherForm) -> Response:
        return Problem(422, "Another kind of drill", f"drill_id: {error}").response()

    @app.errorhandler(Full)
    def _full(error: Full) -> Response:
        return Problem(409, "Full", f"{str(error).capitalize()}.").response()

    @app.errorhandler(OperationalError)
    def _no_database(error: OperationalError) -> Response:
        state = getattr(error.orig, "sqlstate", None)
        if state == _DISK_FULL:
            log.error("disk full", extra={"request_id": g.get("request_id")})
            app.config["DISK_FULL_AT"] = time.monotonic()
            return _disk_full().response()
        if state in _TIMED_OUT:
            log.error("statement timed out", extra={"request_id": g.get("request_id")})
            detail = "Something else holds what this needs; nothing was written. Try again."
            return Problem(503, "Busy", detail, retry_after_s=2).response()
        log.error("database unreachable", extra={"request_id": g.get("request_id")})
        return Problem(503, "No database", "The database does not answer; try again.").response()

    @app.errorhandler(IntegrityError)
    def _conflict(error: IntegrityError) -> Response:
        log.warning("conflict", extra={"request_id": g.get("request_id")})
        detail = "Something that this needs was made or removed meanwhile; nothing was written."
        return Problem(409, "Conflict", f"{detail} Look again.").response()

    @app.errorhandler(Exception)
    def _unforeseen(error: Exception) -> Response:
        log.exception("unforeseen error", extra={"request_id": g.get("request_id")})
        return Problem(
            500, "Unforeseen error", "Something went wrong here; nothing was written."
        ).response()
