"""A drill as a file of its own, with the recordings and pictures it needs."""

from __future__ import annotations

import re
from typing import Annotated, Any, Literal

from pydantic import Base64Bytes, Field

from hastatus.core.drill.cue import AssetId
from hastatus.core.drill.document import AnyDrill
from hastatus.core.drill.json_schema import require_tags
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.fields import Document, Line


class AssetFile(Document):
    """A recording or picture inside a drill file. data: its bytes, in base64."""

    id: AssetId
    media_type: Line
    data: Base64Bytes


class DrillFile(Document):
    """What is written when a drill is taken away, and read when one is brought in."""

    kind: Literal["hastatus-drill"] = "hastatus-drill"
    drill: AnyDrill
    assets: Annotated[tuple[AssetFile, ...], Field(max_length=40)] = ()


def assets_of(drill: Drill | PartnerDrill) -> set[str]:
    """Ids of the recordings and pictures that a drill uses; a drill uses none."""
    if not isinstance(drill, Drill):
        return set()
    assets = (getattr(cue.stimulus, "asset", None) for cue in drill.cues)
    return {asset for asset in assets if asset}


def json_schema() -> dict[str, Any]:
    """The JSON Schema (2020-12) of a drill file."""
    schema = DrillFile.model_json_schema(by_alias=True)
    require_tags(schema)
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": "Hastatus drill file",
        **{key: value for key, value in schema.items() if key != "title"},
    }


def file_name(title: str) -> str:
    """A title as a file name that every system takes, without an ending."""
    plain = re.sub(r"[^A-Za-z0-9]+", "-", title).strip("-").lower()
    return plain[:60] or "drill"
