"""The device in front of the coach: measuring it, learning its pads."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from itertools import pairwise
from typing import Annotated, Literal, Self

import numpy as np
from flask import Response
from flask_openapi3 import Tag
from pydantic import Base64Bytes, BaseModel, Field, model_validator

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import file
from hastatus.api.http.problems import Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.fields import Document, Line, Milliseconds, Seconds
from hastatus.core.run import calibration, flash_delay
from hastatus.core.run.calibration import CannotCalibrate, Measured
from hastatus.core.run.device import Pads, Source, device_of
from hastatus.core.run.device_profile import Profile
from hastatus.core.sound import tones
from hastatus.store import devices

bp = ApiBlueprint("devices", __name__, url_prefix="/api", abp_tags=[Tag(name="devices")])

Moments = Annotated[list[Milliseconds], Field(max_length=200)]


class DevicePath(BaseModel):
    device_id: uuid.UUID


class InputView(BaseModel):
    """How well times from an input are known. measured_on: None where it is assumed."""

    source: Source
    ms: float
    spread_ms: float
    measured_on: str | None


class DeviceView(BaseModel):
    """chirp: address of the sound that is played to measure. starts_s: when each is, from the
    first. light_ms: half-width of what is not known of a flash, from the display's frames.
    flash_starts_s, flash_s: when the screen flashes to measure a camera, and for how long.
    """

    id: uuid.UUID
    profile: Profile
    inputs: list[InputView]
    light_ms: float | None
    chirp: str
    starts_s: list[float]
    flash_starts_s: list[float]
    flash_s: float


class DeviceRequest(Document):
    """What is set by hand or learned."""

    name: Line = "This device"
    pads: Pads = ()
    frame_ms: Annotated[float | None, Field(ge=1, le=100, allow_inf_nan=False)] = None


class LoopbackRequest(Document):
    """A recording of the chirps: 16 bit, little end first, base64. played_s: from its start."""

    rate: Annotated[int, Field(ge=8000, le=192_000)]
    samples: Annotated[Base64Bytes, Field(max_length=3_000_000)]
    played_s: Annotated[list[Seconds], Field(min_length=4, max_length=100)]


class StrikesRequest(Document):
    """Strikes that were both felt and heard, on the page's clock, neither of them corrected."""

    source: Literal["key", "touch", "midi"]
    struck_ms: Moments
    heard_ms: Moments


_Cells = Annotated[list[Annotated[int, Field(ge=0, le=255)]], Field(min_length=1, max_length=64)]


class FlashesRequest(Document):
    """What a camera saw of the screen's flashes. times_ms: when each picture was taken. cells:
    brightness of parts of each, the same parts in all. shown_ms: when each flash was shown."""

    times_ms: Annotated[list[Milliseconds], Field(max_length=2000)]
    cells: Annotated[list[_Cells], Field(max_length=2000)]
    shown_ms: Annotated[list[Milliseconds], Field(min_length=4, max_length=40)]

    @model_validator(mode="after")
    def _is_even(self) -> Self:
        if len(self.cells) != len(self.times_ms) or len({len(row) for row in self.cells}) > 1:
            raise ValueError("each picture has one row of cells, and all rows are as long")
        if any(after <= before for before, after in pairwise(self.times_ms)):
            raise ValueError("the pictures' times ascend")
        return self


def _view(device_id: uuid.UUID) -> Response:
    profile = devices.profile(db(), who().club_id, device_id)
    shown: tuple[Source, ...] = ("key", "touch", "microphone", "midi", "clicker", "coach", "camera")
    device = device_of(profile.name, profile.corrections, shown)
    inputs = []
    for source in shown:
        correction = device.correction(source)
        on = correction.measured_on.isoformat() if correction else None
        spread = device.spread_of(source)
        inputs.append(InputView(source=source, ms=device.latency_ms(source), spread_ms=spread,
                                measured_on=on))  # fmt: skip
    return reply(
        DeviceView(
            id=device_id,
            profile=profile,
            inputs=inputs,
            light_ms=profile.frame_ms / 2 if profile.frame_ms else None,
            chirp="/api/chirp.wav",
            starts_s=calibration.starts_s(),
            flash_starts_s=flash_delay.flash_starts_s(),
            flash_s=flash_delay.FLASH_S,
        )
    )


@bp.get("/devices/<uuid:device_id>", responses={200: DeviceView})
@signed_in
def get_device(path: DevicePath) -> Response:
    """What is known of a device; a device nobody has measured is known by nothing."""
    return _view(path.device_id)


@bp.put("/devices/<uuid:device_id>", responses={200: DeviceView})
@signed_in
def put_device(path: DevicePath, body: DeviceRequest) -> Response:
    """Name a device, set its pads and its display."""
    before = devices.profile(db(), who().club_id, path.device_id)
    changed = {**before.model_dump(), **body.model_dump()}
    devices.keep(db(), who().club_id, path.device_id, Profile.model_validate(changed))
    return _view(path.device_id)


@bp.get("/chirp.wav", responses=file("audio/wav"))
@signed_in
def get_chirp() -> Response:
    """The sound that is played to measure; its onset is its first sample."""
    return Response(tones.wav(calibration.chirp()), content_type="audio/wav")


@bp.post("/devices/<uuid:device_id>/loopback", responses={200: DeviceView})
@signed_in
def post_loopback(path: DevicePath, body: LoopbackRequest) -> Response:
    """Measure the way from loudspeaker to microphone."""
    samples = np.frombuffer(body.samples[: len(body.samples) // 2 * 2], dtype="<i2") / 32768.0
    try:
        measured = calibration.loopback(samples.astype(np.float32), body.rate, body.played_s)
    except CannotCalibrate as error:
        raise Problem(422, "Not measured", str(error)) from error
    _keep(path.device_id, "microphone", measured)
    return _view(path.device_id)


@bp.post("/devices/<uuid:device_id>/strikes", responses={200: DeviceView})
@signed_in
def post_strikes(path: DevicePath, body: StrikesRequest) -> Response:
    """Measure a key, a screen or pads against the microphone."""
    profile = devices.profile(db(), who().club_id, path.device_id)
    microphone = profile.correction("microphone")
    if microphone is None:
        raise Problem(409, "Not measured", "Measure the sound first; keys are measured against it.")
    known = Measured(microphone.ms, microphone.spread_ms, 1, 1)
    heard = [heard_at - microphone.ms for heard_at in body.heard_ms]
    try:
        measured = calibration.against_microphone(body.struck_ms, heard, known)
    except CannotCalibrate as error:
        raise Problem(422, "Not measured", str(error)) from error
    _keep(path.device_id, body.source, measured)
    return _view(path.device_id)


@bp.post("/devices/<uuid:device_id>/flashes", responses={200: DeviceView})
@signed_in
def post_flashes(path: DevicePath, body: FlashesRequest) -> Response:
    """Measure a camera against the screen."""
    try:
        measured = flash_delay.camera_delay(body.times_ms, body.cells, body.shown_ms)
    except CannotCalibrate as error:
        raise Problem(422, "Not measured", str(error)) from error
    _keep(path.device_id, "camera", measured)
    return _view(path.device_id)


def _keep(device_id: uuid.UUID, source: Source, measured: Measured) -> None:
    before = devices.profile(db(), who().club_id, device_id)
    today = datetime.now(UTC).date()
    devices.keep(db(), who().club_id, device_id, before.corrected(source, measured, today))
