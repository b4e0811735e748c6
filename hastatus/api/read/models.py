"""Runs in lists, the readout of one, and a student over the weeks."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.adapt.models import ChoiceView, LadderView
from hastatus.api.club.models import StudentView
from hastatus.api.drill.models import CueNames
from hastatus.api.http.query import Query
from hastatus.core.adapt.ladder import RunEvidence
from hastatus.core.drill.solo import Drill
from hastatus.core.fields import Document, Instant, Line
from hastatus.core.read.baseline import Agreement, Baseline, BaselineTrend
from hastatus.core.read.difference import Difference
from hastatus.core.read.fault_course import FaultCourse
from hastatus.core.read.solo_run import Reading
from hastatus.core.read.student_course import Skill
from hastatus.core.read.summary import Summary
from hastatus.core.read.trend import Slope
from hastatus.core.run.device import Device
from hastatus.core.score.response import Response as CueResponse
from hastatus.store.asked_runs import Asked
from hastatus.store.away import Away


class RunLine(BaseModel):
    """A run in a list. away: archived or deleted; None: neither."""

    id: uuid.UUID
    student_id: uuid.UUID
    student: str
    drill_id: uuid.UUID
    drill: str
    started_at: datetime
    rung: int
    state: Literal["open", "closed", "complete"]
    summary: Summary | None
    evidence: RunEvidence | None
    side: Difference | None
    baseline: bool
    simulated: bool
    away: Away | None


class RunList(BaseModel):
    runs: list[RunLine]


class BaselineLine(BaseModel):
    """One baseline of a student. Medians of the rounds with one cue, ms; None: too few to say."""

    run_id: uuid.UUID
    started_at: datetime
    sound_ms: float | None
    light_ms: float | None
    baseline: Baseline


class BaselineCourse(BaseModel):
    """A student's baselines, oldest first, and what changed over them; None: too few to say."""

    tests: list[BaselineLine]
    sound: BaselineTrend | None
    light: BaselineTrend | None


class SkillView(BaseModel):
    """A skill in the club's words, and its course."""

    name: str
    course: Skill


class StudentDetail(BaseModel):
    """skills: those with the most answers first. weekly: s that the window of the newest drill gets
    longer by in a week. agreement: how far the club's tests agree with one another.
    """

    student: StudentView
    runs: list[RunLine]
    choices: list[ChoiceView]
    baselines: BaselineCourse
    skills: list[SkillView]
    weekly: Slope | None
    agreement: Agreement | None


class RunQuery(Query):
    """Which runs: whose, of which drill, begun since and before when; archived ones, instead of
    those that are not."""

    student_id: uuid.UUID | None = None
    drill_id: uuid.UUID | None = None
    since: Instant | None = None
    before: Instant | None = None
    archived: bool = False

    @property
    def asked(self) -> Asked:
        """The runs that are asked for."""
        return Asked(self.student_id, self.drill_id, self.since, self.before, self.archived)


class GroupView(BaseModel):
    """Figures of a group of responses; times_ms: of right answers."""

    key: str
    summary: Summary
    times_ms: list[float]


class RunFault(Document):
    """How often a fault was seen in a run."""

    fault: Line
    count: Annotated[int, Field(ge=0, le=999)]


class RunFaults(Document):
    """Every fault that was seen in a run."""

    faults: Annotated[tuple[RunFault, ...], Field(max_length=40)]


class FaultCourses(BaseModel):
    """A student's faults over the weeks. at: when each run was in which something was tagged."""

    at: list[datetime]
    faults: list[FaultCourse]


class ComparisonPath(BaseModel):
    """Two runs, the earlier one first by custom."""

    run_id: uuid.UUID
    other_id: uuid.UUID


class ComparedKind(BaseModel):
    """One kind of answer in both runs, and how much slower the other's were; None: too few."""

    name: str
    one: Summary
    other: Summary
    found: Difference | None


class ComparisonView(BaseModel):
    """Two runs set against each other. doubts: why they can hardly be."""

    one: RunLine
    other: RunLine
    kinds: list[ComparedKind]
    doubts: list[str]


class ReadoutView(BaseModel):
    """A run, read.

    durations_s: length of each round, s. reading: what its times say. weights: how much more often
    than its share a cue came, because the student had been weak on it or its speed was still open.
    slow_cue: which is surely slower than the others, by all runs of the drill. out_of_reach: why no
    window would hold the target's share. faults: to tag, with how often each was seen.
    """

    run: RunLine
    document: Drill
    version: int
    weights: dict[str, float]
    slow_cue: str | None
    cues: list[CueNames]
    durations_s: list[float]
    device: Device
    responses: list[CueResponse]
    summary: Summary
    by_cue: list[GroupView]
    by_side: list[GroupView]
    by_channel: list[GroupView]
    reading: Reading
    baseline: Baseline | None
    strays: int
    stray_whys: dict[str, int]
    lost: int
    microphone_doubt: str | None
    out_of_reach: str | None
    missing: list[int]
    holding: bool
    ladder: LadderView
    spread_ms: float
    faults: list[RunFault]
