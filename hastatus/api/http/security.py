"""What every request passes: host, text, origin, sign-in and body; and the headers it gets."""

from __future__ import annotations

import logging
import re
import secrets
import time
from urllib.parse import unquote_to_bytes

from flask import Response, current_app, g, request
from flask_openapi3 import OpenAPI
from werkzeug.sansio.utils import host_is_trusted

from hastatus.api.http import metrics
from hastatus.api.http.body import LARGEST_BODY, StrictJson, check_body, of_stranger
from hastatus.api.http.problems import Problem
from hastatus.api.http.session import WRITES, KnownTokens, find_signed_in
from hastatus.store.database import new_session

LOOPBACK = ["localhost", "127.0.0.1"]

log = logging.getLogger("hastatus.request")

REQUEST_ID = "X-Request-Id"
_REQUEST_ID = re.compile(r"[0-9a-f-]{16,40}")

HEADERS = {
    "Content-Security-Policy": (
        "default-src 'none'; script-src 'self'; style-src 'self'; style-src-attr 'unsafe-inline'; "
        "font-src 'self'; img-src 'self' data: blob:; connect-src 'self'; media-src 'self'; "
        "manifest-src 'self'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
    ),
    "Permissions-Policy": (
        "camera={camera}, geolocation=(), microphone=(self), midi=(self), screen-wake-lock=(self), "
        "fullscreen=(self), gamepad=(self), payment=(), usb=()"
    ),
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Embedder-Policy": "require-corp",
    "Cross-Origin-Resource-Policy": "same-origin",
    "Referrer-Policy": "no-referrer",
    "X-Content-Type-Options": "nosniff",
}


_CAMERA_PAGES = re.compile(r"/(run|device|runs/[0-9a-f-]{36}/floor)/?")
"""Where a run that a camera watches is begun and played, and where a camera is measured."""


def register(app: OpenAPI) -> None:
    """Install the checks before and the headers after every request."""
    app.json = StrictJson(app)
    app.config["MAX_CONTENT_LENGTH"] = LARGEST_BODY
    app.config["HOSTS"] = LOOPBACK
    app.config["KNOWN_TOKENS"] = KnownTokens()

    @app.before_request
    def _begin() -> None:
        g.request_id = _request_id()
        g.started = time.perf_counter()
        _check_host()
        _check_text()
        if request.method in WRITES:
            _check_origin()
            _check_sign_in()
            check_body()

    @app.teardown_request
    def _close(_: BaseException | None) -> None:
        """Where no handler took the session over."""
        begun = g.pop("begun", None)
        if begun is not None:
            begun.close()

    @app.after_request
    def _end(response: Response) -> Response:
        camera = "(self)" if _CAMERA_PAGES.fullmatch(request.path) else "()"
        for name, value in HEADERS.items():
            response.headers.setdefault(name, value.replace("{camera}", camera))
        response.headers[REQUEST_ID] = g.get("request_id", "")
        seconds = time.perf_counter() - g.get("started", time.perf_counter())
        route = str(request.url_rule or "none")
        metrics.count(request.method, route, response.status_code, seconds)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
            log.info(
                "request",
                extra={
                    "request_id": g.get("request_id"),
                    "method": request.method,
                    "route": route,
                    "status": response.status_code,
                    "ms": round(seconds * 1000, 1),
                },
            )
        return response


def _request_id() -> str:
    """The id that a request has in every log, in its answer and in the log of who did what: from
    the door of https where it came in by that, else a new one."""
    given = request.headers.get(REQUEST_ID, "")
    return given if _REQUEST_ID.fullmatch(given) else secrets.token_hex(8)


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
    if request.path.startswith("/api/") and not of_stranger():
        g.begun = new_session(current_app.config["ENGINE"])
        g.who = find_signed_in(g.begun)
