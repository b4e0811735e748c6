"""JSON Schemas of the documents: what pydantic asks for and does not write down."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any


def require_tags(document: dict[str, Any]) -> None:
    """Say in place that the members of a tagged union need their tag.

    A tag has a default, for the code's sake, and so pydantic writes that it may be left out; but a
    union is read by its tag, and refuses what has none.
    """
    for union in _unions(document):
        tag = union["discriminator"]["propertyName"]
        for member in union.get("oneOf", union.get("anyOf", [])):
            of = _at(document, member["$ref"])
            if tag not in of.get("required", []):
                of["required"] = sorted([*of.get("required", []), tag])


def _unions(part: Any) -> Iterator[dict[str, Any]]:
    """Every tagged union, wherever it is."""
    if isinstance(part, dict):
        if isinstance(part.get("discriminator"), dict):
            yield part
        part = list(part.values())
    if isinstance(part, list):
        for item in part:
            yield from _unions(item)


def _at(document: dict[str, Any], reference: str) -> dict[str, Any]:
    """What a reference within the document points to."""
    part = document
    for name in reference.removeprefix("#/").split("/"):
        part = part[name]
    return part
