"""A drill in one line, as a library shows it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from hastatus.core.drill.cue import Channel, Mark
from hastatus.core.drill.header import Level
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill


@dataclass(frozen=True, slots=True)
class Dot:
    """A cue or a step in a small picture of a drill.

    lane: 0 is heard, or the feeder's; 1 is seen, or the defender's. at: along the lane, from 0 to
    1. mark: a cue's, or the exchange's on its attack; None: an answer.
    """

    lane: int
    at: float
    mark: Mark | None


@dataclass(frozen=True, slots=True)
class Outline:
    """What a library tells of a drill.

    floor_m: side of the square that it needs. least_minutes, most_minutes: its shortest and longest
    rung, with rests. channels: how its cues arrive; those of a drill are read from a partner.
    picture: its cues, or both sides of its first exchange.
    """

    form: Literal["solo", "partner"]
    title: str
    level: Level
    focus: list[str]
    gear: list[str]
    floor_m: float
    people: int
    least_minutes: float
    most_minutes: float
    rungs: int
    channels: list[Channel]
    picture: list[Dot]


@dataclass(frozen=True, slots=True)
class LibraryEntry(Outline):
    """A drill in the library. version: the newest. archived: put away. runs: that it has had."""

    id: UUID
    version: int
    tags: list[str]
    archived: bool
    runs: int


def outline(drill: Drill | PartnerDrill) -> Outline:
    """The outline of a drill."""
    minutes = [round(length_s / 60, 1) for length_s in drill.lengths_s]
    cues = drill.cues if isinstance(drill, Drill) else ()
    return Outline(
        form=drill.form,
        title=drill.title,
        level=drill.level,
        focus=list(drill.focus),
        gear=list(drill.place.gear),
        floor_m=drill.place.floor_m,
        people=drill.place.people,
        least_minutes=min(minutes),
        most_minutes=max(minutes),
        rungs=len(drill.rungs),
        channels=sorted({cue.channel for cue in cues}),
        picture=_cues(drill) if isinstance(drill, Drill) else _lanes(drill),
    )


MOST_DOTS = 8


def _cues(drill: Drill) -> list[Dot]:
    """The cues as they are listed, what is heard above what is seen."""
    cues = drill.cues[:MOST_DOTS]
    return [
        Dot(int(cue.channel == "see"), round((place + 0.5) / len(cues), 3), cue.mark)
        for place, cue in enumerate(cues)
    ]


def _lanes(drill: PartnerDrill) -> list[Dot]:
    """The steps of the first exchange that a feed may start with, by beat."""
    passage = next((one for one in drill.passages if one.weight > 0), drill.passages[0])
    return [
        Dot(
            int(step.lane == "defender"),
            round(min(1.0, (step.beat - 0.5) / max(passage.beats, 1)), 3),
            passage.mark if step.lane == "feeder" else None,
        )
        for step in passage.steps[:MOST_DOTS]
    ]
