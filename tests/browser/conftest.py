"""A server and a browser for the journeys."""

import os
from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, expect, sync_playwright
from sqlalchemy import Engine

from tests.harness.chromium import FLAGS, SHELL
from tests.harness.club import Server
from tests.harness.database import url_of

LONGEST = (
    "test_every_screen_fits_and_can_be_read_and_hit",
    "test_every_starter_drill_plays",
    "test_an_evening_of_three_blocks_on_three_devices",
    "test_a_stream_is_marked_by_exception_and_each_climbs_alone",
    "test_a_killed_browser_goes_on_in_the_round",
)
"""Begun first, so that they do not go on alone after all others."""

expect.set_options(timeout=20_000)  # a shared machine stands still for seconds


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Deal the journeys out, the longest first: each process is given some in one piece."""
    place = {name: number for number, name in enumerate(LONGEST)}
    items.sort(key=lambda item: place.get(item.name, len(LONGEST)))
    processes = int(os.environ.get("PYTEST_XDIST_WORKER_COUNT", "1"))
    items[:] = [item for first in range(processes) for item in items[first::processes]]


@pytest.fixture(scope="session")
def server(engine: Engine) -> Iterator[Server]:
    made = Server(url_of(engine))
    made.start()
    yield made
    made.stop()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        started = playwright.chromium.launch(executable_path=SHELL, args=list(FLAGS))
        yield started
        started.close()


@pytest.fixture(autouse=True)
def closed(browser: Browser) -> Iterator[None]:
    """What a journey that failed has left open would go on, and slow down all that come after."""
    yield
    for context in browser.contexts:
        context.close()
