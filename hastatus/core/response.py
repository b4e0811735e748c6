"""What scoring speaks of: responses, strays, and where a fold stands."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from hastatus.core.catalogue import Side
from hastatus.core.drill import Channel
from hastatus.core.events import Event

Outcome = Literal["clean", "late", "wrong", "missed", "jumped", "held"]


@dataclass(slots=True)  # not frozen: setting a frozen one's fields takes a third of scoring's time
class Response:
    """What became of one cue. Never changed once it is made.

    at_s: time in the round. onset_ms: on the run's clock. window_ms: the answer window it had.
    time_ms: onset to answer, None without one. censored_ms: how long was listened in vain.
    gap_ms: to the other cue of an overlapping pair. left_out: why it does not count, or None.
    spread_ms: half-width of what is not known about the onset.
    """

    round: int
    slot: int
    cue: str
    channel: Channel
    asked_technique: str | None
    asked_side: Side | None
    at_s: float
    onset_ms: float
    window_ms: float
    outcome: Outcome
    time_ms: float | None
    censored_ms: float | None
    given_technique: str | None
    given_side: Side | None
    gap_ms: float | None
    left_out: str | None
    revision: int
    source: str
    spread_ms: float


@dataclass(slots=True)
class OpenCue:
    """A cue that still listens, or waits for an earlier one to be judged."""

    round: int
    slot: int
    cue: str
    at_s: float
    onset_ms: float
    window_ms: float
    limit_ms: float
    revision: int
    source: str
    spread_ms: float
    answered_ms: float | None = None
    technique: str | None = None
    side: Side | None = None
    gap_ms: float | None = None
    left_out: str | None = None
    closed: bool = False


@dataclass(frozen=True, slots=True)
class Stray:
    """An input that answered nothing. why: outside every limit, a second answer, or unknown."""

    t_ms: float
    control: str
    why: Literal["outside", "second", "unknown"]


@dataclass(slots=True)
class ScoreState:
    """Where the fold stands. `waiting` holds events later than the promised time."""

    epoch: int = 0
    open: list[OpenCue] = field(default_factory=list)
    waiting: list[tuple[float, Event]] = field(default_factory=list)
    paused: bool = False
    last_cue: tuple[int, int] = (0, -1)
    started_rounds: list[int] = field(default_factory=list)
    ended_rounds: list[int] = field(default_factory=list)
    finished: Literal["complete", "stopped"] | None = None
    strays: int = 0
