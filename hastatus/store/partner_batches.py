"""Taking batches of marks as they come: once each, in any order, never half.

Like `intake` for events: lock and read, then store and fold.
"""

from __future__ import annotations

import uuid
from dataclasses import dataclass
from typing import Any, NamedTuple

from sqlalchemy import delete, func, select, text, update
from sqlalchemy.orm import Session

from hastatus.core.adapt.tempo_rule import TempoSuggestion
from hastatus.core.loop import partner_fold
from hastatus.core.run.partner_events import (
    MARK_VERSION,
    MOST_MARKS,
    HeadKnock,
    KnockTakenBack,
    MarkBatch,
)
from hastatus.store import models, partner_runs
from hastatus.store.models import PartnerResult, PartnerRun


class BatchConflict(RuntimeError):
    """A batch of this number came before, with other contents."""


class TooMany(RuntimeError):
    """A run has as many marks as it may have; the message says how many."""


@dataclass(frozen=True, slots=True)
class BatchResult:
    """What became of a posted batch. next_batch: the first that has not come. climb: the tempo that
    the rung's rule suggests."""

    next_batch: int
    complete: bool
    climb: TempoSuggestion | None


class _Locked(NamedTuple):
    """state: None where the run is older than its kept state. marks: that have come."""

    state: str | None
    highest: int
    marks: int
    closed: bool
    known_hash: bytes | None
    emptied: bool | None


_LOCK = text("""
    SELECT folds.state::text, folds.highest, folds.marks, runs.closed_at IS NOT NULL,
           batches.payload_hash, (batches.body ->> 'emptied')::boolean
    FROM mark_folds AS folds
    JOIN partner_runs AS runs ON runs.club_id = folds.club_id AND runs.id = folds.run_id
    LEFT JOIN mark_batches AS batches
      ON batches.club_id = folds.club_id AND batches.run_id = folds.run_id
     AND batches.number = :number
    WHERE folds.club_id = :club_id AND folds.run_id = :run_id
    FOR UPDATE OF folds
""")

# Nothing is written when a twin of the batch came in while this one waited for the lock.
_STORE = text("""
    WITH stored AS (
        INSERT INTO mark_batches (club_id, run_id, number, payload_hash, mark_version, body)
        VALUES (:club_id, :run_id, :number, :hash, :mark_version, :body)
        ON CONFLICT DO NOTHING
        RETURNING number
    )
    UPDATE mark_folds SET state = :state, highest = :highest, marks = :marks
    WHERE club_id = :club_id AND run_id = :run_id AND EXISTS (SELECT FROM stored)
    RETURNING run_id
""")


def take(
    db: Session,
    club_id: uuid.UUID,
    run_id: uuid.UUID,
    recorder: uuid.UUID,
    batch: MarkBatch,
    digest: bytes,
) -> BatchResult | None:
    """Store a batch and fold what has become contiguous; None without such a run.

    A head knock in it is written down at once and holds the student's contact work. Raises
    `partners.OtherRecorder`, `BatchConflict` or `TooMany`.
    """
    key = {"club_id": club_id, "run_id": run_id, "number": batch.number}
    row = db.connection().execute(_LOCK, key).first()
    if row is None:
        return None
    locked = _Locked(*row)
    fixed = partner_runs.fixed_of(db, club_id, run_id)
    if fixed.recorder != recorder:
        raise partner_runs.OtherRecorder
    state, marks, highest = _state(db, club_id, run_id, locked)
    if locked.known_hash == digest:
        return _taken(fixed, state)
    if marks + len(batch.marks) > MOST_MARKS:
        raise TooMany(f"marks: a run has at most {MOST_MARKS} marks")
    if locked.known_hash is not None:
        state = _fill(db, key, batch, locked)
    elif batch.number == state.next_batch:
        partner_fold.fold_batch(state, batch)
        if highest > batch.number:
            _fold_waiting(db, club_id, run_id, state)
    stored = db.connection().execute(
        _STORE,
        {
            **key,
            "hash": digest,
            "mark_version": MARK_VERSION,
            "body": batch.model_dump_json(),
            "state": partner_fold.MARK_STATE.dump_json(state).decode(),
            "highest": max(highest, batch.number),
            "marks": marks + len(batch.marks),
        },
    )
    if stored.first() is None:
        return _of_twin(db, key, fixed, digest)
    if state.complete or locked.closed:
        _close(db, club_id, run_id)
    _note_knocks(db, club_id, run_id, batch)
    return _taken(fixed, state)


