"""Rows as JSON that anybody can read: of one student, or of a whole club, and a club back again."""

from __future__ import annotations

import json
import secrets
import uuid
from collections.abc import Iterator, Sequence
from typing import Any

from sqlalchemy import ColumnElement, Table, Text, cast, func, select, text
from sqlalchemy.orm import Session

from hastatus.store.models import Base, Coach, HomeLink, Incident, PartnerRun, Run

LEFT_OUT = ("sign_ins", "invitations")
"""What opens something, and is of no use elsewhere."""
SECRETS: dict[str, dict[str, Any]] = {
    Coach.__tablename__: {
        "password_hash": "",
        "totp_secret": None,
        "totp_since": None,
        "totp_step": None,
        "spare_codes": [],
    },
    HomeLink.__tablename__: {"token_hash": None},
}
"""Columns that are not written out, and what stands there instead: a coach sets a new password."""
PART = 500
"""Rows in one statement."""


def tables() -> list[Table]:
    """The tables of a club, those first that others point at."""
    of_club = (table for table in Base.metadata.sorted_tables if "club_id" in table.columns)
    clubs = Base.metadata.tables["clubs"]
    return [clubs, *(table for table in of_club if table.name not in LEFT_OUT)]


def of_club(table: Table, club_id: uuid.UUID) -> ColumnElement[bool]:
    """Which rows of a table are a club's."""
    column = table.columns["id"] if table.name == "clubs" else table.columns["club_id"]
    return column == club_id


def rows(db: Session, table: Table, where: ColumnElement[bool]) -> Iterator[dict[str, Any]]:
    """Rows of a table, by its key, each as JSON has it; bytes in hexadecimal."""
    whole = func.row_to_json(text(f'"{table.name}"'))
    query = select(cast(whole, Text)).select_from(table).where(where)
    ordered = query.order_by(*table.primary_key.columns)
    for line in db.execute(ordered, execution_options={"yield_per": PART}).scalars():
        row = json.loads(line)
        row.update(SECRETS.get(table.name, {}))
        yield row


def of_student(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID
) -> dict[str, list[dict[str, Any]]]:
    """All that is kept of a student, by table: what is theirs, the solo runs with their events, the
    runs with others that they took part in, and the entries of the book that name them."""
    told: dict[str, list[dict[str, Any]]] = {}
    runs = select(Run.id).where(Run.club_id == club_id, Run.student_id == student_id)
    for table in tables():
        mine = _of_student(table, student_id, runs)
        if mine is not None:
            told[table.name] = list(rows(db, table, of_club(table, club_id) & mine))
    taken = [uuid.UUID(seat["run_id"]) for seat in told["partner_run_students"]]
    pairs = Base.metadata.tables[PartnerRun.__tablename__]
    told[pairs.name] = list(rows(db, pairs, of_club(pairs, club_id) & pairs.c.id.in_(taken)))
    book = Base.metadata.tables[Incident.__tablename__]
    named = book.c.students.contains([str(student_id)])
    told[book.name] = list(rows(db, book, of_club(book, club_id) & named))
    return {name: found for name, found in told.items() if found}


def _of_student(table: Table, student_id: uuid.UUID, runs: Any) -> ColumnElement[bool] | None:
    if table.name == "students":
        return table.c.id == student_id
    if "student_id" in table.c:
        return table.c.student_id == student_id
    if table.name in ("event_batches", "responses"):
        return table.c.run_id.in_(runs)
    return None


class DoesNotFit(ValueError):
    """Rows that cannot be brought in; the message says why."""


def bring_in(db: Session, table: Table, found: Sequence[dict[str, Any]]) -> None:
    """Add rows of a table as they were written out; columns that are newer than they are get what
    they begin with. Raises `DoesNotFit` for columns that there are none of."""
    if not found:
        return
    names = list(found[0])
    unknown = sorted(set(names) - set(table.columns.keys()))
    if unknown:
        raise DoesNotFit(f"{table.name} has no {', '.join(unknown)}")
    if table.name == HomeLink.__tablename__:
        found = [{**row, "token_hash": f"\\x{secrets.token_hex(32)}"} for row in found]
    columns = ", ".join(f'"{name}"' for name in names)
    db.execute(
        text(
            f'INSERT INTO "{table.name}" ({columns}) SELECT {columns} '
            f'FROM jsonb_populate_recordset(NULL::"{table.name}", CAST(:rows AS jsonb))'
        ),
        {"rows": json.dumps(list(found))},
    )


def renew_counters(db: Session) -> None:
    """Have numbers that the database gives go on after those that were brought in."""
    for table in tables():
        for column in table.columns:
            if column.identity is not None:
                name = f'"{table.name}"'
                db.execute(
                    text(
                        f"SELECT setval(pg_get_serial_sequence('{table.name}', '{column.name}'), "
                        f"greatest((SELECT coalesce(max({column.name}), 0) FROM {name}), 1))"
                    )
                )
