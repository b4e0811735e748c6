"""Rules that no setting lifts.

Flashes: W3C WCAG 2.2, SC 2.3.1 allows at most three flashes in any one second. Cues count whatever
their size (the small-area exception is not used) and whatever their colour, so the red flash
threshold is kept as well. A frame's margin is added: any four onsets span at least 1.1 s.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence

FLASHES_A_SECOND = 3
SPAN_S = 1.1
"""Shortest time from a flash to the third flash after it, in seconds."""


class UnsafePlan(ValueError):
    """A plan breaks a rule that no setting lifts. It is never played."""


def earliest_flash(onsets_s: Sequence[float]) -> float:
    """The earliest time (s) of one more flash after `onsets_s` (ascending), 0 when free."""
    if len(onsets_s) < FLASHES_A_SECOND:
        return 0.0
    return onsets_s[-FLASHES_A_SECOND] + SPAN_S


def worst_second(onsets_s: Sequence[float]) -> int:
    """The most flashes that fall into any one second, however the second is placed."""
    onsets = sorted(onsets_s)
    # The second is closed at both ends: the strict reading of "in any one second".
    return max(
        (bisect_right(onsets, start + 1.0) - bisect_left(onsets, start) for start in onsets),
        default=0,
    )


def check_flashes(onsets_s: Sequence[float]) -> None:
    """Raise `UnsafePlan` where four flashes come within 1.1 s."""
    onsets = sorted(onsets_s)
    for first, fourth in zip(onsets, onsets[FLASHES_A_SECOND:], strict=False):
        if fourth - first < SPAN_S - 1e-9:
            raise UnsafePlan(
                f"four flashes within {fourth - first:.2f} s at {first:.2f} s; "
                f"at least {SPAN_S} s is needed"
            )
