"""What is sent: a model as JSON, a file; and whether the program is alive and ready."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

from flask import Response
from pydantic import BaseModel
from pydantic_core import to_json


def reply(model: BaseModel, status: int = 200) -> Response:
    """A model as an answer."""
    return Response(to_json(model), status=status, content_type="application/json")


def download(data: str | bytes | Iterator[bytes], content_type: str, name: str) -> Response:
    """Something to keep as a file of this name."""
    answer = Response(data, content_type=content_type)
    answer.headers["Content-Disposition"] = f'attachment; filename="{name}"'
    return answer


class Health(BaseModel):
    status: Literal["alive"]
    version: str


class Readiness(BaseModel):
    status: Literal["ready"]
    schema_revision: str
