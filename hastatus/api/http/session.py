"""Who is signed in, and the one transaction of a request."""

from __future__ import annotations

import hmac
import re
import uuid
from collections.abc import Callable
from functools import wraps
from typing import ParamSpec, TypeVar

from flask import current_app, g, request
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from hastatus.api.http.problems import Problem
from hastatus.store import accounts, audit
from hastatus.store.database import transaction

COOKIE = "hastatus"
CSRF_HEADER = "X-CSRF-Token"

_UNIQUE = "23505"
"""PostgreSQL's state for something of which there is one already."""

WRITES = ("POST", "PUT", "PATCH", "DELETE")


class KnownTokens:
    """The sign-ins that were found good lately: their requests do not wait behind strangers'.

    Only an order of work: what a token may do is looked up at each request.
    """

    MOST = 10_000

    def __init__(self) -> None:
        self._kept: dict[str, None] = {}

    def add(self, token: str) -> None:
        self._kept[token] = None
        if len(self._kept) > self.MOST:
            self._kept.pop(next(iter(self._kept)), None)

    def discard(self, token: str) -> None:
        self._kept.pop(token, None)

    def __contains__(self, token: str) -> bool:
        return token in self._kept


P = ParamSpec("P")
R = TypeVar("R")


def db() -> Session:
    """The request's database session, committed when the handler returns."""
    session: Session = g.db
    return session


def who() -> accounts.SignedIn:
    """Who is signed in."""
    signed_in: accounts.SignedIn = g.who
    return signed_in


def club_id() -> uuid.UUID:
    """The club that the request is about: of who is signed in, or of the link that was opened."""
    opened: uuid.UUID | None = g.get("club_id")
    return opened or who().club_id


def csrf_token(token: str) -> str:
    """The CSRF token that belongs to a sign-in token."""
    return hmac.new(token.encode(), b"hastatus csrf", "sha256").hexdigest()


def public(handler: Callable[P, R]) -> Callable[P, R]:
    """A handler that needs a transaction but nobody signed in."""

    @wraps(handler)
    def wrapped(*args: P.args, **kwargs: P.kwargs) -> R:
        with transaction(current_app.config["ENGINE"]) as session:
            g.db = session
            return handler(*args, **kwargs)

    return wrapped


def signed_in(handler: Callable[P, R]) -> Callable[P, R]:
    """A handler for somebody who is signed in; a write needs the CSRF token as well."""

    def once(*args: P.args, **kwargs: P.kwargs) -> R:
        with transaction(current_app.config["ENGINE"], g.pop("begun", None)) as session:
            if "who" not in g:
                g.who = find_signed_in(session)
            g.db = session
            done = handler(*args, **kwargs)
            if request.method in WRITES:
                _note(session)
            return done

    @wraps(handler)
    def wrapped(*args: P.args, **kwargs: P.kwargs) -> R:
        try:
            return once(*args, **kwargs)
        except IntegrityError as error:
            if getattr(error.orig, "sqlstate", None) != _UNIQUE:
                raise
            # Another request has made the very same thing meanwhile. Now it is there to be found.
            return once(*args, **kwargs)

    return wrapped


QUIET = (
    "/batches", "/acts", "/marks", "/stands", "/loopback", "/strikes", "/plans", "/partner-bench",
    "/start", "/close", "/devices/", "/bytes",
)  # fmt: skip
"""Done all the time, kept elsewhere, or nothing is changed: not for the log of who did what."""


def _note(session: Session) -> None:
    """For the log of who did what: the operation, and the first thing that its address names."""
    rule = str(request.url_rule)
    if any(part in rule for part in QUIET):
        return
    named = (value for value in (request.view_args or {}).values() if isinstance(value, uuid.UUID))
    audit.note(
        session,
        g.who.club_id,
        g.who.coach_id,
        operation(request.method, rule),
        about=next(named, None),
        request_id=g.request_id,
    )


_PART = re.compile(r"<(?:[a-z]+:)?([a-z_]+)>")
_BRACED = r"{\1}"


def operation(method: str, rule: str) -> str:
    """An operation by method and address, as the API document names it."""
    return f"{method} {_PART.sub(_BRACED, rule)}"


def find_signed_in(session: Session) -> accounts.SignedIn:
    """Who is signed in; a write needs the CSRF token as well."""
    token = request.cookies.get(COOKIE, "")
    signed_in = accounts.signed_in(session, token) if token else None
    if signed_in is None:
        current_app.config["KNOWN_TOKENS"].discard(token)
        raise Problem(401, "Signed out", "Sign in to continue; nothing was lost.")
    current_app.config["KNOWN_TOKENS"].add(token)
    if request.method in WRITES:
        sent = request.headers.get(CSRF_HEADER, "").encode("utf-8", "replace")
        if not hmac.compare_digest(sent, csrf_token(token).encode()):
            raise Problem(403, "Refused", f"The {CSRF_HEADER} header is missing or wrong.")
    return signed_in
