"""What a player records, and the batches it comes in.

Every time is in milliseconds on one monotonic clock that starts with the page. A reload starts a
new clock, a new *epoch*; a batch belongs to one epoch. `until_ms` is a promise: no event before
that time will follow in a later batch of the same epoch.
"""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import Field, model_validator

from hastatus.core.drill.solo import Drill
from hastatus.core.fields import Document, Key, Line, Milliseconds
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.plan.timeline import PlacedCue
from hastatus.core.run.device import Device, Source

EVENT_VERSION = 1

_Round = Annotated[int, Field(ge=1, le=40)]
_Slot = Annotated[int, Field(ge=0, le=20_000)]


class RoundStart(Document):
    """Round time zero."""

    type: Literal["round_start"] = "round_start"
    t_ms: Milliseconds
    round: _Round


class RoundEnd(Document):
    """The round is over: its time is up, or it was stopped."""

    type: Literal["round_end"] = "round_end"
    t_ms: Milliseconds
    round: _Round
    reason: Literal["time", "stopped"]


class CueShown(Document):
    """A cue really came.

    t_ms: its onset. at_s, window_ms, revision: as committed. source: how the onset is known
    (the audio clock with its output latency, the browser's presentation time, or only the frame).
    spread_ms: half-width of what is not known about it. audio_s: onset on the audio clock.
    """

    type: Literal["cue"] = "cue"
    t_ms: Milliseconds
    round: _Round
    slot: _Slot
    cue: Key
    at_s: Annotated[float, Field(ge=0, le=1800, allow_inf_nan=False)]
    window_ms: Annotated[float, Field(gt=0, le=60_000, allow_inf_nan=False)]
    revision: Annotated[int, Field(ge=0)] = 0
    source: Literal["audio", "presentation", "frame"]
    spread_ms: Annotated[float, Field(ge=0, le=2000, allow_inf_nan=False)] = 0.0
    audio_s: Annotated[float | None, Field(ge=0, allow_inf_nan=False)] = None


class Input(Document):
    """An answer, or what may be one, with the time the device gave it, not yet corrected.

    control: a key or a zone; of what gives only a time, a name. edge: let go, for a home key or
    zone. own_ms: stamp of a pad kit's own clock; `t_ms` is then when it came. serial: the kit's
    number of the hit, by which lost ones are counted. level_db: loudness of a strike, dB below
    full scale.
    """

    type: Literal["input"] = "input"
    t_ms: Milliseconds
    device: Source
    control: Annotated[str, Field(min_length=1, max_length=40, pattern=r"^[A-Za-z0-9:_-]+$")]
    edge: Literal["down", "up"] = "down"
    own_ms: Annotated[float | None, Field(ge=0, le=1e12, allow_inf_nan=False)] = None
    serial: Annotated[int | None, Field(ge=0, le=2**31)] = None
    level_db: Annotated[float | None, Field(ge=-200, le=100, allow_inf_nan=False)] = None


_Moved = Annotated[
    tuple[Annotated[int, Field(ge=-200_000, le=200_000)], ...], Field(min_length=4, max_length=12)
]


class MotionSeen(Document):
    """What moved before the camera in a few pictures, in the zones of the run's device.

    t_ms: when the last of them was taken. times_ms: when each was, ascending. moved: a row a
    picture: how far each zone moved to the right and down since the picture before, then the whole
    picture, in hundred-thousandths of its height. rows, columns: the size of a picture in pixels.
    """

    type: Literal["motion"] = "motion"
    t_ms: Milliseconds
    times_ms: Annotated[tuple[Milliseconds, ...], Field(min_length=1, max_length=64)]
    moved: Annotated[tuple[_Moved, ...], Field(min_length=1, max_length=64)]
    rows: Annotated[int, Field(ge=16, le=8192)]
    columns: Annotated[int, Field(ge=16, le=8192)]

    @model_validator(mode="after")
    def _is_even(self) -> MotionSeen:
        if len(self.moved) != len(self.times_ms) or len({len(row) for row in self.moved}) > 1:
            raise ValueError("each picture has one row, and all rows are as long")
        if self.times_ms[-1] != self.t_ms or any(
            after <= before for before, after in pairwise(self.times_ms)
        ):
            raise ValueError("the pictures' times ascend to the last, which is t_ms")
        return self


class Sync(Document):
    """A pad kit's answer to being asked for its time: asked at `sent_ms`, here at `t_ms`."""

    type: Literal["sync"] = "sync"
    t_ms: Milliseconds
    sent_ms: Milliseconds
    own_ms: Annotated[float, Field(ge=0, le=1e12, allow_inf_nan=False)]


class Pause(Document):
    """The round stands still; open cues are left out."""

    type: Literal["pause"] = "pause"
    t_ms: Milliseconds
    reason: Literal["coach", "hidden", "audio_lost", "unplugged"]


