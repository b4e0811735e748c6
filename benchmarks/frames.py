"""What pictures cost on the floor: the longest the page's main thread is held while they are drawn.

Figures move while a drill is walked through, the strip and two figures come at the rest; a cue that
fell into such a frame would be late by what is over a frame's 16 ms.
"""

from __future__ import annotations

import json
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from typing import Any

from playwright.sync_api import Browser, Page, sync_playwright

from benchmarks.figure import Figure, percentile
from hastatus.core.drill.settings import Rounds
from hastatus.core.starter import block_on_sound_strike_on_light
from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Server, make_club, sign_in, to_the_floor
from tests.harness.database import temporary_database, url_of

ROUND_S, REST_S = 15, 6
FRAME_MS = 16.0
OPENED_S = 0.5
"""After a screen has come, what loads it is over."""


def figures(loose: bool) -> Iterator[Figure]:
    """Trace a run from its walk-through to the rest after its first round."""
    with temporary_database() as engine:
        drill = block_on_sound_strike_on_light()
        rung = drill.rungs[0].model_copy(
            update={"rounds": Rounds(count=2, duration_s=ROUND_S, rest_s=REST_S, rehearse=True)}
        )
        made = make_club(engine, drill.model_copy(update={"rungs": (rung,)}))
        server = Server(url_of(engine))
        server.start()
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
                _, page = sign_in(browser, server, made)
                to_the_floor(page, server, made)
                for name, tasks in _phases(browser, page):
                    yield from _figures(name, tasks)
                browser.close()
        finally:
            server.stop()


def _figures(name: str, tasks: Sequence[float]) -> Iterator[Figure]:
    worst = percentile(tasks, 0.999)
    yield Figure(f"{name}: main thread held, of 1,000 tasks at most one longer", worst, "ms",
                 FRAME_MS, 3)  # fmt: skip
    over = sum(task > FRAME_MS for task in tasks)
    yield Figure(f"{name}: tasks over {FRAME_MS:g} ms, of {len(tasks):,}", over, "", 0, 3)


def _phases(browser: Browser, page: Page) -> Iterator[tuple[str, list[float]]]:
    """The tasks of each phase of the floor, in ms, but for those that open the screen."""
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Skip the walk-through").wait_for()
    page.wait_for_timeout(1000 * OPENED_S)
    with _traced(browser, page) as tasks:
        page.wait_for_timeout(4000)
    yield "walk-through, a figure moves", tasks
    page.get_by_role("button", name="Skip the walk-through").click()
    page.locator("[data-phase=round]").wait_for()
    with _traced(browser, page) as tasks:
        page.locator("[data-phase=rest]").wait_for(timeout=1000 * (ROUND_S + 20))
        page.wait_for_timeout(3000)
    yield "a round and the rest, its strip is drawn", tasks


@contextmanager
def _traced(browser: Browser, page: Page) -> Iterator[list[float]]:
    """How long each task of the page's main thread took, in ms; filled when it is over."""
    tasks: list[float] = []
    browser.start_tracing(page=page, categories=["toplevel", "__metadata"])
    yield tasks
    events: list[dict[str, Any]] = json.loads(browser.stop_tracing())["traceEvents"]
    main = {
        (event["pid"], event["tid"])
        for event in events
        if event["name"] == "thread_name" and event["args"]["name"] == "CrRendererMain"
    }
    # The time of the processor, not of the wall: other programs may come in between. The task in
    # which the trace ends has none.
    tasks += [
        event["tdur"] / 1000
        for event in events
        if event["name"] == "ThreadControllerImpl::RunTask"
        and (event["pid"], event["tid"]) in main
        and "tdur" in event
    ]
