"""Field types shared by every document: clean text and finite numbers."""

from __future__ import annotations

import unicodedata
from typing import Annotated, Any

from pydantic import (
    AfterValidator,
    BaseModel,
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


def line_pattern(least: int) -> str:
    """For a JSON Schema: at least so many characters (1 or more), spaces at both ends aside."""
    rest = f"(?:{_TEXT}*{_INK})?" if least == 1 else f"{_TEXT}{{{least - 2},}}{_INK}"
    return f"^{_SPACE}{_INK}{rest}{_SPACE}$"


Line = Annotated[
    str,
    StringConstraints(strip_whitespace=True, min_length=1, max_length=120),
    _clean,
    Field(json_schema_extra={"pattern": line_pattern(1)}),
]
"""One line of text, 1 to 120 characters, no control characters."""

Note = Annotated[
    str,
    StringConstraints(strip_whitespace=True, max_length=2000),
    _clean,
    Field(json_schema_extra={"pattern": f"^{_SPACE}{_TEXT}*{_SPACE}$"}),
]
"""Free text, up to 2,000 characters."""

Key = Annotated[str, StringConstraints(pattern=r"^[a-z][a-z0-9_]{0,39}$")]
"""A short name used as an identifier inside a document."""

Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
"""A share of a whole, 0 to 1."""

Seconds = Annotated[float, Field(ge=0, le=86_400, allow_inf_nan=False)]
"""A duration in seconds, never negative, at most a day."""

Milliseconds = Annotated[float, Field(ge=0, le=1e11, allow_inf_nan=False)]
"""A time on the run's clock in milliseconds, never before the clock's start.

The clock of a page starts when the page is opened, and a tablet's page may stay open for months:
the bound is three years.
"""


def _take_as_written(part: Any) -> None:
    """Make every number and switch of a schema strict, in place; the rest stays as lax as it is."""
    if isinstance(part, dict):
        if part.get("type") in ("int", "float", "bool"):
            part["strict"] = True
        part = list(part.values())
    if isinstance(part, list | tuple):
        for each in part:
            _take_as_written(each)


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
