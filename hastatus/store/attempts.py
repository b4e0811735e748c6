"""Failed attempts at a password, and how long the next one has to wait.

Nobody is locked out: the wait grows with each failure, up to a minute, and ends. Failures are
counted for a login *from one address*, so that guesses from elsewhere cost its coach nothing; and,
far more mildly, for a login from anywhere, since a guesser may have many addresses.
"""

from __future__ import annotations

import hashlib
import math
from dataclasses import dataclass
from datetime import timedelta

from sqlalchemy import delete, func, select, text
from sqlalchemy.orm import Session

from hastatus.store.models import Attempt

REMEMBERED = timedelta(hours=1)
"""Failures longer ago count no more."""


@dataclass(frozen=True, slots=True)
class Subject:
    """What failures are counted for.

    free: failures without any wait. longest_s: the longest wait, in seconds.
    """

    name: str
    free: int
    longest_s: int

    @property
    def key(self) -> bytes:
        """What is kept: neither login nor address in clear."""
        return hashlib.sha256(self.name.encode()).digest()

    def wait_s(self, failed: int) -> float:
        """The wait after so many failures, in seconds: twice as long after each."""
        if failed < self.free:
            return 0.0
        return float(min(2 ** min(failed - self.free, 20), self.longest_s))


class TooSoon(RuntimeError):
    """The next attempt has to wait. wait_s: for so many whole seconds, at least one."""

    def __init__(self, wait_s: float) -> None:
        self.wait_s = max(1, math.ceil(wait_s))
        super().__init__(f"wait for {self.wait_s} s")


def at_sign_in(login: str, address: str) -> list[Subject]:
    """Failures to sign in."""
    name = login.strip().lower()
    return [
        Subject(f"login {name} from {address}", free=4, longest_s=60),
        Subject(f"login {name}", free=40, longest_s=8),
    ]


def at_old_password(coach: str, address: str) -> list[Subject]:
    """Failures to say one's old password. coach: id of the coach."""
    return [Subject(f"old password of {coach} from {address}", free=4, longest_s=60)]


def at_home_link(address: str) -> list[Subject]:
    """Links for practice at home that open nothing: a mistyped one costs nothing, guesses wait."""
    return [Subject(f"home link from {address}", free=20, longest_s=60)]


def check(db: Session, subjects: list[Subject]) -> None:
    """Raise `TooSoon` where the last failure is not long enough ago.

    Counted in the database, so that it holds across processes. Attempts on one subject are
    serialised, or many at once could all pass before the first failure is counted.
    """
    for subject in sorted(subjects, key=lambda subject: subject.key):
        lock = int.from_bytes(subject.key[:8], "big", signed=True)
        db.execute(text("SELECT pg_advisory_xact_lock(:key)"), {"key": lock})
        since = func.extract("epoch", func.clock_timestamp() - func.max(Attempt.at))
        failed, passed_s = db.execute(
            select(func.count(), since)
            .select_from(Attempt)
            .where(Attempt.subject == subject.key, Attempt.at > func.now() - REMEMBERED)
            # A clock that was set back would make them wait until it has caught up.
            .where(Attempt.at <= func.clock_timestamp())
        ).one()
        wait_s = subject.wait_s(failed) - float(passed_s or 0.0)
        if failed and wait_s > 0:
            raise TooSoon(wait_s)


def note_failure(db: Session, subjects: list[Subject]) -> None:
    """Count a failed attempt, and forget those that no longer matter."""
    db.execute(delete(Attempt).where(Attempt.at < func.now() - REMEMBERED))
    db.add_all(Attempt(subject=subject.key) for subject in subjects)
    db.flush()
