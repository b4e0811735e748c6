"""What every request passes: ids, strict JSON, origin and CSRF checks, sign-in, headers."""

from __future__ import annotations

import hmac
import json
import logging
import secrets
import time
from collections.abc import Callable
from functools import wraps
from typing import Any, NoReturn, ParamSpec, TypeVar
from urllib.parse import unquote_to_bytes

from flask import Response, current_app, g, request
from flask.json.provider import DefaultJSONProvider
from flask_openapi3 import OpenAPI
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session
from werkzeug.sansio.utils import host_is_trusted

from hastatus.api.http.problems import Problem
from hastatus.store import accounts
from hastatus.store.database import new_session, transaction

COOKIE = "hastatus"
CSRF_HEADER = "X-CSRF-Token"
LARGEST_BODY = 4 * 2**20
LARGEST_FILE = 16 * 2**20
LARGEST_SIGN_IN = 4 * 2**10
MOST_PARTS = 50_000
"""Objects and lists in one body. The largest drill has some thousands, a batch fewer."""
UPLOADS = "/api/assets"
SIGN_IN = "/api/session"
LOOPBACK = ["localhost", "127.0.0.1"]
_UNIQUE = "23505"
"""PostgreSQL's state for something of which there is one already."""
_WRITES = ("POST", "PUT", "PATCH", "DELETE")

log = logging.getLogger("hastatus.request")

HEADERS = {
    "Content-Security-Policy": (
        "default-src 'none'; script-src 'self'; style-src 'self'; style-src-attr 'unsafe-inline'; "
        "font-src 'self'; img-src 'self' data: blob:; connect-src 'self'; media-src 'self'; "
        "manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
    ),
    "Permissions-Policy": (
        "camera=(), geolocation=(), microphone=(self), midi=(self), screen-wake-lock=(self), "
        "fullscreen=(self), gamepad=(self), payment=(), usb=()"
    ),
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Embedder-Policy": "require-corp",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Referrer-Policy": "no-referrer",
    "X-Content-Type-Options": "nosniff",
}


class StrictJson(DefaultJSONProvider):
    """JSON as RFC 8259 has it: no NaN, no infinities, and no U+0000 in any text."""

    def loads(self, s: str | bytes, **kwargs: Any) -> Any:
        text = s.decode("utf-8") if isinstance(s, bytes) else s
        if "\\u0000" in text or "\x00" in text:
            raise ValueError("U+0000 is not allowed in any text")
        return json.loads(text, parse_constant=_refuse_constant)


def _refuse_constant(name: str) -> NoReturn:
    raise ValueError(f"{name} is no JSON number")


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
                g.who = _find_who(session)
            g.db = session
            return handler(*args, **kwargs)

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


def _find_who(session: Session) -> accounts.SignedIn:
    """Who is signed in; a write needs the CSRF token as well."""
    token = request.cookies.get(COOKIE, "")
    found = accounts.signed_in(session, token) if token else None
    if found is None:
        current_app.config["KNOWN_TOKENS"].discard(token)
        raise Problem(401, "Signed out", "Sign in to go on; nothing was lost.")
    current_app.config["KNOWN_TOKENS"].add(token)
    if request.method in _WRITES:
        sent = request.headers.get(CSRF_HEADER, "").encode("utf-8", "replace")
        if not hmac.compare_digest(sent, csrf_token(token).encode()):
            raise Problem(403, "Refused", f"The {CSRF_HEADER} header is missing or wrong.")
    return found


def register(app: OpenAPI) -> None:
    """Install the checks before and the headers after every request."""
    app.json = StrictJson(app)
    app.config["MAX_CONTENT_LENGTH"] = LARGEST_BODY
    app.config["HOSTS"] = LOOPBACK
    app.config["KNOWN_TOKENS"] = KnownTokens()

    @app.before_request
    def _begin() -> None:
        g.request_id = secrets.token_hex(8)
        g.started = time.perf_counter()
        _check_host()
        _check_text()
        if request.method in _WRITES:
            _check_origin()
            _check_sign_in()
            _check_json()

    @app.teardown_request
    def _close(_: BaseException | None) -> None:
        """Where no handler took the session over."""
        begun = g.pop("begun", None)
        if begun is not None:
            begun.close()

    @app.after_request
    def _end(response: Response) -> Response:
        for name, value in HEADERS.items():
            response.headers.setdefault(name, value)
        response.headers["X-Request-Id"] = g.get("request_id", "")
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
            log.info(
                "request",
                extra={
                    "request_id": g.get("request_id"),
                    "method": request.method,
                    "route": str(request.url_rule or "none"),
                    "status": response.status_code,
                    "ms": round((time.perf_counter() - g.started) * 1000, 1),
                },
            )
        return response


