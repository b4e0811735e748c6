"""Field types shared by every document: clean text and finite numbers."""

from __future__ import annotations

import unicodedata
from typing import Annotated

from pydantic import AfterValidator, BaseModel, ConfigDict, Field, StringConstraints


def _no_control(value: str) -> str:
    for position, character in enumerate(value):
        if unicodedata.category(character) in ("Cc", "Cs") and character not in "\n\t":
            code = f"U+{ord(character):04X}"
            raise ValueError(f"character {position + 1} is a control character ({code}); remove it")
    return value


_clean = AfterValidator(_no_control)

Line = Annotated[
    str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120), _clean
]
"""One line of text, 1 to 120 characters, no control characters."""

Note = Annotated[str, StringConstraints(strip_whitespace=True, max_length=2000), _clean]
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


class Document(BaseModel):
    """A frozen model that refuses fields it does not know."""

    model_config = ConfigDict(frozen=True, extra="forbid")
