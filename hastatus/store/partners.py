"""Partner runs and the marks made in them."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from pydantic import TypeAdapter
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from hastatus.core.partner.agreement import Agreed
from hastatus.core.partner.clock import Stands
from hastatus.core.partner.drill import PartnerDrill
from hastatus.core.partner.exchanges import Told, tell
from hastatus.core.partner.feed import FeedSheet
from hastatus.core.partner.figures import PartnerFigures, partner_figures
from hastatus.core.partner.held import Held, HeldAnswer
from hastatus.core.partner.marks import (
    MARK_VERSION,
    MOST_MARKS,
    HeadKnock,
    KnockTakenBack,
    MarkBatch,
)
from hastatus.store import drills, head_knocks, models
from hastatus.store.models import (
    DrillVersion,
    PartnerRun,
    PartnerRunStudent,
    Student,
)

HELD_RUNS = 12
"""The newest partner runs of a student that a feed pace is taken from."""

_FIGURES = TypeAdapter(PartnerFigures)


class OtherRecorder(RuntimeError):
    """The run is recorded by another device."""


class BatchConflict(RuntimeError):
    """A batch of this number came before, with other contents."""


class TooMany(RuntimeError):
    """A run has as many marks as it may have; the message says how many."""


@dataclass(frozen=True, slots=True)
class Taken:
    """What became of a posted batch. next_batch: the first that has not come."""

    next_batch: int
    complete: bool


def add(
    db: Session,
    club_id: uuid.UUID,
    run_id: uuid.UUID,
    *,
    version: DrillVersion,
    coach_id: uuid.UUID,
    recorder: uuid.UUID,
    partners: Sequence[uuid.UUID],
    sheet: FeedSheet,
    agreement: Agreed,
    started_at: datetime | None = None,
) -> PartnerRun:
    """A new run with its feed sheet and what was agreed."""
    run = PartnerRun(
        club_id=club_id,
        id=run_id,
        drill_id=version.drill_id,
        version=version.number,
        coach_id=coach_id,
        recorder=recorder,
        rung=sheet.rung,
        sheet=sheet.model_dump(mode="json"),
        agreement=agreement.model_dump(mode="json"),
    )
    if started_at:
        run.started_at = started_at
    db.add(run)
    db.flush()
    db.add_all(
        PartnerRunStudent(club_id=club_id, run_id=run_id, place=place, student_id=student_id)
        for place, student_id in enumerate(partners)
    )
    db.flush()
    return run


def find(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> PartnerRun | None:
    """The club's partner run with this id."""
    return db.get(PartnerRun, (club_id, run_id))


def latest(
    db: Session, club_id: uuid.UUID, *, student_id: uuid.UUID | None = None, limit: int = 200
) -> list[PartnerRun]:
    """The newest partner runs first; of one student, if given."""
    query = select(PartnerRun).where(PartnerRun.club_id == club_id)
    if student_id:
        taking_part = select(PartnerRunStudent.run_id).where(
            PartnerRunStudent.club_id == club_id, PartnerRunStudent.student_id == student_id
        )
        query = query.where(PartnerRun.id.in_(taking_part))
    return list(
        db.scalars(query.order_by(PartnerRun.started_at.desc(), PartnerRun.id).limit(limit))
    )


def students_of(db: Session, run: PartnerRun) -> list[Student]:
    """Who takes part, in the order of the feed sheet."""
    query = (
        select(Student)
        .join(
            PartnerRunStudent,
            (PartnerRunStudent.club_id == Student.club_id)
            & (PartnerRunStudent.student_id == Student.id),
        )
        .where(PartnerRunStudent.club_id == run.club_id, PartnerRunStudent.run_id == run.id)
        .order_by(PartnerRunStudent.place)
    )
    return list(db.scalars(query))


def version_of(db: Session, run: PartnerRun) -> DrillVersion:
    """The version of the drill that was run."""
    return db.get_one(DrillVersion, (run.club_id, run.drill_id, run.version))


def drill_of(db: Session, run: PartnerRun) -> PartnerDrill:
    """The drill as it was run."""
    return drills.read_partner(version_of(db, run))


def take(
    db: Session, run: PartnerRun, recorder: uuid.UUID, batch: MarkBatch, digest: bytes
) -> Taken:
    """Store a batch; the same one again is the same, another one of its number is refused.

    A head knock in it is written down at once and holds the student's contact work.
    """
    db.refresh(run, with_for_update=True)
    if run.recorder != recorder:
        raise OtherRecorder
    known = db.get(models.MarkBatch, (run.club_id, run.id, batch.number))
    if known is not None and known.payload_hash != digest:
        if batch.emptied or not known.body.get("emptied"):
            raise BatchConflict
        db.delete(known)  # its marks were kept aside, and here they are
        db.flush()
        known = None
    if known is None:
        _check_room(db, run, batch)
        db.add(
            models.MarkBatch(
                club_id=run.club_id,
                run_id=run.id,
                number=batch.number,
                payload_hash=digest,
                mark_version=MARK_VERSION,
                body=batch.model_dump(mode="json"),
            )
        )
        run.figures = None
        db.flush()
        _knocks(db, run, batch)
    return _taken(db, run)