def _taken(fixed: partner_runs.Fixed, state: partner_fold.MarkState) -> BatchResult:
    climb = partner_fold.suggestion(fixed.rung, fixed.sheet_bpm, state)
    return BatchResult(state.next_batch, state.complete, climb)


def _state(
    db: Session, club_id: uuid.UUID, run_id: uuid.UUID, locked: _Locked
) -> tuple[partner_fold.MarkState, int, int]:
    """The kept state with the number of marks and the highest batch; folded anew without one."""
    if locked.state is not None:
        return partner_fold.MARK_STATE.validate_json(locked.state), locked.marks, locked.highest
    batches = partner_runs.batches_of(db, club_id, run_id)
    count = sum(len(each.marks) for each in batches)
    return (
        partner_fold.fold_again(batches),
        count,
        max((each.number for each in batches), default=-1),
    )


def _fill(
    db: Session, key: dict[str, Any], batch: MarkBatch, locked: _Locked
) -> partner_fold.MarkState:
    """Put what was kept aside in the place of its emptied batch: the state of the run with it."""
    if batch.emptied or not locked.emptied:
        raise BatchConflict
    club_id, run_id = key["club_id"], key["run_id"]
    of_run = (models.MarkBatch.club_id == club_id, models.MarkBatch.run_id == run_id)
    db.execute(delete(models.MarkBatch).where(*of_run, models.MarkBatch.number == batch.number))
    others = partner_runs.batches_of(db, club_id, run_id)
    return partner_fold.fold_again(sorted([*others, batch], key=lambda each: each.number))


def _fold_waiting(
    db: Session, club_id: uuid.UUID, run_id: uuid.UUID, state: partner_fold.MarkState
) -> None:
    """Fold batches that came before the one they had to wait for."""
    for batch in partner_runs.batches_of(db, club_id, run_id, since=state.next_batch):
        if batch.number != state.next_batch:
            break
        partner_fold.fold_batch(state, batch)


def _of_twin(
    db: Session, key: dict[str, Any], fixed: partner_runs.Fixed, digest: bytes
) -> BatchResult:
    """What became of a batch whose twin came in first; another one of its number is refused."""
    locked = _Locked(*db.connection().execute(_LOCK, key).one())
    if locked.known_hash != digest:
        raise BatchConflict
    return _taken(fixed, _state(db, key["club_id"], key["run_id"], locked)[0])


def _close(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> None:
    """The run has ended; what was kept of it without this batch is worked out again."""
    run = (PartnerRun.club_id == club_id, PartnerRun.id == run_id)
    ended = func.coalesce(PartnerRun.closed_at, func.now())
    db.execute(update(PartnerRun).where(*run).values(closed_at=ended, figures=None))
    result = (PartnerResult.club_id == club_id, PartnerResult.run_id == run_id)
    db.execute(delete(PartnerResult).where(*result))


def _note_knocks(db: Session, club_id: uuid.UUID, run_id: uuid.UUID, batch: MarkBatch) -> None:
    """Head knocks of a batch, and those that it takes back, if nothing has told of them yet."""
    for mark in batch.marks:
        if isinstance(mark, HeadKnock):
            partner_runs.keep_knock(db, club_id, run_id, mark, taken_back=False)
    taken_back = [mark for mark in batch.marks if isinstance(mark, KnockTakenBack)]
    known = _knocks(db, club_id, run_id) if taken_back else []
    for back in taken_back:
        earlier = [
            mark for mark in known if mark.partner == back.partner and mark.at_ms <= back.at_ms
        ]
        if earlier:
            last = max(earlier, key=lambda mark: mark.at_ms)
            partner_runs.keep_knock(db, club_id, run_id, last, taken_back=True)


def _knocks(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> list[HeadKnock]:
    """Every head knock that the mat has marked in a run."""
    bodies = db.scalars(
        select(models.MarkBatch.body)
        .where(models.MarkBatch.club_id == club_id, models.MarkBatch.run_id == run_id)
        .where(models.MarkBatch.body.contains({"marks": [{"kind": "head_knock"}]}))
    )
    marks = [mark for body in bodies for mark in MarkBatch.model_validate(body).marks]
    return [mark for mark in marks if isinstance(mark, HeadKnock)]
