"""A made-up evening club, filled by simulated students.

Everything here is invented: the club meets on Tuesday and Thursday evenings in a former mill.
"""

from __future__ import annotations

import uuid
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import UTC, datetime, timedelta

import numpy as np
from sqlalchemy import Engine
from sqlalchemy.orm import Session

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.agreement import Settled
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.core.trade.limbs import Body
from hastatus.core.trade.technique import Stance
from hastatus.demo import club_film, home, pairs
from hastatus.demo import evenings as classes
from hastatus.demo.student import Habits, simulate
from hastatus.store import (
    accounts,
    batch_intake,
    club_catalogue,
    drills,
    ladders,
    partner_batches,
    partner_runs,
    runs,
    students,
)
from hastatus.store.database import transaction
from hastatus.store.films import Folder
from hastatus.store.models import Coach, DrillVersion, Student

CLUB = "Millrace evening club"
LOGIN = "coach@millrace.example"
PASSWORD = "slow-is-smooth"
WEEKS = 8
EVENINGS = (1, 3)  # Tuesday, Thursday
TEST_EVERY = 3
"""The five-minute test comes before the class, every so many evenings."""

_NAMESPACE = uuid.UUID("5f0c6a52-6d0e-4a57-9d0a-3a1f0a8d2f10")


@dataclass(frozen=True, slots=True)
class Member:
    """A made-up student: how quick at the start, how much quicker in the end, how often there."""

    name: str
    stance: Stance
    mu_ms: float
    learns_ms: float
    attends: float
    notes: str = ""
    rear_ms: float = 40.0
    tau_ms: float = 110.0


MEMBERS = (
    Member("Alba Renn", "left_lead", 560, 150, 0.95),
    Member("Bram Oduya", "left_lead", 640, 190, 0.8, rear_ms=90),
    Member("Cato Lindqvar", "right_lead", 500, 90, 0.7),
    Member("Dunja Merrow", "left_lead", 720, 220, 0.9, "New in September. Likes sound cues."),
    Member("Edda Falk-Ibe", "left_lead", 590, 60, 0.6, tau_ms=170),
    Member("Fenn Astley", "left_lead", 540, 120, 0.85),
    Member("Gwil Tamsen", "right_lead", 610, 150, 0.75, "Left-handed. Sprained wrist in spring."),
    Member("Hanneke Voss", "left_lead", 480, 70, 0.9),
    Member("Ivo Castellan", "left_lead", 660, 20, 0.8, tau_ms=190),
    Member("Jori Pellam", "left_lead", 570, 130, 0.5),
    Member("Kesi Brandt", "left_lead", 620, 180, 0.95),
    Member("Lorne Quist", "left_lead", 530, 100, 0.65, rear_ms=75),
    Member("Maren Dyce", "right_lead", 690, 160, 0.7),
    Member("Noor Whitlam", "left_lead", 550, 140, 0.4, "Comes every other week."),
)


HEIGHTS_M = {
    "Alba Renn": 1.68, "Bram Oduya": 1.86, "Cato Lindqvar": 1.79, "Dunja Merrow": 1.60,
    "Fenn Astley": 1.75, "Gwil Tamsen": 1.88, "Hanneke Voss": 1.70, "Ivo Castellan": 1.81,
    "Jori Pellam": 1.73, "Kesi Brandt": 1.66, "Lorne Quist": 1.77, "Maren Dyce": 1.64,
    "Noor Whitlam": 1.72,
}  # fmt: skip
"""Whose height is kept; Edda's is not."""


