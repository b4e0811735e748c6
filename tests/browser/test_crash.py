"""A browser that is killed in mid-round and opened again goes on in it, and nothing is lost."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser
from sqlalchemy import Engine

from tests.browser.answering import begin
from tests.browser.club import Server, get, make_club, short_drill
from tests.browser.crash import CrashingBrowser, answer_some, check_all_kept, go_on
from tests.browser.test_trouble import student

pytestmark = pytest.mark.browser


def test_a_killed_browser_goes_on_in_the_round(
    engine: Engine, server: Server, browser: Browser, tmp_path: Path
) -> None:
    made = make_club(engine, short_drill(16, count=2))
    crashing = CrashingBrowser(tmp_path / "profile", browser, server, made)
    run, page = crashing.new_run()
    before = student(page)
    begin(page)
    answer_some(page, before, 2)
    crashing.kill()
    page = crashing.open_again(run)
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
