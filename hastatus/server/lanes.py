"""Whose request is worked on next, so that strangers cannot crowd out those who are signed in."""

from __future__ import annotations

import time
from collections import OrderedDict, deque
from collections.abc import Callable
from dataclasses import dataclass, field
from threading import Lock, Thread
from typing import Protocol

from waitress.task import ThreadedTaskDispatcher

MOST_RUNNING = 2
"""Requests of strangers that are worked on at once, of all threads of a worker."""
MOST_WAITING = 500
"""Requests of one address that wait; its next connection is closed at once."""
RATE_HZ, BURST = 40.0, 80.0
"""Requests of one address a second, and at once. Enough to load the screens on several devices."""
_TURNS = 4
"""While both wait, every so many turns go to a stranger: a sign-in must come through, too."""
_LOOK_EVERY_S = 0.05
_MOST_ADDRESSES = 10_000


class Task(Protocol):
    """A connection whose request is complete (a channel of waitress)."""

    def service(self) -> None: ...
    def cancel(self) -> None: ...


@dataclass(slots=True)
class _Lane:
    """What one address waits for. left: requests that it may begin as of `at`."""

    waiting: deque[Task] = field(default_factory=deque)
    left: float = BURST
    at: float = 0.0

    def refill(self, now: float) -> bool:
        """Whether one may begin now."""
        self.left = min(BURST, self.left + RATE_HZ * (now - self.at))
        self.at = now
        return bool(self.waiting) and self.left >= 1


class Lanes:
    """A queue with two lanes: of those who are signed in, and of strangers by address, in rotation.

    address: of a stranger; None: signed in. lock: of the dispatcher, held at every call but `done`.
    """

    def __init__(
        self,
        address: Callable[[Task], str | None],
        lock: Lock,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        self._address = address
        self._lock = lock
        self._clock = clock
        self._signed_in: deque[Task] = deque()
        self._strangers: OrderedDict[str, _Lane] = OrderedDict()
        self._running = 0
        self._turn = 0

    def append(self, task: Task) -> None:
        """Let a task wait for its turn, or close its connection where too many wait already."""
        address = self._address(task)
        if address is None:
            self._signed_in.append(task)
            return
        lane = self._strangers.setdefault(address, _Lane(at=self._clock()))
        if len(lane.waiting) >= MOST_WAITING:
            task.cancel()
        else:
            lane.waiting.append(task)
        if len(self._strangers) > _MOST_ADDRESSES:
            self._forget()

    def popleft(self) -> Task:
        """The next one, of those that may be worked on now."""
        self._turn += 1
        address = self._next()
        if self._signed_in and (self._turn % _TURNS or address is None):
            return self._signed_in.popleft()
        if address is None:
            raise IndexError
        lane = self._strangers[address]
        self._strangers.move_to_end(address)
        lane.left -= 1
        self._running += 1
        return _OfStranger(lane.waiting.popleft(), self)

    def __len__(self) -> int:
        """How many may be worked on now, at least."""
        return len(self._signed_in) + (self._next() is not None)

    def _next(self) -> str | None:
        if self._running >= MOST_RUNNING:
            return None
        now = self._clock()
        return next(
            (address for address, lane in self._strangers.items() if lane.refill(now)), None
        )

    def _forget(self) -> None:
        """Drop the addresses that have waited for nothing for longest."""
        idle = [address for address, lane in self._strangers.items() if not lane.waiting]
        for address in idle[: _MOST_ADDRESSES // 2]:
            del self._strangers[address]

    def done(self) -> None:
        """A stranger's request is over."""
        with self._lock:
            self._running -= 1


class _OfStranger:
    def __init__(self, task: Task, lanes: Lanes) -> None:
        self._task = task
        self._lanes = lanes

    def service(self) -> None:
        try:
            self._task.service()
        finally:
            self._lanes.done()

    def cancel(self) -> None:
        self._task.cancel()


class Dispatcher(ThreadedTaskDispatcher):
    """Threads that work on what the lanes hold."""

    def __init__(self, address: Callable[[Task], str | None]) -> None:
        super().__init__()
        self.queue = Lanes(address, self.lock)  # type: ignore[assignment]
        Thread(target=self._look, daemon=True).start()

    def _look(self) -> None:
        """Wake a thread for what may begin by now, though nothing has come."""
        while True:
            time.sleep(_LOOK_EVERY_S)
            with self.lock:
                if self.queue:
                    self.queue_cv.notify()
