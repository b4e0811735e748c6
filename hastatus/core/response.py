"""What scoring speaks of: responses, strays, and where a fold stands."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from hastatus.core.catalogue import Side
from hastatus.core.chain import TimedBy
from hastatus.core.cue import Channel, Part
from hastatus.core.device import Source
from hastatus.core.events import Event
from hastatus.core.pad_clock import PadClock

TimedWith = Source | Literal["home"]
Why = Literal["outside", "second", "unknown", "bounce", "echo", "same_strike", "faint", "left_home"]
Outcome = Literal["clean", "late", "wrong", "missed", "jumped", "held"]


@dataclass(frozen=True, slots=True)
class StepResult:
    """What became of a later step of a chain that lands.

    time_ms: cue onset to landing, None without one. limit_ms: its limit, from the onset.
    """

    part: Part
    technique: str
    side: Side
    time_ms: float | None
    limit_ms: float
    outcome: Literal["clean", "late", "wrong", "missed"]


@dataclass(slots=True)  # not frozen: setting a frozen one's fields takes a third of scoring's time
class Response:
    """What became of one cue. Never changed once it is made.

    at_s: time in the round. onset_ms: on the run's clock. window_ms: the answer window it had.
    time_ms: onset to answer, None without one. censored_ms: how long was listened in vain.
    gap_ms: to the other cue of an overlapping pair. left_out: why it does not count, or None.
    spread_ms: half-width of what is not known about the onset.
    timed_by: the part of the chain whose landing `time_ms` is. offset_ms: what `window_ms` holds
    beyond the answer window, when that is not the answer. own_window: the cue's window was its
    own, so it says nothing about the run's. steps: later steps of the chain that land.
    timed_with: the input that `time_ms` comes from; of a home key its release, for an answer that
    lands on nothing. reaction_ms: onset to leaving home. home_ms: onset to being back there.
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
    timed_by: TimedBy = "answer"
    offset_ms: float = 0.0
    own_window: bool = False
    steps: tuple[StepResult, ...] = ()
    timed_with: TimedWith | None = None
    reaction_ms: float | None = None
    home_ms: float | None = None

    def step(self, part: Part) -> StepResult | None:
        """The first later step of this part."""
        return next((step for step in self.steps if step.part == part), None)


@dataclass(slots=True)
class OpenCue:
    """A cue that still listens, or waits for an earlier one to be judged.

    window_ms: as logged, for the answer. limit_ms: end of listening. chain: which of the accepted
    chains was begun. landed: what came for its later steps.
    """

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
    chain: int | None = None
    landed: list[Landed] = field(default_factory=list)
    timed_with: TimedWith | None = None
    left_home_ms: float | None = None
    back_home_ms: float | None = None


@dataclass(frozen=True, slots=True)
class Landed:
    """What landed for a later step of an open cue's chain; of a strike heard only the time is."""

    t_ms: float
    technique: str | None
    side: Side | None


@dataclass(frozen=True, slots=True)
class Stray:
    """An input that answered nothing.

    why: outside every limit, a second answer, unknown, home left before any cue, or no answer at
    all by one of the rules of `telling`.
    """

    t_ms: float
    control: str
    why: Why


@dataclass(slots=True)
class ScoreState:
    """Where the fold stands. `waiting` holds events later than the promised time.

    strays, stray_whys: how many inputs answered nothing, and of each reason.
    last_hits: time of the last hit of each control. last_named_ms: of the last key or pad.
    levels: loudness of the strikes that counted. pad_clock: of a kit with a clock of its own.
    next_serial: the kit's number of its next hit. lost: hits of the kit that never came.
    """

    epoch: int = 0
    open: list[OpenCue] = field(default_factory=list)
    waiting: list[tuple[float, Event]] = field(default_factory=list)
    paused: bool = False
    last_cue: tuple[int, int] = (0, -1)
    started_rounds: list[int] = field(default_factory=list)
    ended_rounds: list[int] = field(default_factory=list)
    finished: Literal["complete", "stopped"] | None = None
    strays: int = 0
    stray_whys: dict[str, int] = field(default_factory=dict)
    last_hits: dict[str, float] = field(default_factory=dict)
    last_named_ms: float | None = None
    levels: list[float] = field(default_factory=list)
    pad_clock: PadClock = field(default_factory=PadClock)
    next_serial: int | None = None
    lost: int = 0
