"""A student's page in a club of two thousand, with five million answers kept."""

from __future__ import annotations

import http.client
import time
import uuid
from collections.abc import Iterator

from sqlalchemy import Engine, func, select, text
from sqlalchemy.orm import Session

from benchmarks.figure import Figure, percentile
from benchmarks.load import LOGIN, PASSWORD, sign_in
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from hastatus.store import accounts, drills, runs, students
from hastatus.store.database import transaction
from hastatus.store.models import Response, Run
from tests.harness.club import Server
from tests.harness.database import temporary_database, url_of

STUDENTS, ANSWERS = 2_000, 5_000_000
LOOSE_STUDENTS, LOOSE_ANSWERS = 200, 100_000
READ = 100


def figures(loose: bool) -> Iterator[Figure]:
    """Fill a club, then read the pages of a hundred of its students, one after the other."""
    wanted = (LOOSE_STUDENTS, LOOSE_ANSWERS) if loose else (STUDENTS, ANSWERS)
    with temporary_database() as engine:
        ids, answers = _fill(engine, *wanted)
        server = Server(url_of(engine))
        try:
            server.start()
            times = _read(server, ids)
        finally:
            server.stop()
    name = f"student page, {wanted[0]:,} students, {answers:,} answers, p95"
    yield Figure(name, percentile(times, 0.95), "ms", 150, 3)


def _fill(engine: Engine, count: int, answers: int) -> tuple[list[uuid.UUID], int]:
    """One student's scored runs, copied for all the others."""
    with transaction(engine) as db:
        club = accounts.add_club(db, "Bench")
        coach = accounts.add_coach(
            db, club.id, login=LOGIN, name="Bench", password=PASSWORD, role="owner"
        )
        model = students.add(db, club.id, name="S 0", stance="left_lead")
        versions = drills.newest(db, club.id)
        chosen = [
            version for version in versions if drills.read(version).purpose == "baseline"
        ] + versions[:2]
        made = 0
        while made < answers / count:
            version = chosen[made % 3]
            drill = drills.read(version)
            plan = plan_run(drill, seed=made)
            run = runs.add(
                db, club.id, uuid.uuid4(), student_id=model.id, coach_id=coach.id,
                version=version, recorder=uuid.uuid4(), plan=plan, device=Device(),
            )  # fmt: skip
            batches = simulate(Setup(drill, plan, Device()), Habits(), made)[0]
            runs.import_batches(db, run, batches)
            made = db.scalar(select(func.count()).select_from(Response)) or 0
        _copy(db, count)
    with engine.connect().execution_options(isolation_level="AUTOCOMMIT") as connection:
        connection.execute(text("VACUUM ANALYZE"))
    with transaction(engine) as db:
        found = list(db.scalars(select(Run.student_id).distinct().limit(READ)))
        return found, db.scalar(select(func.count()).select_from(Response)) or 0


def _copy(db: Session, count: int) -> None:
    """Rows of the first student again, for `count` − 1 more; ids are derived from a number."""
    derived = "md5({0}::text || ' ' || copy)::uuid"
    student = derived.format("student_id")
    _insert(db, "students", count, {"id": derived.format("id"), "name": "'S ' || copy"})
    _insert(db, "runs", count, {"id": derived.format("id"), "student_id": student})
    _insert(db, "responses", count, {"run_id": derived.format("run_id")})


def _insert(db: Session, table: str, count: int, changed: dict[str, str]) -> None:
    columns = db.scalars(
        text("SELECT column_name FROM information_schema.columns WHERE table_name = :table"),
        {"table": table},
    ).all()
    values = ", ".join(changed.get(column, f"kept.{column}") for column in columns)
    # One copy after the other: the rows of a run come together, and so into the same pages of the
    # index, which is larger than the database's memory.
    insert = text(
        f"INSERT INTO {table} ({', '.join(columns)}) SELECT {values} FROM kept_{table} AS kept, "
        "(SELECT CAST(:copy AS integer)) AS numbered(copy)"
    )
    db.execute(text(f"CREATE TEMP TABLE kept_{table} ON COMMIT DROP AS SELECT * FROM {table}"))
    for copy in range(1, count):
        db.execute(insert, {"copy": copy})


def _read(server: Server, ids: list[uuid.UUID]) -> list[float]:
    cookie, _ = sign_in(server)
    connection = http.client.HTTPConnection("127.0.0.1", server.port, timeout=60)
    times = []
    for number, student_id in enumerate([*ids[:10], *ids]):
        sent = time.perf_counter()
        connection.request("GET", f"/api/students/{student_id}", headers={"Cookie": cookie})
        answer = connection.getresponse()
        body = answer.read()
        if answer.status != 200 or not body:
            raise RuntimeError(f"the page answered {answer.status}")
        if number >= 10:
            times.append((time.perf_counter() - sent) * 1000)
    return times
