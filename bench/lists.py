"""The lists of a club that has grown for years: 500 students, 2,000 drills, 20,000 runs."""

from __future__ import annotations

import time
import uuid
from collections.abc import Iterator
from statistics import median

from sqlalchemy import Engine, text

from bench.figure import Figure
from hastatus.api.app import create_app
from tests.harness.coach import Coach, new_coach
from tests.harness.database import temporary_database

STUDENTS, DRILLS, RUNS = 500, 2_000, 20_000
READS = 7
LISTS = {
    "students": "/api/students",
    "runs": "/api/runs",
    "drills": "/api/library",
}

_STUDENTS = text("""
    INSERT INTO students (club_id, id, name, stance)
    SELECT :club, gen_random_uuid(), 'Student ' || number, 'left_lead'
    FROM generate_series(1, :count) AS number
""")
_DRILLS = text("""
    INSERT INTO drills (club_id, id, version, tags)
    SELECT :club, gen_random_uuid(), 1, '["of years"]' FROM generate_series(1, :count)
""")
_VERSIONS = text("""
    WITH own AS (
        SELECT document, schema_version, row_number() OVER () AS place, count(*) OVER () AS many
        FROM drill_versions WHERE club_id = :club
    ), bare AS (
        SELECT id, row_number() OVER () AS place FROM drills
        WHERE club_id = :club AND tags = '["of years"]'
    )
    INSERT INTO drill_versions (club_id, drill_id, number, schema_version, document)
    SELECT :club, bare.id, 1, own.schema_version, own.document
    FROM bare JOIN own ON own.place = 1 + bare.place % own.many
""")
_RUNS = text("""
    WITH one AS (SELECT * FROM runs WHERE club_id = :club AND id = :run),
         everybody AS (
             SELECT id, row_number() OVER () - 1 AS place FROM students WHERE club_id = :club
         ),
         many AS (SELECT count(*) AS count FROM everybody)
    INSERT INTO runs (club_id, id, student_id, drill_id, version, coach_id, recorder, rung,
        plan, device, figures, scoring_version, simulated, started_at, closed_at)
    SELECT one.club_id, gen_random_uuid(), everybody.id, one.drill_id, one.version, one.coach_id,
        gen_random_uuid(), one.rung, '{}', one.device, one.figures, one.scoring_version,
        false, now() - number * interval '1 hour', now()
    FROM one, many, generate_series(1, :count) AS number
    JOIN everybody ON everybody.place = number % (SELECT count FROM many)
""")


def figures(loose: bool) -> Iterator[Figure]:
    """Fill a club and time its lists."""
    with temporary_database() as engine:
        coach = new_coach(create_app(engine), engine)
        for batch in coach.batches:
            assert coach.post_batch(batch).status_code == 200
        _fill(engine, coach)
        for name, path in LISTS.items():
            took = median(_read(coach, path) for _ in range(READS))
            yield Figure(f"the list of {name} of a large club", took, "ms", 150, 3)


def _fill(engine: Engine, coach: Coach) -> None:
    with engine.begin() as connection:
        club: uuid.UUID = connection.execute(
            text("SELECT club_id FROM runs WHERE id = :run"), {"run": coach.run_id}
        ).scalar_one()
        connection.execute(_STUDENTS, {"club": club, "count": STUDENTS})
        connection.execute(_DRILLS, {"club": club, "count": DRILLS})
        connection.execute(_VERSIONS, {"club": club})
        connection.execute(_RUNS, {"club": club, "run": coach.run_id, "count": RUNS})
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        connection.execute(text("VACUUM ANALYZE"))


def _read(coach: Coach, path: str) -> float:
    started = time.perf_counter()
    answer = coach.get(path)
    took_ms = (time.perf_counter() - started) * 1000
    assert answer.status_code == 200
    return took_ms
