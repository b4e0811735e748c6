"""Request and answer models of the bench: drills, plans, the catalogue, sounds."""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from datetime import datetime
from typing import Annotated, Any, Literal, Self

from pydantic import BaseModel, Field, model_validator

from hastatus.api.models import CueNames, RungNumber, Seed
from hastatus.core.drill.checks.fault import Fault
from hastatus.core.drill.cue import AssetId, Words
from hastatus.core.drill.document import AnyDrill
from hastatus.core.drill.header import Language
from hastatus.core.drill.outline import LibraryEntry
from hastatus.core.drill.requirement import TimedBy
from hastatus.core.drill.solo import Drill
from hastatus.core.drill.solo_wording import Fact
from hastatus.core.fields import Document, Key, Line, Note, Seconds
from hastatus.core.plan.statistics import PlanFigures
from hastatus.core.plan.timeline import PlacedCue
from hastatus.core.read.expected_share import ExpectedShare
from hastatus.core.trade.label_packs import Pack
from hastatus.core.trade.technique import Family, Limb, Reach, Stance, Target, Technique, Use

Tags = Annotated[list[Line], Field(max_length=20)]


class OfferedDrill(BaseModel):
    """A starter drill that came with a newer version, and that the club has never had."""

    title: str
    form: Literal["solo", "partner"]


class Library(BaseModel):
    """offered: empty where what is put away is looked at."""

    drills: list[LibraryEntry]
    offered: list[OfferedDrill]


class StartersRequest(Document):
    """Which of the offered drills to add; archived: put away, to be offered no more."""

    titles: Annotated[tuple[Line, ...], Field(min_length=1, max_length=100)]
    archived: bool = False


class LibraryQuery(BaseModel):
    archived: bool = False


class NewDrill(Document):
    """A drill to keep. id: made by the client, so that a repeat is harmless."""

    id: uuid.UUID
    document: AnyDrill


class ShadowView(BaseModel):
    """A solo drill that was made from a partner drill; it is kept like any new drill."""

    document: Drill


class DrillMarks(Document):
    """What is said about a drill, apart from what it is."""

    tags: Tags | None = None
    archived: bool | None = None


class PlanRequest(Document):
    """What to plan: a kept drill, or one that is being edited, for a student or for nobody."""

    drill_id: uuid.UUID | None = None
    document: dict[str, Any] | None = None
    seed: Seed
    rung: RungNumber = 1
    window_s: Annotated[Seconds | None, Field(ge=0.2, le=10)] = None
    student_id: uuid.UUID | None = None
    sound_only: bool = False

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if self.drill_id is None and self.document is None:
            raise ValueError("name a kept drill, or send a document, or both")
        return self


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
    slower than the others.
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


class TechniqueView(BaseModel):
    """A technique in the club's words. lead, rear: the whole name for a side."""

    key: str
    name: str
    lead: str
    rear: str
    use: Use
    family: Family
    line: Target
    reach: Reach
    limb: Limb
    lands: bool
    sided: bool
    own: bool
    plain: str


class PackView(BaseModel):
    key: Pack
    name: str


class NoteView(BaseModel):
    """How a technique is shown. media_type: of its picture or clip."""

    technique: str
    right_way: str
    usual_fault: str
    asset: str | None
    media_type: str | None


class CatalogueView(BaseModel):
    """Everything a cue can ask for or be."""

    pack: Pack
    renames: dict[str, str]
    packs: list[PackView]
    techniques: list[TechniqueView]
    notes: list[NoteView]


class WordsRequest(Document):
    pack: Pack
    renames: dict[str, Line] = Field(default_factory=dict, max_length=200)


class NoteRequest(Document):
    right_way: Note = ""
    usual_fault: Note = ""
    asset: AssetId | None = None


class TechniquePath(BaseModel):
    key: Key


class FitView(BaseModel):
    """How a defense answers an attack, and why."""

    technique: str
    name: str
    verdict: Literal["usual", "possible", "poor"]
    reason: str


class FitList(BaseModel):
    fits: list[FitView]


class OwnTechnique(Technique):
    """A technique of the club's own."""


class AssetPath(BaseModel):
    asset_id: AssetId


class AssetView(BaseModel):
    id: str
    kind: Literal["sound", "picture", "clip"]
    media_type: str
    length_s: float | None
    created_at: datetime


class SpokenQuery(BaseModel):
    """A call to be spoken."""

    words: Words
    language: Language = "en-gb"
    words_a_minute: Annotated[int, Field(ge=80, le=320)] = 170


class TrackPath(BaseModel):
    drill_id: uuid.UUID
    number: Annotated[int, Field(ge=1, le=10**6)]
    ending: Literal["wav", "vtt", "csv", "mid"]


class TrackQuery(BaseModel):
    """Which track of a drill. minutes: as long as this, instead of the rung's own rounds."""

    seed: Seed = 1
    rung: RungNumber = 1
    minutes: Annotated[float | None, Field(ge=0.5, le=180)] = None
    student_id: uuid.UUID | None = None
