"""A run that a simulated student has done, kept as if it had been played."""

from __future__ import annotations

import uuid
from datetime import UTC, datetime, timedelta

from sqlalchemy import Engine

from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from hastatus.store import accounts, drills, runs
from hastatus.store.database import transaction
from hastatus.store.models import DrillVersion
from tests.harness.club import Made

FIRST = datetime(2026, 10, 6, 18, 30, tzinfo=UTC)


def keep_run(engine: Engine, made: Made, version: DrillVersion, habits: Habits, number: int) -> str:
    """A run of a simulated student, in the `number`th week; its id."""
    with transaction(engine) as db:
        coach = accounts.find_coach(db, made.login)
        assert coach is not None
        drill = drills.read(version)
        plan = plan_run(drill, seed=number)
        run = runs.add(
            db, made.club_id, uuid.uuid4(), student_id=made.student_id, coach_id=coach.id,
            version=version, recorder=uuid.uuid4(), plan=plan, device=Device(),
            started_at=FIRST + timedelta(weeks=number),
        )  # fmt: skip
        runs.import_batches(db, run, simulate(Setup(drill, plan, Device()), habits, number)[0])
        return str(run.id)
