"""Rows of the store as the answers' models."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from hastatus.api.read import models as read_models
from hastatus.store import away, drills, runs
from hastatus.store.models import Run, Student


def state_of(run: Run) -> str:
    """open, closed by hand, or complete: every batch is in."""
    figures = run.figures or {}
    if figures.get("complete"):
        return "complete"
    return "closed" if run.closed_at else "open"


def of(db: Session, club_id: uuid.UUID, listed: Sequence[Run]) -> list[read_models.RunLine]:
    """Runs as list lines."""
    names = {
        row.id: row.name
        for row in db.execute(
            select(Student.id, Student.name).where(
                Student.club_id == club_id, Student.id.in_({run.student_id for run in listed})
            )
        )
    }
    titles = drills.titles(db, club_id, {(run.drill_id, run.version) for run in listed})
    figures = {run.id: figure for run, figure in runs.figures_of(listed)}
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
            away=away.of(run),
            baseline=run.id in figures and figures[run.id].baseline is not None,
        )
        for run in listed
    ]
