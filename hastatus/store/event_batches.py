"""Batches of events of solo runs."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy import delete, text
from sqlalchemy.orm import Session

from hastatus.core.loop import live_run
from hastatus.core.run.events import EVENT_VERSION, MOST_EVENTS, BadBatch, Batch, check_batch
from hastatus.store import batch_intake, runs
from hastatus.store.models import EventBatch


@dataclass(frozen=True, slots=True)
class BatchResult:
    """What became of a posted batch."""

    next_batch: int
    complete: bool
    window_s: float
    holding: bool
    tail: live_run.Tail | None


class _Events(batch_intake.Kind[runs.Fixed, live_run.RunState, Batch]):
    state = live_run.RUN_STATE
    version = EVENT_VERSION
    lock = text("""
        SELECT folds.state::text, folds.highest, (folds.state ->> 'events')::integer,
               runs.closed_at IS NOT NULL, batches.payload_hash,
               (batches.body ->> 'emptied')::boolean
        FROM run_folds AS folds
        JOIN runs ON runs.club_id = folds.club_id AND runs.id = folds.run_id
        LEFT JOIN event_batches AS batches
          ON batches.club_id = folds.club_id AND batches.run_id = folds.run_id
         AND batches.recorder = :recorder AND batches.number = :number
        WHERE folds.club_id = :club_id AND folds.run_id = :run_id
        FOR UPDATE OF folds
    """)
    store = text("""
        WITH stored AS (
            INSERT INTO event_batches
                (club_id, run_id, recorder, number, payload_hash, event_version, body)
            VALUES (:club_id, :run_id, :recorder, :number, :hash, :version, :body)
            ON CONFLICT DO NOTHING
            RETURNING number
        )
        UPDATE run_folds SET state = :state, highest = :highest, complete = :complete
        WHERE club_id = :club_id AND run_id = :run_id AND EXISTS (SELECT FROM stored)
        RETURNING run_id
    """)

    def fixed(self, db: Session, key: batch_intake.Key) -> runs.Fixed:
        return runs.fixed_of(db, key.club_id, key.run_id)

    def check(self, fixed: runs.Fixed, batch: Batch, items: int) -> int:
        check_batch(batch, fixed.setup.drill, fixed.setup.plan, fixed.setup.device)
        if items + len(batch.events) > MOST_EVENTS:
            raise BadBatch("events", f"a run has at most {MOST_EVENTS} events")
        return items + len(batch.events)

    def fold(self, fixed: runs.Fixed, state: live_run.RunState, batch: Batch) -> None:
        live_run.fold_batch(fixed.setup, state, batch)

    def fold_again(self, fixed: runs.Fixed, batches: Iterable[Batch]) -> live_run.RunState:
        return live_run.fold_again(fixed.setup, batches)

    def batches(self, db: Session, key: batch_intake.Key, since: int = 0) -> list[Batch]:
        return runs.batches_of(db, key.club_id, key.run_id, since)

    def remove(self, db: Session, key: batch_intake.Key) -> None:
        of_run = (EventBatch.club_id == key.club_id, EventBatch.run_id == key.run_id)
        db.execute(delete(EventBatch).where(*of_run, EventBatch.number == key.number))

    def after(self, db: Session, key: batch_intake.Key, batch: Batch, *, ended: bool) -> None:
        if ended:
            runs.keep_score(db, key.club_id, key.run_id)


_EVENTS = _Events()


def take(
    db: Session,
    club_id: uuid.UUID,
    run_id: uuid.UUID,
    recorder: uuid.UUID,
    batch: Batch,
    digest: bytes,
) -> BatchResult | None:
    """Store a batch and fold what has become contiguous; None without such a run.

    Raises `OtherRecorder` or `BatchConflict`, or `BadBatch` when it does not fit the plan.
    """
    key = batch_intake.Key(club_id, run_id, recorder, batch.number)
    taken = batch_intake.take(_EVENTS, db, key, batch, digest)
    if taken is None:
        return None
    fixed, state = taken
    return BatchResult(
        next_batch=state.next_batch,
        complete=state.complete,
        window_s=state.controller.window_s,
        holding=state.controller.holding,
        tail=live_run.revise(fixed.setup, state, batch),
    )
