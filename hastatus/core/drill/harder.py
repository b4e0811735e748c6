"""The rung that usually comes after one: a step harder.

Too easy: less help before more speed (`trade.md` 6, common practice, no source). What is told ahead
goes first, then what can be known of the order, then what can be known of the wait; only then does
it get quicker.
"""

from __future__ import annotations

from typing import Any

from hastatus.core.drill.partner import RANDOM_FEEDS, PartnerRung
from hastatus.core.drill.settings import Balanced, Rotating, SetOrder, Unguessable
from hastatus.core.drill.solo import Rung

QUICKER = 0.9
"""Of the answer window, in one step."""
LEAST_WINDOW_S = 0.2
STEP_BPM, MOST_BPM = 4.0, 300.0
_MOST_NAME = 120


def harder(rung: Rung) -> Rung:
    """A rung after `rung` that asks one thing more; what is counted or held stays as it is."""
    if rung.guide is not None:
        return _named(rung, "more")
    if rung.lead_in is not None:
        return _named(rung, "not told ahead", lead_in=None)
    if isinstance(rung.order, SetOrder | Rotating):
        return _named(rung, "in any order", order=Balanced())
    if not isinstance(rung.waiting, Unguessable):
        return _named(rung, "any wait", waiting=Unguessable())
    window_s = max(LEAST_WINDOW_S, round(rung.window_s * QUICKER, 2))
    goal_s = max(LEAST_WINDOW_S, round(rung.goal_window_s * QUICKER, 2))
    return _named(rung, "quicker", window_s=window_s, goal_window_s=min(goal_s, window_s))


def harder_pair(rung: PartnerRung) -> PartnerRung:
    """A partner rung after `rung` that asks one thing more."""
    if rung.announced:
        return _named_pair(rung, "not said", announced=False)
    if rung.tell == "big":
        return _named_pair(rung, "small wind-up", tell="plain")
    if isinstance(rung.order, SetOrder | Rotating):
        return _named_pair(rung, "in any order", order=RANDOM_FEEDS)
    if rung.tempo_bpm is None:
        return _named_pair(rung, "more")
    tempo = min(MOST_BPM, rung.tempo_bpm + STEP_BPM)
    goal = None if rung.goal_bpm is None else min(MOST_BPM, max(tempo, rung.goal_bpm + STEP_BPM))
    return _named_pair(rung, "faster", tempo_bpm=tempo, goal_bpm=goal)


def _named(rung: Rung, what: str, **changes: Any) -> Rung:
    return rung.model_copy(update={"name": _name(rung.name, what), **changes})


def _named_pair(rung: PartnerRung, what: str, **changes: Any) -> PartnerRung:
    return rung.model_copy(update={"name": _name(rung.name, what), **changes})


def _name(name: str, what: str) -> str:
    """A second step of the same kind says it once."""
    return name if name.endswith(f", {what}") else f"{name}, {what}"[:_MOST_NAME]
