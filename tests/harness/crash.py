"""A browser of its own with a profile on disk, so that it can be killed and opened again."""

from __future__ import annotations

import os
import signal
import time
import uuid
from contextlib import suppress
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page
from sqlalchemy import Engine, select

from hastatus.store.database import transaction
from hastatus.store.models import EventBatch
from tests.harness.answering import Answerer
from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Made, Server, coach_page, to_the_floor

QUIET_MS = 300
"""An answer that came so long before a kill is on the disk."""


class CrashingBrowser:
    """A browser for one coach. It is killed whole, as when a tablet runs out of power.

    folder: of its profile. The sign-in is taken from `browser`: one that is younger than half a
    minute is not on the disk yet, and the coach would sign in anew.
    """

    def __init__(self, folder: Path, browser: Browser, server: Server, made: Made) -> None:
        self.kind, self.folder, self.server, self.made = browser.browser_type, folder, server, made
        context, _ = coach_page(browser, server, made)
        self.cookies: Any = context.cookies()
        context.close()
        self.context = self._start()

    def _start(self) -> BrowserContext:
        context = self.kind.launch_persistent_context(
            self.folder, executable_path=CHROMIUM, args=list(FLAGS)
        )
        context.add_cookies(self.cookies)
        return context

    def new_run(self) -> tuple[str, Page]:
        """A run that is ready on the floor."""
        page = self.context.new_page()
        return to_the_floor(page, self.server, self.made), page

    def kill(self) -> None:
        for pid in self._pids():
            with suppress(ProcessLookupError):
                os.kill(pid, signal.SIGKILL)
        while self._pids():
            time.sleep(0.02)
        with suppress(Exception):  # it is gone already
            self.context.close()

    def open_again(self, path: str) -> Page:
        """After a kill: the floor or the mat of a run, which waits to go on."""
        self.context = self._start()
        page = self.context.new_page()
        page.goto(self.server.address + path)
        page.locator("[data-phase=ready], [data-phase=paused]").wait_for()
        return page

    def open_home(self, path: str) -> Page:
        """After a kill: practice at home, without a connection."""
        self.context = self._start()
        self.context.set_offline(True)
        page = self.context.new_page()
        page.goto(self.server.address + path)
        page.get_by_role("heading", name="Hello").wait_for()
        return page

    def _pids(self) -> list[int]:
        """Of this browser's own processes, the first one foremost."""
        found = []
        for each in Path("/proc").glob("[0-9]*"):
            with suppress(OSError):
                words = (each / "cmdline").read_bytes().split(b"\0")
                status = (each / "stat").read_text().rsplit(")", 1)[1].split()[0]
                own = any(word.endswith(str(self.folder).encode()) for word in words)
                if own and status != "Z":
                    found.append(int(each.name))
        return sorted(found)


def go_on(page: Page, answers: Answerer, round_number: int) -> None:
    """Press the button that goes on in the round that was cut off."""
    page.get_by_text(f"Round {round_number} was cut off").wait_for()
    page.get_by_role("button", name=f"Continue with round {round_number}").click()
    answers.until({"round"})


def answer_some(page: Page, answers: Answerer, count: int) -> None:
    """Answer so many more cues, and wait until the last answer is on the disk."""
    answers.until_given(len(answers.given) + count)
    page.wait_for_timeout(QUIET_MS)


def check_all_kept(engine: Engine, run: str, students: list[Answerer]) -> None:
    """Every answer is stored once, in its order; the cues of each round go on without a gap."""
    with transaction(engine) as db:
        query = select(EventBatch).where(EventBatch.run_id == uuid.UUID(run))
        rows = db.scalars(query.order_by(EventBatch.number)).all()
    assert [row.number for row in rows] == list(range(len(rows)))
    events = [event for row in rows for event in row.body["events"]]
    inputs = [event["t_ms"] for event in events if event["type"] == "input"]
    given = [answer.t_ms for student in students for answer in student.given]
    assert inputs == pytest.approx(given, abs=0.2)
    came = [(event["round"], event["slot"]) for event in events if event["type"] == "cue"]
    last = {number: max(slot for found, slot in came if found == number) for number, _ in came}
    assert came == [(number, slot) for number in sorted(last) for slot in range(last[number] + 1)]
