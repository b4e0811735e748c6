"""Planning ahead for phones: the runs of the next practices of a student."""

from __future__ import annotations

import secrets
import uuid
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from sqlalchemy.orm import Session

from hastatus.api.drill.models import MOST_SEED
from hastatus.api.plan.next_plan import NextPlan, next_plan
from hastatus.core.drill.checks.fault import Unplannable
from hastatus.core.drill.solo import Drill
from hastatus.core.home.ahead import after_words
from hastatus.core.home.dose import Done, Dose, dose, within
from hastatus.core.home.practice import AHEAD, Piece, Practice, order
from hastatus.core.plan.run_plan import RunPlan, without_lights
from hastatus.store import drills, practices
from hastatus.store import models as rows

LONGEST_ON_A_PHONE = timedelta(days=366)
"""No link lasts longer, so no phone comes back with a plan that is older."""
DoneRow = tuple[rows.HomeRun, rows.PlannedRun, rows.Run | None]


@dataclass(frozen=True, slots=True)
class Planned:
    """A run planned ahead, with what it is a run of."""

    row: rows.PlannedRun
    drill: Drill
    plan: RunPlan
    done: bool


@dataclass(frozen=True, slots=True)
class _Next:
    """What the next runs of a piece are planned from."""

    piece: Piece
    version: int
    base: NextPlan
    window_s: float
    dose: Dose


def day_of(at: datetime) -> date:
    """The day of a moment where the server stands, which is where the club is."""
    return at.astimezone().date()


def planned_ahead(
    db: Session,
    student: rows.Student,
    row: rows.Practice,
    member: rows.PracticeStudent,
    *,
    sound_only: bool,
) -> list[Planned]:
    """The runs of the practice that was reached and of those after it; planned now where they are
    not, or where the student stands elsewhere meanwhile. What was begun stays as it is. sound_only:
    without lights, and without the drills that need them."""
    document = practices.document_of(row, member)
    if sound_only:
        document = document.model_copy(update={"sound_only": True})
    done = practices.done(db, student.club_id, student.id)
    begun = {one.planned_id: one for one, _, _ in done}
    since = practices.reached(db, member)
    known = practices.planned(db, member, since)
    pieces = [
        one
        for piece in document.pieces
        if _can_be(one := _next(db, student, document, piece, done), document)
    ]
    asked = [one.dose.rounds for one in pieces]
    rounds = within(document.minutes, asked, [_round_s(one, document) for one in pieces])
    guided = [one.base.drill.rungs[one.base.standing.rung - 1].guide is not None for one in pieces]
    seed = int(row.id.hex[:12], 16)
    result = []
    for number in range(since, since + AHEAD):
        for position, place in enumerate(order(guided, seed, number)):
            one = pieces[place]
            kept = known.get((number, one.piece.drill_id))
            if kept is None or not (kept.id in begun or _holds(kept, one, rounds[place], document)):
                kept = _plan(db, member, document, one, rounds[place], number, position)
            result.append(_read(db, kept, one, begun.get(kept.id)))
    db.flush()
    now = {one.row.id for one in result}
    practices.remove_overtaken(db, member, now, datetime.now(UTC) - LONGEST_ON_A_PHONE)
    return result


def check(
    db: Session, student: rows.Student, document: Practice
) -> Iterator[tuple[uuid.UUID, RunPlan]]:
    """A plan of each drill of a practice for a student; a problem where there is none."""
    for piece in document.pieces:
        one = _next(db, student, document, piece, ())
        plan = one.base.plan(0, sound_only=document.sound_only, rounds=piece.rounds)
        yield piece.drill_id, plan


def _next(
    db: Session, student: rows.Student, document: Practice, piece: Piece, done: Sequence[DoneRow]
) -> _Next:
    version = drills.version(db, student.club_id, piece.drill_id)
    assert version is not None, "a drill is never removed"
    drill = drills.read(version)
    base = next_plan(db, student, piece.drill_id, drill)
    rung = drill.rungs[base.standing.rung - 1]
    mine = [one for one in done if one[1].drill_id == piece.drill_id]
    measured = [one.started_at for one, _, run in mine if run is not None]
    words = practices.words_since(
        mine, piece.drill_id, base.standing.rung, max(measured, default=None)
    )
    asked = piece.rounds or rung.rounds.count
    return _Next(
        piece=piece,
        version=version.number,
        base=base,
        window_s=after_words(drill.pace, base.standing.window_s, words),
        dose=dose(
            asked,
            [Done(day_of(one.started_at), one.said, one.finished) for one, _, _ in mine],
            follows=document.follows,
        ),
    )


def _round_s(one: _Next, document: Practice) -> float:
    """How long a round lasts with its rest, s: as planned where the cues end it, not the time."""
    rounds = one.base.drill.rungs[one.base.standing.rung - 1].rounds
    if rounds.ends != "count":
        return rounds.most_s + rounds.rest_s
    sound_only = document.sound_only
    plan = one.base.plan(0, sound_only=sound_only, window_s=one.window_s, rounds=1)
    return plan.rounds[0].duration_s + rounds.rest_s


def _can_be(one: _Next, document: Practice) -> bool:
    """Whether a drill can be done without lights, where they are left out."""
    if not document.sound_only:
        return True
    try:
        without_lights(one.base.drill)
    except Unplannable:
        return False
    return True


def _holds(kept: rows.PlannedRun, one: _Next, rounds: int, document: Practice) -> bool:
    """Whether a plan is still what would be planned now."""
    return (
        kept.version == one.version
        and kept.rung == one.base.standing.rung
        and kept.window_s == one.window_s
        and kept.rounds == rounds
        and kept.plan["sound_only"] == document.sound_only
    )


def _plan(
    db: Session,
    member: rows.PracticeStudent,
    document: Practice,
    one: _Next,
    rounds: int,
    number: int,
    position: int,
) -> rows.PlannedRun:
    plan = one.base.plan(
        secrets.randbelow(MOST_SEED),
        sound_only=document.sound_only,
        window_s=one.window_s,
        rounds=rounds,
    )
    row = rows.PlannedRun(
        club_id=member.club_id,
        id=uuid.uuid4(),
        practice_id=member.practice_id,
        student_id=member.student_id,
        number=number,
        position=position,
        drill_id=one.piece.drill_id,
        version=one.version,
        rung=plan.rung,
        window_s=one.window_s,
        rounds=rounds,
        asked=one.dose.asked,
        reason=_reason(document, one.dose, rounds),
        plan=plan.model_dump(mode="json"),
        created_at=datetime.now(UTC),
    )
    db.add(row)
    return row


def _reason(document: Practice, dose: Dose, rounds: int) -> str:
    if rounds < dose.rounds:
        return f"to fit into {document.minutes} minutes"
    return dose.reason


def _read(db: Session, row: rows.PlannedRun, one: _Next, begun: rows.HomeRun | None) -> Planned:
    drill = one.base.drill
    if row.version != one.version:
        version = drills.version(db, row.club_id, row.drill_id, row.version)
        assert version is not None, "a version is never removed"
        drill = drills.read(version)
    return Planned(
        row, drill, RunPlan.model_validate(row.plan), begun is not None and begun.finished
    )
