"""Reading drills that an older version of the language wrote. What a newer one wrote is refused."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, Final, Literal

SCHEMA_VERSION: Final[Literal[3]] = 3


def upgraded(document: Any) -> Any:
    """`document` in the current version of the language; anything unknown is left as it is.

    Raises ValueError for a newer version.
    """
    if not isinstance(document, Mapping):
        return document
    version = document.get("schema_version", SCHEMA_VERSION)
    if isinstance(version, int) and version > SCHEMA_VERSION:
        raise ValueError(
            f"this drill was written by a newer version of Hastatus (schema {version}; this one "
            f"reads up to {SCHEMA_VERSION}); update first"
        )
    if version == 1:
        document = _from_1(document)
    return _from_2(document) if version in (1, 2) else document


def _from_2(document: Mapping[str, Any]) -> dict[str, Any]:
    """Version 2 knew solo drills only."""
    return {"form": "solo", **document, "schema_version": 3}


def _from_1(document: Mapping[str, Any]) -> dict[str, Any]:
    """Version 1 had one answer a cue, and order, rounds and flash length for all rungs alike."""
    shared = ("order", "rounds", "flash_s")
    new = {key: value for key, value in document.items() if key not in shared}
    new["schema_version"] = 2
    if isinstance(document.get("cues"), list | tuple):
        new["cues"] = [_cue_from_1(cue) for cue in document["cues"]]
    if isinstance(document.get("rungs"), list | tuple):
        new["rungs"] = [_rung_from_1(rung, document) for rung in document["rungs"]]
    return new


def _cue_from_1(cue: Any) -> Any:
    if not isinstance(cue, Mapping):
        return cue
    new = {key: value for key, value in cue.items() if key != "answer"}
    if cue.get("answer") is not None:
        new["asks"] = [{"steps": [cue["answer"]]}]
    return new


def _rung_from_1(rung: Any, document: Mapping[str, Any]) -> Any:
    if not isinstance(rung, Mapping):
        return rung
    new = dict(rung)
    if isinstance(rung.get("waiting"), Mapping):
        new["waiting"] = {"kind": "unguessable", **rung["waiting"]}
    if isinstance(document.get("order"), Mapping):
        new["order"] = {"kind": "balanced", **document["order"]}
    for key in ("rounds", "flash_s"):
        if key in document:
            new[key] = document[key]
    return new
