"""Field types shared by every document: clean text and finite numbers."""

from __future__ import annotations

import unicodedata
from collections.abc import Callable
from datetime import datetime
from typing import Annotated, Any

from pydantic import (
    AfterValidator,
    AwareDatetime,
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    GetCoreSchemaHandler,
    StringConstraints,
)
from pydantic_core import core_schema


def _no_control(value: str) -> str:
    for position, character in enumerate(value):
        if unicodedata.category(character) in ("Cc", "Cs") and character not in "\n\t":
            code = f"U+{ord(character):04X}"
            raise ValueError(f"character {position + 1} is a control character ({code}); remove it")
    return value


_clean = AfterValidator(_no_control)

_SPACE = r"[\t-\r \x85\xa0]*"
_TEXT = r"[^\x00-\x08\x0b-\x1f\x7f-\x9f]"
_INK = r"[^\s\x00-\x20\x7f-\xa0]"


LONGEST_LINE, LONGEST_NOTE = 120, 2000


def _pattern(least: int, most: int) -> str:
    """So many characters, spaces at both ends aside."""
    ends = f"{_TEXT}{{{max(least - 2, 0)},{most - 2}}}{_INK}"
    inked = f"{_INK}{ends}" if least > 1 else f"{_INK}(?:{ends})?"
    return f"^{_SPACE}{inked if least else f'(?:{inked})?'}{_SPACE}$"


def trimmed(least: int, most: int = LONGEST_LINE) -> Callable[[dict[str, Any]], None]:
    """What a JSON Schema says of a text of `least` to `most` characters that is trimmed first.

    Its own lengths would count the spaces at both ends, too.
    """

    def say(schema: dict[str, Any]) -> None:
        schema.pop("maxLength", None)
        schema.pop("minLength", None)
        schema["pattern"] = _pattern(least, most)

    return say


Line = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=LONGEST_LINE),
    _clean,
    Field(json_schema_extra=trimmed(1)),
]
"""One line of text, 1 to 120 characters, no control characters."""

Note = Annotated[
    str,
    StringConstraints(strip_whitespace=True, max_length=LONGEST_NOTE),
    _clean,
    Field(json_schema_extra=trimmed(0, LONGEST_NOTE)),
]
"""Free text, up to 2,000 characters."""

Key = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
"""A short name used as an identifier inside a document."""

PassageKey = Annotated[
    str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}(\+[a-z][a-z0-9_]{0,39}){0,3}$")
]
"""A passage as it was done: its key, and after a plus each choice that came in it."""

Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
"""A share of a whole, 0 to 1."""

SLOWEST_BPM, FASTEST_BPM = 20, 300
Tempo = Annotated[float, Field(ge=SLOWEST_BPM, le=FASTEST_BPM, allow_inf_nan=False)]
"""In BPM."""
DAY_S = 86_400
Seconds = Annotated[float, Field(ge=0, le=DAY_S, allow_inf_nan=False)]
"""A duration in seconds, never negative, at most a day."""

Milliseconds = Annotated[float, Field(ge=0, le=1e11, allow_inf_nan=False)]
"""A time on the run's clock in milliseconds, never before the clock's start.

The clock of a page starts when the page is opened, and a tablet's page may stay open for months:
the bound is three years.
"""


def _written(value: object) -> object:
    """An instant is written out (RFC 3339), not a count of seconds."""
    if not isinstance(value, datetime) and (not isinstance(value, str) or "T" not in value.upper()):
        raise ValueError("write it as a date and a time with a zone, like 2026-11-05T18:30:00Z")
    return value


Instant = Annotated[AwareDatetime, BeforeValidator(_written)]
"""A moment: a date and a time with its zone."""


def _take_as_written(part: Any) -> None:
    """Make every number and switch of a schema strict, in place; the rest stays as lax as it is."""
    if isinstance(part, dict):
        if part.get("type") in ("int", "float", "bool"):
            part["strict"] = True
        part = list(part.values())
    if isinstance(part, list | tuple):
        for item in part:
            _take_as_written(item)


class Document(BaseModel):
    """A frozen model that refuses fields it does not know.

    Its numbers are numbers and its switches are switches: "1" is no number, and 1 is not true.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    @classmethod
    def __get_pydantic_core_schema__(
        cls, source: Any, handler: GetCoreSchemaHandler
    ) -> core_schema.CoreSchema:
        schema = handler(source)
        _take_as_written(schema)
        return schema
