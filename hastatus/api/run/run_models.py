"""Answer models of a run: everything a player loads."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Literal

from pydantic import BaseModel

from hastatus.api.models import CueNames, LadderView, RunLine
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.read.baseline import Baseline
from hastatus.core.read.solo_run import Reading
from hastatus.core.read.summary import Summary
from hastatus.core.run.controls import Control
from hastatus.core.run.device import Device
from hastatus.core.score.response import Response as CueResponse


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


class PlayedCue(BaseModel):
    """What sounds for a cue, by name: the cue itself, and what is said or sounded ahead of it."""

    clip: str | None
    ahead: str | None


class RunView(BaseModel):
    """Everything a player needs.

    controls: by stance. played: sounds of each cue by key. signal: asks for a counter, sounded
    `signal_after_s` after the cue. lead_side: the half of the screen that is the lead side, by
    stance. pictures: address of each cue's own picture. shown: how its techniques are shown.
    loudness: share of full amplitude to start with. rehearsal_step_s: shortest time from one
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
    played: dict[str, PlayedCue]
    pictures: dict[str, str]
    signal: str | None
    signal_after_s: float
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


class GroupView(BaseModel):
    """Figures of a group of responses; times_ms: of right answers."""

    key: str
    summary: Summary
    times_ms: list[float]


class ReadoutView(BaseModel):
    """A run, read.

    durations_s: length of each round, s. reading: what its times say. weights: how much more often
    than its share a cue came, because the student had been weak on it or its speed was still open.
    slow_cue: which is surely slower than the others, by all runs of the drill. out_of_reach: why no
    window would hold the target's share.
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
