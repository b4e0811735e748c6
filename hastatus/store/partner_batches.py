"""Batches of marks of partner runs."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from dataclasses import dataclass

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
from hastatus.store import away, batch_intake, models, partner_runs
from hastatus.store.models import PartnerResult, PartnerRun

FEW_MARKS = 20
"""With more marks than these something was certainly marked, so nothing need be read."""


class TooMany(RuntimeError):
    """A run has as many marks as it may have; the message says how many."""


@dataclass(frozen=True, slots=True)
class BatchResult:
    """What became of a posted batch. next_batch: the first that has not come. climb: the tempo that
    the rung's rule suggests."""

    next_batch: int
    complete: bool
    climb: TempoSuggestion | None


class _Marks(batch_intake.Kind[partner_runs.Fixed, partner_fold.MarkState, MarkBatch]):
    state = partner_fold.MARK_STATE
    version = MARK_VERSION
    lock = text("""
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
    store = text("""
        WITH stored AS (
            INSERT INTO mark_batches (club_id, run_id, number, payload_hash, mark_version, body)
            VALUES (:club_id, :run_id, :number, :hash, :version, :body)
            ON CONFLICT DO NOTHING
            RETURNING number
        )
        UPDATE mark_folds SET state = :state, highest = :highest, marks = :items
        WHERE club_id = :club_id AND run_id = :run_id AND EXISTS (SELECT FROM stored)
        RETURNING run_id
    """)

    def fixed(self, db: Session, key: batch_intake.Key) -> partner_runs.Fixed:
        return partner_runs.fixed_of(db, key.club_id, key.run_id)

    def check(self, fixed: partner_runs.Fixed, batch: MarkBatch, items: int) -> int:
        if items + len(batch.marks) > MOST_MARKS:
            raise TooMany(f"marks: a run has at most {MOST_MARKS} marks")
        return items + len(batch.marks)

    def fold(
        self, fixed: partner_runs.Fixed, state: partner_fold.MarkState, batch: MarkBatch
    ) -> None:
        partner_fold.fold_batch(state, batch, fixed.fed, fixed.sheet_bpm)

    def fold_again(
        self, fixed: partner_runs.Fixed, batches: Iterable[MarkBatch]
    ) -> partner_fold.MarkState:
        return partner_fold.fold_again(batches, fixed.fed, fixed.sheet_bpm)

    def batches(self, db: Session, key: batch_intake.Key, since: int = 0) -> list[MarkBatch]:
        return partner_runs.batches_of(db, key.club_id, key.run_id, since=since)

    def remove(self, db: Session, key: batch_intake.Key) -> None:
        batch = models.MarkBatch
        of_run = (batch.club_id == key.club_id, batch.run_id == key.run_id)
        db.execute(delete(batch).where(*of_run, batch.number == key.number))

    def after(self, db: Session, key: batch_intake.Key, batch: MarkBatch, *, ended: bool) -> None:
        """A head knock is written down at once and holds the student's contact work."""
        if ended:
            _close(db, key.club_id, key.run_id)
        _note_knocks(db, key.club_id, key.run_id, batch)
        if ended:
            _settle(db, key.club_id, key.run_id)


_MARKS = _Marks()


def take(
    db: Session,
    club_id: uuid.UUID,
    run_id: uuid.UUID,
    recorder: uuid.UUID,
    batch: MarkBatch,
    digest: bytes,
) -> BatchResult | None:
    """Store a batch and fold what has become contiguous; None without such a run.

    Raises `OtherRecorder`, `BatchConflict` or `TooMany`.
    """
    key = batch_intake.Key(club_id, run_id, recorder, batch.number)
    taken = batch_intake.take(_MARKS, db, key, batch, digest)
    if taken is None:
        return None
    fixed, state = taken
    climb = partner_fold.suggestion(fixed.rung, fixed.sheet_bpm, state)
    return BatchResult(state.next_batch, state.complete, climb)


def _close(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> None:
    """The run has ended; what was kept of it without this batch is worked out again."""
    run = (PartnerRun.club_id == club_id, PartnerRun.id == run_id)
    ended = func.coalesce(PartnerRun.closed_at, func.now())
    db.execute(update(PartnerRun).where(*run).values(closed_at=ended, figures=None))
    result = (PartnerResult.club_id == club_id, PartnerResult.run_id == run_id)
    db.execute(delete(PartnerResult).where(*result))


def _settle(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> None:
    """A run that ended without a mark is not kept. Where there are many, something was marked."""
    fold = db.get_one(models.MarkFold, (club_id, run_id), populate_existing=True)
    if fold.marks <= FEW_MARKS:
        run = db.get_one(PartnerRun, (club_id, run_id), populate_existing=True)
        knocked = bool(_knocks(db, club_id, run_id))
        away.settle_partner(run, partner_runs.figures_of(db, run), knocked=knocked)
        db.flush()


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
