"""What a body may be: its size, its type, and strict JSON."""

from __future__ import annotations

import json
from typing import Any, NoReturn

from flask import request
from flask.json.provider import DefaultJSONProvider

from hastatus.api.http.problems import Problem

LARGEST_BODY = 4 * 2**20
LARGEST_FILE = 16 * 2**20
LARGEST_PIECE = 8 * 2**20
LARGEST_SIGN_IN = 4 * 2**10
LARGEST_AT_HOME = 2**20

MOST_PARTS = 50_000
"""Objects and lists in one body. The largest drill has some thousands, a batch fewer."""

UPLOADS = "/api/assets"
FILMS = "/api/films/"
SIGN_IN = "/api/session"
PHONES = "/api/phones/"
JOINS = "/api/joins/"
HOME = "/api/home/"


class StrictJson(DefaultJSONProvider):
    """JSON as RFC 8259 has it: no NaN, no infinities, and no U+0000 in any text."""

    def loads(self, s: str | bytes, **kwargs: Any) -> Any:
        text = s.decode("utf-8") if isinstance(s, bytes) else s
        if "\\u0000" in text or "\x00" in text:
            raise ValueError("U+0000 is not allowed in any text")
        return json.loads(text, parse_constant=_refuse_constant)


def _refuse_constant(name: str) -> NoReturn:
    raise ValueError(f"{name} is no JSON number")


def signs_in() -> bool:
    """Whether the request is a sign-in, of which nobody is known yet."""
    return request.path == SIGN_IN and request.method == "POST"


def of_stranger() -> bool:
    """Whether nobody has to be signed in for the request: a sign-in, a phone that has a code, or
    somebody who has a link."""
    return signs_in() or request.path.startswith((PHONES, JOINS, HOME))


def _largest() -> int:
    if request.path.startswith(HOME):
        return LARGEST_AT_HOME
    if of_stranger():
        return LARGEST_SIGN_IN
    return LARGEST_FILE if request.path.endswith("/file") else LARGEST_BODY


def _size(count: int) -> str:
    return f"{count // 2**20} MB" if count >= 2**20 else f"{count // 2**10} kB"


def _is_piece() -> bool:
    """Whether the request is a piece of a film."""
    return request.path.startswith(FILMS) and request.path.endswith("/bytes")


def _check_piece() -> None:
    """A piece of a film is sent as it is."""
    request.max_content_length = LARGEST_PIECE
    if request.content_length and request.content_length > LARGEST_PIECE:
        size = _size(LARGEST_PIECE)
        raise Problem(413, "Too large", f"A film is sent in pieces of at most {size}.")
    if request.content_length and request.mimetype != "application/octet-stream":
        raise Problem(415, "Wrong content type", "Send a piece as application/octet-stream.")


def _check_upload() -> None:
    """A file is sent as it is; it is larger than any JSON of ours, and never JSON."""
    request.max_content_length = LARGEST_FILE
    if request.content_length and request.content_length > LARGEST_FILE:
        raise Problem(413, "Too large", f"file: a file has at most {LARGEST_FILE // 2**20} MB.")
    if request.mimetype.split("/")[0] not in ("audio", "image", "video"):
        raise Problem(415, "Wrong content type", "Send a sound, a picture or a clip as it is.")


def check_body() -> None:
    """Refuse what is too large, no JSON object, or no file; nothing of it has been read before."""
    if request.path == UPLOADS and request.method == "POST":
        _check_upload()
        return
    if _is_piece() and request.method == "PUT":
        _check_piece()
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
        document = request.json_module.loads(data)
    except (ValueError, RecursionError) as error:
        raise Problem(400, "No JSON", f"The body cannot be read as JSON: {error}") from error
    if not isinstance(document, dict):
        # A text would be read as JSON once more, past these checks.
        raise Problem(422, "Not valid", "The body is a JSON object, and nothing else.")
