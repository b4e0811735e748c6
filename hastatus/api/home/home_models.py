"""What a link opens on a phone, and what comes back from it."""

from __future__ import annotations

import uuid
from datetime import date, datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.drill.models import CueNames
from hastatus.api.run.models import BesideSound, ShownView, SoundView
from hastatus.core.drill.cue import SoundName
from hastatus.core.drill.solo import Drill
from hastatus.core.fields import Document
from hastatus.core.home.ahead import Ahead
from hastatus.core.home.practice import HomeWord
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.controls import Control
from hastatus.core.run.device import Device, Source
from hastatus.core.trade.figure import Figure


class HomePath(BaseModel):
    """token: of a link."""

    token: Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{8,60}$")]


class HomeRunPath(HomePath):
    run_id: uuid.UUID


class HomeSoundPath(HomePath):
    name: SoundName


class HomeAssetPath(HomePath):
    asset_id: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]


class HomeDrillView(BaseModel):
    """A drill as a phone plays it: what its planned runs share. The fields are those of a run."""

    key: str
    drill_id: uuid.UUID
    version: int
    document: Drill
    cues: list[CueNames]
    controls: dict[str, list[Control]]
    lead_side: dict[str, Literal["left", "right"]]
    sounds: list[SoundView]
    played: dict[str, str]
    pictures: dict[str, str]
    shown: list[ShownView]
    cautions: list[str]
    facts: list[str]


class HomePlanned(BaseModel):
    """A run that is planned ahead. drill: key of it. number: of the practice, from 1; position: in
    its order. asked: rounds that were asked for; reason: why there are others. total_s: with rests,
    at the window it begins with. done: to its end, as far as the server knows."""

    id: uuid.UUID
    practice_id: uuid.UUID
    number: int
    position: int
    drill: str
    asked: int
    reason: str
    total_s: float
    flash_s: float
    plan: RunPlan
    beside: list[list[BesideSound]]
    ahead: Ahead
    done: bool


class HomePracticeView(BaseModel):
    """What is to be practised. days: a week; kept: days of this week with something done."""

    id: uuid.UUID
    title: str
    days: int
    kept: int
    ends_on: date


class HomeView(BaseModel):
    """All that a phone needs to go on without a connection. held: why nothing is to be practised
    now; empty: it may be. sound_only: lights are left out. device: that a run is played on, but for
    its inputs. figures: how what is asked is drawn, by stance. colours, loudness, rehearsal_step_s,
    home_key, tap_key: as of a run."""

    first_name: str
    expires_at: datetime
    held: str
    sound_only: bool
    device: Device
    practices: list[HomePracticeView]
    drills: list[HomeDrillView]
    planned: list[HomePlanned]
    figures: dict[str, list[Figure]]
    colours: dict[str, str]
    loudness: float
    rehearsal_step_s: float
    home_key: str
    tap_key: str


class HomeChange(Document):
    """sound_only: lights are left out."""

    sound_only: bool


class HomeRunRequest(Document):
    """A planned run as far as it was done; sent again when more is known. measured: its events
    follow. ago_s: seconds since it was begun, by the phone's own clock, which may be wrong by days.
    rounds: done so far."""

    planned_id: uuid.UUID
    recorder: uuid.UUID
    measured: bool
    inputs: Annotated[tuple[Source, ...], Field(max_length=7)] = ()
    home: bool = False
    ago_s: Annotated[float, Field(ge=0, le=366 * 86400, allow_inf_nan=False)]
    rounds: Annotated[int, Field(ge=0, le=40)] = 0
    said: HomeWord | None = None
    finished: bool = False


class HomeRunView(BaseModel):
    id: uuid.UUID
    rounds: int
    said: HomeWord | None
    finished: bool
