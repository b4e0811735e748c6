"""The log of classes: what was marked, found by person, drill, fault, date and words."""

from __future__ import annotations

import uuid
from collections import Counter
from collections.abc import Iterable
from datetime import datetime
from typing import Annotated

from flask import Response
from flask_openapi3 import Tag
from pydantic import BaseModel, Field

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.lookup import find_student
from hastatus.api.http.query import Query
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.core.fields import Document, Instant
from hastatus.core.hall.pair_mark import PairMark, PairMarkKind
from hastatus.core.hall.pair_review import carried_over
from hastatus.core.hall.readiness import WORD_NAMES
from hastatus.core.read.carry_over import CarryOver
from hastatus.store import class_runs, evenings, students

bp = ApiBlueprint("class-log", __name__, url_prefix="/api", abp_tags=[Tag(name="hall")])

MOST_LINES = 300
_SAID: dict[PairMarkKind, str] = {
    "through": "got through", "knock": "head knock", "forfeit": "forfeit", "slower": "slower feed",
    "quicker": "quicker feed", "carried_over": "a drilled answer turned up",
    "chance_missed": "a chance, not used",
}  # fmt: skip


class ClassLogQuery(Document, Query):
    """Which marks. words: in the fault, the note, the block or a name. since, until: moments."""

    student_id: uuid.UUID | None = None
    drill_id: uuid.UUID | None = None
    words: Annotated[str, Field(max_length=120)] = ""
    since: Instant | None = None
    until: Instant | None = None


class ClassLogLine(BaseModel):
    at: datetime
    evening_id: uuid.UUID
    evening: str
    block: str
    who: list[str]
    says: str


class FaultTimes(BaseModel):
    fault: str
    times: int


class PartnerTimes(BaseModel):
    name: str
    evenings: int


class ReadyLine(BaseModel):
    at: datetime
    before: int | None
    after: int | None


class ClassLog(BaseModel):
    """lines: newest first, so many at most. faults: by frequency. carry_over: of chances in free
    rounds; null: none was marked. partners, ready: of the student that was asked for, of late; else
    empty."""

    lines: list[ClassLogLine]
    more: bool
    faults: list[FaultTimes]
    carry_over: CarryOver | None
    partners: list[PartnerTimes]
    ready: list[ReadyLine]


@bp.get("/class-log", responses={200: ClassLog, **also(404)})
@signed_in
def class_log(query: ClassLogQuery) -> Response:
    """What was marked in classes."""
    club_id = who().club_id
    if query.student_id:
        find_student(query.student_id)
    names = students.names_of(db(), club_id)
    asked = list(_asked(query, names))
    found, marks = [line for line, _ in asked], [mark for _, mark in asked]
    faults = Counter(
        mark.words
        for mark in marks
        if mark.kind == "fault" and query.student_id in (None, mark.student)
    )
    return reply(
        ClassLog(
            lines=found[:MOST_LINES],
            more=len(found) > MOST_LINES,
            faults=[FaultTimes(fault=key, times=count) for key, count in faults.most_common(20)],
            carry_over=carried_over(
                mark for mark in marks if query.student_id in (None, mark.student)
            ),
            partners=_partners(query.student_id, names),
            ready=_ready(query.student_id),
        )
    )


def _asked(
    query: ClassLogQuery, names: dict[uuid.UUID, str]
) -> Iterable[tuple[ClassLogLine, PairMark]]:
    """The lines that are asked for with their marks, newest first."""
    wanted = query.words.casefold().strip()
    for row in evenings.latest(db(), who().club_id):
        plan = evenings.plan_of(row)
        blocks = {block.key: block for block in plan.blocks}
        for mark in reversed(class_runs.marks(db(), row)):
            block = blocks.get(mark.block)
            says = _says(mark, names)
            if not says or (query.student_id and query.student_id not in mark.members):
                continue
            if query.drill_id and (block is None or block.drill_id != query.drill_id):
                continue
            if (query.since and mark.at < query.since) or (query.until and mark.at > query.until):
                continue
            line = ClassLogLine(
                at=mark.at,
                evening_id=row.id,
                evening=plan.title,
                block=block.name if block else "a block that is gone",
                who=[names.get(one, "somebody who is gone") for one in mark.members],
                says=says,
            )
            text = " ".join([line.evening, line.block, *line.who, says]).casefold()
            if wanted in text:
                yield line, mark


def _says(mark: PairMark, names: dict[uuid.UUID, str]) -> str:
    """A mark in words; empty for one that says nothing by itself, or that all was right."""
    whose = f" ({names.get(mark.student, 'somebody who is gone')})" if mark.student else ""
    if mark.kind in ("fault", "note"):
        return mark.words + whose
    if mark.kind == "word" and mark.words != "right":
        said = {key: words for key, words in WORD_NAMES.items() if key == mark.words}
        return "".join(f"“{words}”" for words in said.values()) + whose if said else ""
    return _SAID[mark.kind] + whose if mark.kind in _SAID else ""


def _partners(student_id: uuid.UUID | None, names: dict[uuid.UUID, str]) -> list[PartnerTimes]:
    if student_id is None:
        return []
    met = evenings.met(db(), who().club_id)
    times = {
        other: count for pair, count in met.items() if student_id in pair
        for other in pair - {student_id}
    }  # fmt: skip
    return [
        PartnerTimes(name=names.get(other, "somebody who is gone"), evenings=count)
        for other, count in sorted(times.items(), key=lambda one: (-one[1], names.get(one[0], "")))
    ]


def _ready(student_id: uuid.UUID | None) -> list[ReadyLine]:
    if student_id is None:
        return []
    return [
        ReadyLine(at=row.starts_at, before=came.ready_before, after=came.ready_after)
        for row, came in evenings.attended(db(), who().club_id, student_id)
        if came.ready_before is not None or came.ready_after is not None
    ]
