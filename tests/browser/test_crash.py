"""A browser that is killed in mid-round and opened again goes on in it, and nothing is lost."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from tests.harness.answering import begin, student
from tests.harness.club import Server, get, make_club, short_drill
from tests.harness.crash import QUIET_MS, CrashingBrowser, answer_some, check_all_kept, go_on
from tests.harness.pair import agree, make_pair

pytestmark = pytest.mark.browser


def test_a_killed_browser_goes_on_in_the_round(
    engine: Engine, server: Server, browser: Browser, tmp_path: Path
) -> None:
    made = make_club(engine, short_drill(10, count=2))
    crashing = CrashingBrowser(tmp_path / "profile", browser, server, made)
    run, page = crashing.new_run()
    before = student(page)
    begin(page)
    answer_some(page, before, 2)
    crashing.kill()
    page = crashing.open_again(f"/runs/{run}/floor")
    after = student(page)
    go_on(page, after, 1)
    after.until({"done"})
    check_all_kept(engine, run, [before, after])
    rounds = {cue["round"] for cue in after.shown}
    assert rounds == {1, 2}
    readout: Any = get(page, f"/api/runs/{run}/readout")
    assert readout["missing"] == []
    assert readout["run"]["state"] == "complete"
    crashing.context.close()


def test_a_killed_mat_goes_on_in_the_round(
    engine: Engine, server: Server, browser: Browser, tmp_path: Path
) -> None:
    made = make_club(engine)
    pair = make_pair(engine, made)
    crashing = CrashingBrowser(tmp_path / "profile", browser, server, made)
    page = crashing.context.new_page()
    run = agree(page, server, pair)
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=round]").wait_for()
    countered = page.get_by_role("button", name="Countered")
    expect(countered).to_be_enabled(timeout=10_000)
    page.keyboard.press("c")
    expect(countered).to_have_attribute("aria-pressed", "true")
    page.wait_for_timeout(QUIET_MS)
    crashing.kill()
    page = crashing.open_again(f"/pairs/{run}/mat")
    expect(page.locator(".mat-head")).to_contain_text("feeds Ada Quill")
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=round]").wait_for()
    page.locator(".mat[data-phase=rest]").wait_for(timeout=30_000)
    read: Any = get(page, f"/api/partner-runs/{run}/readout")
    assert read["missing"] == []
    told = [each["grade"] for each in read["exchanges"] if each["round"] == 1]
    assert told.count("countered") == 1
    crashing.context.close()
