"""Practice at home in the made-up club: one practice for four, kept well, badly and not begun."""

from __future__ import annotations

import uuid
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta

from sqlalchemy.orm import Session

from hastatus.core.home.practice import HomeWord, Piece, Practice
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import device_of
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from hastatus.store import drills, home_links, practices, runs
from hastatus.store.models import Coach, DrillVersion, HomeLink, HomeRun, PlannedRun, Student

TITLE = "Ten minutes, every other day"
DRILL = "High and low targets"
WEEKS = 3
ROUNDS = 3
GUARDIAN = "Iva Whitlam"
_NAMESPACE = uuid.UUID("8a4e2a77-7a0c-4a53-8a9b-0d3f0e2f6b12")


@dataclass(frozen=True, slots=True)
class AtHome:
    """How somebody practises. days: of the three weeks, from the first. measured: by touch. said:
    by turns. minor: a guardian has allowed it. opened: their phone has opened the link."""

    name: str
    days: tuple[int, ...]
    measured: bool
    said: tuple[HomeWord | None, ...]
    minor: bool = False
    opened: bool = True


WHO = (
    AtHome("Noor Whitlam", (1, 3, 5, 8, 10, 12, 15, 17), True, ("right", "right", None), True),
    AtHome("Gwil Tamsen", (2, 6, 11, 16), False, ("too_hard", "right", "too_hard")),
    AtHome("Jori Pellam", (3,), False, ("too_easy",)),
    AtHome("Maren Dyce", (), False, (), opened=False),
)


def fill(
    db: Session,
    coach: Coach,
    shelf: Mapping[str, uuid.UUID],
    members: Sequence[Student],
    today: datetime,
) -> None:
    """Keep the practice, its links and what came back. shelf: drills by title."""
    first = today.date() - timedelta(weeks=WEEKS)
    first -= timedelta(days=first.weekday())
    document = Practice(
        title=TITLE,
        pieces=(Piece(drill_id=shelf[DRILL], rounds=ROUNDS),),
        days=3,
        minutes=10,
        starts_on=first,
        ends_on=first + timedelta(weeks=8),
    )
    row = practices.add(db, coach.club_id, uuid.uuid5(_NAMESPACE, TITLE), coach.id, document)
    by_name = {member.name: member for member in members}
    practices.give(db, row, [by_name[one.name].id for one in WHO])
    version = drills.version(db, coach.club_id, shelf[DRILL])
    assert version is not None
    for one in WHO:
        student = by_name[one.name]
        if one.minor:
            student.consent = "given"
        link, _ = home_links.make(
            db,
            student,
            coach.id,
            guardian=GUARDIAN if one.minor else "",
            guardian_on=first if one.minor else None,
        )
        link.seen_at = today - timedelta(days=1) if one.opened else None
        for number, day in enumerate(one.days, start=1):
            _done(db, one, student, version, link, row.id, number, first + timedelta(days=day))


def _done(
    db: Session,
    one: AtHome,
    student: Student,
    version: DrillVersion,
    link: HomeLink,
    practice_id: uuid.UUID,
    number: int,
    day: date,
) -> None:
    started_at = datetime(day.year, day.month, day.day, 17, 40, tzinfo=UTC)
    drill = drills.read(version)
    seed = int(uuid.uuid5(_NAMESPACE, f"{one.name} {number}").hex[:10], 16)
    plan = plan_run(drill, seed=seed, stance=student.stance, rounds=ROUNDS)
    planned = PlannedRun(
        club_id=student.club_id,
        id=uuid.uuid5(_NAMESPACE, f"{one.name} plan {number}"),
        practice_id=practice_id,
        student_id=student.id,
        number=number,
        position=0,
        drill_id=version.drill_id,
        version=version.number,
        rung=plan.rung,
        window_s=plan.window_s,
        rounds=ROUNDS,
        asked=ROUNDS,
        reason="",
        plan=plan.model_dump(mode="json"),
        created_at=started_at - timedelta(days=1),
    )
    run_id = uuid.uuid5(_NAMESPACE, f"{one.name} run {number}")
    db.add(planned)
    db.flush()
    db.add(
        HomeRun(
            club_id=student.club_id,
            id=run_id,
            planned_id=planned.id,
            student_id=student.id,
            link_id=link.id,
            measured=one.measured,
            started_at=started_at,
            rounds=ROUNDS,
            said=one.said[(number - 1) % len(one.said)],
            finished=True,
        )
    )
    if not one.measured:
        return
    device = device_of("at home", (), ("touch",))
    batches, state = simulate(Setup(drill, plan, device), Habits(mu_ms=520 - 8 * number), seed)
    run = runs.add(
        db,
        student.club_id,
        run_id,
        student_id=student.id,
        coach_id=link.made_by,
        version=version,
        recorder=uuid.uuid5(run_id, "recorder"),
        plan=plan,
        device=device,
        started_at=started_at,
    )
    runs.import_batches(db, run, batches, state)
