"""A class that runs: acts on its clock, marks of its pairs, codes for phones."""

from __future__ import annotations

import secrets
import uuid
from collections.abc import Iterable, Mapping, Sequence
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import func, select
from sqlalchemy.dialects.postgresql import distinct_on, insert
from sqlalchemy.orm import Session

from hastatus.core.hall.class_clock import Act, class_clock
from hastatus.core.hall.pair_mark import PairMark, standing
from hastatus.core.hall.readiness import Word
from hastatus.store import evenings, head_knocks
from hastatus.store import models as rows

OPEN_AFTER = timedelta(hours=3)
"""So long after the planned end a code still opens an evening that nobody has ended."""
_CODE_BYTES = 12


def acts(db: Session, row: rows.Evening) -> list[Act]:
    """What was done with the clock of an evening."""
    query = select(rows.ClassAct.document).where(
        rows.ClassAct.club_id == row.club_id, rows.ClassAct.evening_id == row.id
    )
    return [Act.model_validate(document) for document in db.scalars(query)]


def running(db: Session, club_id: uuid.UUID) -> set[uuid.UUID]:
    """The evenings that were begun and that nobody has ended."""
    kind = rows.ClassAct.document["kind"].as_string()
    query = (
        select(rows.ClassAct.evening_id, kind.label("kind"))
        .where(rows.ClassAct.club_id == club_id)
        .order_by(rows.ClassAct.evening_id, rows.ClassAct.at.desc())
        .ext(distinct_on(rows.ClassAct.evening_id))
    )
    return {row.evening_id for row in db.execute(query) if row.kind != "end"}


def marks(db: Session, row: rows.Evening) -> list[PairMark]:
    """What was marked of the pairs of an evening and stands, in order."""
    query = select(rows.PairMark.document).where(
        rows.PairMark.club_id == row.club_id, rows.PairMark.evening_id == row.id
    )
    return standing(PairMark.model_validate(document) for document in db.scalars(query))


def count_marks(db: Session, row: rows.Evening) -> int:
    """How many marks an evening has, those that are taken back included."""
    query = select(func.count()).where(
        rows.PairMark.club_id == row.club_id, rows.PairMark.evening_id == row.id
    )
    return db.scalars(query).one()


def keep_acts(db: Session, row: rows.Evening, coach_id: uuid.UUID, sent: Iterable[Act]) -> None:
    """Keep acts; one that is kept already stays as it is. None is later than now."""
    _keep(db, row, coach_id, rows.ClassAct, sent)


def keep_marks(
    db: Session, row: rows.Evening, coach_id: uuid.UUID, sent: Sequence[PairMark]
) -> None:
    """Keep marks; one that is kept already stays as it is. A head knock holds at once."""
    _keep(db, row, coach_id, rows.PairMark, sent)
    for mark in sent:
        if mark.kind == "knock" and mark.student is not None:
            head_knocks.note(db, row.club_id, mark.student, knock_id=mark.id)
        elif mark.kind == "back" and mark.of is not None:
            _take_knock_back(db, row.club_id, mark.of)


def say_word(db: Session, row: rows.Evening, student_id: uuid.UUID, word: Word) -> None:
    """What somebody says, on their own phone, of the block that is on; nothing before the first."""
    clock = class_clock(acts(db, row))
    if clock.block is None:
        return
    now = datetime.now(UTC)
    mark = PairMark(
        id=uuid.uuid4(),
        at=now,
        at_s=max(0.0, clock.elapsed_s(now)),
        block=clock.block,
        members=(student_id,),
        kind="word",
        student=student_id,
        words=word,
    )
    _keep(db, row, None, rows.PairMark, [mark])


def _take_knock_back(db: Session, club_id: uuid.UUID, knock_id: uuid.UUID) -> None:
    knock = db.get(rows.HeadKnock, (club_id, knock_id))
    if knock is not None:
        head_knocks.take_back(db, club_id, knock.student_id, knock_id=knock_id)


def _keep(
    db: Session,
    row: rows.Evening,
    coach_id: uuid.UUID | None,
    table: type[rows.ClassAct | rows.PairMark],
    sent: Iterable[Act | PairMark],
) -> None:
    now = datetime.now(UTC)
    values = [
        _values(row, coach_id, one.model_copy(update={"at": min(one.at, now)})) for one in sent
    ]
    if not values:
        return
    kept = db.scalars(
        insert(table).values(values).on_conflict_do_nothing().returning(table.id)
    ).all()
    if kept:
        evenings.touch(db, row)


def _values(row: rows.Evening, coach_id: uuid.UUID | None, sent: Act | PairMark) -> dict[str, Any]:
    return {
        "club_id": row.club_id,
        "id": sent.id,
        "evening_id": row.id,
        "document": sent.model_dump(mode="json"),
        "at": sent.at,
        "coach_id": coach_id,
    }


def codes(db: Session, row: rows.Evening) -> dict[uuid.UUID, str]:
    """The code of everybody who is here, by student; made where there is none yet."""
    issued = {}
    for student_id, came in evenings.attendances(db, row).items():
        if came.came_at is None or came.left_at is not None:
            continue
        if came.code is None:
            came.code = secrets.token_urlsafe(_CODE_BYTES)
        issued[student_id] = came.code
    db.flush()
    return issued


def renew_codes(db: Session, row: rows.Evening) -> None:
    """Every code that was given out opens nothing any more."""
    for came in evenings.attendances(db, row).values():
        came.code = None
    db.flush()
    evenings.touch(db, row)


def restore_codes(db: Session, row: rows.Evening, given: Mapping[uuid.UUID, str]) -> None:
    """Codes that were renewed by mistake open the evening again."""
    came = evenings.attendances(db, row)
    for student_id, code in given.items():
        if student_id in came:
            came[student_id].code = code
    db.flush()
    evenings.touch(db, row)


def opened(db: Session, code: str) -> tuple[rows.Evening, rows.Attendance] | None:
    """The evening that a code opens, and for whom; None: it opens nothing."""
    came = db.scalars(select(rows.Attendance).where(rows.Attendance.code == code)).one_or_none()
    if came is None:
        return None
    row = evenings.find(db, came.club_id, came.evening_id)
    return None if row is None or row.deleted_at is not None else (row, came)
