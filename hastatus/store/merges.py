"""Two entries of one student made into one, and taken apart again.

All that the second has (runs, holds, choices) becomes the first's; the second is archived and
remembers what it gave, so that it can be given back.
"""

from __future__ import annotations

import uuid

from sqlalchemy import ColumnElement, Select, Uuid, literal, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from hastatus.store import away
from hastatus.store.models import (
    HeadKnock,
    LadderChoice,
    LadderState,
    PartnerRunStudent,
    Run,
    Student,
)

_OWNED: dict[str, type[Run] | type[HeadKnock] | type[LadderChoice]] = {
    "runs": Run,
    "holds": HeadKnock,
    "choices": LadderChoice,
}


class Together(Exception):
    """Both took part in one partner run, so they are two people."""


def merge(db: Session, kept: Student, other: Student) -> None:
    """Give all that `other` has to `kept`, and archive `other`. Raises `Together`."""
    club_id = kept.club_id
    if db.scalar(_shared(club_id, kept.id, other.id)):
        raise Together
    given: dict[str, list[str]] = {}
    for name, table in _OWNED.items():
        mine = (table.club_id == club_id, table.student_id == other.id)
        given[name] = [str(row_id) for row_id in db.scalars(select(table.id).where(*mine))]
        db.execute(update(table).where(*mine).values(student_id=kept.id))
    seats = (PartnerRunStudent.club_id == club_id, PartnerRunStudent.student_id == other.id)
    given["seats"] = [
        str(row_id) for row_id in db.scalars(select(PartnerRunStudent.run_id).where(*seats))
    ]
    db.execute(update(PartnerRunStudent).where(*seats).values(student_id=kept.id))
    _stand_where_it_is_missing(db, kept, other)
    other.merged_into, other.merged = kept.id, given
    away.put(other, "archived")
    db.flush()


def take_apart(db: Session, other: Student) -> None:
    """Give `other` back what was its own, and bring it back. Nothing happens where it is whole."""
    if other.merged_into is None or other.merged is None:
        return
    club_id, given = other.club_id, other.merged
    for name, table in _OWNED.items():
        ids = [uuid.UUID(row_id) for row_id in given[name]]
        mine = (table.club_id == club_id, table.id.in_(ids))
        db.execute(update(table).where(*mine).values(student_id=other.id))
    runs = [uuid.UUID(row_id) for row_id in given["seats"]]
    seats = (
        PartnerRunStudent.club_id == club_id,
        PartnerRunStudent.run_id.in_(runs),
        PartnerRunStudent.student_id == other.merged_into,
    )
    db.execute(update(PartnerRunStudent).where(*seats).values(student_id=other.id))
    other.merged_into, other.merged = None, None
    away.put(other, None)
    db.flush()


def _shared(club_id: uuid.UUID, one: uuid.UUID, other: uuid.UUID) -> Select[uuid.UUID]:
    def of(student_id: uuid.UUID) -> ColumnElement[bool]:
        mine = select(PartnerRunStudent.run_id).where(
            PartnerRunStudent.club_id == club_id, PartnerRunStudent.student_id == student_id
        )
        return PartnerRunStudent.run_id.in_(mine)

    return select(PartnerRunStudent.run_id).where(of(one), of(other)).limit(1)


def _stand_where_it_is_missing(db: Session, kept: Student, other: Student) -> None:
    """Where the other stood on drills that the kept one has not begun."""
    theirs = select(
        LadderState.club_id,
        literal(kept.id, Uuid()),
        LadderState.drill_id,
        LadderState.rung,
        LadderState.window_s,
    ).where(LadderState.club_id == kept.club_id, LadderState.student_id == other.id)
    columns = ["club_id", "student_id", "drill_id", "rung", "window_s"]
    db.execute(insert(LadderState).from_select(columns, theirs).on_conflict_do_nothing())
