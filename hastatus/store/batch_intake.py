"""Taking the batches of a run, solo or partner, as they come: once each, in any order, never half.

This is the one request that many devices make at once and all the time, so it talks to PostgreSQL
in two plain statements: lock and read, then store and fold.
"""

from __future__ import annotations

import hashlib
import uuid
from abc import ABC, abstractmethod
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Generic, NamedTuple, Protocol, TypeVar

from pydantic import TypeAdapter
from sqlalchemy import TextClause
from sqlalchemy.orm import Session


class OtherRecorder(RuntimeError):
    """The run is recorded by another tab or device."""


class BatchConflict(RuntimeError):
    """A batch of this number came before, with other contents."""


class Recorded(Protocol):
    """What never changes about a run: who records it is a part of that."""

    @property
    def recorder(self) -> uuid.UUID: ...


class Folding(Protocol):
    """A state that batches are folded into. next_batch: the first that is not in it."""

    next_batch: int

    @property
    def complete(self) -> bool: ...


class Numbered(Protocol):
    """A batch. emptied: it stands in for one that was refused and is kept on its device."""

    @property
    def number(self) -> int: ...
    @property
    def emptied(self) -> bool: ...
    def model_dump_json(self) -> str: ...


class Locked(NamedTuple):
    """What the first statement reads, with the run's fold locked.

    state: as JSON; None where the run is older than its kept state. highest: number of the highest
    batch that has come. items: events or marks that have come. known_hash, emptied: of the batch
    of this number; None where none has come.
    """

    state: str | None
    highest: int
    items: int
    closed: bool
    known_hash: bytes | None
    emptied: bool | None


F = TypeVar("F", bound=Recorded)
S = TypeVar("S", bound=Folding)
B = TypeVar("B", bound=Numbered)


@dataclass(frozen=True, slots=True)
class Key:
    """A batch of a run of a club."""

    club_id: uuid.UUID
    run_id: uuid.UUID
    recorder: uuid.UUID
    number: int

    @property
    def values(self) -> dict[str, Any]:
        """As parameters of the statements."""
        return {
            "club_id": self.club_id,
            "run_id": self.run_id,
            "recorder": self.recorder,
            "number": self.number,
        }


class Kind(ABC, Generic[F, S, B]):
    """What one kind of run has of its own.

    lock: reads `Locked`. store: keeps the batch and the state, and returns a row; none where a
    twin of the batch came in while this one waited for the lock.
    """

    lock: TextClause
    store: TextClause
    state: TypeAdapter[S]
    version: int

    @abstractmethod
    def fixed(self, db: Session, key: Key) -> F:
        """What never changes about the run."""

    @abstractmethod
    def check(self, fixed: F, batch: B, items: int) -> int:
        """How many items there are with the batch; raises what is wrong with it."""

    @abstractmethod
    def fold(self, fixed: F, state: S, batch: B) -> None:
        """Fold the next batch into `state`, in place."""

    @abstractmethod
    def fold_again(self, fixed: F, batches: Iterable[B]) -> S:
        """The state after `batches`, given in number order, up to the first gap."""

    @abstractmethod
    def batches(self, db: Session, key: Key, since: int = 0) -> list[B]:
        """The batches that have come, from a number on, in number order."""

    @abstractmethod
    def remove(self, db: Session, key: Key) -> None:
        """Remove an emptied batch, so that its true one can be stored: a batch is never changed."""

    @abstractmethod
    def after(self, db: Session, key: Key, batch: B, *, ended: bool) -> None:
        """What follows from a stored batch. ended: the run is complete or closed."""


def payload_hash(body: bytes) -> bytes:
    """Hash by which a repeated batch is told from another one of the same number."""
    return hashlib.sha256(body).digest()


def take(kind: Kind[F, S, B], db: Session, key: Key, batch: B, digest: bytes) -> tuple[F, S] | None:
    """Store a batch and fold what has become contiguous; None without such a run.

    Raises `OtherRecorder`, `BatchConflict`, or what the kind's `check` finds wrong.
    """
    row = db.connection().execute(kind.lock, key.values).first()
    if row is None:
        return None
    locked = Locked(*row)
    fixed = kind.fixed(db, key)
    if fixed.recorder != key.recorder:
        raise OtherRecorder
    state, highest, items = _folded(kind, db, key, fixed, locked)
    if locked.known_hash == digest:
        return fixed, state
    items = kind.check(fixed, batch, items)
    if locked.known_hash is not None:
        state = _filled(kind, db, key, fixed, batch, locked)
    elif batch.number == state.next_batch:
        kind.fold(fixed, state, batch)
        if highest > batch.number:
            _fold_waiting(kind, db, key, fixed, state)
    kept = {
        **key.values,
        "hash": digest,
        "version": kind.version,
        "body": batch.model_dump_json(),
        "state": kind.state.dump_json(state).decode(),
        "highest": max(highest, batch.number),
        "items": items,
        "complete": state.complete,
    }
    if db.connection().execute(kind.store, kept).first() is None:
        return fixed, _of_twin(kind, db, key, fixed, digest)
    kind.after(db, key, batch, ended=state.complete or locked.closed)
    return fixed, state


def _folded(
    kind: Kind[F, S, B], db: Session, key: Key, fixed: F, locked: Locked
) -> tuple[S, int, int]:
    """The kept state, the highest batch and the number of items; folded anew without a state."""
    if locked.state is not None:
        return kind.state.validate_json(locked.state), locked.highest, locked.items
    batches = kind.batches(db, key)
    items = 0
    for batch in batches:
        items = kind.check(fixed, batch, items)
    return kind.fold_again(fixed, batches), max((one.number for one in batches), default=-1), items


def _filled(kind: Kind[F, S, B], db: Session, key: Key, fixed: F, batch: B, locked: Locked) -> S:
    """Put what was kept aside in the place of its emptied batch: the state of the run with it."""
    if batch.emptied or not locked.emptied:
        raise BatchConflict
    kind.remove(db, key)
    others = kind.batches(db, key)
    return kind.fold_again(fixed, sorted([*others, batch], key=lambda one: one.number))


def _fold_waiting(kind: Kind[F, S, B], db: Session, key: Key, fixed: F, state: S) -> None:
    """Fold batches that came before the one they had to wait for."""
    for batch in kind.batches(db, key, since=state.next_batch):
        if batch.number != state.next_batch:
            break
        kind.fold(fixed, state, batch)


def _of_twin(kind: Kind[F, S, B], db: Session, key: Key, fixed: F, digest: bytes) -> S:
    """The state with a batch whose twin came in first; another one of its number is refused."""
    locked = Locked(*db.connection().execute(kind.lock, key.values).one())
    if locked.known_hash != digest:
        raise BatchConflict
    return _folded(kind, db, key, fixed, locked)[0]
