"""The time to leave a defender for an answer, from what was measured."""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil, inf

from hastatus.core.adapt.needed_time_belief import need
from hastatus.core.plan.feed_pace import BEHIND_S, Needed
from hastatus.core.read.defender_time import DefendedAttack
from hastatus.core.read.expected_share import Measured
from hastatus.core.read.proportion import TOO_FEW


def needed_time(
    target: float, *, partner: Sequence[DefendedAttack] = (), solo: Sequence[Measured] = ()
) -> Needed:
    """The time in which a share `target` of answers is expected to come right.

    partner: what partner rounds tell (see `needed_time_belief.need`). solo: answers in solo drills:
    the smallest time that held this share of them, wrong and missed ones counting as never; where
    these are more than it allows, the slowest right answer. Too few of either: the rule of thumb.
    """
    in_pairs = need(partner, target)
    if in_pairs is not None:
        return Needed(in_pairs.feed_s, in_pairs.attacks, "partner", in_pairs)
    alone_s = needed(solo, target)
    if alone_s is not None:
        return Needed(alone_s, len(solo), "solo")
    return Needed(BEHIND_S, 0, "rule")


def needed(measured: Sequence[Measured], target: float) -> float | None:
    """The time (s) inside which a share `target` of answers came right; None: too few to say."""
    if len(measured) < TOO_FEW:
        return None
    times = sorted(
        response.time_ms / 1000 if response.right and response.time_ms is not None else inf
        for response in measured
    )
    held = times[ceil(target * len(times) - 1e-9) - 1]
    if held < inf:
        return held
    right = [time for time in times if time < inf]
    return right[-1] if right else None
