"""A server and a browser for the journeys."""

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, expect, sync_playwright
from sqlalchemy import Engine

from tests.browser.club import Server
from tests.database import url_of

CHROMIUM = "/usr/bin/chromium"
FLAGS = (
    "--no-sandbox",
    "--disable-quic",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--use-fake-ui-for-media-stream",
    "--use-fake-device-for-media-stream",
)

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
