"""Runs: their plan, the batches as they come, the folded state, and the derived responses."""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Collection, Sequence
from dataclasses import dataclass, fields
from datetime import datetime

from pydantic import TypeAdapter
from sqlalchemy import Text, delete, func, insert, select, text, true
from sqlalchemy.orm import Session, aliased, defer

from hastatus.core.drill.solo import Drill
from hastatus.core.loop import live_run, results
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.run.device import Device
from hastatus.core.run.events import EVENT_VERSION, Batch, check_batch
from hastatus.core.run.setup import Setup
from hastatus.core.score import response, scorer
from hastatus.store import away, ladders
from hastatus.store.asked_runs import EVERY_RUN, Asked
from hastatus.store.models import (
    IS_ANSWERED,
    DrillVersion,
    EventBatch,
    Response,
    Run,
    RunFold,
    Student,
)

A_PAGE = 200
"""Runs in one answer; those before the last of them are asked for next."""


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
        simulated=device.simulated,
    )
    if started_at:
        run.started_at = started_at
    db.add(run)
    db.flush()
    drill = Drill.model_validate(version.document)
    state = live_run.begin(Setup(drill, plan, device))
    db.add(RunFold(club_id=club_id, run_id=run_id, state=_dump(state)))
    db.flush()
    return run


