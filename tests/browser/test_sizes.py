"""An evening on a phone, a tablet and a desk: a drill changed, one alone, two together, all read.

Without a key: what is pressed is on the screen.
"""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from tests.harness.answering import Answerer
from tests.harness.club import Made, Server, get, make_club, short_drill, sign_in
from tests.harness.pair import make_pair

pytestmark = pytest.mark.browser

SIZES = {"phone": (390, 844), "tablet": (820, 1180), "desk": (1280, 800)}
ZONES = {"low_knock": "zone:left:0", "bell": "zone:right:0",
         "lead_light": "zone:left:1", "rear_light": "zone:right:1"}  # fmt: skip


@pytest.mark.parametrize("size", SIZES)
def test_an_evening(engine: Engine, server: Server, browser: Browser, size: str) -> None:
    made = make_club(engine, short_drill(8))
    pair = make_pair(engine, made)
    width, height = SIZES[size]
    context = browser.new_context(
        viewport={"width": width, "height": height}, has_touch=size != "desk"
    )
    _, page = sign_in(browser, server, made, context)
    a_drill_is_changed(page)
    one_trains_alone(page, made)
    page.goto(f"{server.address}/pair?{pair.query}")
    two_train_together(page)
    all_of_it_is_in_the_log(page)
    context.close()


def press(page: Page, name: str, *, role: Any = "button", exact: bool = False) -> None:
    page.get_by_role(role, name=name, exact=exact).first.click()


def a_drill_is_changed(page: Page) -> None:
    page.get_by_label("Search").fill("block the sound")
    press(page, "Block the sound, strike the light", role="link")
    press(page, "Don't-react cues")
    page.get_by_label("don’t-react cues").fill("25")
    expect(page.get_by_text("25 %").first).to_be_visible()
    press(page, "Save as version 3")
    page.get_by_text("version 3", exact=False).first.wait_for()


def one_trains_alone(page: Page, made: Made) -> None:
    press(page, "Run", role="link", exact=True)
    press(page, "Pim Halloran")
    press(page, "Start", exact=True)
    page.locator("[data-phase=ready]").wait_for()
    run = page.url.split("/")[-2]
    student = Answerer(
        page, lambda cue: (ZONES[cue["cue"]], 420.0) if cue["cue"] in ZONES else None, touch=True
    )
    press(page, "Begin")
    student.until_given(1)
    student.until({"done"})
    press(page, "See results", role="link")
    page.get_by_text("Answer time, all rounds").wait_for()
    readout: Any = get(page, f"/api/runs/{run}/readout")
    answered = [one for one in readout["responses"] if one["time_ms"] is not None]
    assert len(answered) == len(student.given) > 0


def two_train_together(page: Page) -> None:
    press(page, "Agree and start")
    page.locator(".mat[data-phase=ready]").wait_for()
    press(page, "Begin round")
    countered = page.get_by_role("button", name="Countered")
    expect(countered).to_be_enabled(timeout=10_000)
    countered.click()
    expect(countered).to_have_attribute("aria-pressed", "true")
    for number in (2, None):
        press(page, "End the round")
        if number:
            press(page, f"Begin round {number}")
            page.locator(".mat[data-phase=round]").wait_for()
    press(page, "See results")
    page.get_by_text("clean: 1 of 1 exchange").wait_for()


def all_of_it_is_in_the_log(page: Page) -> None:
    press(page, "Log", role="link", exact=True)
    for name in ("Pim Halloran", "Ada Quill"):
        expect(page.locator("tbody").get_by_text(name).first).to_be_visible()
    press(page, "People", role="link", exact=True)
    # The log names them, too, and stands until the page of people has come.
    page.get_by_role("heading", name="People").wait_for()
    press(page, "Bo Tarn", role="link")
    page.get_by_role("heading", name="Bo Tarn").wait_for()
