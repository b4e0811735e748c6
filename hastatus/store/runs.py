"""Runs: their plan, the batches as they come, the folded state, and the derived responses."""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Sequence
from dataclasses import asdict, dataclass, fields
from datetime import datetime

from sqlalchemy import delete, func, insert, select
from sqlalchemy.orm import Session

from hastatus.core import follow, results, score
from hastatus.core.drill import Drill
from hastatus.core.events import EVENT_VERSION, Batch, Device, check_batch
from hastatus.core.plan import RunPlan
from hastatus.store import ladders
from hastatus.store.models import DrillVersion, EventBatch, Response, Run, RunFold


class OtherRecorder(RuntimeError):
    """The run is recorded by another player."""


class BatchConflict(RuntimeError):
    """A batch of this number came before, with other contents."""


@dataclass(frozen=True, slots=True)
class Taken:
    """What became of a posted batch."""

    next_batch: int
    complete: bool
    window_s: float
    holding: bool
    tail: follow.Tail | None


def add(
    db: Session,
    club_id: uuid.UUID,
    run_id: uuid.UUID,
    *,
    student_id: uuid.UUID,
    coach_id: uuid.UUID,
    version: DrillVersion,
    recorder: uuid.UUID,
    plan: RunPlan,
    device: Device,
    started_at: datetime | None = None,
) -> Run:
    """A new run with its plan and the state before its first batch."""
    run = Run(
        club_id=club_id,
        id=run_id,
        student_id=student_id,
        drill_id=version.drill_id,
        version=version.number,
        coach_id=coach_id,
        recorder=recorder,
        plan=plan.model_dump(mode="json"),
        device=device.model_dump(mode="json"),
        rung=plan.rung,
    )
    if started_at:
        run.started_at = started_at
    db.add(run)
    db.flush()
    drill = Drill.model_validate(version.document)
    state = follow.begin(follow.Setup(drill, plan, device))
    db.add(RunFold(club_id=club_id, run_id=run_id, state=_dump(state)))
    db.flush()
    return run


