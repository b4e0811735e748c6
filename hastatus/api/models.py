"""Request and answer models, and the paths' ids."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from flask import Response
from pydantic import BaseModel, Field, StringConstraints
from pydantic_core import to_json

from hastatus.core.adapt.ladder import RunEvidence, Suggestion
from hastatus.core.adapt.notices import LastRun, Notice
from hastatus.core.drill.cue import SoundName
from hastatus.core.drill.document import AnyDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.fields import Document, Line, Note, Seconds
from hastatus.core.loop.live_run import Tail
from hastatus.core.read.baseline import Agreement, Baseline, BaselineTrend
from hastatus.core.read.difference import Difference
from hastatus.core.read.student_course import Skill
from hastatus.core.read.summary import Summary
from hastatus.core.read.trend import Slope
from hastatus.core.run.device import Source
from hastatus.core.run.events import Batch
from hastatus.core.run.medical_hold import MedicalHold
from hastatus.core.trade.contact import Contact
from hastatus.core.trade.gear import Gear
from hastatus.core.trade.label_packs import PLAIN, Labels
from hastatus.core.trade.limbs import Body
from hastatus.core.trade.technique import Stance

Password = Annotated[str, StringConstraints(min_length=1, max_length=200, pattern=r"^[^\x00]*$")]
Seed = Annotated[int, Field(ge=0, lt=2**53)]
RungNumber = Annotated[int, Field(ge=1, le=20)]


def reply(model: BaseModel, status: int = 200) -> Response:
    """A model as an answer."""
    return Response(to_json(model), status=status, content_type="application/json")


class SignInRequest(Document):
    login: Line
    password: Password


class SessionView(BaseModel):
    """Who is signed in, and the token that every write carries."""

    club: str
    coach: str
    role: str
    csrf: str
    cautions: list[str]


class PasswordRequest(Document):
    old: Password
    new: Password


class SignInView(BaseModel):
    id: uuid.UUID
    device: str
    created_at: datetime
    seen_at: datetime
    current: bool


class SignInList(BaseModel):
    sign_ins: list[SignInView]


class SignInPath(BaseModel):
    sign_in_id: uuid.UUID


class StudentRequest(Document):
    name: Line
    stance: Stance = "left_lead"
    notes: Note = ""
    body: Body = Body()
    gear: Annotated[tuple[Gear, ...], Field(max_length=10)] = ()
    contact: Contact = "touch"


class StudentPath(BaseModel):
    student_id: uuid.UUID


class RunLine(BaseModel):
    """A run in a list."""

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


class StudentView(BaseModel):
    """A student, and where the student stands (see `core.adapt.notices.StudentStanding`).

    hold: after a head knock; None: free to take part.
    """

    id: uuid.UUID
    name: str
    stance: Stance
    notes: str
    body: Body
    gear: list[Gear]
    contact: Contact
    runs: int
    last: LastRun | None
    course: list[float]
    notices: list[Notice]
    hold: MedicalHold | None


class StudentList(BaseModel):
    students: list[StudentView]


class RunList(BaseModel):
    runs: list[RunLine]


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


class RunQuery(BaseModel):
    student_id: uuid.UUID | None = None


class DrillPath(BaseModel):
    drill_id: uuid.UUID


class VersionPath(BaseModel):
    drill_id: uuid.UUID
    number: Annotated[int, Field(ge=1, le=10**6)]


class CueNames(BaseModel):
    """A cue in words. asks: what it asks for; chains: each that it accepts."""

    key: str
    name: str
    asks: str
    chains: list[str]
    channel: Literal["hear", "see"]
    share: list[float]


class DrillView(BaseModel):
    """A drill version. cues: in words, with the share on each rung; a score has none."""

    id: uuid.UUID
    version: int
    newest: bool
    document: AnyDrill
    cues: list[CueNames]
    tags: list[str]
    cautions: list[str]


class VersionRequest(Document):
    base: Annotated[int, Field(ge=1)]
    document: AnyDrill


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


class RunRequest(Document):
    """A new run. id and recorder are made by the player, so that a repeat is harmless.

    device_id: the device it is played on, whose measured latencies hold. inputs: what is listened
    to. home: a home key, pad or zone is held between answers. simulated: by the pad kit's stand-in.
    """

    id: uuid.UUID
    recorder: uuid.UUID
    student_id: uuid.UUID
    drill_id: uuid.UUID
    seed: Seed
    sound_only: bool = False
    device_id: uuid.UUID | None = None
    inputs: Annotated[tuple[Source, ...], Field(max_length=7)] = ("key", "touch")
    home: bool = False
    simulated: bool = False


class RunPath(BaseModel):
    run_id: uuid.UUID


class BatchRequest(Batch):
    recorder: uuid.UUID

    def batch(self) -> Batch:
        """The batch without its sender."""
        return Batch(**{name: getattr(self, name) for name in Batch.model_fields})


class Ack(BaseModel):
    """What became of a batch. tail: the rest of the round, re-timed."""

    next_batch: int
    complete: bool
    window_s: float
    holding: bool
    tail: Tail | None


class SoundPath(BaseModel):
    name: SoundName


class Health(BaseModel):
    status: Literal["alive"]
    version: str


class Readiness(BaseModel):
    status: Literal["ready"]
    schema_revision: str


def cue_names(drill: Drill, labels: Labels = PLAIN) -> list[CueNames]:
    """The drill's cues in words, with their share on each rung (of its first turn)."""
    labels = drill.labels(labels)
    shares = [drill.mean_shares(rung) for rung in drill.rungs]
    return [
        CueNames(
            key=cue.key,
            name=cue.name,
            asks=cue.asked(labels),
            chains=[chain.name(labels) for chain in cue.asks],
            channel=cue.channel,
            share=[float(each.get(cue.key, 0.0)) for each in shares],
        )
        for cue in drill.cues
    ]


def suggestion_of(row: dict[str, object]) -> Suggestion:
    """A kept suggestion as a value."""
    return Suggestion(**row)  # type: ignore[arg-type]