def _check_room(db: Session, run: PartnerRun, batch: MarkBatch) -> None:
    count = func.coalesce(func.sum(func.jsonb_array_length(models.MarkBatch.body["marks"])), 0)
    of_run = (models.MarkBatch.club_id == run.club_id, models.MarkBatch.run_id == run.id)
    if db.execute(select(count).where(*of_run)).scalar_one() + len(batch.marks) > MOST_MARKS:
        raise TooMany(f"marks: a run has at most {MOST_MARKS} marks")


def stand(db: Session, run: PartnerRun, recorder: uuid.UUID, stands: Stands) -> None:
    """Keep where the round stands, for screens on other devices."""
    if run.recorder != recorder:
        raise OtherRecorder
    run.stands = stands.model_dump(mode="json")
    run.stands_at = datetime.now(UTC)
    db.flush()


def stands_now(run: PartnerRun) -> Stands | None:
    """Where the round stands by now; None: the mat has not said yet."""
    if run.stands is None or run.stands_at is None:
        return None
    passed_s = (datetime.now(UTC) - run.stands_at).total_seconds()
    return Stands.model_validate(run.stands).after(passed_s, run.sheet["tempo_bpm"])


def note_knock(
    db: Session, run: PartnerRun, recorder: uuid.UUID, knock: HeadKnock, *, taken_back: bool
) -> None:
    """Write a head knock of the mat down, or take it back, ahead of the batch that holds its mark.

    The mark that comes later is the same head knock. A partner that the run does not have is none.
    """
    if run.recorder != recorder:
        raise OtherRecorder
    people = students_of(db, run)
    if knock.partner >= len(people):
        return
    student, knock_id = people[knock.partner].id, _knock_id(run, knock)
    head_knocks.note(db, run.club_id, student, knock_id=knock_id, run_id=run.id)
    if taken_back:
        head_knocks.take_back(db, run.club_id, student, knock_id=knock_id)
    db.flush()


def _knock_id(run: PartnerRun, knock: HeadKnock) -> uuid.UUID:
    return uuid.uuid5(run.id, f"head knock {knock.partner} {knock.at_ms!r}")


def _knocks(db: Session, run: PartnerRun, batch: MarkBatch) -> None:
    """Head knocks of a batch, and those that it takes back, if nothing has told of them yet."""
    taken_back = [mark for mark in batch.marks if isinstance(mark, KnockTakenBack)]
    for mark in batch.marks:
        if isinstance(mark, HeadKnock):
            note_knock(db, run, run.recorder, mark, taken_back=False)
    if not taken_back:
        return
    known = [mark for each in batches_of(db, run) for mark in each.marks]
    for back in taken_back:
        earlier = [
            mark
            for mark in known
            if isinstance(mark, HeadKnock)
            and mark.partner == back.partner
            and mark.at_ms <= back.at_ms
        ]
        if earlier:
            last = max(earlier, key=lambda mark: mark.at_ms)
            note_knock(db, run, run.recorder, last, taken_back=True)


def _taken(db: Session, run: PartnerRun) -> Taken:
    batches = batches_of(db, run)
    missing = next(
        (place for place, batch in enumerate(batches) if batch.number != place), len(batches)
    )
    complete = bool(batches) and batches[-1].last and missing == len(batches)
    if complete and run.closed_at is None:
        run.closed_at = datetime.now(UTC)
    return Taken(missing, complete)


def batches_of(db: Session, run: PartnerRun) -> list[MarkBatch]:
    """The batches of a run by number."""
    rows = db.scalars(
        select(models.MarkBatch)
        .where(models.MarkBatch.club_id == run.club_id, models.MarkBatch.run_id == run.id)
        .order_by(models.MarkBatch.number)
    )
    return [MarkBatch.model_validate(row.body) for row in rows]


def told(db: Session, run: PartnerRun) -> Told:
    """What the marks of a run tell; the same marks always tell the same."""
    return tell(FeedSheet.model_validate(run.sheet), batches_of(db, run))


def figures_of(db: Session, run: PartnerRun) -> PartnerFigures:
    """What a run amounts to for each; kept once the run is closed, as no batch comes after that."""
    if run.figures is None:
        stances = [student.stance for student in students_of(db, run)]
        found = partner_figures(drill_of(db, run), told(db, run), stances)
        if run.closed_at is not None:
            run.figures = _FIGURES.dump_python(found, mode="json")
            db.flush()
        return found
    return _FIGURES.validate_python(run.figures)


def held_by(db: Session, club_id: uuid.UUID, student_id: uuid.UUID) -> list[HeldAnswer]:
    """What the last closed partner runs of a student tell of the time they need."""
    last = (
        select(PartnerRun.id, PartnerRunStudent.place, PartnerRun.figures)
        .join(
            PartnerRunStudent,
            (PartnerRun.club_id == PartnerRunStudent.club_id)
            & (PartnerRun.id == PartnerRunStudent.run_id),
        )
        .where(PartnerRunStudent.club_id == club_id, PartnerRunStudent.student_id == student_id)
        .where(PartnerRun.closed_at.is_not(None))
        .order_by(PartnerRun.started_at.desc())
        .limit(HELD_RUNS)
    )
    found: list[HeldAnswer] = []
    for run_id, place, kept in db.execute(last).all():
        run = None if kept else find(db, club_id, run_id)
        held = kept["held"] if run is None else _FIGURES.dump_python(figures_of(db, run))["held"]
        found += [
            HeldAnswer(place, each["technique"], each["side"], Held(**each["held"]))
            for each in held
            if each["defender"] == place
        ]
    return found
