"""Practice at home: the same bounds of time as on the floor, and a phone killed again and again.

The phone has no connection while it practises; what it did is read from the server afterwards.
"""

from __future__ import annotations

import re
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright
from sqlalchemy import Engine

from benchmarks.crash import is_lost
from benchmarks.figure import Figure
from benchmarks.player import Bench, measured
from tests.harness.answering import Answerer, begin, student
from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Made, Server, get, make_club, short_drill, sign_in
from tests.harness.crash import CrashingBrowser, answer_some, go_on
from tests.harness.database import reachable_folder, temporary_database, url_of
from tests.harness.home import make_link, practise

KILLS = 100
LOOSE_KILLS = 3
ROUND_S = 1500.0
SENT_MS = 300_000
"""Ten minutes of a round are some 1,200 batches, which are posted one after the other."""
AFTER_S = 10.0
"""As on the floor: the browser, the page, two presses, and three seconds of counting in."""


class AtHome(Bench):
    """Where a run is played on a phone at home, without a connection."""

    where = "at home: "

    def open(
        self, made: Made, context: BrowserContext | None = None, *, touch: bool = False
    ) -> Page:
        link = linked(self.browser, self.server, made)
        context = context or self.browser.new_context(viewport={"width": 1280, "height": 800})
        page = context.new_page()
        page.goto(self.server.address + link)
        ready(page, "tap the screen" if touch else "keys")
        return page

    def end(self, page: Page, student: Answerer, made: Made, seconds: float) -> str:
        student.until({"sending", "done"}, seconds=seconds)
        return sent(page, self.browser, self.server, made)

    def readout(self, page: Page, made: Made, run: str) -> Any:
        _, coach = sign_in(self.browser, self.server, made)
        return get(coach, f"/api/runs/{run}/readout")


def linked(browser: Browser, server: Server, made: Made) -> str:
    """The address of a link by which the club's student practises its drill."""
    context, page = sign_in(browser, server, made)
    practise(page, made.student_id, made.drill_id)
    link = make_link(page, made.student_id)
    context.close()
    return link


def ready(page: Page, answering: str) -> None:
    """From the page of today to a run that is ready, without a connection."""
    expect(page.get_by_role("status")).to_contain_text("works without a connection")
    page.get_by_role("button", name=answering, exact=True).click()
    page.context.set_offline(True)
    page.get_by_role("button", name=re.compile("^Start")).click()
    page.locator("[data-phase=ready]").wait_for()


def sent(page: Page, browser: Browser, server: Server, made: Made) -> str:
    """Have all that was done come to the server; the id of the run."""
    page.context.set_offline(False)
    other = page.context.new_page()  # what was noted on the first one is still to be read
    page.get_by_role("button", name="Right").click()
    other.goto(page.url)
    expect(other.get_by_role("status")).to_have_text(re.compile("^saved here"), timeout=SENT_MS)
    context, coach = sign_in(browser, server, made)
    listed: Any = get(coach, "/api/practices")
    context.close()
    return str(listed["practices"][0]["members"][0]["last"][0]["run_id"])


def figures(loose: bool) -> Iterator[Figure]:
    """The player's figures, then the kills."""
    kills = LOOSE_KILLS if loose else KILLS
    with temporary_database() as engine, reachable_folder() as folder, sync_playwright() as started:
        server = Server(url_of(engine))
        browser = started.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
        try:
            server.start()
            yield from measured(AtHome(engine, server, browser), 10.0 if loose else 110.0)
            yield from _crash(engine, server, browser, folder, kills)
        finally:
            browser.close()
            server.stop()


def _crash(
    engine: Engine, server: Server, browser: Browser, folder: Path, kills: int
) -> Iterator[Figure]:
    made = make_club(engine, short_drill(ROUND_S))
    path = linked(browser, server, made)
    phone = CrashingBrowser(folder / "profile", browser, server, made)
    page = phone.context.new_page()
    page.goto(server.address + path)
    ready(page, "keys")
    students, waits_s = [student(page)], []
    begin(page)
    for _ in range(kills):
        answer_some(page, students[-1], 1)
        phone.kill()
        killed = time.monotonic()
        page = phone.open_home(path)
        page.get_by_role("button", name=re.compile("^Continue")).click()
        page.locator("[data-phase=ready]").wait_for()
        students.append(student(page))
        go_on(page, students[-1], 1)
        waits_s.append(time.monotonic() - killed)
    answer_some(page, students[-1], 1)
    page.keyboard.press("s")
    page.keyboard.press("s")
    students[-1].until({"sending", "done"})
    run = sent(page, browser, server, made)
    phone.context.close()
    given = sum(len(student.given) for student in students)
    name = f"at home: answers lost or cues skipped in {kills} kills, of {given} answers"
    yield Figure(name, is_lost(engine, run, students), "", 0)
    name = "at home: longest from a killed phone to a round that goes on"
    yield Figure(name, max(waits_s), "s", AFTER_S, 3)
