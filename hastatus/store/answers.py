"""Measured answers of a student, newest first, for what a drill is expected to be like."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from typing import TypeVarTuple

from sqlalchemy import Select, func, select, text, tuple_
from sqlalchemy.orm import Session

from hastatus.core.adapt.weak_cues import Answered
from hastatus.core.read.expected_share import Measured
from hastatus.core.score.response import RIGHT
from hastatus.core.trade.technique import Side
from hastatus.store.models import IS_NO_TEST, Response, Run

LAST = 120
LAST_BY_CUE = 480
"""More, since they are divided among the cues."""

_Columns = TypeVarTuple("_Columns")


def of_drill(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID
) -> list[Measured]:
    """The last answers in one drill, whatever its version."""
    return _read(db, _answers(club_id, student_id).where(Run.drill_id == drill_id))


def by_cue(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID
) -> list[Answered]:
    """The last answers in one drill, newest first, and which cue each was to."""
    columns = (Response.cue, Response.outcome, Response.time_ms, Response.offset_ms)
    query = _of(select(*columns), club_id, student_id).where(Run.drill_id == drill_id)
    return [
        Answered(cue, outcome == "clean", _seconds(time, offset) if outcome in RIGHT else None)
        for cue, outcome, time, offset in db.execute(query.limit(LAST_BY_CUE))
    ]


def _seconds(time_ms: float | None, offset_ms: float) -> float | None:
    return None if time_ms is None else max(time_ms - offset_ms, 50.0) / 1000


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
    return _read(db, _answers(club_id, student_id).where(wanted, text(IS_NO_TEST)))


def by_technique(
    db: Session,
    club_id: uuid.UUID,
    student_id: uuid.UUID,
    asked: Iterable[tuple[str, Side]],
) -> dict[tuple[str, Side], list[Measured]]:
    """The last answers for each of these techniques and sides, as `of_techniques` has them."""
    pairs = sorted(asked)
    if not pairs:
        return {}
    newest = (Run.started_at.desc(), Response.round.desc(), Response.slot.desc())
    asks = (Response.asked_technique, Response.asked_side)
    ranked = (
        select(
            *asks, Response.outcome, Response.time_ms, Response.offset_ms,
            func.row_number().over(partition_by=asks, order_by=newest).label("place"),
        )
        .join(Run, (Run.club_id == Response.club_id) & (Run.id == Response.run_id))
        .where(Run.club_id == club_id, Run.student_id == student_id, Run.counts)
        .where(Response.left_out.is_(None), tuple_(*asks).in_(pairs), text(IS_NO_TEST))
        .subquery()
    )  # fmt: skip
    times: dict[tuple[str, Side], list[Measured]] = {}
    for technique, side, outcome, time, offset, _ in db.execute(
        select(ranked).where(ranked.c.place <= LAST)
    ):
        measured = Measured(outcome in RIGHT, None if time is None else time - offset)
        times.setdefault((technique, side), []).append(measured)
    return times


def _answers(club_id: uuid.UUID, student_id: uuid.UUID) -> Select[str, float | None, float]:
    return _of(select(Response.outcome, Response.time_ms, Response.offset_ms), club_id, student_id)


def _of(query: Select[*_Columns], club_id: uuid.UUID, student_id: uuid.UUID) -> Select[*_Columns]:
    """A student's last answers that count."""
    return (
        query.join(Run, (Run.club_id == Response.club_id) & (Run.id == Response.run_id))
        .where(Run.club_id == club_id, Run.student_id == student_id, Run.counts)
        .where(Response.left_out.is_(None), Response.asked_technique.is_not(None))
        .order_by(Run.started_at.desc(), Response.round.desc(), Response.slot.desc())
        .limit(LAST)
    )


def _read(db: Session, query: Select[str, float | None, float]) -> list[Measured]:
    return [
        Measured(outcome in RIGHT, None if time is None else time - offset)
        for outcome, time, offset in db.execute(query)
    ]
