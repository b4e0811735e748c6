"""Sending a model as JSON, and whether the program is alive and ready."""

from __future__ import annotations

from typing import Literal

from flask import Response
from pydantic import BaseModel
from pydantic_core import to_json


def reply(model: BaseModel, status: int = 200) -> Response:
    """A model as an answer."""
    return Response(to_json(model), status=status, content_type="application/json")


class Health(BaseModel):
    status: Literal["alive"]
    version: str


class Readiness(BaseModel):
    status: Literal["ready"]
    schema_revision: str
