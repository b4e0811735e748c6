"""How a connection is read: what a stranger may send, how one who still sends gets a refusal."""

from __future__ import annotations

import copy
import json
import socket
import time
from contextlib import suppress
from typing import Any

from waitress.adjustments import Adjustments
from waitress.channel import HTTPChannel
from waitress.parser import HTTPRequestParser
from waitress.utilities import BadRequest, Error, RequestEntityTooLarge
from werkzeug.http import parse_cookie

from hastatus.api.http.session import COOKIE

LARGEST_OF_STRANGERS = 2**20
"""More than any batch: whoever was signed out is told so, and keeps it."""
LINGER_S = 20.0
LINGER_BYTES = 64 * 2**20


class Refusal(Error):
    """An answer that a request gets before its body is read, as a problem document (RFC 9457)."""

    def __init__(self, code: int, reason: str, detail: str) -> None:
        super().__init__(detail)
        self.code, self.reason, self.detail = code, reason, detail

    def to_response(self, ident: str | None = None) -> Any:
        problem = {
            "type": "about:blank",
            "title": self.reason,
            "status": self.code,
            "detail": self.detail,
            "request_id": "",
            "faults": [],
        }
        headers = [("Content-Type", "application/problem+json"), ("Connection", "close")]
        return f"{self.code} {self.reason}", headers, json.dumps(problem).encode()


class Parser(HTTPRequestParser):
    """Takes large bodies only from who comes with a sign-in."""

    stranger = False

    def parse_header(self, header_plus: bytes) -> None:
        super().parse_header(header_plus)
        if COOKIE not in parse_cookie(self.headers.get("COOKIE", "")):
            self.stranger = True
            self.adj = _limited(self.adj)

    def received(self, data: bytes) -> int:
        taken = super().received(data)
        if isinstance(self.error, RequestEntityTooLarge):
            self.error = (
                Refusal(401, "Signed out", "Sign in to continue; nothing was lost.")
                if self.stranger
                else Refusal(413, "Too large", "This is larger than anything that is taken here.")
            )
        elif type(self.error) is BadRequest:
            self.error = Refusal(400, "Not HTTP", f"The request cannot be read: {self.error.body}")
        return taken


def _limited(adjustments: Adjustments) -> Adjustments:
    limited = copy.copy(adjustments)
    limited.max_request_body_size = LARGEST_OF_STRANGERS
    return limited


class Channel(HTTPChannel):
    """Reads on for a while after a refusal: a connection that breaks would swallow the answer."""

    parser_class = Parser
    _refused = False
    _lingers_until: float | None = None
    _lingers_for = LINGER_BYTES
    _drained = 0

    def service(self) -> None:
        request = self.requests[0]
        self._refused = request.error is not None
        if isinstance(request, Parser) and request.stranger:
            self._lingers_for = LARGEST_OF_STRANGERS
        super().service()

    def handle_write(self) -> None:
        flushed = self.close_when_flushed and not self.total_outbufs_len
        if not (flushed and self._refused and self._lingers_until is None):
            super().handle_write()
            return
        self.close_when_flushed = False
        self._lingers_until = time.monotonic() + LINGER_S
        if self.socket is not None:
            with suppress(OSError):
                self.socket.shutdown(socket.SHUT_WR)

    def readable(self) -> Any:
        return self._lingers_until is not None or super().readable()

    def handle_read(self) -> None:
        if self._lingers_until is None:
            super().handle_read()
            return
        try:
            data = self.recv(self.adj.recv_bytes)
        except OSError:
            data = b""
        self._drained += len(data)
        if not data or self._drained > self._lingers_for or time.monotonic() > self._lingers_until:
            self.handle_close()
