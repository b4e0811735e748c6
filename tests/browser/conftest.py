"""A server and a browser for the journeys."""

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, expect, sync_playwright
from sqlalchemy import Engine

from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Server
from tests.harness.database import url_of

expect.set_options(timeout=20_000)  # a shared machine stands still for seconds


@pytest.fixture(scope="session")
def server(engine: Engine) -> Iterator[Server]:
    made = Server(url_of(engine))
    made.start()
    yield made
    made.stop()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        started = playwright.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
        yield started
        started.close()
