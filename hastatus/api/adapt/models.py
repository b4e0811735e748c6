"""Where a student stands on a drill, and what the coach chose."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.drill.models import RungNumber
from hastatus.core.adapt.ladder import Suggestion
from hastatus.core.fields import Document, Seconds


class ChoiceView(BaseModel):
    """A coach's decision beside what had been suggested."""

    student_id: uuid.UUID
    drill_id: uuid.UUID
    kind: Literal["taken", "by_hand"]
    rung: int
    window_s: float
    suggested: Suggestion
    at: datetime


class ChoiceList(BaseModel):
    choices: list[ChoiceView]


class LadderPath(BaseModel):
    student_id: uuid.UUID
    drill_id: uuid.UUID


class LadderView(BaseModel):
    """Where the next run starts, and what is suggested."""

    rung: int
    window_s: float
    by: Literal["start", "settled", "taken", "by_hand"]
    suggestion: Suggestion


class ChoiceRequest(Document):
    kind: Literal["taken", "by_hand"]
    rung: RungNumber
    window_s: Annotated[Seconds, Field(ge=0.2, le=10)]


def suggestion_of(row: dict[str, object]) -> Suggestion:
    """A kept suggestion as a value."""
    return Suggestion(**row)  # type: ignore[arg-type]
