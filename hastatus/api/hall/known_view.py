"""What a device asks for again and again: sent when it has changed, with the server's clock."""

from __future__ import annotations

import time
from collections.abc import Callable

from flask import Response, request
from pydantic import BaseModel

from hastatus.api.http.reply import reply
from hastatus.store import models as rows

TOLD_ANEW_S = 10
"""How long nobody has looked at a pair, and what changed elsewhere, is told anew so often."""
TIME_HEADER = "Hastatus-Time"
"""The server's clock, ms since 1970, on every answer: devices share it."""


def unless_known(row: rows.Evening, view: Callable[[], BaseModel]) -> Response:
    """What `view` makes, or 304 where whoever asks has it already."""
    tag = f"{row.id}-{row.edit}-{row.changes}-{int(time.time()) // TOLD_ANEW_S}"
    answer = Response(status=304) if tag in request.if_none_match else reply(view())
    answer.set_etag(tag)
    answer.headers["Cache-Control"] = "private, no-cache"
    return timed(answer)


def timed(answer: Response) -> Response:
    """The answer with the server's clock on it, as late as can be."""
    answer.headers[TIME_HEADER] = f"{time.time() * 1000:.1f}"
    return answer
