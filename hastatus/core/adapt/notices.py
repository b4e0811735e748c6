"""What a coach should look at: who is ready, who has stalled, whose one side lags.

The rules are common practice put into numbers; no source. Nobody is ranked.

- *Ready*: the ladder suggests the next rung (see `ladder`).
- *Stalled*: over at least six runs on the rung, a gain of a hundredth a week is ruled out by the
  95 % interval of the window's slope, and the goal is not met. Where the windows scatter too much
  to know, nothing is said.
- *Side*: over the last four runs together one side was slower, beyond three standard errors.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from statistics import median
from typing import Literal
from uuid import UUID

from hastatus.core.adapt.ladder import RunEvidence, suggest
from hastatus.core.drill.solo import Drill
from hastatus.core.read.difference import Difference
from hastatus.core.read.proportion import Z_95
from hastatus.core.read.student_course import WEEK_S, weekly_window
from hastatus.core.read.trend import Slope, course_slope

STALLED_OVER = 6
LEAST_GAIN = 0.01
"""A gain in a week, as a share of the window, that is worth going on for."""
SIDE_RUNS, LEAST_SIDE_RUNS = 4, 2
SIDE_Z = 3.0

OF_LAST = 12
"""Practice runs of a drill that the notices look back over."""


@dataclass(frozen=True, slots=True)
class Standing:
    """One run of a drill: its evidence, how the rear side did against the lead, and when."""

    evidence: RunEvidence
    side: Difference | None
    at: datetime


@dataclass(frozen=True, slots=True)
class Notice:
    """Something to look at. says: one sentence with its evidence."""

    kind: Literal["ready", "stalled", "side"]
    says: str


@dataclass(frozen=True, slots=True)
class LastRun:
    """The newest practice run. drill: its title then. settled_window_s: see `RunEvidence`."""

    id: UUID
    drill_id: UUID
    drill: str
    started_at: datetime
    rung: int
    settled_window_s: float | None


@dataclass(frozen=True, slots=True)
class StudentStanding:
    """What a student's runs amount to, in a line.

    runs: all with an answer, and those that are open. last: the newest practice run. course: the
    settled windows (s) of the newest practice runs, oldest first. notices: what to look at in the
    drill of the newest run.
    """

    runs: int
    last: LastRun | None
    course: list[float]
    notices: list[Notice]


@dataclass(frozen=True, slots=True)
class DoneRun:
    """A run of any drill. evidence: None while nothing is scored. test: of a five-minute test."""

    drill_id: UUID
    rung: int
    at: datetime
    evidence: RunEvidence | None
    test: bool
    simulated: bool


def weekly_change(runs: Sequence[DoneRun]) -> Slope | None:
    """Seconds that the settled window of the newest practice run's drill and rung gets longer by in
    a week, from all runs there; `runs` are given newest first."""
    practice = [
        run for run in runs if is_practice(run.evidence, test=run.test, simulated=run.simulated)
    ]
    same = [
        run
        for run in reversed(practice)
        if (run.drill_id, run.rung) == (practice[0].drill_id, practice[0].rung)
    ]
    settled = [
        (run.at, run.evidence.settled_window_s)
        for run in same
        if run.evidence and run.evidence.settled_window_s is not None
    ]
    return weekly_window([at for at, _ in settled], [window_s for _, window_s in settled])


def is_practice(evidence: RunEvidence | None, *, test: bool, simulated: bool) -> bool:
    """Whether a run is a step of a course: no test, not simulated, and somebody answered."""
    return not test and not simulated and (evidence is None or evidence.answered > 0)


def notices(drill: Drill, runs: Sequence[Standing]) -> list[Notice]:
    """About `runs` of `drill`, oldest first."""
    known = [run for run in runs if run.evidence.rung <= len(drill.rungs)]
    notices = (_ready(drill, known), _stalled(drill, known), _side(known))
    return [notice for notice in notices if notice]


def _ready(drill: Drill, runs: Sequence[Standing]) -> Notice | None:
    following = suggest(drill, [run.evidence for run in runs])
    if following.kind != "next":
        return None
    name = drill.rungs[following.rung - 1].name
    return Notice("ready", f"ready for rung {following.rung}, {name}")


def _stalled(drill: Drill, runs: Sequence[Standing]) -> Notice | None:
    if not runs:
        return None
    rung = runs[-1].evidence.rung
    known: list[tuple[datetime, float]] = []
    for run in reversed(runs):
        if run.evidence.rung != rung:
            break
        if run.evidence.settled_window_s is not None:
            known.insert(0, (run.at, run.evidence.settled_window_s))
    goal = drill.rungs[rung - 1].goal_window_s
    if len(known) < STALLED_OVER or median(window for _, window in known[-3:]) <= goal:
        return None
    weeks = [(at - known[0][0]).total_seconds() / WEEK_S for at, _ in known]
    slope = course_slope(weeks, [math.log(window) for _, window in known], [0] * len(known))
    if slope is None or slope.low < -LEAST_GAIN:
        return None
    return Notice(
        "stalled",
        f"no quicker over {len(known)} runs on rung {rung}, {weeks[-1]:.0f} weeks: window "
        f"{known[-1][1]:.2f} s, goal {goal:.2f} s",
    )


def _side(runs: Sequence[Standing]) -> Notice | None:
    """Runs are weighed by how sure each is."""
    intervals = [run.side for run in runs[-SIDE_RUNS:] if run.side]
    intervals = [interval for interval in intervals if interval.high_ms > interval.low_ms]
    if len(intervals) < LEAST_SIDE_RUNS:
        return None
    weights = [(2 * Z_95 / (interval.high_ms - interval.low_ms)) ** 2 for interval in intervals]
    middle = sum(
        w * interval.middle_ms for w, interval in zip(weights, intervals, strict=True)
    ) / sum(weights)
    error = 1 / math.sqrt(sum(weights))
    if abs(middle) < SIDE_Z * error:
        return None
    slower = intervals[-1].second if middle > 0 else intervals[-1].first
    low, high = abs(middle) - Z_95 * error, abs(middle) + Z_95 * error
    return Notice(
        "side",
        f"{slower} side slower over {len(intervals)} runs: {abs(middle):.0f} ms, "
        f"{low:.0f} to {high:.0f}",
    )
