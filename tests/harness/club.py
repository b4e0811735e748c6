"""A small club on a real server, and a coach in a real browser, for whole journeys."""

from __future__ import annotations

import json
import os
import re
import signal
import subprocess
import sys
import time
import urllib.error
import urllib.request
import uuid
from dataclasses import dataclass, field
from functools import cache
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Page, Route, ViewportSize
from sqlalchemy import Engine

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.settings import Rounds, Unguessable
from hastatus.core.drill.solo import Drill
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.server.cluster import free_port
from hastatus.store import accounts, drills, students
from hastatus.store.database import transaction

PASSWORD = "quiet hands first"
RENDERED_MS = 90_000
"""Within this a track is rendered, though the machine be slow and shared."""
SEED = 128
"""Gives every short round at least three cues to answer, so that no journey runs dry by chance."""


@cache
def film_folder(url: str) -> TemporaryDirectory[str]:
    """A folder of films for each database: what waits in one is told by a file in it."""
    return TemporaryDirectory(prefix="hastatus-films-")


@dataclass
class Server:
    """`hastatus serve` on a database, in a process of its own."""

    url: str
    port: int = field(default_factory=free_port)
    _process: subprocess.Popen[bytes] | None = None

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        self._process = subprocess.Popen(
            [sys.executable, "-m", "hastatus.command.main", "serve", "--port", str(self.port)],
            env={
                **os.environ,
                "HASTATUS_DATABASE_URL": self.url,
                "HASTATUS_FILMS": film_folder(self.url).name,
            },
            stdout=subprocess.DEVNULL,
        )
        deadline = time.monotonic() + 30
        while True:
            try:
                urllib.request.urlopen(f"{self.address}/readyz", timeout=2).close()
                return
            except (urllib.error.URLError, OSError):
                if time.monotonic() > deadline or self._process.poll() is not None:
                    raise
                time.sleep(0.05)

    def kill(self) -> None:
        """End it the hard way, its web server too."""
        assert self._process is not None
        children = Path(f"/proc/{self._process.pid}/task/{self._process.pid}/children").read_text()
        for group in map(int, children.split()):
            os.killpg(group, signal.SIGKILL)  # the web server leads a group of its own
        self._process.kill()
        self._process.wait()
        deadline = time.monotonic() + 15
        while time.monotonic() < deadline:
            try:
                urllib.request.urlopen(f"{self.address}/readyz", timeout=2).close()
            except (urllib.error.URLError, OSError):
                return
            time.sleep(0.05)

    def stop(self) -> None:
        if self._process is not None and self._process.poll() is None:
            self._process.terminate()
            self._process.wait(timeout=30)


@dataclass(frozen=True)
class Made:
    """A club with one coach, one student and one short drill."""

    club_id: uuid.UUID
    login: str
    student_id: uuid.UUID
    drill_id: uuid.UUID


def short_drill(seconds: float = 8.0, count: int = 1, rehearse: bool = False) -> Drill:
    """The starter drill in short rounds, with short waits: a journey plays them in real time."""
    rounds = Rounds(count=count, duration_s=seconds, rest_s=3, rehearse=rehearse)
    drill = block_on_sound_strike_on_light().in_rounds(rounds)
    waiting = Unguessable(least_s=0.6, mean_s=0.3, most_s=1.6)
    rungs = tuple(rung.model_copy(update={"waiting": waiting}) for rung in drill.rungs)
    return drill.model_copy(update={"rungs": rungs})


def make_club(engine: Engine, drill: Drill | PartnerDrill | None = None) -> Made:
    """A fresh club, so that no test sees another one's rows."""
    login = f"{uuid.uuid4().hex[:8]}@lockside.example"
    with transaction(engine) as db:
        club = accounts.add_club(db, "Lockside beginners")
        accounts.add_coach(db, club.id, login=login, name="Orla", password=PASSWORD, role="owner")
        student = students.add(db, club.id, name="Pim Halloran", stance="left_lead", notes="")
        first = drills.newest(db, club.id)[0]
        kept = drills.add_version(db, club.id, first.drill_id, first.number, drill or short_drill())
        assert kept is not None
        return Made(club.id, login, student.id, first.drill_id)


DESK: ViewportSize = {"width": 1280, "height": 800}


def coach_page(
    browser: Browser, server: Server, made: Made, context: BrowserContext | None = None
) -> tuple[BrowserContext, Page]:
    """A coach's browser, signed in as the form does it, with nothing opened yet; `context` when it
    is a special one. A third of the work of `sign_in`."""
    context = context or browser.new_context(viewport=DESK)
    said = {"login": made.login, "password": PASSWORD}
    assert context.request.post(f"{server.address}/api/session", data=said).ok
    return context, context.new_page()


def sign_in(
    browser: Browser, server: Server, made: Made, context: BrowserContext | None = None
) -> tuple[BrowserContext, Page]:
    """A coach's browser, signed in by the form, at the library; `context` when it is a special
    one."""
    context = context or browser.new_context(viewport=DESK)
    page = context.new_page()
    page.goto(server.address)
    fill_sign_in(page, made)
    page.wait_for_url(re.compile("/(run|build|tonight)$"))  # where one lands
    page.get_by_role("navigation").get_by_role("link", name="Drills").click()
    page.get_by_role("heading", name="Library").wait_for()
    return context, page


def fill_sign_in(page: Page, made: Made) -> None:
    page.get_by_label("Login").fill(made.login)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()


def to_the_floor(page: Page, server: Server, made: Made, *, sound_only: bool = False) -> str:
    """From Run to a floor that is ready; the run's id."""
    page.goto(f"{server.address}/run?student={made.student_id}&seed={SEED}")
    page.get_by_role(
        "button", name="Start, sound only" if sound_only else "Start", exact=True
    ).click()
    page.wait_for_url("**/floor")
    page.locator("[data-phase=ready]").wait_for()
    return page.url.split("/")[-2]


def held(page: Page, *addresses: str) -> list[Route]:
    """What the page asks of these addresses; each waits here until it is let go."""
    late: list[Route] = []
    for address in addresses:
        page.route(address, lambda route: late.append(route))
    return late


def get(page: Page, path: str) -> object:
    """A GET with the page's own sign-in."""
    text = page.evaluate("path => fetch(path).then(answer => answer.text())", path)
    return json.loads(text)


def drill_ids(page: Page) -> dict[str, str]:
    """The ids of the club's solo drills in use, by title."""
    lines: Any = get(page, "/api/library")
    return {each["title"]: each["id"] for each in lines["drills"] if each["form"] == "solo"}
