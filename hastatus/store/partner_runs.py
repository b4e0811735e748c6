"""Partner runs and the marks made in them."""

from __future__ import annotations

import uuid
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from pydantic import TypeAdapter
from sqlalchemy import Text, select
from sqlalchemy.orm import Session

from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.loop.partner_fold import MARK_STATE, Fed, MarkState, fed_of
from hastatus.core.loop.partner_results import PARTNER_RESULT, PartnerResult, partner_result
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.read.carry_over import chances_of
from hastatus.core.read.defender_time import DefendedAttack, HeldAnswer
from hastatus.core.read.partner_figures import PartnerFigures, last_paces, partner_figures
from hastatus.core.run.agreement import Settled
from hastatus.core.run.partner_events import HeadKnock, MarkBatch
from hastatus.core.run.sheet_clock import Stands
from hastatus.core.score.exchanges import exchanges_from_events
from hastatus.store import batch_intake, drills, head_knocks, models
from hastatus.store.asked_runs import EVERY_RUN, Asked
from hastatus.store.models import (
    DrillVersion,
    MarkFold,
    PartnerRun,
    PartnerRunStudent,
    Student,
)

HELD_RUNS = 12
"""The newest partner runs of a student that a feed pace is taken from."""

_FIGURES = TypeAdapter(PartnerFigures)
_BATCHES = TypeAdapter(list[MarkBatch])


@dataclass(frozen=True, slots=True)
class Fixed:
    """What never changes about a partner run. rung: no faster than their hands may be. sheet_bpm:
    None on the feeder's own time. fed: the exchanges of its sheet."""

    recorder: uuid.UUID
    rung: PartnerRung
    sheet_bpm: float | None
    fed: Fed


_FIXED_KEPT = 256
_fixed: dict[tuple[uuid.UUID, uuid.UUID], Fixed] = {}
"""What never changes about the runs used last, read once a process."""


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
    agreement: Settled,
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
    state = MARK_STATE.dump_python(MarkState(), mode="json")
    db.add(MarkFold(club_id=club_id, run_id=run_id, state=state))
    db.add_all(
        PartnerRunStudent(club_id=club_id, run_id=run_id, place=seat, student_id=student_id)
        for seat, student_id in enumerate(partners)
    )
    db.flush()
    return run


