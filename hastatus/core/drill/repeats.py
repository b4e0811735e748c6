"""How often a cue may come in a row, and what that asks of its share."""

from __future__ import annotations

MOST_ALIKE = 10
"""The largest cap on repeats that an order may have."""


def share_allowed(repeat_cap: int) -> float:
    """The largest share that one cue can have when it comes at most `repeat_cap` times running."""
    return repeat_cap / (repeat_cap + 1)


def cap_needed(share: float) -> int | None:
    """The smallest cap on repeats that leaves a cue its share; None where none does."""
    caps = range(1, MOST_ALIKE + 1)
    return next((cap for cap in caps if share <= share_allowed(cap) + 1e-9), None)


def longest_repeat(keys: list[str]) -> int:
    """How often the same cue comes in a row at the most."""
    longest = run = 0
    last = None
    for key in keys:
        run = run + 1 if key == last else 1
        last, longest = key, max(longest, run)
    return longest
