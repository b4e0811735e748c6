"""A solo run as it is begun, played and posted."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal, Self

from pydantic import BaseModel, Field, model_validator

from hastatus.api.drill.models import CueNames, Seed
from hastatus.core.drill.solo import Drill
from hastatus.core.fields import Document
from hastatus.core.loop.live_run import Tail
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.controls import Control
from hastatus.core.run.device import Device, Source
from hastatus.core.run.events import Batch


class RunRequest(Document):
    """A new run. id and recorder are made by the player, so that a repeat is harmless.

    device_id: the device it is played on, whose measured latencies hold. inputs: what is listened
    to. home: a home key, pad or zone is held between answers. simulated: by the pad kit's stand-in.
    camera_place_id: where the camera stands, if one is listened to.
    """

    id: uuid.UUID
    recorder: uuid.UUID
    student_id: uuid.UUID
    drill_id: uuid.UUID
    seed: Seed
    sound_only: bool = False
    device_id: uuid.UUID | None = None
    inputs: Annotated[tuple[Source, ...], Field(max_length=8)] = ("key", "touch")
    home: bool = False
    simulated: bool = False
    camera_place_id: uuid.UUID | None = None

    @model_validator(mode="after")
    def _has_a_place(self) -> Self:
        if "camera" in self.inputs and self.camera_place_id is None:
            raise ValueError("a camera needs its place: draw the boxes it looks at")
        return self


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


class SoundView(BaseModel):
    """A sound to load. length_s: a word takes time to be told from another."""

    name: str
    url: str
    length_s: float


class ShownView(BaseModel):
    """How a technique is shown in rehearsal. asset: address of a picture or clip."""

    technique: str
    name: str
    right_way: str
    usual_fault: str
    asset: str | None
    media_type: str | None


class BesideSound(BaseModel):
    """A sound that goes with the cue of a slot, by name.

    after_s: seconds after the cue, or after it has closed; below 0: ahead of it.
    """

    slot: int
    name: str
    counted_from: Literal["cue", "closing"]
    after_s: float


class SignalPair(BaseModel):
    """The names of the sounds that begin and end a round, so that a film of it is lined up."""

    begins: str
    ends: str


class RunView(BaseModel):
    """Everything a player needs.

    controls: by stance. played: the sound that a cue is, by its key; none for one that is seen.
    beside: what sounds around the cues of each round. signals: of each round; empty where cues
    sound, by which a film is lined up as well. lead_side: the half of the screen that is the
    lead side, by stance. pictures: address of each cue's own picture. shown: how its techniques are
    shown. loudness: share of full amplitude to start with. rehearsal_step_s: shortest time from one
    rehearsed cue to the next. colours: hex of each cue colour. home_key, tap_key: codes of the keys
    that are held as home, and pressed by a coach who taps along.
    """

    id: uuid.UUID
    student: str
    drill_id: uuid.UUID
    version: int
    document: Drill
    plan: RunPlan
    cues: list[CueNames]
    controls: dict[str, list[Control]]
    lead_side: dict[str, Literal["left", "right"]]
    sounds: list[SoundView]
    played: dict[str, str]
    beside: list[list[BesideSound]]
    signals: list[SignalPair] = []
    pictures: dict[str, str]
    flash_s: float
    shown: list[ShownView]
    colours: dict[str, str]
    loudness: float
    rehearsal_step_s: float
    state: Literal["open", "closed", "complete"]
    next_batch: int
    started_at: datetime
    device: Device
    home_key: str
    tap_key: str
