"""Rows of the store as the answers' models."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from hastatus.api.adapt import models as adapt_models
from hastatus.api.http.problems import not_found
from hastatus.api.read import models as read_models
from hastatus.store import drills, ladders, runs
from hastatus.store.models import LadderChoice, Run, Student


def state_of(run: Run) -> str:
    """open, closed by hand, or complete: every batch is in."""
    figures = run.figures or {}
    if figures.get("complete"):
        return "complete"
    return "closed" if run.closed_at else "open"


def of(db: Session, club_id: uuid.UUID, found: Sequence[Run]) -> list[read_models.RunLine]:
    """Runs as list lines."""
    names = {
        row.id: row.name
        for row in db.execute(
            select(Student.id, Student.name).where(
                Student.club_id == club_id, Student.id.in_({run.student_id for run in found})
            )
        )
    }
    titles = drills.titles(db, club_id, {(run.drill_id, run.version) for run in found})
    figures = {run.id: each for run, each in runs.figures_of(found)}
    return [
        read_models.RunLine(
            id=run.id,
            student_id=run.student_id,
            student=names[run.student_id],
            drill_id=run.drill_id,
            drill=titles[run.drill_id, run.version],
            started_at=run.started_at,
            rung=run.rung,
            state=state_of(run),
            summary=figures[run.id].summary if run.id in figures else None,
            evidence=figures[run.id].evidence if run.id in figures else None,
            side=figures[run.id].side if run.id in figures else None,
            simulated=run.simulated,
            baseline=run.id in figures and figures[run.id].baseline is not None,
        )
        for run in found
    ]


def ladder_view(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID
) -> adapt_models.LadderView:
    """Where a student stands on a drill; 404 without such a drill."""
    version = drills.version(db, club_id, drill_id)
    if version is None:
        raise not_found("drill")
    drill = drills.read(version)
    suggestion = ladders.suggestion(db, club_id, student_id, drill_id, drill)
    state = ladders.state(db, club_id, student_id, drill_id)
    if state is None:
        return adapt_models.LadderView(
            rung=suggestion.rung,
            window_s=suggestion.window_s,
            by="start",
            suggestion=suggestion,
        )
    return adapt_models.LadderView(
        rung=min(state.rung, len(drill.rungs)),
        window_s=state.window_s,
        by=_by(db, club_id, student_id, drill_id),
        suggestion=suggestion,
    )


def _by(db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID) -> str:
    """Who set the state: the last run settled it, or a choice made after that run."""
    last = db.scalar(
        select(Run.started_at)
        .where(Run.club_id == club_id, Run.student_id == student_id, Run.drill_id == drill_id)
        .where(Run.simulated.is_(False))
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
