"""Balanced random order with a cap on repeats."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np


@dataclass(slots=True)
class BalancedOrder:
    """Draws cues in bags: in each whole bag every cue has its share, to within one.

    shares: share of each cue by key, summing to one.
    bag: cues in a bag.
    repeat_cap: the same cue comes at most this many times running, across bags too.

    A share that does not divide the bag evenly is carried over, so that over many bags it holds
    exactly. Within a bag a cue is drawn in proportion to what is left of it.
    """

    shares: Mapping[str, float]
    bag: int
    repeat_cap: int
    rng: np.random.Generator
    _carry: dict[str, float] = field(default_factory=dict)
    _left: dict[str, int] = field(default_factory=dict)
    _last: str | None = None
    _run: int = 0

    def take(self, count: int) -> list[str]:
        """The next `count` cue keys."""
        uniforms = self.rng.random(count).tolist()
        return [self._next(uniform) for uniform in uniforms]

    def _next(self, uniform: float) -> str:
        if not any(self._left.values()):
            self._refill()
        candidates = self._open()
        if self._is_tight():
            candidates = [key for key in candidates if self._leaves_a_way(key)] or candidates
        if not candidates:  # only the cue at its cap is left in the bag: start the next bag
            self._refill()
            candidates = self._open()
        key = self._draw(candidates, uniform)
        self._left[key] -= 1
        self._run = self._run + 1 if key == self._last else 1
        self._last = key
        return key

    def _open(self) -> list[str]:
        capped = self._last if self._run >= self.repeat_cap else None
        return [key for key, count in self._left.items() if count and key != capped]

    def _is_tight(self) -> bool:
        """Whether some choice could leave a bag that the cap forbids; where not, none is tried."""
        most = max(self._left.values())
        return most > self.repeat_cap * (sum(self._left.values()) - 1 - most)

    def _leaves_a_way(self, choice: str) -> bool:
        """Whether the rest of the bag can still be laid out under the cap after `choice`."""
        total = sum(self._left.values()) - 1
        run = self._run + 1 if choice == self._last else 1
        for key, count in self._left.items():
            left = count - (key == choice)
            others = total - left
            head = self.repeat_cap - run if key == choice else self.repeat_cap
            if left > self.repeat_cap * others + head:
                return False
        return True

    def _draw(self, candidates: list[str], uniform: float) -> str:
        mark = uniform * sum(self._left[key] for key in candidates)
        for key in candidates:
            mark -= self._left[key]
            if mark < 0:
                return key
        return candidates[-1]

    def _refill(self) -> None:
        owed = {
            key: self._carry.get(key, 0.0) + share * self.bag for key, share in self.shares.items()
        }
        self._left = {key: max(0, int(value)) for key, value in owed.items()}
        ties = dict(zip(owed, self.rng.random(len(owed)).tolist(), strict=True))
        # Ties are broken at random, or the first cue of the drill would always come more often.
        by_remainder = sorted(
            owed, key=lambda key: (round(owed[key] - self._left[key], 9), ties[key]), reverse=True
        )
        for key in by_remainder[: max(0, self.bag - sum(self._left.values()))]:
            self._left[key] += 1
        self._carry = {key: owed[key] - self._left[key] for key in owed}


def longest_repeat(keys: list[str]) -> int:
    """How often the same cue comes in a row at the most."""
    longest = run = 0
    last = None
    for key in keys:
        run = run + 1 if key == last else 1
        last, longest = key, max(longest, run)
    return longest
