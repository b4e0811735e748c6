"""What the database knows of a student who is new to a drill: always what stands in it now."""

from __future__ import annotations

import json
import uuid
from dataclasses import asdict

import pytest
from sqlalchemy import Connection, Engine, text

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.prior import Prior
from hastatus.core.read.baseline import Baseline
from hastatus.core.read.choice_cost import ChoiceCost
from hastatus.store import club_levels, ladders, runs
from hastatus.store.database import transaction
from tests.store.test_runs import begin_run, take

TESTED = Baseline([], ChoiceCost(0.30, 0.09, 0.07, 0.11, 60), None, 0, 6)


def student(connection: Connection, club: uuid.UUID) -> uuid.UUID:
    """One more student, like the first one."""
    other = uuid.uuid4()
    columns = "stance, notes, gear, contact"
    connection.execute(
        text(
            f"INSERT INTO students (club_id, id, name, {columns}) "
            f"SELECT club_id, :other, 'Wren Abbot', {columns} FROM students "
            "WHERE club_id = :club LIMIT 1"
        ),
        {"other": other, "club": club},
    )
    return other


def copies(
    connection: Connection,
    run: runs.Run,
    of: uuid.UUID,
    settled_s: float | None,
    *,
    count: int = 1,
    days: int = 0,
    baseline: Baseline | None = None,
    elsewhere: bool = False,
) -> None:
    """Runs of a student like `run`, a day apart from `days` ago on, that settled at `settled_s`.

    baseline: what they say as a test. elsewhere: of another drill of the club.
    """
    known_columns = {
        row[0]
        for row in connection.execute(
            text("SELECT column_name FROM information_schema.columns WHERE table_name = 'runs'")
        )
    }
    kept = ", ".join(
        sorted(known_columns - {"id", "student_id", "started_at", "figures", "drill_id"})
    )
    connection.execute(
        text(
            f"INSERT INTO runs (id, student_id, started_at, drill_id, figures, {kept}) "
            "SELECT gen_random_uuid(), :student, now() + (n - :days) * interval '1 day', "
            "CASE WHEN :elsewhere THEN (SELECT drills.id FROM drills WHERE "
            "drills.club_id = runs.club_id AND drills.id <> runs.drill_id LIMIT 1) "
            "ELSE drill_id END, "
            "jsonb_set(jsonb_set(figures, '{evidence,settled_window_s}', CAST(:settled AS jsonb)), "
            f"'{{baseline}}', CAST(:baseline AS jsonb)), {kept} "
            "FROM runs, generate_series(1, :count) n WHERE id = :run"
        ),
        {
            "student": of,
            "days": days,
            "elsewhere": elsewhere,
            "count": count,
            "run": run.id,
            "settled": json.dumps(settled_s),
            "baseline": json.dumps(asdict(baseline) if baseline else None),
        },
    )


def played(engine: Engine) -> tuple[runs.Run, Drill]:
    run, batches, setup = begin_run(engine)
    for batch in batches:
        take(engine, run, batch)
    return run, setup.drill


def believed(
    engine: Engine, run: runs.Run, drill: Drill, new: uuid.UUID, rung: int = 1
) -> Prior | None:
    with transaction(engine) as db:
        return ladders.prior(db, run.club_id, new, run.drill_id, drill, rung)


def test_a_new_student_starts_from_the_first_runs_and_tests_of_the_club(engine: Engine) -> None:
    run, drill = played(engine)
    windows = (0.8, 1.0, 1.25)
    with engine.begin() as connection:
        new = student(connection, run.club_id)
        for settled_s in windows:
            other = student(connection, run.club_id)
            copies(connection, run, other, None, days=9)  # too short to settle
            copies(connection, run, other, settled_s, days=8)
            copies(connection, run, other, 0.3, days=7)  # a later run is no first one
            copies(connection, run, other, None, days=6, baseline=TESTED)
    with transaction(engine) as db:
        told = club_levels.of(db, run.club_id, new, run.drill_id, drill)
    assert sorted(window_s for window_s, test in told.club if test) == list(windows)
    assert told.baseline is None
    without = believed(engine, run, drill, new)
    with engine.begin() as connection:
        copies(connection, run, new, None, days=3, baseline=TESTED, elsewhere=True)
    tested = believed(engine, run, drill, new)
    assert without is not None
    assert tested is not None
    assert tested.window_s == pytest.approx(1.0, rel=0.01)  # all have the same test


def test_the_next_run_starts_from_the_last_one_and_another_rung_from_nothing(
    engine: Engine,
) -> None:
    run, drill = played(engine)
    with engine.begin() as connection:
        new = student(connection, run.club_id)
        copies(connection, run, new, 0.71, days=2)
        copies(connection, run, new, 0.66, days=1)
    prior = believed(engine, run, drill, new, run.rung)
    assert prior is not None
    assert prior.window_s == 0.66
    assert believed(engine, run, drill, new, run.rung + 1) is None