def find(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> Run | None:
    """The club's run with this id."""
    return db.get(Run, (club_id, run_id))


def latest(
    db: Session,
    club_id: uuid.UUID,
    *,
    student_id: uuid.UUID | None = None,
    drill_id: uuid.UUID | None = None,
    limit: int = 200,
) -> list[Run]:
    """The newest runs first, without their plans' details being of interest."""
    query = select(Run).where(Run.club_id == club_id)
    if student_id:
        query = query.where(Run.student_id == student_id)
    if drill_id:
        query = query.where(Run.drill_id == drill_id)
    return list(db.scalars(query.order_by(Run.started_at.desc(), Run.id).limit(limit)))


@dataclass(frozen=True, slots=True)
class _Fixed:
    setup: follow.Setup
    recorder: uuid.UUID


_FIXED_KEPT = 256
_fixed: dict[tuple[uuid.UUID, uuid.UUID], _Fixed] = {}
"""What never changes about the runs used last, read once a process."""


def _fixed_of(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> _Fixed:
    found = _fixed.get((club_id, run_id))
    if found is None:
        run = db.get_one(Run, (club_id, run_id))
        row = db.get_one(DrillVersion, (run.club_id, run.drill_id, run.version))
        setup = follow.Setup(
            Drill.model_validate(row.document),
            RunPlan.model_validate(run.plan),
            Device.model_validate(run.device),
        )
        found = _fixed[club_id, run_id] = _Fixed(setup, run.recorder)
        while len(_fixed) > _FIXED_KEPT:
            _fixed.pop(next(iter(_fixed)), None)
    return found


def setup_of(db: Session, run: Run) -> follow.Setup:
    """What is fixed for a run: drill version, plan and device."""
    return _fixed_of(db, run.club_id, run.id).setup


def next_batch(db: Session, run: Run) -> int:
    """Number of the first batch that has not come yet."""
    fold = db.get_one(RunFold, (run.club_id, run.id))
    return int(fold.state["next_batch"])


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
) -> Taken | None:
    """Store a batch and fold what has become contiguous; None without such a run.

    Raises `OtherRecorder`, `BatchConflict`, or `events.BadBatch` when it does not fit the plan.
    """
    fold = db.get(RunFold, (club_id, run_id), with_for_update=True)
    if fold is None:
        return None
    fixed = _fixed_of(db, club_id, run_id)
    setup = fixed.setup
    if fixed.recorder != recorder:
        raise OtherRecorder
    state = follow.RUN_STATE.validate_python(fold.state)
    known = db.get(EventBatch, (club_id, run_id, recorder, batch.number))
    if known is not None:
        if known.payload_hash != digest:
            raise BatchConflict
        return _taken(setup, state, batch)
    check_batch(batch, setup.drill, setup.plan)
    db.execute(
        insert(EventBatch).values(
            club_id=club_id,
            run_id=run_id,
            recorder=recorder,
            number=batch.number,
            payload_hash=digest,
            event_version=EVENT_VERSION,
            body=batch.model_dump(mode="json"),
        )
    )
    if batch.number == state.next_batch:
        follow.fold_batch(setup, state, batch)
        if fold.highest > batch.number:
            _fold_waiting(db, fold, setup, state)
        fold.state = _dump(state)
    fold.highest = max(fold.highest, batch.number)
    db.flush()
    if state.complete or _closed(db, club_id, run_id):
        fold.complete = state.complete
        keep_score(db, club_id, run_id)
    return _taken(setup, state, batch)


def import_batches(db: Session, run: Run, batches: Sequence[Batch]) -> None:
    """Store a whole recorded run at once, fold it and keep its score."""
    fold = db.get_one(RunFold, (run.club_id, run.id), with_for_update=True)
    setup = setup_of(db, run)
    state = follow.RUN_STATE.validate_python(fold.state)
    rows = []
    for batch in batches:
        check_batch(batch, setup.drill, setup.plan)
        follow.fold_batch(setup, state, batch)
        rows.append(
            {
                "club_id": run.club_id,
                "run_id": run.id,
                "recorder": run.recorder,
                "number": batch.number,
                "payload_hash": payload_hash(batch.model_dump_json().encode()),
                "event_version": EVENT_VERSION,
                "body": batch.model_dump(mode="json"),
            }
        )
    db.execute(insert(EventBatch), rows)
    fold.state, fold.highest, fold.complete = _dump(state), len(batches) - 1, state.complete
    db.flush()
    keep_score(db, run.club_id, run.id)


def _taken(setup: follow.Setup, state: follow.RunState, batch: Batch) -> Taken:
    return Taken(
        next_batch=state.next_batch,
        complete=state.complete,
        window_s=state.controller.window_s,
        holding=state.controller.holding,
        tail=follow.revise(setup, state, batch),
    )


def _fold_waiting(db: Session, fold: RunFold, setup: follow.Setup, state: follow.RunState) -> None:
    """Fold batches that came before the one they had to wait for."""
    later = db.scalars(
        select(EventBatch)
        .where(EventBatch.club_id == fold.club_id, EventBatch.run_id == fold.run_id)
        .where(EventBatch.number >= state.next_batch)
        .order_by(EventBatch.number)
    )
    for row in later:
        if row.number != state.next_batch:
            break
        follow.fold_batch(setup, state, Batch.model_validate(row.body))


def _closed(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> bool:
    query = select(Run.closed_at).where(Run.club_id == club_id, Run.id == run_id)
    return db.scalar(query) is not None


def batches_of(db: Session, run: Run) -> list[Batch]:
    """All batches of a run that have come, in number order."""
    rows = db.scalars(
        select(EventBatch)
        .where(EventBatch.club_id == run.club_id, EventBatch.run_id == run.id)
        .order_by(EventBatch.number)
    )
    return [Batch.model_validate(row.body) for row in rows]


def score_run(db: Session, run: Run) -> results.Results:
    """Score a run afresh from its batches. Nothing is written."""
    return results.read(setup_of(db, run), batches_of(db, run), closed=run.closed_at is not None)


def keep_score(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> results.Results:
    """Score a run, and keep responses, figures and where the student now stands."""
    run = find(db, club_id, run_id)
    assert run is not None
    scored = score_run(db, run)
    db.execute(delete(Response).where(Response.club_id == club_id, Response.run_id == run_id))
    if scored.responses:
        db.execute(
            insert(Response),
            [{"club_id": club_id, "run_id": run_id, **asdict(each)} for each in scored.responses],
        )
    run.figures = results.FIGURES.dump_python(scored.figures, mode="json")
    run.scoring_version = score.SCORING_VERSION
    db.flush()
    ladders.settle(db, run, scored.figures.evidence)
    return scored


def close(db: Session, run: Run) -> results.Results:
    """End a run by hand; what has come is scored. Batches that come later are still taken."""
    if run.closed_at is None:
        run.closed_at = db.scalar(select(func.now()))
    return keep_score(db, run.club_id, run.id)


def kept_responses(db: Session, run: Run) -> list[score.Response]:
    """The kept responses of a run in onset order."""
    names = [field.name for field in fields(score.Response)]
    rows = db.execute(
        select(*(getattr(Response, name) for name in names))
        .where(Response.club_id == run.club_id, Response.run_id == run.id)
        .order_by(Response.round, Response.slot)
    )
    return [score.Response(*row) for row in rows]


def figures_of(runs: Sequence[Run]) -> list[tuple[Run, results.Figures]]:
    """The scored ones of `runs` with their figures."""
    return [
        (run, results.FIGURES.validate_python(run.figures))
        for run in runs
        if run.figures is not None
    ]


def _dump(state: follow.RunState) -> dict[str, object]:
    dumped: dict[str, object] = follow.RUN_STATE.dump_python(state, mode="json")
    return dumped
