"""The lists of a club that has grown for years: 500 students, 2,000 drills, 20,000 runs.

How long an answer takes, and how long a coach waits at each size until the list can be used.
"""

from __future__ import annotations

import time
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from statistics import median

from playwright.sync_api import Page, sync_playwright
from sqlalchemy import Engine, text

from benchmarks.figure import Figure
from hastatus.api.app import create_app
from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Server
from tests.harness.coach import PASSWORD, Coach, new_coach
from tests.harness.database import temporary_database, url_of
from tests.harness.home import assign, link

STUDENTS, DRILLS, RUNS = 500, 2_000, 20_000
READS = 7
OPENED = 3
SIZES = ((390, 844), (820, 1180), (1280, 800))
SCREENS = ("/build", "/run", "/people", "/read", "/log")
FIRST_ROW = "main :is(tbody tr:not([aria-hidden]), section button, li a)"
MOST_NODES = 4000
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
    """Fill a club, time its lists, and open them."""
    with temporary_database() as engine:
        coach = new_coach(create_app(engine), engine)
        for batch in coach.batches:
            assert coach.post_batch(batch).status_code == 200
        _fill(engine, coach)
        for name, path in LISTS.items():
            took = median(_read(coach, path) for _ in range(READS))
            yield Figure(f"the list of {name} of a large club", took, "ms", 150, 3)
        yield _at_home(coach)
        yield from _screens(engine, coach)


def _at_home(coach: Coach) -> Figure:
    """What a student's phone asks for first: the plans of the runs to come."""
    assign(coach)
    path = "/api" + link(coach)["path"]
    took = median(_read(coach, path) for _ in range(READS))
    return Figure("the page at home of a student of a large club", took, "ms", 250, 3)


def _screens(engine: Engine, coach: Coach) -> Iterator[Figure]:
    """Each list at each size: the longest wait, what sticks out sideways, and what is drawn."""
    server = Server(url_of(engine))
    server.start()
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
            page = browser.new_context().new_page()
            _enter(page, server, coach)
            for width, height in SIZES:
                page.set_viewport_size({"width": width, "height": height})
                seen = {path: _open(page, server.address + path) for path in SCREENS}
                slowest = max(seen, key=lambda path: seen[path].waited_ms)
                waited = f"large club, {width} px: the longest wait, for {slowest}"
                yield Figure(waited, seen[slowest].waited_ms, "ms", 2000, 3)
                out = sum(one.sticks_out for one in seen.values())
                yield Figure(f"large club, {width} px: lists that stick out", out, "", 0)
                drawn = max(one.nodes for one in seen.values())
                yield Figure(f"large club, {width} px: the most nodes", drawn, "", MOST_NODES)
            browser.close()
    finally:
        server.stop()


def _enter(page: Page, server: Server, coach: Coach) -> None:
    page.goto(server.address)
    page.get_by_label("Login").fill(coach.login)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation").wait_for()


@dataclass(frozen=True, slots=True)
class Opened:
    """A list that is open. waited_ms: until its first row was there."""

    waited_ms: float
    sticks_out: bool
    nodes: int


def _open(page: Page, address: str) -> Opened:
    waits = []
    for _ in range(OPENED):
        began = time.perf_counter()
        page.goto(address)
        page.locator(FIRST_ROW).first.wait_for()
        waits.append((time.perf_counter() - began) * 1000)
    wide = "document.documentElement.scrollWidth > document.documentElement.clientWidth"
    count = "document.querySelectorAll('*').length"
    return Opened(median(waits), page.evaluate(wide), page.evaluate(count))


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
