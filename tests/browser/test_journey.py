"""The main job in a real browser: sign in, run a short round, find the answers in the readout."""

import csv
import io
from itertools import cycle

import pytest
from playwright.sync_api import Browser
from sqlalchemy import Engine

from tests.harness.answering import RIGHT, Answerer, begin
from tests.harness.club import Server, get, make_club, short_drill, sign_in, to_the_floor

pytestmark = [pytest.mark.browser, pytest.mark.alone]


def test_scripted_answers_are_found_again(engine: Engine, server: Server, browser: Browser) -> None:
    made = make_club(engine, short_drill(10, rehearse=True))
    context, page = sign_in(browser, server, made)
    run = to_the_floor(page, server, made)
    # Near one another: the window follows what it measures.
    delays = cycle((431.0, 442.5, 463.25))
    student = Answerer(
        page, lambda cue: (RIGHT[cue["cue"]], next(delays)) if cue["cue"] in RIGHT else None
    )
    begin(page)
    assert student.until({"rehearsal"}) == "rehearsal"
    student.until({"round"})
    student.until({"done"})
    assert len(student.given) >= 3

    page.get_by_role("link", name="See results").click()
    page.get_by_text("Answer time, all rounds").wait_for()
    readout = get(page, f"/api/runs/{run}/readout")
    by_slot = {each["slot"]: each for each in readout["responses"]}
    for given in student.given:
        found = by_slot[given.slot]
        assert found["outcome"] == "clean"
        assert found["onset_ms"] + found["time_ms"] == pytest.approx(given.t_ms, abs=0.2)
        assert found["time_ms"] == pytest.approx(given.delay_ms, abs=60)  # a sound may leave late
    shown = page.evaluate("run => fetch(`/api/runs/${run}/results.csv`).then(a => a.text())", run)
    rows = {int(row["slot"]): row for row in csv.DictReader(io.StringIO(shown))}
    assert len(rows) == len(readout["responses"]) == len(student.shown)
    for given in student.given:
        told = by_slot[given.slot]["time_ms"]
        assert float(rows[given.slot]["time_ms"]) == pytest.approx(told, abs=0.01)
    clean = page.locator("g[data-outcome=clean]")
    assert clean.count() == len(student.given)
    context.close()
