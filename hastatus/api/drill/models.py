"""Drills in the library, their versions and files."""

from __future__ import annotations

import uuid
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.http.query import Query
from hastatus.core.drill.checks.schools import SchoolLine
from hastatus.core.drill.document import AnyDrill
from hastatus.core.drill.outline import LibraryEntry
from hastatus.core.drill.solo import Drill
from hastatus.core.fields import Document, Line
from hastatus.core.trade.label_packs import PLAIN, Labels

MOST_SEED = 2**53
Seed = Annotated[int, Field(ge=0, lt=MOST_SEED)]
RungNumber = Annotated[int, Field(ge=1, le=20)]
Tags = Annotated[list[Line], Field(max_length=20)]


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
    """A drill version. cues: in words, with the share on each rung; a partner drill
    has none. schools: which it follows where coaches disagree."""

    id: uuid.UUID
    version: int
    newest: bool
    document: AnyDrill
    cues: list[CueNames]
    tags: list[str]
    cautions: list[str]
    schools: list[SchoolLine]


class VersionRequest(Document):
    base: Annotated[int, Field(ge=1)]
    document: AnyDrill


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
            share=[float(share.get(cue.key, 0.0)) for share in shares],
        )
        for cue in drill.cues
    ]


class OfferedDrill(BaseModel):
    """A starter drill that came with a newer version, and that the club has never had."""

    title: str
    form: Literal["solo", "partner"]


class Library(BaseModel):
    """offered: empty where what is put away is looked at."""

    drills: list[LibraryEntry]
    offered: list[OfferedDrill]


class Tests(BaseModel):
    """drill_ids: of the tests in use, the oldest first."""

    drill_ids: list[uuid.UUID]


class StartersRequest(Document):
    """Which of the offered drills to add; archived: put away, to be offered no more."""

    titles: Annotated[tuple[Line, ...], Field(min_length=1, max_length=100)]
    archived: bool = False


class LibraryQuery(Query):
    archived: bool = False


class NewDrill(Document):
    """A drill to keep. id: made by the client, so that a repeat is harmless."""

    id: uuid.UUID
    document: AnyDrill


class DrillMarks(Document):
    """What is said about a drill, apart from what it is."""

    tags: Tags | None = None
    archived: bool | None = None


class TrackPath(BaseModel):
    drill_id: uuid.UUID
    number: Annotated[int, Field(ge=1, le=10**6)]
    ending: Literal["wav", "opus", "vtt", "csv", "mid"]


class TrackQuery(Query):
    """Which track of a drill. minutes: as long as this, instead of the rung's own rounds.

    student_id: who does a solo drill. feeder_id, defender_id: who does a partner drill. partner: in
    whose ear its track is, from 0; it says what comes only where they feed. None: where anybody
    does.
    """

    seed: Seed = 1
    rung: RungNumber = 1
    minutes: Annotated[float | None, Field(ge=0.5, le=180)] = None
    student_id: uuid.UUID | None = None
    feeder_id: uuid.UUID | None = None
    defender_id: uuid.UUID | None = None
    partner: Annotated[int | None, Field(ge=0, le=2)] = None
