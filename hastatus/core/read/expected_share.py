"""How much of a drill a student is expected to answer clean, from measured times."""

from __future__ import annotations

from collections.abc import Callable, Sequence
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


def expected_from(
    of_drill: Sequence[Measured], of_answers: Callable[[], Sequence[Measured]], window_s: float
) -> tuple[ExpectedShare | None, str]:
    """The share expected clean in this drill, and what it rests on, in words.

    of_drill: answers in the drill itself; of_answers: gives the same answers in other drills, which
    are only looked up where those are too few.
    """
    share = expected_share(of_drill, window_s)
    if share:
        return share, f"the last {share.answers} answers in this drill"
    share = expected_share(of_answers(), window_s)
    if share:
        return share, f"the last {share.answers} of the same answers in other drills"
    return None, "no times measured yet"


def expected_share(measured: Sequence[Measured], window_s: float) -> ExpectedShare | None:
    """Share of `measured`, in their order, that the window would hold; None with too few to say."""
    if len(measured) < TOO_FEW:
        return None
    inside = [
        response.right and response.time_ms is not None and response.time_ms <= window_s * 1000
        for response in measured
    ]
    bounds = wilson_in_order(inside)
    return ExpectedShare(sum(inside) / len(inside), bounds.low, bounds.high, len(inside))
