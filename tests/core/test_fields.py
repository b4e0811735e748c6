"""What a JSON Schema says of a line of text is what is taken."""

from __future__ import annotations

import re
from typing import Annotated

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import Field, TypeAdapter, ValidationError

from hastatus.core.fields import LONGEST_LINE, LONGEST_NOTE, Line, Note, trimmed

THREE = Annotated[Line, Field(min_length=3, json_schema_extra=trimmed(3))]
KINDS = {"line": TypeAdapter(Line), "note": TypeAdapter(Note), "three": TypeAdapter(THREE)}
BORDER = {
    "line": (0, 1, 2, 3, LONGEST_LINE - 1, LONGEST_LINE, LONGEST_LINE + 1),
    "note": (0, 1, 2, LONGEST_NOTE - 1, LONGEST_NOTE, LONGEST_NOTE + 1),
    "three": (0, 1, 2, 3, 4, LONGEST_LINE, LONGEST_LINE + 1),
}


def takes(kind: str, text: str) -> bool:
    try:
        KINDS[kind].validate_python(text)
    except ValidationError:
        return False
    return True


def says(kind: str, text: str) -> bool:
    schema = KINDS[kind].json_schema()
    assert set(schema) <= {"type", "pattern"}
    return re.search(schema["pattern"].replace("$", r"\Z"), text) is not None


@pytest.mark.parametrize("kind", KINDS)
def test_spaces_at_both_ends_do_not_count(kind: str) -> None:
    for count in BORDER[kind]:
        text = "a" * count
        for spaced in (text, f"  {text}", f"{text} \n", f"\t{text}\xa0"):
            assert says(kind, spaced) == takes(kind, spaced), (count, spaced[:4])


@pytest.mark.parametrize("kind", KINDS)
@given(text=st.text(st.sampled_from("ab \t\n\x00\x1f\x7f\x85\xa0é🙂"), max_size=8))
def test_what_the_schema_says_is_what_is_taken(kind: str, text: str) -> None:
    assert says(kind, text) == takes(kind, text)
