"""The picture of a code for a phone's camera (ISO/IEC 18004)."""

from __future__ import annotations

from typing import Annotated, NamedTuple

import segno
from pydantic import Field

Origin = Annotated[str, Field(max_length=200, pattern=r"^https?://[A-Za-z0-9.:\[\]_-]+$")]
"""Where the address begins that a phone is to open, as the coach's browser writes it: scheme, host
and port (RFC 6454; a host of other letters in its ASCII form)."""


class CodePicture(NamedTuple):
    """size: squares on a side. squares: the dark ones, as an SVG path, one unit a square."""

    size: int
    squares: str


def code_picture(text: str) -> CodePicture:
    """The picture that says `text`, without the quiet zone around it."""
    matrix = [bytes(line) for line in segno.make(text, micro=False).matrix]
    dark = ((x, y) for y, line in enumerate(matrix) for x, is_dark in enumerate(line) if is_dark)
    return CodePicture(len(matrix), "".join(f"M{x} {y}h1v1h-1z" for x, y in dark))
