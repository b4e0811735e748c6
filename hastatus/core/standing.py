"""What a coach should look at: who is ready, who has stalled, whose one side lags.

The rules are common practice put into numbers; no source. Nobody is ranked.

- *Ready*: the ladder suggests the next rung (see `ladder`).
- *Stalled*: of the last six runs on the rung, the middle window of the last three is not under
  that of the three before, and the goal is not met.
- *Side*: in each of the last two runs one side was slower, with an interval that leaves zero out.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median
from typing import Literal

from hastatus.core.difference import Difference
from hastatus.core.drill import Drill
from hastatus.core.ladder import RunEvidence, suggest

STALLED_OVER = 6
SIDE_RUNS = 2


@dataclass(frozen=True, slots=True)
class Standing:
    """One run of a drill: its evidence, and how the rear side did against the lead."""

    evidence: RunEvidence
    side: Difference | None


@dataclass(frozen=True, slots=True)
class Notice:
    """Something to look at. says: one sentence with its evidence."""

    kind: Literal["ready", "stalled", "side"]
    says: str


def notices(drill: Drill, runs: Sequence[Standing]) -> list[Notice]:
    """About `runs` of `drill`, oldest first."""
    known = [run for run in runs if run.evidence.rung <= len(drill.rungs)]
    found = (_ready(drill, known), _stalled(drill, known), _side(known))
    return [notice for notice in found if notice]


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
    windows: list[float] = []
    for run in reversed(runs):
        if run.evidence.rung != rung:
            break
        if run.evidence.settled_window_s is not None:
            windows.insert(0, run.evidence.settled_window_s)
    if len(windows) < STALLED_OVER:
        return None
    half = STALLED_OVER // 2
    before, now = median(windows[-STALLED_OVER:-half]), median(windows[-half:])
    goal = drill.rungs[rung - 1].goal_window_s
    if now < before or now <= goal:
        return None
    return Notice(
        "stalled",
        f"no quicker over the last {STALLED_OVER} runs on rung {rung}: window {now:.2f} s, "
        f"goal {goal:.2f} s",
    )


def _side(runs: Sequence[Standing]) -> Notice | None:
    last = [run.side for run in runs[-SIDE_RUNS:] if run.side and run.side.real]
    if len(last) < SIDE_RUNS or len({each.middle_ms > 0 for each in last}) > 1:
        return None
    newest = last[-1]
    slower = newest.second if newest.middle_ms > 0 else newest.first
    ends = sorted((abs(newest.low_ms), abs(newest.high_ms)))
    return Notice(
        "side",
        f"{slower} side slower twice running: {abs(newest.middle_ms):.0f} ms last time, "
        f"{ends[0]:.0f} to {ends[1]:.0f}",
    )
