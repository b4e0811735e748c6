"""How the tempo follows a pair: up while it is clean, down when it falls apart.

Common practice of the trade put into numbers, no source. The coach's key always wins.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hastatus.core.drill.partner import PartnerRung
from hastatus.core.fields import SLOWEST_BPM


@dataclass(frozen=True, slots=True)
class TempoSuggestion:
    """A suggested tempo, and why in one line."""

    bpm: float
    reason: str


def suggested_tempo(rung: PartnerRung, bpm: float, since: Sequence[bool]) -> TempoSuggestion | None:
    """The next tempo after these exchanges, clean or not, counted since the last change; None: it
    stays.

    Up one step after `clean` of them in a row were clean, no faster than the goal; down one step
    after `failed` of the last `clean` were not.
    """
    rule = rung.climb
    last = list(since)[-rule.clean :]
    failed = last.count(False)
    if failed >= rule.failed:
        slower = max(float(SLOWEST_BPM), bpm - rule.step_bpm)
        if slower == bpm:
            return None
        return TempoSuggestion(slower, f"{failed} of the last {len(last)} were not clean")
    if len(last) == rule.clean and failed == 0:
        faster = min(rung.goal_bpm or bpm + rule.step_bpm, bpm + rule.step_bpm)
        if faster <= bpm:
            return None
        return TempoSuggestion(faster, f"{rule.clean} clean in a row")
    return None
