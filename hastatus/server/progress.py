"""How far a long job is, said now and then with how long it still takes."""

from __future__ import annotations

import time
from collections.abc import Callable

SAY_EVERY_S = 5.0


class Progress:
    """Says how much of `total` is done, not more often than every five seconds.

    clock: seconds, any origin.
    """

    def __init__(
        self,
        what: str,
        total: int,
        say: Callable[[str], None],
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        self._what, self._total, self._say, self._clock = what, max(1, total), say, clock
        self._began = self._said = clock()

    def at(self, done: int) -> None:
        """So much is done."""
        now = self._clock()
        if now < self._said + SAY_EVERY_S or done <= 0:
            return
        self._said = now
        share = min(1.0, done / self._total)
        left_s = (now - self._began) * (1 - share) / share
        self._say(f"  {self._what}: {100 * share:.0f} %, {_in_words(left_s)} left")


def _in_words(seconds: float) -> str:
    if seconds < 90:
        return f"about {max(5, round(seconds / 5) * 5)} s"
    return f"about {round(seconds / 60)} min"
