"""Counts and last runs of students come from the database, however many runs there are."""

from __future__ import annotations

import uuid

from sqlalchemy import Engine, text

from hastatus.store import runs
from hastatus.store.database import transaction
from tests.store.test_runs import begin_run, take


def test_counts_and_last_runs_hold_for_more_runs_than_a_list_shows(engine: Engine) -> None:
    """One student with 3,000 runs does not push another out of the list."""
    run, batches, _ = begin_run(engine)
    for batch in batches:
        take(engine, run, batch)
    columns = (
        "club_id, drill_id, version, coach_id, recorder, rung, seed, stance, sound_only, plan, "
        "device, figures, closed_at, scoring_version, simulated"
    )
    with engine.begin() as connection:
        known = {
            row[0]
            for row in connection.execute(
                text("SELECT column_name FROM information_schema.columns WHERE table_name='runs'")
            )
        }
        kept = ", ".join(each for each in columns.split(", ") if each in known)
        rest = known - set(kept.split(", ")) - {"id", "student_id", "started_at"}
        kept = ", ".join([kept, *sorted(rest)])
        other = uuid.uuid4()
        connection.execute(
            text(
                "INSERT INTO students (club_id, id, name, stance, notes, gear, contact) "
                "SELECT club_id, :other, 'Wren Abbot', stance, notes, gear, contact FROM students "
                "WHERE id = :one"
            ),
            {"other": other, "one": run.student_id},
        )
        copy = (
            f"INSERT INTO runs (id, student_id, started_at, {kept}) SELECT gen_random_uuid(), "
            f":student, now() + n * interval '1 minute', {kept} FROM runs, "
            "generate_series(CAST(:first AS int), CAST(:last AS int)) n WHERE id = :run"
        )
        for student, first, last in ((other, -5, -1), (run.student_id, 1, 2999)):
            connection.execute(
                text(copy), {"student": student, "first": first, "last": last, "run": run.id}
            )
    both = {run.student_id, other}
    with transaction(engine) as db:
        assert runs.count_by_student(db, run.club_id, both) == {run.student_id: 3000, other: 5}
        newest = runs.latest_of_each(db, run.club_id, 12, both)
        assert sum(each.student_id == other for each in newest) == 5
        mine = [each.started_at for each in newest if each.student_id == run.student_id]
        assert len(mine) == 12
        assert mine == sorted(mine, reverse=True)
