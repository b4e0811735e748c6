"""What a film of a solo run tells of each part of the body in the middle, in words."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np

from hastatus.core.film.reading import FilmReading, ZoneSeen
from hastatus.core.motion.zone import BODY_PARTS, BodyPart
from hastatus.core.read.proportion import TOO_FEW
from hastatus.core.read.summary import quantile_interval


@dataclass(frozen=True, slots=True)
class PartMedian:
    """A part's answers. seen: of how many it was told when it began to move; asked: how many it
    should have answered. onset_ms: median, with its 95 % interval, in ms after the cue; home_ms:
    median until it was still again. None where too few were seen."""

    part: BodyPart
    seen: int
    asked: int
    onset_ms: float | None
    low_ms: float | None
    high_ms: float | None
    home_ms: float | None

    @property
    def words(self) -> str:
        """For a coach, for example "Head: moved 0.31 s after the cue (0.28 to 0.35 s), home after
        0.92 s; seen after 18 of 20 cues"."""
        name = BODY_PARTS[self.part].capitalize()
        seen = f"seen after {self.seen} of {self.asked} cues"
        if self.onset_ms is None:
            return f"{name}: {seen}, too few for a median"
        range_ = ""
        if self.low_ms is not None and self.high_ms is not None:
            range_ = f" ({_s(self.low_ms)} to {_s(self.high_ms)} s)"
        home = f", home after {_s(self.home_ms)} s" if self.home_ms is not None else ""
        return f"{name}: moved {_s(self.onset_ms)} s after the cue{range_}{home}; {seen}"


def part_medians(reading: FilmReading) -> list[PartMedian]:
    """Of each part that answers were seen in, the one that is asked most first."""
    answers: dict[BodyPart, list[ZoneSeen]] = {}
    for cue in reading.cues:
        if cue.answered is not None:
            answers.setdefault(cue.answered.part, []).append(cue.answered)
    by_count = sorted(answers.items(), key=lambda one: -len(one[1]))
    return [_median(part, zones) for part, zones in by_count]


def _median(part: BodyPart, zones: list[ZoneSeen]) -> PartMedian:
    onsets = list(_known(zone.onset_ms for zone in zones))
    homes = list(_known(zone.home_ms for zone in zones))
    if len(onsets) < TOO_FEW:
        return PartMedian(part, len(onsets), len(zones), None, None, None, None)
    low, high = quantile_interval(onsets, [], 0.5)
    home = float(np.median(homes)) if len(homes) >= TOO_FEW else None
    return PartMedian(part, len(onsets), len(zones), float(np.median(onsets)), low, high, home)


def _known(times_ms: Iterator[float | None]) -> Iterator[float]:
    return (time_ms for time_ms in times_ms if time_ms is not None)


def _s(time_ms: float) -> str:
    return f"{time_ms / 1000:.2f}"
