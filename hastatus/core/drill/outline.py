"""A drill in one line, as a library shows it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal
from uuid import UUID

from hastatus.core.drill.cue import Channel
from hastatus.core.drill.header import Level
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill


@dataclass(frozen=True, slots=True)
class Outline:
    """What a library tells of a drill.

    floor_m: side of the square that it needs. least_minutes, most_minutes: its shortest and longest
    rung, with rests. channels: how its cues arrive; those of a drill are read from a partner.
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
    )
