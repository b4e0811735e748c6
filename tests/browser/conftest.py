"""A server and a browser for the journeys."""

from collections.abc import Iterator

import pytest
from playwright.sync_api import Browser, sync_playwright
from sqlalchemy import Engine

from tests.browser.club import Server

CHROMIUM = "/usr/bin/chromium"
FLAGS = (
    "--no-sandbox",
    "--disable-quic",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
)


@pytest.fixture(scope="session")
def server(engine: Engine) -> Iterator[Server]:
    made = Server(engine.url.set(drivername="postgresql").render_as_string(hide_password=False))
    made.start()
    yield made
    made.stop()


@pytest.fixture(scope="session")
def browser() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        started = playwright.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
        yield started
        started.close()
