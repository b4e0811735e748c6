"""A large club in one file and back: 2,000 students, 25,000 runs, 5 million answers.

How long it takes, whether anybody is told meanwhile, and whether every row is the same again.
"""

from __future__ import annotations

import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

from sqlalchemy import Connection, Engine, text

from benchmarks.figure import Figure
from benchmarks.lists import _RUNS, _STUDENTS
from hastatus.api.app import create_app
from hastatus.server import backup, restore
from tests.harness.coach import Coach, new_coach
from tests.harness.database import temporary_database, url_of

STUDENTS, RUNS, ANSWERS = 2_000, 25_000, 200
"""Answers: of each run."""
LOOSE = 25
"""So much smaller is the club in the test suite."""
_ANSWERS = text("""
    INSERT INTO responses (club_id, run_id, round, slot, cue, channel, at_s, onset_ms, window_ms,
        outcome, time_ms, revision, source, spread_ms)
    SELECT runs.club_id, runs.id, 1, slot, 'bell', 'sound', slot * 2.5, slot * 2500.0 + random(),
        700, 'clean', 350 + 200 * random(), 0, 'audio', 0
    FROM runs, generate_series(1, :answers) AS slot
    WHERE runs.club_id = :club AND runs.id <> :run
""")


def figures(loose: bool) -> Iterator[Figure]:
    """Back up and restore; the suite takes a smaller club."""
    smaller = LOOSE if loose else 1
    said: list[str] = []
    with (
        temporary_database() as engine,
        temporary_database() as other,
        tempfile.TemporaryDirectory() as folder,
    ):
        fill(engine, STUDENTS // smaller, RUNS // smaller)
        source, target = Path(folder) / "club.zip", url_of(other)
        began = time.monotonic()
        manifest = backup.write(url_of(engine), source, said.append)
        written_s = time.monotonic() - began
        other.dispose()
        began = time.monotonic()
        restore.restore(target, source, backup.read(source), said.append)
        restored_s = time.monotonic() - began
        answers = manifest.tables["responses"]
        size = f"{answers / 1e6:.2g} million answers, {source.stat().st_size / 1e6:.0f} MB"
        yield Figure(f"backup, {size}", written_s / 60, "min", 5, 2)
        yield Figure(f"restore, {size}", restored_s / 60, "min", 10, 2)
        long_s = max(written_s, restored_s)
        yield Figure("longest that nothing was said", long_s / (1 + len(said)), "s", 20, 2)
        before, after = digests(engine), digests(other)
        yield Figure("tables that came back otherwise", sum(before[name] != after.get(name)
                     for name in before), "", 0)  # fmt: skip


def fill(engine: Engine, students: int, runs: int) -> None:
    coach = new_coach(create_app(engine), engine)
    run_id = coach.run_id
    with engine.begin() as connection:
        connection.execute(text("SET LOCAL statement_timeout = 0"))
        club = {"club": _club_of(connection, coach), "run": run_id}
        connection.execute(_STUDENTS, club | {"count": students})
        connection.execute(_RUNS, club | {"count": runs})
        connection.execute(_ANSWERS, club | {"answers": ANSWERS})


def _club_of(connection: Connection, coach: Coach) -> object:
    query = text("SELECT club_id FROM coaches WHERE login = :login")
    return connection.execute(query, {"login": coach.login}).scalar_one()


def digests(engine: Engine) -> dict[str, object]:
    """Of each table how many rows it has, and a sum over a hash of each that no order changes."""
    with engine.connect() as connection:
        connection.execute(text("SET statement_timeout = 0"))
        names = connection.scalars(
            text("SELECT tablename FROM pg_tables WHERE schemaname = 'public'")
        ).all()
        query = 'SELECT count(*), sum(hashtextextended(one::text, 7)::numeric) FROM "{}" AS one'
        return {name: tuple(connection.execute(text(query.format(name))).one()) for name in names}
