"""The browser killed in mid-round again and again: what is lost, and whether the round goes on.

One student in one long round, answering a cue after each kill.
"""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path

from playwright.sync_api import Browser, sync_playwright
from sqlalchemy import Engine

from benchmarks.figure import Figure
from tests.harness.answering import Answerer, begin, student
from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Server, make_club, short_drill
from tests.harness.crash import CrashingBrowser, answer_some, check_all_kept, go_on
from tests.harness.database import reachable_folder, temporary_database, url_of

KILLS = 50
LOOSE_KILLS = 3
ROUND_S = 1500.0
AFTER_S = 10.0
"""The browser, the page, the press, and three seconds of counting in."""


def figures(loose: bool) -> Iterator[Figure]:
    """Kill, open again, go on."""
    kills = LOOSE_KILLS if loose else KILLS
    with temporary_database() as engine, reachable_folder() as folder, sync_playwright() as started:
        server = Server(url_of(engine))
        server.start()
        browser = started.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
        try:
            waits_s, students, run = _crash(engine, server, browser, folder, kills)
        finally:
            browser.close()
            server.stop()
        given = sum(len(student.given) for student in students)
        lost = is_lost(engine, run, students)
    yield Figure(f"answers lost or cues skipped in {kills} kills, of {given} answers", lost, "", 0)
    yield Figure("longest from a killed browser to a round that goes on", max(waits_s), "s",
                 AFTER_S, 3)  # fmt: skip


def _crash(
    engine: Engine, server: Server, browser: Browser, folder: Path, kills: int
) -> tuple[list[float], list[Answerer], str]:
    made = make_club(engine, short_drill(ROUND_S))
    crashing = CrashingBrowser(folder / "profile", browser, server, made)
    run, page = crashing.new_run()
    students, waits_s = [student(page)], []
    begin(page)
    for _ in range(kills):
        answer_some(page, students[-1], 1)
        crashing.kill()
        killed = time.monotonic()
        page = crashing.open_again(f"/runs/{run}/floor")
        students.append(student(page))
        go_on(page, students[-1], 1)
        waits_s.append(time.monotonic() - killed)
    answer_some(page, students[-1], 1)
    page.keyboard.press("s")
    page.keyboard.press("s")
    students[-1].until({"done"})
    crashing.context.close()
    return waits_s, students, run


def is_lost(engine: Engine, run: str, students: list[Answerer]) -> int:
    """1 where an answer of a run was lost or a cue came twice or never; else 0."""
    try:
        check_all_kept(engine, run, students)
    except AssertionError as error:
        print(error)
        return 1
    return 0
