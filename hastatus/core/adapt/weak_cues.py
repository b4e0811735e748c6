"""Cues that a student is weak on come more often, within bounds that the coach sets.

A cue's share is multiplied by how often it was not clean, against how often the others were not.
Both are drawn towards all cues together by some made-up answers, so that two slips do not turn a
drill over. (Common practice put into numbers; no source.)
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hastatus.core.drill.solo import Drill
from hastatus.core.read.proportion import TOO_FEW

MADE_UP = 6
"""Answers as good as the average that each cue is given beside its own."""
LAST = 120
"""Answers that say what a student is weak on now."""
LEAST = 1.05
"""A factor nearer to one than this is left at one."""


@dataclass(frozen=True, slots=True)
class Answered:
    """One trusted answer to a cue that asks for something. time_s: of a right one, less what its
    chain allows beyond the window."""

    cue: str
    clean: bool
    time_s: float | None = None


def weights(drill: Drill, answers: Sequence[Answered]) -> dict[str, float]:
    """Factor on the weight of each cue that is to come more or less often than its share.

    answers: newest first; the last `LAST` count. Empty where the drill does not ask for it, or
    fewer than eight answers a cue say nothing.
    """
    most, answers = drill.pace.weak_cues, answers[:LAST]
    if most == 1.0 or not answers:
        return {}
    overall = (sum(not answer.clean for answer in answers) + 1) / (len(answers) + 2)
    failed: dict[str, float] = {}
    for cue in drill.cues:
        own = [answer.clean for answer in answers if answer.cue == cue.key]
        if not cue.is_catch and len(own) >= TOO_FEW:
            failed[cue.key] = (own.count(False) + MADE_UP * overall) / (len(own) + MADE_UP)
    usual = sum(failed.values()) / len(failed) if failed else 1.0
    factors = {key: min(max(share / usual, 1 / most), most) for key, share in failed.items()}
    return {
        key: round(factor, 2) for key, factor in factors.items() if not 1 / LEAST < factor < LEAST
    }
