"""A drill on the bench, planned and in words."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Annotated, Any, Self

from pydantic import BaseModel, Field, model_validator

from hastatus.api.drill.models import CueNames, RungNumber, Seed
from hastatus.core.drill.checks.fault import Fault, Mend
from hastatus.core.drill.checks.schools import SchoolLine
from hastatus.core.drill.requirement import TimedBy
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.drill.solo_wording import Fact
from hastatus.core.fields import Document, Seconds
from hastatus.core.plan.statistics import PlanFigures
from hastatus.core.plan.timeline import PlacedCue
from hastatus.core.read.expected_share import ExpectedShare
from hastatus.core.trade.technique import Stance


class ShadowView(BaseModel):
    """A solo drill that was made from a partner drill; it is kept like any new drill."""

    document: Drill


class BenchRequest(Document):
    """A drill on the bench: a kept one, or one that is being edited."""

    drill_id: uuid.UUID | None = None
    document: dict[str, Any] | None = None
    rung: RungNumber = 1

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if self.drill_id is None and self.document is None:
            raise ValueError("name a kept drill, or send a document, or both")
        return self


class PlanRequest(BenchRequest):
    """What to plan: a drill on the bench, for a student or for nobody."""

    seed: Seed
    window_s: Annotated[Seconds | None, Field(ge=0.2, le=10)] = None
    student_id: uuid.UUID | None = None
    sound_only: bool = False


@dataclass(slots=True)
class DrawnSound:
    """What sounds besides the cues, by the name of its clip."""

    at_s: float
    clip: str


class DrawnRound(BaseModel):
    """A planned round as it is drawn. sounds: leads, signals, counts, rests and calls."""

    number: int
    stance: Stance
    duration_s: float
    cues: tuple[PlacedCue, ...]
    sounds: list[DrawnSound]


class RungWords(BaseModel):
    """A rung in words. changes: what it changes of the rung before."""

    name: str
    facts: list[Fact]
    changes: list[str]


class CueWords(CueNames):
    """A cue in words, on the bench.

    timed_by: where its time comes from on the planned rung; None: not there.
    clip: the sound that it is, or that is said for it on a cue track.
    """

    timed_by: TimedBy | None
    clip: str


class PlanView(BaseModel):
    """A planned drill on the bench. Without a plan, the faults say why.

    expected: share expected clean from the student's times; None: unknown. expected_from says
    where these come from, or why there are none. weights: how much more often than its share a cue
    comes, because the student is weak on it or its speed is still open. slow_cue: which is surely
    slower than the others. schools: which it follows where coaches disagree; more_schools: the
    edits that say one more. harder: the rung that usually comes after this one.
    """

    rung: int
    window_s: float
    rounds: list[DrawnRound]
    figures: PlanFigures | None
    faults: list[Fault]
    rungs: list[RungWords]
    cues: list[CueWords]
    expected: ExpectedShare | None
    expected_from: str
    weights: dict[str, float]
    slow_cue: str | None
    schools: list[SchoolLine]
    more_schools: list[Mend]
    harder: Rung | None
