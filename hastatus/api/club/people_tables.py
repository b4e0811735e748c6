"""People by table: a preview that names each bad row, and then all of the good ones at once."""

from __future__ import annotations

import base64
import hashlib
import uuid
from typing import Annotated

from flask import Response
from flask_openapi3 import Tag
from pydantic import BaseModel, Field

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.problems import FaultPlace, Problem
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.fields import Document
from hastatus.core.hall.people_table import PeopleRow, Unreadable, people_table
from hastatus.core.trade.limbs import Body
from hastatus.store import students

bp = ApiBlueprint("people-tables", __name__, url_prefix="/api", abp_tags=[Tag(name="people")])

MOST_BASE64 = 300_000
"""Some 220 kB of table; escaped as JSON it stays below what a body may have."""


class PeopleFile(Document):
    """A table of people. data: the file's bytes, in base64. keep: add the rows without a fault;
    else they are only looked at. leave_out: lines of the file that are not to be added."""

    data: Annotated[str, Field(max_length=MOST_BASE64)]
    keep: bool = False
    leave_out: Annotated[tuple[Annotated[int, Field(ge=1)], ...], Field(max_length=500)] = ()


class PeopleRowView(BaseModel):
    """A row of the table. faults: why it is not added; twin: of whom there is one already."""

    line: int
    name: str
    says: str
    faults: list[str]
    twin: str
    added: bool


class PeopleTableView(BaseModel):
    """unknown: heads that say nothing to us. added: how many were."""

    rows: list[PeopleRowView]
    unknown: list[str]
    added: int


@bp.post("/students/table", responses={200: PeopleTableView})
@signed_in
def read_people(body: PeopleFile) -> Response:
    """Read a table of people; the same table again adds nobody twice."""
    club_id = who().club_id
    try:
        data = base64.b64decode(body.data, validate=True)
    except ValueError:
        raise _unreadable("The file did not arrive whole: choose it again.") from None
    sum_of = hashlib.sha256(data).hexdigest()
    ids = {number: uuid.uuid5(club_id, f"{sum_of} {number}") for number in range(600)}
    before = {one.id for one in students.all_of(db(), club_id)}
    names = [one.name for one in students.all_of(db(), club_id) if one.id not in ids.values()]
    try:
        table = people_table(data, names)
    except Unreadable as error:
        raise _unreadable(str(error)) from error
    views, added = [], 0
    for row in table.rows:
        student_id = ids[row.line]
        takes = body.keep and not row.faults and row.line not in body.leave_out
        if takes and students.find(db(), club_id, student_id) is None:
            _add(row, club_id, student_id)
            added += 1
        views.append(_view(row, takes or student_id in before))
    return reply(PeopleTableView(rows=views, unknown=list(table.unknown), added=added))


def _unreadable(why: str) -> Problem:
    return Problem(422, "Cannot be read", f"file: {why}", [FaultPlace(where="file", what=why)])


def _add(row: PeopleRow, club_id: uuid.UUID, student_id: uuid.UUID) -> None:
    students.add(
        db(),
        club_id,
        student_id=student_id,
        name=row.name,
        stance=row.stance,
        notes=row.notes,
        body=Body(height_m=row.height_m, arm_m=row.arm_m, leg_m=row.leg_m),
        gear=row.gear,
        contact=row.contact,
        level=row.level,
        senses=row.senses,
        spares=row.spares,
        consent=row.consent,
    )


def _view(row: PeopleRow, added: bool) -> PeopleRowView:
    says = [
        "left leads" if row.stance == "left_lead" else "right leads",
        f"{100 * row.height_m:.0f} cm" if row.height_m else "",
        row.spares and f"spare: {row.spares}",
        row.senses,
    ]
    return PeopleRowView(
        line=row.line,
        name=row.name,
        says=", ".join(filter(None, says)),
        faults=row.faults,
        twin=row.twin,
        added=added,
    )
