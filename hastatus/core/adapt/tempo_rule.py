"""How the tempo follows a pair: up while it is clean, down when it falls apart.

Common practice of the trade put into numbers, no source. The coach's key always wins.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hastatus.core.drill.partner import PartnerRung
from hastatus.core.run.partner_events import Grade

SLOWEST_BPM = 20.0


@dataclass(frozen=True, slots=True)
class TempoSuggestion:
    """A suggested tempo, and why in one line."""

    bpm: float
    reason: str


def suggested_tempo(
    rung: PartnerRung, bpm: float, since: Sequence[Grade]
) -> TempoSuggestion | None:
    """The next tempo after these grades, counted since the last change; None: it stays.

    Up one step after `clean` exchanges in a row in which nothing got through, no faster than the
    goal; down one step after `failed` of the last `clean` were struck.
    """
    rule = rung.climb
    last = list(since)[-rule.clean :]
    struck = last.count("struck")
    if struck >= rule.failed:
        slower = max(SLOWEST_BPM, bpm - rule.step_bpm)
        if slower == bpm:
            return None
        return TempoSuggestion(slower, f"{struck} of the last {len(last)} got through")
    if len(last) == rule.clean and struck == 0:
        faster = min(rung.goal_bpm or bpm + rule.step_bpm, bpm + rule.step_bpm)
        if faster <= bpm:
            return None
        return TempoSuggestion(faster, f"{rule.clean} clean in a row")
    return None
