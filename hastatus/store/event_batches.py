"""Taking batches of events as they come: once each, in any order, never half.

This is the one request that many players make at once and all the time, so it talks to PostgreSQL
in two plain statements: lock and read, then store and fold.
"""

from __future__ import annotations

import hashlib
import uuid
from dataclasses import dataclass
from typing import Any, NamedTuple

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from hastatus.core.loop import live_run
from hastatus.core.run.events import EVENT_VERSION, MOST_EVENTS, BadBatch, Batch, check_batch
from hastatus.core.run.setup import Setup
from hastatus.store import runs
from hastatus.store.models import EventBatch, Run, RunFold


class OtherRecorder(RuntimeError):
    """The run is recorded by another player."""


class BatchConflict(RuntimeError):
    """A batch of this number came before, with other contents."""


@dataclass(frozen=True, slots=True)
class BatchResult:
    """What became of a posted batch."""

    next_batch: int
    complete: bool
    window_s: float
    holding: bool
    tail: live_run.Tail | None


class _Locked(NamedTuple):
    state: str
    highest: int
    closed: bool
    known_hash: bytes | None


_LOCK = text("""
    SELECT folds.state::text, folds.highest, runs.closed_at IS NOT NULL, batches.payload_hash
    FROM run_folds AS folds
    JOIN runs ON runs.club_id = folds.club_id AND runs.id = folds.run_id
    LEFT JOIN event_batches AS batches
      ON batches.club_id = folds.club_id AND batches.run_id = folds.run_id
     AND batches.recorder = :recorder AND batches.number = :number
    WHERE folds.club_id = :club_id AND folds.run_id = :run_id
    FOR UPDATE OF folds
""")

# Nothing is written when a twin of the batch came in while this one waited for the lock.
_STORE = text("""
    WITH stored AS (
        INSERT INTO event_batches
            (club_id, run_id, recorder, number, payload_hash, event_version, body)
        VALUES (:club_id, :run_id, :recorder, :number, :hash, :event_version, :body)
        ON CONFLICT DO NOTHING
        RETURNING number
    )
    UPDATE run_folds SET state = :state, highest = :highest, complete = :complete
    WHERE club_id = :club_id AND run_id = :run_id AND EXISTS (SELECT FROM stored)
    RETURNING run_id
""")


def payload_hash(body: bytes) -> bytes:
    """Hash by which a repeated batch is told from another one of the same number."""
    return hashlib.sha256(body).digest()


def take_batch(
    db: Session,
    club_id: uuid.UUID,
    run_id: uuid.UUID,
    recorder: uuid.UUID,
    batch: Batch,
    digest: bytes,
) -> BatchResult | None:
    """Store a batch and fold what has become contiguous; None without such a run.

    Raises `OtherRecorder`, `BatchConflict`, or `events.BadBatch` when it does not fit the plan.
    """
    key = {"club_id": club_id, "run_id": run_id, "recorder": recorder, "number": batch.number}
    row = db.connection().execute(_LOCK, key).first()
    if row is None:
        return None
    locked = _Locked(*row)
    fixed = runs.fixed_of(db, club_id, run_id)
    if fixed.recorder != recorder:
        raise OtherRecorder
    state = live_run.RUN_STATE.validate_json(locked.state)
    if locked.known_hash is not None and locked.known_hash == digest:
        return _taken(fixed.setup, state, batch)
    check_batch(batch, fixed.setup.drill, fixed.setup.plan)
    if state.events + len(batch.events) > MOST_EVENTS:
        raise BadBatch("events", f"a run has at most {MOST_EVENTS} events")
    if locked.known_hash is not None:
        state = _fill(db, key, fixed.setup, batch, digest)
        if state.complete or locked.closed:
            runs.keep_score(db, club_id, run_id)
        return _taken(fixed.setup, state, batch)
    if batch.number == state.next_batch:
        live_run.fold_batch(fixed.setup, state, batch)
        if locked.highest > batch.number:
            _fold_waiting(db, club_id, run_id, fixed.setup, state)
    stored = db.connection().execute(
        _STORE,
        {
            **key,
            "hash": digest,
            "event_version": EVENT_VERSION,
            "body": batch.model_dump_json(),
            "state": live_run.RUN_STATE.dump_json(state).decode(),
            "highest": max(locked.highest, batch.number),
            "complete": state.complete,
        },
    )
    if stored.first() is None:
        twin = db.get_one(EventBatch, (club_id, run_id, recorder, batch.number))
        if twin.payload_hash != digest:
            raise BatchConflict
        return _taken(fixed.setup, runs.state_of(db, club_id, run_id), batch)
    if state.complete or locked.closed:
        runs.keep_score(db, club_id, run_id)
    return _taken(fixed.setup, state, batch)


def _fill(
    db: Session, key: dict[str, Any], setup: Setup, batch: Batch, digest: bytes
) -> live_run.RunState:
    """Put what was kept aside in the place of its emptied batch, and fold the run anew."""
    place = (key["club_id"], key["run_id"], key["recorder"], batch.number)
    emptied = db.get_one(EventBatch, place)
    if batch.emptied or not emptied.body.get("emptied"):
        raise BatchConflict
    db.delete(emptied)  # a batch is never changed
    db.flush()
    body = batch.model_dump(mode="json")
    db.add(EventBatch(**key, payload_hash=digest, event_version=EVENT_VERSION, body=body))
    db.flush()
    run = db.get_one(Run, (key["club_id"], key["run_id"]))
    state = live_run.fold_again(setup, runs.batches_of(db, run))
    fold = db.get_one(RunFold, (key["club_id"], key["run_id"]))
    fold.state, fold.complete = live_run.RUN_STATE.dump_python(state, mode="json"), state.complete
    db.flush()
    return state


def _taken(setup: Setup, state: live_run.RunState, batch: Batch) -> BatchResult:
    return BatchResult(
        next_batch=state.next_batch,
        complete=state.complete,
        window_s=state.controller.window_s,
        holding=state.controller.holding,
        tail=live_run.revise(setup, state, batch),
    )


def _fold_waiting(
    db: Session,
    club_id: uuid.UUID,
    run_id: uuid.UUID,
    setup: Setup,
    state: live_run.RunState,
) -> None:
    """Fold batches that came before the one they had to wait for."""
    later = db.scalars(
        select(EventBatch)
        .where(EventBatch.club_id == club_id, EventBatch.run_id == run_id)
        .where(EventBatch.number >= state.next_batch)
        .order_by(EventBatch.number)
    )
    for row in later:
        if row.number != state.next_batch:
            break
        live_run.fold_batch(setup, state, Batch.model_validate(row.body))
