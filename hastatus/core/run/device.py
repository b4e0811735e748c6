"""What a run's times go through: its inputs, what each of them adds, and how sure that is."""

from __future__ import annotations

from datetime import date
from math import hypot
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, model_validator

from hastatus.core.fields import Document, Line
from hastatus.core.motion.zone import Zone

Source = Literal["key", "touch", "microphone", "midi", "pad", "clicker", "coach", "camera"]
"""Where an input comes from. pad: of a kit that stamps its hits by a clock of its own."""
SOURCE_NAMES: dict[Source, str] = {
    "key": "keys",
    "touch": "touch screen",
    "microphone": "microphone",
    "midi": "MIDI pads",
    "pad": "demo pads",
    "clicker": "clicker or gamepad",
    "coach": "coach's tap",
    "camera": "camera",
}
TIMED_TO: dict[Source | Literal["home"], str] = {
    "key": "hand to key",
    "touch": "hand to key",
    "microphone": "strike heard",
    "midi": "hit on a pad",
    "pad": "hit on a simulated pad",
    "clicker": "click",
    "coach": "coach's tap",
    "camera": "movement seen",
    "home": "home left",
}
"""What a time that was taken with it ends with; it begins with the cue."""

NAMELESS: frozenset[Source] = frozenset({"microphone", "clicker", "coach", "camera"})
"""These give a time only: which arm, which technique is not known, so nothing is called wrong."""

ASSUMED_SPREAD_MS = 30.0
"""Half-width of what a latency may be that nobody measured: of a key, a screen, a sound card."""
HAND_SPREAD_MS = 120.0
"""A coach who taps along reacts, too (common practice, no source)."""
SEEN_SPREAD_MS = 25.0
"""Half-width of what is not known of a movement's beginning (95 % of `benchmarks/film.py`'s)."""

_NEVER_SET = ("key_ms", "touch_ms")

Spread = Annotated[float, Field(ge=0, le=500, allow_inf_nan=False)]
Latency = Annotated[float, Field(ge=-500, le=1000, allow_inf_nan=False)]


class Correction(Document):
    """A measured latency. ms: taken off each time. spread_ms: half-width of what is left of it."""

    source: Source
    ms: Latency
    spread_ms: Spread
    measured_on: date


class Pad(Document):
    """A MIDI pad that was learned by hitting it. control: the zone it stands for, or home."""

    control: Annotated[str, Field(pattern=r"^(zone:(left|right):[0-5]|home)$")]
    note: Annotated[int, Field(ge=0, le=127)]
    channel: Annotated[int, Field(ge=1, le=16)]


def _told_apart(pads: tuple[Pad, ...]) -> tuple[Pad, ...]:
    taken: dict[tuple[int, int], str] = {}
    for pad in pads:
        before = taken.setdefault((pad.note, pad.channel), pad.control)
        if before != pad.control:
            raise ValueError(
                f"two pads send note {pad.note} on channel {pad.channel}; they cannot be told "
                "apart. Give one of them another note at the pads' own settings"
            )
    if len({pad.control for pad in pads}) < len(pads):
        raise ValueError("a place has two pads; learn one pad for each place")
    return pads


Pads = Annotated[tuple[Pad, ...], Field(max_length=13), AfterValidator(_told_apart)]
"""Pads that can be told apart, one a place."""


class Device(Document):
    """What the times of a run went through.

    place: answers are given within reach, or metres away. inputs: what is listened to.
    home: a home key, pad or zone is held until the answer starts. simulated: the hits came from
    the simulated pad kit. pads: which of them is which. corrections: measured latencies.
    spread_ms: what the latency of an input may be that none was measured for, half-width.
    calibrated: there is a correction for every input. zones: of the camera's place, where it is
    listened to.
    """

    place: Literal["reach", "floor"] = "reach"
    name: Line | None = None
    inputs: tuple[Source, ...] = ("key", "touch")
    home: bool = False
    simulated: bool = False
    pads: Pads = ()
    corrections: Annotated[tuple[Correction, ...], Field(max_length=8)] = ()
    spread_ms: Spread = ASSUMED_SPREAD_MS
    calibrated: bool = False
    zones: Annotated[tuple[Zone, ...], Field(max_length=5)] = ()

    @model_validator(mode="before")
    @classmethod
    def _as_it_was(cls, kept: Any) -> Any:
        """Runs were kept with two latencies that nothing ever set; `corrections` has them all."""
        if isinstance(kept, dict):
            return {key: it for key, it in kept.items() if key not in _NEVER_SET or it != 0}
        return kept

    def correction(self, source: Source) -> Correction | None:
        """The measured latency of `source`."""
        return next(
            (correction for correction in self.corrections if correction.source == source), None
        )

    def latency_ms(self, source: Source) -> float:
        """What is taken off each time that comes from `source`."""
        correction = self.correction(source)
        return correction.ms if correction else 0.0

    def spread_of(self, source: Source) -> float:
        """Half-width (ms) of what is not known about a time that comes from `source`."""
        correction = self.correction(source)
        spread_ms = correction.spread_ms if correction else self.spread_ms
        if source == "camera":
            return hypot(spread_ms, SEEN_SPREAD_MS)
        if source == "coach" and not correction:
            return max(spread_ms, HAND_SPREAD_MS)
        return spread_ms

    @property
    def widest_ms(self) -> float:
        """The widest spread of the inputs that are listened to."""
        return max((self.spread_of(source) for source in self.inputs), default=self.spread_ms)


def device_of(
    name: Line | None,
    corrections: tuple[Correction, ...],
    inputs: tuple[Source, ...],
    *,
    home: bool = False,
    simulated: bool = False,
    pads: tuple[Pad, ...] = (),
    zones: tuple[Zone, ...] = (),
) -> Device:
    """The device of a run that listens to `inputs`, with what was measured on it. zones: of the
    place where its camera stands."""
    known = {correction.source for correction in corrections}
    measured = [source for source in inputs if source != "pad"]
    reach = bool({"key", "touch"} & set(inputs))
    return Device(
        place="reach" if reach else "floor",
        name=name,
        inputs=inputs,
        home=home,
        simulated=simulated,
        pads=pads,
        corrections=corrections,
        spread_ms=ASSUMED_SPREAD_MS,
        zones=zones if "camera" in inputs else (),
        calibrated=bool(measured) and all(source in known for source in measured),
    )
