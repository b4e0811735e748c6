"""A planned run on one time line, as a cue track that plays without the app.

Everything that sounds is put where the plan has it. What would be seen is spoken instead, by the
words that announce it, so that a track is whole for somebody who only hears.
"""

from __future__ import annotations

import struct
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from hastatus.core.drill.solo import Drill
from hastatus.core.plan import sounds as clips
from hastatus.core.plan.announcements import Kind, side_sounds
from hastatus.core.plan.run_plan import RoundPlan, RunPlan
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound.tones import RATE
from hastatus.core.trade.label_packs import PLAIN, Labels

BEFORE_FIRST_S = 5.0
"""Silence before the first round, to put the device down and get into stance."""

LEVEL = 0.7
"""Gain of each sound, so that two at once stay below full scale; peaks are limited above it."""

LIMITER_KNEE = 0.8
_BLOCK = 10 * RATE


@dataclass(frozen=True, slots=True)
class Sounding:
    """One thing on the track. at_s: on the track's time line, of its first sample.

    round, slot: where it is in the plan; slot None for a call of the round.
    text: what it is, and for a cue what it asks for. ends_s: end of all that a cue asks for.
    """

    at_s: float
    kind: Literal["cue"] | Kind
    clip: Clip | None
    round: int
    slot: int | None
    cue: str | None
    text: str
    ends_s: float


@dataclass(frozen=True, slots=True)
class Track:
    """A whole track. starts_s: of each round. total_s: to the end of the last."""

    title: str
    soundings: tuple[Sounding, ...]
    starts_s: tuple[float, ...]
    total_s: float

    @property
    def cues(self) -> tuple[Sounding, ...]:
        """The cues alone, in the order of their onsets."""
        return tuple(sounding for sounding in self.soundings if sounding.kind == "cue")

    @property
    def told(self) -> tuple[Sounding, ...]:
        """The cues; where none comes, because it is counted or held, what is said."""
        return self.cues or self.soundings

    @property
    def samples(self) -> int:
        """Length in samples."""
        return round(self.total_s * RATE)

    @property
    def clips(self) -> list[Clip]:
        """Every sound on it, each once."""
        clips = {sounding.clip.name: sounding.clip for sounding in self.soundings if sounding.clip}
        return [clips[name] for name in sorted(clips)]


def make_track(drill: Drill, plan: RunPlan, labels: Labels = PLAIN) -> Track:
    """The track of `plan`, which was made from `drill`."""
    soundings: list[Sounding] = []
    starts: list[float] = []
    start = BEFORE_FIRST_S
    for round_plan in plan.rounds:
        starts.append(start)
        soundings += _round(drill, plan, round_plan, start, labels)
        start += round_plan.duration_s + plan.rest_s
    total = start - plan.rest_s + 1.0
    soundings.sort(key=lambda sounding: sounding.at_s)
    return Track(drill.title, tuple(soundings), tuple(starts), total)


def _round(
    drill: Drill, plan: RunPlan, round_plan: RoundPlan, start: float, labels: Labels
) -> Iterator[Sounding]:
    for sound in side_sounds(drill, plan, round_plan, labels):
        at, of = start + sound.at_s, sound.placed
        text = "counter" if sound.kind == "signal" else sound.clip.what
        yield Sounding(
            at,
            sound.kind,
            sound.clip,
            round_plan.number,
            of.slot if of else None,
            of.cue if of else None,
            text,
            start + of.closes_s if of else at,
        )
    for placed in round_plan.cues:
        cue = drill.cue(placed.cue)
        clip = clips.of_cue(cue) or clips.spoken(cue.announcement(labels))
        text = f"{cue.name} → {cue.asked(labels)}"
        at, ends = start + placed.at_s, start + placed.closes_s
        yield Sounding(at, "cue", clip, round_plan.number, placed.slot, cue.key, text, ends)


def wav_size(track: Track) -> int:
    """Bytes of the rendered WAV."""
    return 44 + 2 * track.samples


def render(track: Track, sounds: Mapping[str, NDArray[np.float64]]) -> Iterator[bytes]:
    """The track as a 16-bit mono WAV, in pieces, so that no more than one piece is in memory.

    sounds: samples of each clip by name; KeyError where one is missing.
    """
    size = 2 * track.samples
    yield struct.pack(
        "<4sI4s4sIHHIIHH4sI",
        b"RIFF", 36 + size, b"WAVE", b"fmt ", 16, 1, 1, RATE, 2 * RATE, 2, 16, b"data", size,
    )  # fmt: skip
    yield from pcm(track, sounds)


def pcm(track: Track, sounds: Mapping[str, NDArray[np.float64]]) -> Iterator[bytes]:
    """The track's samples alone, 16-bit mono at `RATE`, in pieces; sounds as in `render`."""
    levelled = {name: (LEVEL * samples).astype(np.float32) for name, samples in sounds.items()}
    placed = [
        (sample_of(sounding.at_s), levelled[sounding.clip.name])
        for sounding in track.soundings
        if sounding.clip
    ]
    first = 0
    for start in range(0, track.samples, _BLOCK):
        end = min(start + _BLOCK, track.samples)
        block = np.zeros(end - start, dtype=np.float32)
        while first < len(placed) and _over(placed[first]) <= start:
            first += 1
        for at, samples in placed[first:]:
            if at >= end:
                break
            _mix(block, at - start, samples)
        yield (_limited(block) * 32767).round().astype("<i2").tobytes()


def _over(placed: tuple[int, NDArray[np.float32]]) -> int:
    return placed[0] + placed[1].size


def _mix(block: NDArray[np.float32], at: int, samples: NDArray[np.float32]) -> None:
    """Add what of `samples` lies inside the block."""
    begin, end = max(0, at), min(block.size, at + samples.size)
    if begin < end:
        block[begin:end] += samples[begin - at : end - at]


def _limited(block: NDArray[np.float32]) -> NDArray[np.float32]:
    """What is louder than the knee is pressed together below full scale."""
    over = np.abs(block) > LIMITER_KNEE
    if over.any():
        room = 1.0 - LIMITER_KNEE
        loud = block[over]
        pressed = LIMITER_KNEE + room * np.tanh((np.abs(loud) - LIMITER_KNEE) / room)
        block[over] = np.sign(loud) * pressed
    return block


def sample_of(at_s: float) -> int:
    """The sample a moment of the track falls on."""
    return round(at_s * RATE)