def find(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> Run | None:
    """The club's run with this id."""
    return db.get(Run, (club_id, run_id))


def latest(
    db: Session, club_id: uuid.UUID, asked: Asked = EVERY_RUN, *, limit: int = A_PAGE
) -> list[Run]:
    """The newest runs first; their plans, which are long, are only read when asked for."""
    query = select(Run).options(defer(Run.plan)).where(Run.club_id == club_id)
    if asked.student_id:
        query = query.where(Run.student_id == asked.student_id)
    query = query.where(*asked.conditions(Run))
    return list(db.scalars(query.order_by(Run.started_at.desc(), Run.id).limit(limit)))


def latest_of_each(
    db: Session, club_id: uuid.UUID, count: int, student_ids: Collection[uuid.UUID]
) -> list[Run]:
    """The newest `count` runs of each of these students of the club, newest first."""
    own = aliased(Run)
    newest = (
        select(own.id)
        .where(own.club_id == Student.club_id, own.student_id == Student.id)
        .where(own.archived_at.is_(None))
        .order_by(own.started_at.desc(), own.id)
        .limit(count)
        .lateral("newest")
    )
    query = (
        select(Run)
        .options(defer(Run.plan))
        .select_from(Student)
        .join(newest, true())
        .join(Run, (Run.club_id == Student.club_id) & (Run.id == newest.c.id))
        .where(Student.club_id == club_id, Student.id.in_(student_ids))
        .order_by(Run.started_at.desc(), Run.id)
    )
    return list(db.scalars(query))


def count_by_student(
    db: Session, club_id: uuid.UUID, student_ids: Collection[uuid.UUID]
) -> dict[uuid.UUID, int]:
    """How many runs with an answer each of these students of the club has."""
    query = (
        select(Run.student_id, func.count())
        .where(Run.club_id == club_id, text(f"({IS_ANSWERED})"), Run.student_id.in_(student_ids))
        .where(Run.archived_at.is_(None))
        .group_by(Run.student_id)
    )
    return {row[0]: row[1] for row in db.execute(query)}


@dataclass(frozen=True, slots=True)
class Fixed:
    """What never changes about a run."""

    setup: Setup
    recorder: uuid.UUID


# As text: a long plan is read much faster straight from its JSON.
_FIXED = text("""
    SELECT versions.document::text AS drill, plan::text, device::text, recorder
    FROM runs JOIN drill_versions AS versions
      ON versions.club_id = runs.club_id AND versions.drill_id = runs.drill_id
     AND versions.number = runs.version
    WHERE runs.club_id = :club_id AND runs.id = :run_id
""")
MOST_KEPT_BYTES = 32 * 2**20
_MOST_KEPT = 256
_fixed: dict[tuple[uuid.UUID, uuid.UUID], tuple[Fixed, int]] = {}
"""What never changes about the runs used last, read once a process, with the bytes of its plan."""


def fixed_of(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> Fixed:
    """What never changes about a run, kept in this process for the runs used last."""
    kept = _fixed.get((club_id, run_id))
    if kept is not None:
        return kept[0]
    row = db.connection().execute(_FIXED, {"club_id": club_id, "run_id": run_id}).one()
    setup = Setup(
        Drill.model_validate_json(row.drill),
        RunPlan.model_validate_json(row.plan),
        Device.model_validate_json(row.device),
    )
    fixed = Fixed(setup, row.recorder)
    _fixed[club_id, run_id] = fixed, len(row.plan)
    _forget_oldest()
    return fixed


def _forget_oldest() -> None:
    """Keep what was read last, within the bounds; the newest in any case."""
    held = sum(size for _, size in _fixed.copy().values())
    for key in list(_fixed)[:-1]:
        if len(_fixed) <= _MOST_KEPT and held <= MOST_KEPT_BYTES:
            return
        held -= _fixed.pop(key, (None, 0))[1]


def setup_of(db: Session, run: Run) -> Setup:
    """What is fixed for a run: drill version, plan and device."""
    return fixed_of(db, run.club_id, run.id).setup


def state_of(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> live_run.RunState:
    """The folded state of a run as it is in the database now."""
    fold = db.get_one(RunFold, (club_id, run_id), populate_existing=True)
    return live_run.RUN_STATE.validate_python(fold.state)


def next_batch(db: Session, run: Run) -> int:
    """Number of the first batch that has not come yet."""
    return state_of(db, run.club_id, run.id).next_batch


def import_batches(
    db: Session, run: Run, batches: Sequence[Batch], state: live_run.RunState | None = None
) -> None:
    """Store a whole recorded run at once and keep its score.

    state: what all its batches fold to, where they have been folded; None: they are folded here.
    """
    fold = db.get_one(RunFold, (run.club_id, run.id), with_for_update=True)
    setup = setup_of(db, run)
    state = state or live_run.fold_again(setup, batches)
    rows = []
    for batch in batches:
        check_batch(batch, setup.drill, setup.plan, setup.device)
        rows.append(
            {
                "club_id": run.club_id,
                "run_id": run.id,
                "recorder": run.recorder,
                "number": batch.number,
                "payload_hash": hashlib.sha256(batch.model_dump_json().encode()).digest(),
                "event_version": EVENT_VERSION,
                "body": batch.model_dump(mode="json"),
            }
        )
    db.execute(insert(EventBatch), rows)
    fold.state, fold.highest, fold.complete = _dump(state), len(batches) - 1, state.complete
    db.flush()
    keep_score(db, run.club_id, run.id)


def batches_of(db: Session, club_id: uuid.UUID, run_id: uuid.UUID, since: int = 0) -> list[Batch]:
    """The batches of a run that have come, from a number on, in number order."""
    # As text, like a plan: see `_FIXED`.
    bodies = db.scalars(
        select(EventBatch.body.cast(Text))
        .where(EventBatch.club_id == club_id, EventBatch.run_id == run_id)
        .where(EventBatch.number >= since)
        .order_by(EventBatch.number)
    )
    return _BATCHES.validate_json(f"[{','.join(bodies)}]")


def score_run(db: Session, run: Run) -> results.Results:
    """Score a run afresh from its batches. Nothing is written."""
    return results.read(
        setup_of(db, run), batches_of(db, run.club_id, run.id), closed=run.closed_at is not None
    )


def keep_score(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> results.Results:
    """Score a run, and keep responses, figures and where the student now stands."""
    # Without its plan, which is long and known already (see `fixed_of`).
    run = db.get_one(Run, (club_id, run_id), options=[defer(Run.plan)])
    scored = score_run(db, run)
    db.execute(delete(Response).where(Response.club_id == club_id, Response.run_id == run_id))
    rows = _RESPONSES.dump_json(list(scored.responses)).decode()
    db.execute(_KEEP_RESPONSES, {"club_id": club_id, "run_id": run_id, "rows": rows})
    run.figures = results.FIGURES.dump_python(scored.figures, mode="json")
    run.scoring_version = scorer.SCORING_VERSION
    db.flush()
    if not run.simulated:
        ladders.settle(db, run, scored.figures.evidence)
    if run.closed_at is not None or scored.figures.complete:
        rung = setup_of(db, run).drill.rungs[run.rung - 1]
        away.settle_solo(run, scored, guided=rung.guide is not None)
        db.flush()
    return scored


_BATCHES = TypeAdapter(list[Batch])
_RESPONSES = TypeAdapter(list[response.Response])
_COLUMNS = ", ".join(field.name for field in fields(response.Response))
# One document for all rows: a run has a hundred, and a row at a time takes far longer.
_KEEP_RESPONSES = text(f"""
    INSERT INTO responses (club_id, run_id, {_COLUMNS})
    SELECT :club_id, :run_id, {_COLUMNS}
    FROM jsonb_populate_recordset(NULL::responses, CAST(:rows AS jsonb))
""")


def close(db: Session, run: Run) -> results.Results:
    """End a run by hand; what has come is scored. Batches that come later are still taken."""
    if run.closed_at is None:
        run.closed_at = db.scalar(select(func.now()))
    return keep_score(db, run.club_id, run.id)


def figures_of(runs: Sequence[Run]) -> list[tuple[Run, results.Figures]]:
    """The scored ones of `runs` with their figures."""
    return [
        (run, results.FIGURES.validate_python(run.figures))
        for run in runs
        if run.figures is not None
    ]


def _dump(state: live_run.RunState) -> dict[str, object]:
    dumped: dict[str, object] = live_run.RUN_STATE.dump_python(state, mode="json")
    return dumped
