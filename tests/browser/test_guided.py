"""A rung that is held, from the bench to the readout: words come, no cue does."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Browser, Route, expect
from sqlalchemy import Engine

from tests.harness.club import Server, coach_page, get, make_club, short_drill, to_the_floor

pytestmark = pytest.mark.browser


def read_too_early(route: Route, early: list[str]) -> None:
    """Answer the first two readouts as a server that has not had the end of the run yet."""
    response = route.fetch()
    readout = response.json()
    if len(early) < 2:
        early.append(readout["run"]["state"])
        readout["run"]["state"] = "open"
        readout["ladder"]["suggestion"]["reason"] = "First run."
    route.fulfill(response=response, json=readout)


def test_a_hold_is_set_on_the_bench_done_on_the_floor_and_read(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine, short_drill(14))
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/build?drill={made.drill_id}")
    page.get_by_role("button", name="Led by cues").click()
    page.get_by_label("led by").select_option("a hold")
    page.get_by_label("against").select_option("the wall")
    page.get_by_label("a word every").fill("4")
    page.get_by_label("said as it begins").fill("press")
    page.get_by_label("what to let go of").fill("let go of the jaw\nlet go of the neck")
    expect(page.get_by_role("button", name="Led by")).to_contain_text(
        "a hold, with a word every 4 s, against the wall"
    )
    said = page.locator("[data-round='1']")
    expect(said).to_contain_text("let go of the neck")
    page.keyboard.press("Control+s")
    page.get_by_text("· version 3").wait_for()

    run = to_the_floor(page, server, made)
    # The floor reads the run while its last answers are still on their way.
    early: list[str] = []
    page.route(f"**/api/runs/{run}/readout", lambda route: read_too_early(route, early))
    page.get_by_role("button", name="Begin").click()
    page.locator("[data-phase=round]").wait_for(timeout=10_000)
    for words in ("press", "let go of the jaw", "let go of the neck"):
        page.locator(".floor-said", has_text=words).wait_for(timeout=10_000)
    page.locator("[data-phase=done]").wait_for(timeout=20_000)
    page.get_by_role("link", name="See results").click()
    page.get_by_text("there was no cue, so nothing was timed").wait_for()
    page.get_by_text("you say when to go on").wait_for()
    expect(page.get_by_text("This run is still open")).to_have_count(0)
    assert len(early) == 2, "the page was never shown an open run"
    readout: Any = get(page, f"/api/runs/{run}/readout")
    assert (readout["run"]["state"], readout["responses"]) == ("complete", [])
    context.close()
