"""Scoring kept runs afresh, as after a change of the rules: read, score, write."""

from __future__ import annotations

import time
import uuid
from collections.abc import Iterator

from sqlalchemy import Engine

from benchmarks.figure import Figure
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from hastatus.store import accounts, drills, runs, students
from hastatus.store.database import transaction
from tests.harness.database import temporary_database

KEPT = 25
"""Different runs of three one-minute rounds; they are gone through again and again."""
RUNS = 1_000


def figures(loose: bool) -> Iterator[Figure]:
    """Score runs afresh and look at the whole time."""
    count = 100 if loose else RUNS
    with temporary_database() as engine:
        club_id, ids = _prepare(engine)
        started = time.perf_counter()
        for number in range(count):
            with transaction(engine) as db:
                runs.keep_score(db, club_id, ids[number % len(ids)])
        took_ms = (time.perf_counter() - started) * 1000
    # Fifty runs a second are twenty ms for each.
    yield Figure(f"re-scoring {count:,} runs, for each", took_ms / count, "ms", 20, 5)


def _prepare(engine: Engine) -> tuple[uuid.UUID, list[uuid.UUID]]:
    ids = []
    with transaction(engine) as db:
        club = accounts.add_club(db, "Bench")
        coach = accounts.add_coach(
            db,
            club.id,
            login="rescoring@lockside.example",
            name="Bench",
            password="only for the bench",
            role="owner",
        )
        student = students.add(db, club.id, name="S", stance="left_lead")
        version = drills.newest(db, club.id)[0]
        drill = drills.read(version)
        for seed in range(KEPT):
            plan = plan_run(drill, seed=seed, rung=2)
            run = runs.add(
                db, club.id, uuid.uuid4(), student_id=student.id, coach_id=coach.id,
                version=version, recorder=uuid.uuid4(), plan=plan, device=Device(),
            )  # fmt: skip
            runs.import_batches(db, run, simulate(Setup(drill, plan, Device()), Habits(), seed)[0])
            ids.append(run.id)
    return club.id, ids
