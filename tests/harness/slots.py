"""How many journeys run beside one another, whichever processes they are in."""

from __future__ import annotations

import fcntl
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path
from typing import IO

SLOTS = 3


@contextmanager
def taken(count: int, folder: Path) -> Iterator[None]:
    """Hold so many of the slots; waits until they are free. folder: what the processes share."""
    with ExitStack() as held:
        gate, *free = [
            held.enter_context((folder / f"slot-{number}").open("w")) for number in range(SLOTS + 1)
        ]
        # Two of which each has half of what it needs would wait for ever.
        fcntl.flock(gate, fcntl.LOCK_EX)
        while True:
            for slot in list(free):
                if len(free) > SLOTS - count and _take(slot):
                    free.remove(slot)
            if len(free) == SLOTS - count:
                break
            time.sleep(0.1)
        fcntl.flock(gate, fcntl.LOCK_UN)
        yield


def _take(slot: IO[str]) -> bool:
    """Take a slot; False: another has it."""
    try:
        fcntl.flock(slot, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except BlockingIOError:
        return False
    return True
