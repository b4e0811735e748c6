"""What scoring speaks of: responses, strays, and where a fold stands."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from hastatus.core.drill.cue import Channel, Part
from hastatus.core.drill.requirement import TimedBy
from hastatus.core.motion.camera_watch import CameraState
from hastatus.core.run.device import Source
from hastatus.core.run.events import Event
from hastatus.core.run.pad_clock import PadClock
from hastatus.core.trade.technique import Side

TimedWith = Source | Literal["home"]
Why = Literal[
    "outside", "second", "too_late", "between", "unknown",
    "bounce", "echo", "same_strike", "faint", "left_home",
]  # fmt: skip
STRAY_NAMES: dict[Why, str] = {
    "outside": "with no cue on",
    "second": "after the answer",
    "too_late": "too late for a cue that had lapsed",
    "between": "between two cues, answering neither",
    "unknown": "on no key or pad of this drill",
    "bounce": "ringing on from the same hit",
    "echo": "from the cue itself",
    "same_strike": "heard of a hit that was felt",
    "faint": "from next door",
    "left_home": "leaving home with no cue on",
}
"""Inputs that answer no cue, by why: what a coach reads after how many there were."""
LEFT_OUT_NAMES: dict[str, str] = {
    "unconfirmed": "whose moment the browser did not confirm",
    "not_seen": "that the camera cannot tell",
    "moving_before": "before which the student moved already",
    "not_told_apart": "in overlaps where a microphone cannot tell whose time is whose",
}
"""Cues that do not count, by why, where it is not plain from the run itself."""
Outcome = Literal["clean", "late", "wrong", "missed", "jumped", "held"]

SOUND_SPREAD_MS = 3.0
"""A sound whose onset may be off by more than this, half-width, is not known well enough."""

RIGHT: tuple[Outcome, ...] = ("clean", "late")
"""The outcomes of a right answer, in time or not."""


@dataclass(frozen=True, slots=True)
class StepResult:
    """What became of a later step of a chain that lands.

    time_ms: cue onset to landing, None without one. limit_ms: its limit, from the onset: its time
    after the step before it that landed.
    """

    part: Part
    technique: str
    side: Side
    time_ms: float | None
    limit_ms: float
    outcome: Literal["clean", "late", "wrong", "missed"]


@dataclass(frozen=True, slots=True)
class HoldResult:
    """How long a step was held: until the next step of the chain landed. asked_ms: how long it
    was to be held."""

    technique: str
    held_ms: float
    asked_ms: float

    @property
    def cut_short(self) -> bool:
        """Whether the next step came before the hold was over."""
        return self.held_ms < self.asked_ms


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
    lands on nothing. reaction_ms: onset to leaving home, below zero where home was left before the
    cue. home_ms: onset to being back there. holds: of steps that the chain went on from. before_ms:
    the same answer was struck this long before the onset, too (below zero); None: it was not.
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
    holds: tuple[HoldResult, ...] = ()
    before_ms: float | None = None

    @property
    def counts(self) -> bool:
        """Whether it is not left out."""
        return self.left_out is None

    @property
    def right(self) -> bool:
        """Whether the answer was right, in time or not."""
        return self.outcome in RIGHT

    @property
    def right_ms(self) -> float | None:
        """The time of a right answer; None without one."""
        return self.time_ms if self.right else None

    @property
    def timed(self) -> bool:
        """Whether its time, or how long it was waited for in vain, is known."""
        return self.right or self.outcome == "missed"

    def step(self, part: Part) -> StepResult | None:
        """The first later step of this part."""
        return next((step for step in self.steps if step.part == part), None)


@dataclass(slots=True)
class OpenCue:
    """A cue that still listens, or waits for an earlier one to be judged.

    window_ms: as logged, for the answer. limit_ms: end of listening. chain: which of the accepted
    chains was begun. landed: what came for its later steps, in their order. false_start: home was
    left before anybody could have reacted. unsure: which of two cues a strike answered is not
    known. blocked: why the page itself was late. cut_off: a pause or the end came while later steps
    were still waited for. before_ms: when the same answer was struck shortly before the onset.
    doubtful: an extra hit that is the answer to this cue, a wrong one, only if nothing right
    follows.
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
    false_start: bool = False
    unsure: bool = False
    cut_off: bool = False
    blocked: str | None = None
    before_ms: float | None = None
    doubtful: Doubt | None = None

    @property
    def why_left_out(self) -> str | None:
        """Why it does not count, or None."""
        if self.left_out:
            return self.left_out
        unsure = self.source == "audio" and self.spread_ms > SOUND_SPREAD_MS
        if self.source == "frame" or unsure:
            return "unconfirmed"
        if self.blocked and (self.answered_ms is None or self.timed_with == "microphone"):
            return self.blocked
        return "not_told_apart" if self.unsure else None


@dataclass(frozen=True, slots=True)
class Landed:
    """What landed for a later step of an open cue's chain; of a strike heard only the time is.

    step: which of the later steps it was taken for, from 0.
    """

    t_ms: float
    technique: str | None
    side: Side | None
    step: int = 0


@dataclass(frozen=True, slots=True)
class Doubt:
    """An input that was taken for an extra hit, and why, while a cue waited for its answer."""

    t_ms: float
    technique: str
    side: Side
    why: Why


@dataclass(frozen=True, slots=True)
class Lapsed:
    """What is still to be expected of a cue that takes no more, until when, and what it is then:
    too late for a cue that was listened for in vain, or second to an answer that was wrong."""

    asked: tuple[tuple[str, Side], ...]
    until_ms: float
    why: Why = "too_late"


@dataclass(frozen=True, slots=True)
class Stray:
    """An input that answered nothing.

    why: outside every limit; a second answer, or the same one struck twice; too late for a cue
    that has lapsed; between two cues, too soon for the newer one and no answer to the older; home
    left before any cue; or no answer at all by one of the rules of `discrimination`.
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
    last_taken: time of the last answer with each technique and side. lapsed: what may still come
    for cues that take no more. extra: the last extra hit. away_ms: since when home has been left
    with nothing to answer; None: it has not. heard_extra: strikes heard that answered nothing,
    but for the cues' own sounds and the sound of hits that were felt. camera: what a live camera
    has shown so far; None: nothing.
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
    last_taken: dict[str, float] = field(default_factory=dict)
    lapsed: list[Lapsed] = field(default_factory=list)
    extra: Landed | None = None
    away_ms: float | None = None
    heard_extra: int = 0
    camera: CameraState | None = None
