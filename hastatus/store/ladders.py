"""Where a student stands on a drill, what is suggested, and what the coach chose."""

from __future__ import annotations

import uuid
from dataclasses import asdict
from datetime import datetime

from pydantic import TypeAdapter
from sqlalchemy import select, text
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.core.adapt import first_window, ladder
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.prior import Prior
from hastatus.store import club_levels
from hastatus.store.models import LadderChoice, LadderState, Run

_EVIDENCE = TypeAdapter(ladder.RunEvidence)


def evidence_of(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID
) -> list[ladder.RunEvidence]:
    """Evidence of the last runs of a student on a drill, oldest first."""
    rows = db.scalars(
        select(Run.figures)
        .where(Run.club_id == club_id, Run.student_id == student_id, Run.drill_id == drill_id)
        .where(Run.figures.is_not(None), Run.counts)
        .order_by(Run.started_at.desc())
        .limit(6)
    )
    return [_EVIDENCE.validate_python(row["evidence"]) for row in rows if row][::-1]


def suggestion(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID, drill: Drill
) -> ladder.Suggestion:
    """What comes next for a student on a drill, with its reason."""
    evidence = evidence_of(db, club_id, student_id, drill_id)
    if not evidence:
        return first_window.first(drill, club_levels.of(db, club_id, student_id, drill_id, drill))
    return ladder.suggest(drill, [run for run in evidence if run.rung <= len(drill.rungs)])


def prior(
    db: Session,
    club_id: uuid.UUID,
    student_id: uuid.UUID,
    drill_id: uuid.UUID,
    drill: Drill,
    rung: int,
) -> Prior | None:
    """What is believed of a student's window on a rung before a run; None: nothing is known."""
    evidence = evidence_of(db, club_id, student_id, drill_id)
    if evidence or rung > 1:
        return ladder.prior(evidence, rung)
    return first_window.prior(drill, club_levels.of(db, club_id, student_id, drill_id, drill))


def state(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID
) -> LadderState | None:
    """Where the next run starts, None before the first."""
    return db.get(LadderState, (club_id, student_id, drill_id))


# Asked once for each run that is scored, so in one plain statement.
_OVERTAKEN = text("""
    SELECT EXISTS (
        SELECT FROM runs WHERE club_id = :club_id AND student_id = :student_id
           AND drill_id = :drill_id AND started_at > :at AND NOT simulated AND archived_at IS NULL
    ) OR EXISTS (
        SELECT FROM ladder_choices WHERE club_id = :club_id AND student_id = :student_id
           AND drill_id = :drill_id AND at > :at
    )
""")
"""Whether a later run or choice holds already."""


def settle(db: Session, run: Run, evidence: ladder.RunEvidence) -> None:
    """After a run: the next one starts on the same rung, where the window settled.

    A rung changes only on the coach's word.
    """
    if evidence.settled_window_s is not None:
        key = {
            "club_id": run.club_id,
            "student_id": run.student_id,
            "drill_id": run.drill_id,
            "at": run.started_at,
        }
        if not db.connection().execute(_OVERTAKEN, key).scalar_one():
            _set(db, run, run.rung, round(evidence.settled_window_s, 3))


def choose(
    db: Session,
    club_id: uuid.UUID,
    *,
    student_id: uuid.UUID,
    drill_id: uuid.UUID,
    coach_id: uuid.UUID,
    kind: str,
    rung: int,
    window_s: float,
    suggested: ladder.Suggestion,
    at: datetime | None = None,
) -> LadderChoice:
    """Log the coach's choice beside the suggestion, and let it hold for the next run."""
    choice = LadderChoice(
        club_id=club_id,
        id=uuid.uuid4(),
        student_id=student_id,
        drill_id=drill_id,
        coach_id=coach_id,
        kind=kind,
        rung=rung,
        window_s=window_s,
        suggested=asdict(suggested),
    )
    if at:
        choice.at = at
    db.add(choice)
    db.flush()
    _set(db, choice, rung, window_s)
    return choice


def choices(db: Session, club_id: uuid.UUID, student_id: uuid.UUID | None) -> list[LadderChoice]:
    """Choices, newest first."""
    query = select(LadderChoice).where(LadderChoice.club_id == club_id)
    if student_id:
        query = query.where(LadderChoice.student_id == student_id)
    return list(db.scalars(query.order_by(LadderChoice.at.desc()).limit(200)))


def _set(db: Session, of: Run | LadderChoice, rung: int, window_s: float) -> None:
    key = {"club_id": of.club_id, "student_id": of.student_id, "drill_id": of.drill_id}
    values = {"rung": rung, "window_s": window_s}
    db.execute(
        insert(LadderState)
        .values(**key, **values)
        .on_conflict_do_update(
            index_elements=list(key),
            set_=values,
            where=(LadderState.rung != rung) | (LadderState.window_s != window_s),
        )
    )
    row = db.identity_map.get(db.identity_key(LadderState, tuple(key.values())))
    if row is not None:
        db.expire(row)


def set_by(db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID) -> str:
    """Who set the state: the last run settled it, or a choice made after that run."""
    last = db.scalar(
        select(Run.started_at)
        .where(Run.club_id == club_id, Run.student_id == student_id, Run.drill_id == drill_id)
        .where(Run.counts)
        .order_by(Run.started_at.desc())
        .limit(1)
    )
    query = select(LadderChoice.kind).where(
        LadderChoice.club_id == club_id,
        LadderChoice.student_id == student_id,
        LadderChoice.drill_id == drill_id,
    )
    if last is not None:
        query = query.where(LadderChoice.at > last)
    return db.scalar(query.order_by(LadderChoice.at.desc()).limit(1)) or "settled"
