"""Two entries of one student made into one, and taken apart again.

All that the second has (runs, holds, choices, evenings) becomes the first's; the second is archived
and remembers what it gave, so that it can be given back.
"""

from __future__ import annotations

import uuid
from collections.abc import Sequence

from sqlalchemy import (
    ColumnElement,
    Select,
    Text,
    Uuid,
    cast,
    func,
    literal,
    select,
    union,
    update,
)
from sqlalchemy.dialects.postgresql import JSONB, insert
from sqlalchemy.orm import Session

from hastatus.store import away
from hastatus.store.models import (
    Attendance,
    BlockGroups,
    HeadKnock,
    HomeRun,
    LadderChoice,
    LadderState,
    PairMark,
    PartnerRunStudent,
    Run,
    Student,
)

_OWNED: dict[str, type[Run] | type[HeadKnock] | type[LadderChoice] | type[HomeRun]] = {
    "runs": Run,
    "holds": HeadKnock,
    "choices": LadderChoice,
    "home": HomeRun,
}


class Together(Exception):
    """Both took part in one partner run, or came on one evening: they are two people."""


def merge(db: Session, kept: Student, other: Student) -> None:
    """Give all that `other` has to `kept`, and archive `other`. Raises `Together`, also where both
    were on one evening."""
    club_id = kept.club_id
    both = set(_evenings_of(db, club_id, kept.id)) & set(_evenings_of(db, club_id, other.id))
    if both or db.scalar(_shared(club_id, kept.id, other.id)):
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
    given["evenings"] = [str(evening_id) for evening_id in _evenings_of(db, club_id, other.id)]
    _rename(db, club_id, given["evenings"], other.id, kept.id)
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
        ids = [uuid.UUID(row_id) for row_id in given.get(name, [])]
        mine = (table.club_id == club_id, table.id.in_(ids))
        db.execute(update(table).where(*mine).values(student_id=other.id))
    runs = [uuid.UUID(row_id) for row_id in given["seats"]]
    seats = (
        PartnerRunStudent.club_id == club_id,
        PartnerRunStudent.run_id.in_(runs),
        PartnerRunStudent.student_id == other.merged_into,
    )
    db.execute(update(PartnerRunStudent).where(*seats).values(student_id=other.id))
    _rename(db, club_id, given.get("evenings", []), other.merged_into, other.id)
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


def _evenings_of(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> list[uuid.UUID]:
    """The evenings that have a student: somebody came, or was put together with somebody."""
    named = f"%{student_id}%"
    came = select(Attendance.evening_id).where(
        Attendance.club_id == club_id, Attendance.student_id == student_id
    )
    grouped = select(BlockGroups.evening_id).where(
        BlockGroups.club_id == club_id, cast(BlockGroups.groups, Text).like(named)
    )
    marked = select(PairMark.evening_id).where(
        PairMark.club_id == club_id, cast(PairMark.document, Text).like(named)
    )
    return list(db.scalars(union(came, grouped, marked)))


def _rename(
    db: Session, club_id: uuid.UUID, evening_ids: Sequence[str], one: uuid.UUID, other: uuid.UUID
) -> None:
    """On these evenings what was of `one` is of `other`."""
    ids = [uuid.UUID(evening_id) for evening_id in evening_ids]
    attended = (
        Attendance.club_id == club_id,
        Attendance.evening_id.in_(ids),
        Attendance.student_id == one,
    )
    db.execute(update(Attendance).where(*attended).values(student_id=other))
    for table, column in ((BlockGroups, "groups"), (PairMark, "document")):
        written = getattr(table, column)
        renamed = cast(func.replace(cast(written, Text), str(one), str(other)), JSONB)
        mine = (table.club_id == club_id, table.evening_id.in_(ids))
        db.execute(update(table).where(*mine).values({column: renamed}))


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
