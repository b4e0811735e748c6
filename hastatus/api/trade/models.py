"""Techniques and label packs, with what the club adds."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.http.query import Query
from hastatus.core.drill.cue import AssetId
from hastatus.core.fields import Document, Key, Line, Note
from hastatus.core.trade.faults import Owner
from hastatus.core.trade.figure import Figure
from hastatus.core.trade.label_packs import Pack
from hastatus.core.trade.technique import Family, Limb, Reach, Stance, Target, Technique, Use


class FaultView(BaseModel):
    """A fault that a coach tags, and whose it is. own: the club's own, beside the trade's."""

    name: str
    owner: Owner | None
    own: bool = False


class ClubFault(Document):
    """A fault of the club's own, and whose it is."""

    name: Line
    owner: Owner


class FaultsRequest(Document):
    """Every fault of the club's own."""

    faults: Annotated[tuple[ClubFault, ...], Field(max_length=40)]


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
    right_way: str = ""
    usual_fault: str = ""
    asset: str | None = None
    media_type: str | None = None


class CatalogueView(BaseModel):
    """Everything a cue can ask for or be."""

    pack: Pack
    renames: dict[str, str]
    packs: list[PackView]
    techniques: list[TechniqueView]
    notes: list[NoteView]
    faults: list[FaultView]


class StanceQuery(Query):
    """The stance that figures are drawn in."""

    stance: Stance = "left_lead"


class FigureList(BaseModel):
    """How each technique of the app is drawn."""

    figures: list[Figure]


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
