"""Telling answers from what only looks like one. The rules, in the order they are applied:

- *Bounce*: the same key, pad or strike again within 60 ms. Nobody hits twice that fast.
- *Echo*: a strike heard within 30 ms of a sounding cue is the cue itself; nobody answers so soon.
- *Same strike*: what is heard within 60 ms of a key or pad is the sound of that hit.
- *Faint*: a strike more than 20 dB below the middle of those that counted comes from next door.

The bounds are common practice, no source.
"""

from __future__ import annotations

from statistics import median

from hastatus.core.run.device import NAMELESS
from hastatus.core.run.events import Input
from hastatus.core.score.response import OpenCue, ScoreState, Why

BOUNCE_MS = 60.0
ECHO_MS = 30.0
BEFORE_MS = 10.0
SAME_STRIKE_MS = 60.0
FAINT_DB = 20.0
LEVELS_FROM, LEVELS_KEPT = 8, 30


def rejection_reason(
    state: ScoreState, t_ms: float, event: Input, sounding: list[OpenCue]
) -> Why | None:
    """Why an input is no answer, or None. sounding: open cues that were heard."""
    hit = f"{event.device} {event.control}"
    last_ms = state.last_hits.get(hit)
    state.last_hits[hit] = t_ms
    if last_ms is not None and t_ms - last_ms < BOUNCE_MS:
        return "bounce"
    if event.device not in NAMELESS:
        state.last_named_ms = t_ms
        return None
    if event.device != "microphone":
        return None
    if any(-BEFORE_MS <= t_ms - cue.onset_ms <= ECHO_MS for cue in sounding):
        return "echo"
    if state.last_named_ms is not None and t_ms - state.last_named_ms <= SAME_STRIKE_MS:
        return "same_strike"
    return "faint" if _is_faint(state.levels, event.level_db) else None


def _is_faint(known: list[float], level_db: float | None) -> bool:
    if level_db is None or len(known) < LEVELS_FROM:
        return False
    return level_db < median(known) - FAINT_DB


def keep_level(state: ScoreState, event: Input) -> None:
    """Remember how loud a strike was that counted."""
    if event.level_db is not None:
        state.levels.append(event.level_db)
        del state.levels[:-LEVELS_KEPT]