class Resume(Document):
    """The round goes on."""

    type: Literal["resume"] = "resume"
    t_ms: Milliseconds


class Distrust(Document):
    """A stretch whose times cannot be trusted, known when it is over."""

    type: Literal["distrust"] = "distrust"
    t_ms: Milliseconds
    from_ms: Milliseconds
    reason: Literal["blocked", "dropped_frames", "sound_lost", "clock_jump", "flood"]


class Remark(Document):
    """Something worth keeping that is not scored (wake lock refused, volume, a skipped rest)."""

    type: Literal["remark"] = "remark"
    t_ms: Milliseconds
    what: Line


class Finish(Document):
    """The end of the run."""

    type: Literal["finish"] = "finish"
    t_ms: Milliseconds
    reason: Literal["complete", "stopped"]


Event = Annotated[
    RoundStart
    | RoundEnd
    | CueShown
    | Input
    | MotionSeen
    | Sync
    | Pause
    | Resume
    | Distrust
    | Remark
    | Finish,
    Field(discriminator="type"),
]


def single(event: Event) -> list[Event]:
    """An event by itself; motion of several pictures as one event a picture."""
    if not isinstance(event, MotionSeen):
        return [event]
    return [
        MotionSeen.model_construct(
            t_ms=t_ms, times_ms=(t_ms,), moved=(row,), rows=event.rows, columns=event.columns
        )
        for t_ms, row in zip(event.times_ms, event.moved, strict=True)
    ]


class Committed(Document):
    """How far the player has bound itself: the round, and the last cues it committed there."""

    round: _Round
    placed: Annotated[tuple[PlacedCue, ...], Field(max_length=4)] = ()


class Batch(Document):
    """A numbered batch of events of one recorder.

    number: from 0, without gaps. epoch: which clock. until_ms: see the module.
    revision: the tail the player follows. last: no further batch will come. emptied: its events
    were refused and are kept on the player's device, from where they may still come.
    """

    number: Annotated[int, Field(ge=0, le=1_000_000)]
    epoch: Annotated[int, Field(ge=0, le=10_000)]
    until_ms: Milliseconds
    revision: Annotated[int, Field(ge=0)] = 0
    committed: Committed | None = None
    last: bool = False
    emptied: bool = False
    events: Annotated[tuple[Event, ...], Field(max_length=2000)] = ()

    @model_validator(mode="after")
    def _is_empty(self) -> Batch:
        if self.emptied and self.events:
            raise ValueError("an emptied batch holds no events")
        return self


class RunRecord(Document):
    """Everything a score is made from, as `hastatus simulate` writes it and `score` reads it."""

    kind: Literal["hastatus-run"] = "hastatus-run"
    schema_version: Literal[1] = 1
    drill: Drill
    plan: RunPlan
    device: Device = Device()
    batches: tuple[Batch, ...]


class BadBatch(ValueError):
    """A batch that does not belong to its plan. `where` is the place inside the batch."""

    def __init__(self, where: str, what: str) -> None:
        super().__init__(what)
        self.where = where


MOST_EVENTS = 50_000
"""Of one run: ten times what two hours of answers, pads and a microphone give."""


def check_batch(batch: Batch, drill: Drill, plan: RunPlan, device: Device) -> None:
    """Raise `BadBatch` for events about rounds, slots or cues that the plan does not have, and for
    motion in other zones than the device's."""
    wide = 2 * len(device.zones) + 2
    for number, event in enumerate(batch.events):
        if isinstance(event, CueShown | RoundStart | RoundEnd):
            if event.round > len(plan.rounds):
                raise BadBatch(f"events.{number}.round", f"the plan has no round {event.round}")
            slots = plan.rounds[event.round - 1].slots
            if not isinstance(event, CueShown):
                continue
            if event.slot >= len(slots):
                raise BadBatch(f"events.{number}.slot", f"the round has no slot {event.slot}")
            if event.cue != slots[event.slot].cue:
                raise BadBatch(
                    f"events.{number}.cue",
                    f"slot {event.slot} is '{slots[event.slot].cue}' in the plan",
                )
        if isinstance(event, MotionSeen) and (not device.zones or len(event.moved[0]) != wide):
            raise BadBatch(
                f"events.{number}.moved", f"the camera of this run has {len(device.zones)} zones"
            )
        if isinstance(event, Distrust) and event.from_ms > event.t_ms:
            raise BadBatch(f"events.{number}.from_ms", "the stretch ends before it begins")
    committed = batch.committed
    if committed and committed.round > len(plan.rounds):
        raise BadBatch("committed.round", f"the plan has no round {committed.round}")
    if committed:
        slots = plan.rounds[committed.round - 1].slots
        for number, placed in enumerate(committed.placed):
            if placed.slot >= len(slots) or placed.cue != slots[placed.slot].cue:
                raise BadBatch(f"committed.placed.{number}", "no such cue in the plan")
