"""One form for a value, whatever it was made from, and the hash of that form."""

from __future__ import annotations

import hashlib
import json
import re
from typing import Any

from pydantic_core import to_jsonable_python

DIGITS = 6
"""Significant digits of a number: what another processor rounds otherwise lies far below."""
_ID = re.compile(r"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}")
_LEFT_OUT = {"description", "title", "summary", "operationId", "tags", "$defs"}
"""Prose, and the definitions: each stands where it is referred to."""


def golden_hash(value: object) -> str:
    """The first 16 hex digits of the SHA-256 of a value as JSON.

    Numbers are rounded, and ids are told by the order in which they come.
    """
    text = json.dumps(_rounded(to_jsonable_python(value)), sort_keys=True, ensure_ascii=False)
    seen: dict[str, str] = {}
    text = _ID.sub(lambda found: seen.setdefault(found[0], f"id {len(seen)}"), text)
    return hashlib.sha256(text.encode()).hexdigest()[:16]


def _rounded(value: Any) -> Any:
    if isinstance(value, dict):
        return {str(key): _rounded(inner) for key, inner in value.items()}
    if isinstance(value, list):
        return [_rounded(inner) for inner in value]
    if isinstance(value, float):
        return float(f"{value:.{DIGITS}g}") + 0.0  # -0.0 and 0.0 are one number
    return value


def structure(schema: Any, definitions: dict[str, Any]) -> Any:
    """A JSON Schema or an API document without names of types and prose: what is on the wire."""
    return _Structure(definitions).of(schema)


class _Structure:
    """Puts the hash of what a reference leads to in its place; a circle ends in the word circle."""

    def __init__(self, definitions: dict[str, Any]) -> None:
        self.definitions = definitions
        self.hashes: dict[str, str] = {}

    def of(self, value: Any, within: tuple[str, ...] = ()) -> Any:
        if isinstance(value, list):
            return [self.of(inner, within) for inner in value]
        if not isinstance(value, dict):
            return value
        if isinstance(value.get("$ref"), str):
            return self._named(value["$ref"].rsplit("/", 1)[-1], within)
        found = {}
        for key, inner in value.items():
            if key == "mapping":  # of a discriminator: its values name types
                found[key] = {each: self.of({"$ref": ref}, within) for each, ref in inner.items()}
            elif key in ("properties", "paths"):
                found[key] = {name: self.of(each, within) for name, each in inner.items()}
            elif key not in _LEFT_OUT:
                found[key] = self.of(inner, within)
        return found

    def _named(self, name: str, within: tuple[str, ...]) -> str:
        if name in within:
            return "circle"
        if name not in self.hashes:
            self.hashes[name] = golden_hash(self.of(self.definitions[name], (*within, name)))
        return self.hashes[name]
