"""How much of a drill a student is expected to answer clean, from measured times."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hastatus.core.read.proportion import TOO_FEW, wilson_in_order


@dataclass(frozen=True, slots=True)
class Measured:
    """One measured answer. right: the right one; time_ms: None for a missed cue."""

    right: bool
    time_ms: float | None


@dataclass(frozen=True, slots=True)
class ExpectedShare:
    """Share expected clean with its 95 % interval (Wilson), and how many answers it rests on."""

    share: float
    low: float
    high: float
    answers: int


def expected_share(measured: Sequence[Measured], window_s: float) -> ExpectedShare | None:
    """Share of `measured`, in their order, that the window would hold; None with too few to say."""
    if len(measured) < TOO_FEW:
        return None
    inside = [
        each.right and each.time_ms is not None and each.time_ms <= window_s * 1000
        for each in measured
    ]
    bounds = wilson_in_order(inside)
    return ExpectedShare(sum(inside) / len(inside), bounds.low, bounds.high, len(inside))