def fill(
    engine: Engine,
    *,
    today: datetime,
    say: Callable[[str], None],
    weeks: int = WEEKS,
    film_folder: Folder | None = None,
) -> None:
    """Make the club, its students and `weeks` of runs; all in one transaction. film_folder: where
    the file of its film is kept; None: it is gone already."""
    with transaction(engine) as db:
        club = accounts.add_club(db, CLUB)
        coach = accounts.add_coach(
            db, club.id, login=LOGIN, name="Tamsin Holloway", password=PASSWORD, role="owner"
        )
        _show(db, club.id)
        version = drills.newest(db, club.id)[0]
        drill = drills.read(version)
        test = next(drill for drill in drills.newest(db, club.id) if _is_test(drill))
        rng = np.random.default_rng(20_260_901)
        of_tests = np.random.default_rng(20_261_001)
        evenings = _evenings(today, weeks)
        for number, member in enumerate(MEMBERS, start=1):
            student = students.add(
                db,
                club.id,
                name=member.name,
                stance=member.stance,
                notes=member.notes,
                body=Body(height_m=HEIGHTS_M.get(member.name)),
                gear=("gloves", "mouthguard", "shin_guards"),
            )
            done = 0
            for share, evening in evenings[::TEST_EVERY]:
                tested = _tested(member, share, of_tests)
                seed = int(of_tests.integers(2**40))
                start = evening - timedelta(minutes=float(of_tests.uniform(5, 25)))
                _one_run(db, coach, student, test, drills.read(test), tested, seed, start)
            for share, evening in evenings:
                if rng.random() > member.attends:
                    continue
                started = evening + timedelta(minutes=float(rng.uniform(0, 70)))
                habits = _habits(member, share, rng)
                seed = int(rng.integers(2**40))
                _one_run(db, coach, student, version, drill, habits, seed, started)
                done += 1
            say(f"  {number:2d} of {len(MEMBERS)}  {member.name}, {done} runs")
        _pairs(db, coach, evenings)
        shelf = {one.title: one.id for one in drills.shelf(db, club.id)}
        everybody = students.all_of(db, club.id)
        home.fill(db, coach, shelf, everybody, today)
        classes.fill(
            db,
            coach,
            shelf,
            everybody,
            past=[begins for _, begins in evenings],
            today=today,
        )
        slips = next(student for student in everybody if student.name == "Hanneke Voss")
        club_film.fill(db, coach, slips, evenings[-1][1], today, film_folder)


@dataclass(frozen=True, slots=True)
class Together:
    """Two who did a rung of a partner drill. clean: share that they kept out.

    need_s: time that their answers need, with pads at the mat; None: only the room was heard.
    watched_s: from when to when in each round the coach watched; None: each exchange was tapped.
    """

    title: str
    rung: int
    pair: tuple[str, str]
    clean: float
    need_s: float | None = None
    watched_s: tuple[float, float] | None = None


TOGETHER = (
    Together("One hits, one guards", 1, ("Alba Renn", "Kesi Brandt"), 0.8, 0.47),
    Together("Two beats, then in", 2, ("Fenn Astley", "Hanneke Voss"), 0.93),
    Together("One hits, one guards", 2, ("Kesi Brandt", "Alba Renn"), 0.8, 0.45),
    Together("Turn about", 1, ("Kesi Brandt", "Fenn Astley"), 0.86),
    Together("One hits, one guards", 2, ("Alba Renn", "Kesi Brandt"), 0.8, 0.43),
    Together("Two beats, then in", 4, ("Lorne Quist", "Fenn Astley"), 0.74),
    Together("One hits, one guards", 3, ("Kesi Brandt", "Alba Renn"), 0.86, watched_s=(20, 60)),
)
"""Partner work of the last evenings, one run on each."""


def _pairs(db: Session, coach: Coach, evenings: list[tuple[float, datetime]]) -> None:
    """Partner runs of the last evenings."""
    shelf = {drill.title: drill.id for drill in drills.shelf(db, coach.club_id)}
    known = {student.name: student for student in students.all_of(db, coach.club_id)}
    rng = np.random.default_rng(20_261_101)
    newest = zip(reversed(TOGETHER), reversed(evenings), strict=False)
    for work, (_, evening) in newest:
        version = drills.version(db, coach.club_id, shelf[work.title])
        assert version is not None
        drill = drills.read_partner(version)
        sheet = feed_sheet(drill, seed=int(rng.integers(2**30)), rung=work.rung)
        run_id = uuid.uuid5(_NAMESPACE, f"{work.title} {work.pair} {evening}")
        recorder = uuid.uuid5(run_id, "recorder")
        partner_runs.add(
            db,
            coach.club_id,
            run_id,
            version=version,
            coach_id=coach.id,
            recorder=recorder,
            partners=[known[name].id for name in work.pair],
            sheet=sheet,
            agreement=Settled(contact="touch", stop_word="red"),
            started_at=evening + timedelta(minutes=80),
        )
        for batch in pairs.batches(
            drill, sheet, pairs.Pair(work.clean, work.need_s, work.watched_s), rng
        ):
            digest = batch.model_dump_json().encode()
            hashed = batch_intake.payload_hash(digest)
            partner_batches.take(db, coach.club_id, run_id, recorder, batch, hashed)


