"""A run planned ahead for a phone without a connection, at several answer windows.

A phone has no planner and no controller. So each round is laid out at the windows around the one it
begins with (`core.plan.timeline`), and what moves from one to another is a table: after a round by
the share of cues that were answered in time, after a drill by what was said of it. Moves are
between rounds only, and coarse; when the answers are back, they are scored and the window is
settled as after any other run.
"""

from __future__ import annotations

from typing import Final

from hastatus.core.drill.solo import Drill, Pace
from hastatus.core.fields import Document, Seconds
from hastatus.core.home.practice import HomeWord
from hastatus.core.plan.run_plan import RunPlan, duration, without_lights
from hastatus.core.plan.timeline import PlacedCue, lay_out

STEP: Final = 1.1
"""From one window to the next longer one."""
SIDE: Final = 4
"""So many windows on either side of the first."""
WORD_STEPS: Final[dict[HomeWord, int]] = {"too_easy": -1, "right": 0, "too_hard": 2}
"""Windows that a drill moves by what was said of it: towards easier more quickly (common practice,
no source)."""


class RoundAhead(Document):
    """A round laid out with one window."""

    duration_s: Seconds
    cues: tuple[PlacedCue, ...]


class StepAhead(Document):
    """All rounds of a run, laid out with one window."""

    window_s: Seconds
    rounds: tuple[RoundAhead, ...]


class Move(Document):
    """From this share of cues answered in time on, the next round goes so many windows further:
    below 0 to shorter ones."""

    at_least: float
    by: int


class Ahead(Document):
    """A run at several windows, from the shortest. start: place of the one it begins with. moves:
    after a round, the first that holds. said: after the drill, by what was said."""

    start: int
    steps: tuple[StepAhead, ...]
    moves: tuple[Move, ...]
    said: dict[str, int]


def ahead(drill: Drill, plan: RunPlan) -> Ahead:
    """The run of `plan` at every window that a phone may come to; one where the window holds."""
    played = without_lights(drill) if plan.sound_only else drill
    windows = windows_around(drill.pace, plan.window_s) if moves_of(drill, plan) else []
    before = [window_s for window_s in windows if window_s < plan.window_s]
    return Ahead(
        start=len(before),
        steps=tuple(_laid_out(played, plan, window_s) for window_s in windows or [plan.window_s]),
        moves=moves_of(drill, plan),
        said=dict(WORD_STEPS) if windows else {},
    )


def windows_around(pace: Pace, window_s: float) -> list[float]:
    """Windows from short to long, with `window_s` among them, inside the bounds of the pace."""
    around = [round(window_s * STEP**place, 4) for place in range(-SIDE, SIDE + 1)]
    inside = {window for window in around if pace.least_s <= window <= pace.most_s}
    return sorted(inside | {window_s})


def moves_of(drill: Drill, plan: RunPlan) -> tuple[Move, ...]:
    """How the window moves after a round; nothing where it holds, or where nothing is a cue."""
    pace, rung = drill.pace, drill.rungs[plan.rung - 1]
    if pace.rule == "hold" or drill.is_test or rung.guide:
        return ()
    missed = 1.0 - pace.target
    return (
        Move(at_least=round(pace.target + missed / 2, 4), by=-1),
        Move(at_least=round(pace.target - 0.75 * missed, 4), by=0),
        Move(at_least=round(pace.target / 2, 4), by=1),
        Move(at_least=0.01, by=2),
        Move(at_least=0.0, by=0),  # nobody answered: that says nothing of the pace
    )


def after_words(pace: Pace, window_s: float, words: list[HomeWord]) -> float:
    """The window after what was said of drills that nothing measured, in order."""
    for word in words:
        window_s *= STEP ** WORD_STEPS[word]
        window_s = min(max(window_s, pace.least_s), pace.most_s)
    return round(window_s, 4)


def _laid_out(drill: Drill, plan: RunPlan, window_s: float) -> StepAhead:
    rung = drill.rungs[plan.rung - 1]
    rounds = []
    for round_plan in plan.rounds:
        cues = tuple(lay_out(drill, rung, round_plan.slots, window_s))
        rounds.append(RoundAhead(duration_s=duration(rung, cues), cues=cues))
    return StepAhead(window_s=window_s, rounds=tuple(rounds))
