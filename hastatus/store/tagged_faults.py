"""The faults that were tagged to a student, alone and with partners."""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from hastatus.core.read.fault_course import TaggedRun
from hastatus.store import partner_runs
from hastatus.store.asked_runs import Asked
from hastatus.store.models import PartnerRunStudent, Run

LAST_RUNS = 60
"""The newest runs of each kind that a course is drawn from."""


def set_of_run(db: Session, run: Run, faults: Sequence[tuple[str, int]]) -> None:
    """Keep what was tagged in a solo run, instead of what was."""
    run.faults = [{"fault": fault, "count": count} for fault, count in faults if count]
    db.flush()


def of_student(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> list[TaggedRun]:
    """The student's runs with what was tagged to them in each."""
    alone = db.execute(
        select(Run.started_at, Run.faults)
        .where(Run.club_id == club_id, Run.student_id == student_id)
        .where(Run.archived_at.is_(None))
        .order_by(Run.started_at.desc())
        .limit(LAST_RUNS)
    )
    tagged = [
        TaggedRun(at, "solo", {fault["fault"]: fault["count"] for fault in faults})
        for at, faults in alone
    ]
    places = db.execute(
        select(PartnerRunStudent.run_id, PartnerRunStudent.place).where(
            PartnerRunStudent.club_id == club_id, PartnerRunStudent.student_id == student_id
        )
    )
    seats = {row.run_id: row.place for row in places}
    for run in partner_runs.latest(db, club_id, Asked(student_id=student_id), limit=LAST_RUNS):
        own = {
            fault.fault: fault.count
            for fault in partner_runs.figures_of(db, run).faults
            if fault.partner == seats[run.id]
        }
        tagged.append(TaggedRun(run.started_at, "partner", own))
    return tagged