SHOWN = {
    "high_block": ("Hand from brow to crown, elbow up.", "Elbow drops, hand late to come home."),
    "straight": ("Straight there, straight back.", "Cocked first, so it is seen coming."),
    "slip": ("A glove's width, eyes stay on.", "Bends at the waist, looks down."),
    "roll_under": ("Bend the knees, hands at the head.", "Stands upright too early."),
    "parry": ("A small push, then home.", "Reaches for it."),
}
"""How the club shows some techniques: the right way and the usual fault."""


def _show(db: Session, club_id: uuid.UUID) -> None:
    for technique, (right_way, usual_fault) in SHOWN.items():
        club_catalogue.keep_note(
            db, club_id, technique, right_way=right_way, usual_fault=usual_fault, asset_id=None
        )


def _evenings(today: datetime, weeks: int) -> list[tuple[float, datetime]]:
    """Class evenings before `today` with how far into the weeks they lie (0 to 1)."""
    first = today - timedelta(weeks=weeks)
    days = [first + timedelta(days=day) for day in range(weeks * 7)]
    people = [
        day.astimezone(UTC).replace(hour=18, minute=30, second=0, microsecond=0)
        for day in days
        if day.weekday() in EVENINGS
    ]
    return [(index / max(1, len(people) - 1), day) for index, day in enumerate(people)]


def _habits(member: Member, share: float, rng: np.random.Generator) -> Habits:
    learned = member.learns_ms * (1 - np.exp(-2.2 * share)) / (1 - np.exp(-2.2))
    return Habits(
        mu_ms=float(member.mu_ms - learned + rng.normal(0, 18)),
        sigma_ms=float(rng.uniform(40, 65)),
        tau_ms=float(member.tau_ms * rng.uniform(0.85, 1.15)),
        rear_ms=member.rear_ms,
        tiring_ms=float(rng.uniform(0, 25)),
        lapses=float(rng.uniform(0.0, 0.05)),
    )


def _is_test(version: DrillVersion) -> bool:
    return drills.read(version).is_test


def _tested(member: Member, share: float, rng: np.random.Generator) -> Habits:
    """A rested student in front of plain cues, where little is learned but the choice."""
    usual = _habits(member, 0.3 + 0.2 * share, rng)
    return replace(
        usual,
        mu_ms=0.55 * usual.mu_ms,
        sigma_ms=0.6 * usual.sigma_ms,
        tau_ms=0.5 * usual.tau_ms,
        rear_ms=0.3 * usual.rear_ms,
        tiring_ms=0.0,
        choice_ms=float(100 - 30 * share + rng.normal(0, 6)),
        wrong=0.02,
    )


def _one_run(
    db: Session,
    coach: Coach,
    student: Student,
    version: DrillVersion,
    drill: Drill,
    habits: Habits,
    seed: int,
    started: datetime,
) -> None:
    """Plan, play, keep and score one run, and let the coach take what is suggested."""
    state = ladders.state(db, student.club_id, student.id, version.drill_id)
    rung, window = (state.rung, state.window_s) if state else (1, None)
    prior = ladders.prior(db, student.club_id, student.id, version.drill_id, drill, rung)
    plan = plan_run(
        drill,
        seed=seed,
        rung=rung,
        window_s=window,
        prior=prior,
        stance=student.stance,
    )
    # The jump from rung to rung makes the work harder for a while.
    habits = replace(habits, wrong=0.03 + 0.01 * rung)
    batches, state_at_end = simulate(Setup(drill, plan, Device()), habits, seed)
    run_id = uuid.uuid5(_NAMESPACE, f"{student.name} {started.isoformat()}")
    recorder = uuid.uuid5(run_id, "recorder")
    run = runs.add(
        db,
        student.club_id,
        run_id,
        student_id=student.id,
        coach_id=coach.id,
        version=version,
        recorder=recorder,
        plan=plan,
        device=Device(),
        started_at=started,
    )
    runs.import_batches(db, run, batches, state_at_end)
    suggestion = ladders.suggestion(db, student.club_id, student.id, version.drill_id, drill)
    if suggestion.kind in ("next", "back"):
        ladders.choose(
            db,
            student.club_id,
            student_id=student.id,
            drill_id=version.drill_id,
            coach_id=coach.id,
            kind="taken",
            rung=suggestion.rung,
            window_s=suggestion.window_s,
            suggested=suggestion,
            at=started + timedelta(minutes=6),
        )


def is_empty(engine: Engine) -> bool:
    """Whether the database has no club yet."""
    with transaction(engine) as db:
        return accounts.first_club(db) is None
