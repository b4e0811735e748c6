"""A live camera in a real browser: what it costs, and that cues keep their time beside it."""

from __future__ import annotations

import time
import uuid
from collections.abc import Iterator
from pathlib import Path
from tempfile import TemporaryDirectory
from typing import Any

from playwright.sync_api import Browser, BrowserContext, Page, sync_playwright

from benchmarks.figure import Figure
from benchmarks.player import Bench, measured, quick_drill
from hastatus.demo.film_picture import Look, Move, Painter
from hastatus.store import films
from hastatus.store.database import transaction
from tests.harness.answering import begin
from tests.harness.club import SEED, Made, Server, make_club, sign_in, to_the_floor
from tests.harness.database import temporary_database, url_of
from tests.harness.fake_camera import camera_browser, write_camera_film

LOOK = Look(width=640, height=480)
FILM_S = 30.0
MOVES = [Move("head", 3.0 * number + 2, 0.3, (0.26, -0.1)) for number in range(9)]


class CameraBench(Bench):
    """Where a run is played before a camera."""

    where = "with a camera: "

    def open(
        self, made: Made, context: BrowserContext | None = None, *, touch: bool = False
    ) -> Page:
        """A run that is ready to begin."""
        with transaction(self.engine) as db:
            films.keep_place(db, made.club_id, uuid.uuid4(), painter().place())
        page = sign_in(self.browser, self.server, made, context)[1]
        page.goto(f"{self.server.address}/run?student={made.student_id}&seed={SEED}")
        page.get_by_role("button", name="camera", exact=True).click()
        page.get_by_label("Where the camera stands").select_option(label="corner by the door")
        to_the_floor(page, self.server, made)
        return page


def painter() -> Painter:
    """Somebody who slips before the camera."""
    return Painter(LOOK, MOVES, 3)


def figures(loose: bool) -> Iterator[Figure]:
    """The player's own figures beside a camera, then what the camera takes of a core."""
    seconds = 10.0 if loose else 60.0
    with (
        temporary_database() as engine,
        TemporaryDirectory() as folder,
        sync_playwright() as playwright,
    ):
        film = Path(folder) / "slips.mjpeg"
        write_camera_film(film, FILM_S, painter().at)
        server = Server(url_of(engine))
        try:
            server.start()
            with camera_browser(playwright.chromium, film) as browser:
                yield from measured(CameraBench(engine, server, browser), seconds)
                yield from _cost(engine, server, browser, seconds)
        finally:
            server.stop()


def _cost(engine: Any, server: Server, browser: Browser, seconds: float) -> Iterator[Figure]:
    """Of a core, on the page's process: a round beside a camera against one without."""
    used = []
    for bench in (Bench(engine, server, browser), CameraBench(engine, server, browser)):
        made = make_club(engine, quick_drill(seconds + 10, lights=False))
        page = bench.open(made)
        begin(page)
        page.locator("[data-phase=round]").wait_for()
        page.wait_for_timeout(1000)
        used.append(_share_of_a_core(browser, page, seconds))
        page.context.close()
    name = f"what a camera of {LOOK.width} × {LOOK.height} takes of a core"
    yield Figure(name, 100 * (used[1] - used[0]), "%", 20, 2)


def _share_of_a_core(browser: Browser, page: Page, seconds: float) -> float:
    """What the processes of pages take of a core, over some seconds."""
    session = browser.new_browser_cdp_session()
    before, started = _cpu_s(session), time.monotonic()
    page.wait_for_timeout(1000 * seconds)
    took_s = time.monotonic() - started
    return (_cpu_s(session) - before) / took_s


def _cpu_s(session: Any) -> float:
    found = session.send("SystemInfo.getProcessInfo")["processInfo"]
    return float(sum(one["cpuTime"] for one in found if one["type"] == "renderer"))