def find(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> PartnerRun | None:
    """The club's partner run with this id."""
    return db.get(PartnerRun, (club_id, run_id))


def latest(
    db: Session, club_id: uuid.UUID, asked: Asked = EVERY_RUN, *, limit: int = 200
) -> list[PartnerRun]:
    """The newest partner runs first."""
    query = select(PartnerRun).where(PartnerRun.club_id == club_id, *asked.conditions(PartnerRun))
    if asked.student_id:
        taking_part = select(PartnerRunStudent.run_id).where(
            PartnerRunStudent.club_id == club_id, PartnerRunStudent.student_id == asked.student_id
        )
        query = query.where(PartnerRun.id.in_(taking_part))
    return list(
        db.scalars(query.order_by(PartnerRun.started_at.desc(), PartnerRun.id).limit(limit))
    )


def students_of(db: Session, run: PartnerRun) -> list[Student]:
    """Who takes part, in the order of the feed sheet."""
    return students_of_each(db, run.club_id, [run])[run.id]


def students_of_each(
    db: Session, club_id: uuid.UUID, listed: Sequence[PartnerRun]
) -> dict[uuid.UUID, list[Student]]:
    """Who takes part in each of the club's runs, in the order of its feed sheet."""
    query = (
        select(PartnerRunStudent.run_id, Student)
        .join(
            PartnerRunStudent,
            (PartnerRunStudent.club_id == Student.club_id)
            & (PartnerRunStudent.student_id == Student.id),
        )
        .where(PartnerRunStudent.club_id == club_id)
        .where(PartnerRunStudent.run_id.in_([run.id for run in listed]))
        .order_by(PartnerRunStudent.place)
    )
    found: dict[uuid.UUID, list[Student]] = {run.id: [] for run in listed}
    for run_id, student in db.execute(query).all():
        found[run_id].append(student)
    return found


def version_of(db: Session, run: PartnerRun) -> DrillVersion:
    """The version of the drill that was run."""
    return db.get_one(DrillVersion, (run.club_id, run.drill_id, run.version))


def drill_of(db: Session, run: PartnerRun) -> PartnerDrill:
    """The drill as it was run."""
    return drills.read_partner(version_of(db, run))


def fixed_of(db: Session, club_id: uuid.UUID, run_id: uuid.UUID) -> Fixed:
    """What never changes about a partner run, kept in this process for the runs used last."""
    fixed = _fixed.get((club_id, run_id))
    if fixed is None:
        run = db.get_one(PartnerRun, (club_id, run_id))
        settled = Settled.model_validate(run.agreement)
        rung = drill_of(db, run).rungs[run.rung - 1].no_faster(settled.fastest_bpm)
        sheet = FeedSheet.model_validate(run.sheet)
        fixed = _fixed[club_id, run_id] = Fixed(run.recorder, rung, sheet.tempo_bpm, fed_of(sheet))
        while len(_fixed) > _FIXED_KEPT:
            _fixed.pop(next(iter(_fixed)), None)
    return fixed


def stand(db: Session, run: PartnerRun, recorder: uuid.UUID, stands: Stands) -> None:
    """Keep where the round stands, for screens on other devices."""
    if run.recorder != recorder:
        raise batch_intake.OtherRecorder
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
    """Write a head knock down, or take it back, ahead of the batch that holds its mark."""
    if run.recorder != recorder:
        raise batch_intake.OtherRecorder
    keep_knock(db, run.club_id, run.id, knock, taken_back=taken_back)


def keep_knock(
    db: Session, club_id: uuid.UUID, run_id: uuid.UUID, knock: HeadKnock, *, taken_back: bool
) -> None:
    """Write a head knock down, or take it back; the same again is the same head knock.

    A partner that the run does not have is none.
    """
    key = (club_id, run_id, knock.partner)
    taking_part = db.get(PartnerRunStudent, key)
    if taking_part is None:
        return
    student, knock_id = taking_part.student_id, _knock_id(run_id, knock)
    head_knocks.note(db, club_id, student, knock_id=knock_id, run_id=run_id)
    if taken_back:
        head_knocks.take_back(db, club_id, student, knock_id=knock_id)
    db.flush()


def _knock_id(run_id: uuid.UUID, knock: HeadKnock) -> uuid.UUID:
    return uuid.uuid5(run_id, f"head knock {knock.partner} {knock.at_ms!r}")


def batches_of(
    db: Session, club_id: uuid.UUID, run_id: uuid.UUID, since: int = 0
) -> list[MarkBatch]:
    """The batches of a run by number, from `since` on."""
    # As text: many are read much faster straight from their JSON.
    bodies = db.scalars(
        select(models.MarkBatch.body.cast(Text))
        .where(models.MarkBatch.club_id == club_id, models.MarkBatch.run_id == run_id)
        .where(models.MarkBatch.number >= since)
        .order_by(models.MarkBatch.number)
    )
    return _BATCHES.validate_json(f"[{','.join(bodies)}]")


def result_of(db: Session, run: PartnerRun) -> PartnerResult:
    """What the marks of a run amount to; kept once the run is closed."""
    key = (run.club_id, run.id)
    kept = db.scalar(
        select(models.PartnerResult.body).where(
            models.PartnerResult.club_id == run.club_id, models.PartnerResult.run_id == run.id
        )
    )
    if kept is not None:
        return PARTNER_RESULT.validate_json(kept)
    if run.closed_at is not None:
        db.get(MarkFold, key, with_for_update=True)  # no batch comes between reading and keeping
    sheet = FeedSheet.model_validate(run.sheet)
    result = partner_result(drill_of(db, run), sheet, batches_of(db, *key))
    if run.closed_at is not None:
        body = PARTNER_RESULT.dump_json(result).decode()
        db.add(models.PartnerResult(club_id=run.club_id, run_id=run.id, body=body))
        db.flush()
    return result


def figures_of(db: Session, run: PartnerRun) -> PartnerFigures:
    """What a run amounts to for each; kept once the run is closed."""
    if run.figures is not None:
        return _FIGURES.validate_python(run.figures)
    stances = [student.stance for student in students_of(db, run)]
    if run.closed_at is None:
        sheet = FeedSheet.model_validate(run.sheet)
        record = exchanges_from_events(sheet, batches_of(db, run.club_id, run.id))
        paces = last_paces(record.tempos, len(stances))
        chances = chances_of(record.chances)
        return partner_figures(drill_of(db, run), record.exchanges, stances, paces, chances)
    result = result_of(db, run)
    figures = partner_figures(
        drill_of(db, run), result.exchanges, stances, result.paces, result.chances
    )
    run.figures = _FIGURES.dump_python(figures, mode="json")
    db.flush()
    return figures


def pace_of(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID, rung: int
) -> float | None:
    """The tempo (BPM) that a student had come to as defender when they last did a drill on a rung;
    None: they never did, or no tempo was set."""
    last = db.execute(
        select(PartnerRun, PartnerRunStudent.place)
        .join(
            PartnerRunStudent,
            (PartnerRun.club_id == PartnerRunStudent.club_id)
            & (PartnerRun.id == PartnerRunStudent.run_id),
        )
        .where(PartnerRunStudent.club_id == club_id, PartnerRunStudent.student_id == student_id)
        .where(PartnerRun.drill_id == drill_id, PartnerRun.rung == rung)
        .where(PartnerRun.closed_at.is_not(None), PartnerRun.archived_at.is_(None))
        .order_by(PartnerRun.started_at.desc())
        .limit(1)
    ).first()
    if last is None:
        return None
    run, seat = last
    paces = figures_of(db, run).paces
    return paces[seat] if seat < len(paces) else None


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
        .where(PartnerRun.closed_at.is_not(None), PartnerRun.archived_at.is_(None))
        .order_by(PartnerRun.started_at.desc())
        .limit(HELD_RUNS)
    )
    answers: list[HeldAnswer] = []
    for run_id, seat, kept in db.execute(last).all():
        run = None if kept else find(db, club_id, run_id)
        held = kept["held"] if run is None else _FIGURES.dump_python(figures_of(db, run))["held"]
        answers += [
            HeldAnswer(seat, record["technique"], record["side"], DefendedAttack(**record["held"]))
            for record in held
            if record["defender"] == seat
        ]
    return answers
