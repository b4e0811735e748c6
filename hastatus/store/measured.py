"""Measured answers of a student, newest first, for what a drill is expected to be like."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from typing import TypeVarTuple

from sqlalchemy import Select, func, select, tuple_
from sqlalchemy.orm import Session

from hastatus.core.expect import Measured
from hastatus.core.weakness import Answered
from hastatus.store.models import Response, Run

LAST = 120

_Columns = TypeVarTuple("_Columns")


def of_drill(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID
) -> list[Measured]:
    """The last answers in one drill, whatever its version."""
    return _read(db, _answers(club_id, student_id).where(Run.drill_id == drill_id))


def by_cue(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID
) -> list[Answered]:
    """The last answers in one drill, and which cue each was to."""
    clean = Response.outcome == "clean"
    query = _of(select(Response.cue, clean), club_id, student_id).where(Run.drill_id == drill_id)
    return [Answered(cue, is_clean) for cue, is_clean in db.execute(query)]


def of_techniques(
    db: Session,
    club_id: uuid.UUID,
    student_id: uuid.UUID,
    asked: Iterable[tuple[str, str]],
) -> list[Measured]:
    """The last answers that asked for one of these techniques and sides, in any drill.

    Not those of a baseline, which asks them of plainer cues.
    """
    pairs = sorted(asked)
    if not pairs:
        return []
    wanted = tuple_(Response.asked_technique, Response.asked_side).in_(pairs)
    kind = func.coalesce(func.jsonb_typeof(Run.figures["baseline"]), "null")
    return _read(db, _answers(club_id, student_id).where(wanted, kind != "object"))


def _answers(club_id: uuid.UUID, student_id: uuid.UUID) -> Select[str, float | None, float]:
    return _of(select(Response.outcome, Response.time_ms, Response.offset_ms), club_id, student_id)


def _of(query: Select[*_Columns], club_id: uuid.UUID, student_id: uuid.UUID) -> Select[*_Columns]:
    """A student's last answers that count."""
    return (
        query.join(Run, (Run.club_id == Response.club_id) & (Run.id == Response.run_id))
        .where(Run.club_id == club_id, Run.student_id == student_id, Run.simulated.is_(False))
        .where(Response.left_out.is_(None), Response.asked_technique.is_not(None))
        .order_by(Run.started_at.desc(), Response.round.desc(), Response.slot.desc())
        .limit(LAST)
    )


def _read(db: Session, query: Select[str, float | None, float]) -> list[Measured]:
    return [
        Measured(outcome in ("clean", "late"), None if time is None else time - offset)
        for outcome, time, offset in db.execute(query)
    ]