def _check_host() -> None:
    """A page elsewhere may give its own name this address; what it then asks is not ours."""
    if not host_is_trusted(request.host.lower(), current_app.config["HOSTS"]):
        raise Problem(
            421,
            "Another host",
            f"This server is not known as “{request.host[:100]}”. The names it answers to are set "
            "by HASTATUS_HOSTS.",
        )


def _check_text() -> None:
    """Bytes that are no UTF-8 would be read as other text than was sent."""
    path = request.environ.get("PATH_INFO", "").encode("latin-1")
    query = unquote_to_bytes(request.query_string.replace(b"+", b" "))
    for what, sent in (("address", path), ("query", query)):
        try:
            sent.decode("utf-8")
        except UnicodeDecodeError:
            raise Problem(400, "No text", f"The {what} is not written in UTF-8.") from None


def _check_origin() -> None:
    origin = request.headers.get("Origin")
    if origin is not None and origin.rstrip("/") != request.host_url.rstrip("/"):
        raise Problem(403, "Refused", "This request came from another site.")
    if request.headers.get("Sec-Fetch-Site", "same-origin") not in ("same-origin", "none"):
        raise Problem(403, "Refused", "This request came from another site.")


def _check_sign_in() -> None:
    """Before the body is read: a stranger's is not worth the time.

    The handler goes on in the same transaction: another one costs a millisecond of each request.
    """
    if request.path.startswith("/api/") and not _signs_in():
        g.begun = new_session(current_app.config["ENGINE"])
        g.who = _find_who(g.begun)


def _signs_in() -> bool:
    return request.path == SIGN_IN and request.method == "POST"


def _largest() -> int:
    if _signs_in():
        return LARGEST_SIGN_IN
    return LARGEST_FILE if request.path.endswith("/file") else LARGEST_BODY


def _size(count: int) -> str:
    return f"{count // 2**20} MB" if count >= 2**20 else f"{count // 2**10} kB"


def _check_upload() -> None:
    """A file is sent as it is; it is larger than any JSON of ours, and never JSON."""
    request.max_content_length = LARGEST_FILE
    if request.content_length and request.content_length > LARGEST_FILE:
        raise Problem(413, "Too large", f"file: a file has at most {LARGEST_FILE // 2**20} MB.")
    if request.mimetype.split("/")[0] not in ("audio", "image", "video"):
        raise Problem(415, "Wrong content type", "Send a sound, a picture or a clip as it is.")


def _check_json() -> None:
    if request.path == UPLOADS and request.method == "POST":
        _check_upload()
        return
    largest = _largest()
    request.max_content_length = largest
    if request.content_length and request.content_length > largest:
        raise Problem(413, "Too large", f"A body has at most {_size(largest)} here.")
    data = request.get_data()
    if not data:
        return
    # Counted, not read: a million small objects take seconds to read and to refuse.
    if data.count(b"{") + data.count(b"[") > MOST_PARTS:
        raise Problem(413, "Too large", f"A body has at most {MOST_PARTS} objects and lists.")
    if request.mimetype != "application/json":
        raise Problem(415, "Wrong content type", "Send the body as application/json.")
    try:
        found = request.json_module.loads(data)
    except (ValueError, RecursionError) as error:
        raise Problem(400, "No JSON", f"The body cannot be read as JSON: {error}") from error
    if not isinstance(found, dict):
        # A text would be read as JSON once more, past these checks.
        raise Problem(422, "Not valid", "The body is a JSON object, and nothing else.")
