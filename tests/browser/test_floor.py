"""The coach's controls on the floor: pause, go on, louder, stop, and closing a run cut off."""

from typing import Any

import pytest
from playwright.sync_api import Browser
from sqlalchemy import Engine, select

from hastatus.store.database import transaction
from hastatus.store.models import EventBatch
from tests.harness.answering import RIGHT, Answerer, begin
from tests.harness.club import Server, coach_page, get, make_club, short_drill, to_the_floor

pytestmark = pytest.mark.browser


TOUCHED = "button => button.click()"
"""At once: a click by the mouse takes its time, in which an answer that is due would be late."""
HIDE = """
(hidden) => {
  Object.defineProperty(document, 'hidden', { get: () => hidden, configurable: true })
  document.dispatchEvent(new Event('visibilitychange'))
}
"""


def events_of(engine: Engine, run: str) -> list[dict[str, Any]]:
    with transaction(engine) as db:
        rows = db.scalars(
            select(EventBatch.body).where(EventBatch.run_id == run).order_by(EventBatch.number)
        )
        return [event for body in rows for event in body["events"]]


def test_pause_go_on_louder_and_stop(engine: Engine, server: Server, browser: Browser) -> None:
    made = make_club(engine, short_drill(14, count=2))
    context, page = coach_page(browser, server, made)
    run = to_the_floor(page, server, made)
    student = Answerer(
        page, lambda cue: (RIGHT[cue["cue"]], 400.0) if cue["cue"] in RIGHT else None
    )
    page.get_by_role("button", name="louder").click()
    page.get_by_text("volume 30 %").wait_for()
    begin(page)
    student.until_given(2)
    page.get_by_role("button", name="Pause").evaluate(TOUCHED)
    student.until({"paused"})
    page.wait_for_timeout(700)
    before = len(student.shown)
    student.until({"paused"})
    assert len(student.shown) == before  # nothing comes while the round stands still
    page.keyboard.press("ArrowDown")
    page.get_by_text("volume 25 %").wait_for()
    page.keyboard.press("Space")
    student.until({"count-in"})
    student.until_given(4)
    page.get_by_role("button", name="Stop").evaluate(TOUCHED)  # as on a tablet
    student.until({"paused"})
    page.get_by_text("Stop here?").wait_for()
    page.keyboard.press("s")
    student.until({"done"})

    kinds = [event["type"] for event in events_of(engine, run)]
    assert kinds.count("pause") == 2
    assert kinds.count("resume") == 1
    assert kinds[-1] == "finish"
    # A cue that a pause stopped comes again, and only once; all of it in the first round.
    came = [(cue["round"], cue["slot"]) for cue in student.shown]
    assert came == [(1, slot) for slot in range(len(came))]
    readout: Any = get(page, f"/api/runs/{run}/readout")
    assert readout["run"]["state"] == "complete"
    answers = {each["slot"]: each for each in readout["responses"]}
    for given in student.given:
        found = answers[given.slot]
        assert found["onset_ms"] + found["time_ms"] == pytest.approx(given.t_ms, abs=0.2)
        assert found["time_ms"] == pytest.approx(400.0, abs=60)  # a sound may leave a little late
    context.close()


def test_touch_zones_and_closing_a_run_that_was_cut_off(
    engine: Engine, server: Server, browser: Browser
) -> None:
    zones = {"low_knock": "zone:left:0", "bell": "zone:right:0",
             "lead_light": "zone:left:1", "rear_light": "zone:right:1"}  # fmt: skip
    made = make_club(engine, short_drill(9, count=2))
    context, page = coach_page(browser, server, made)
    run = to_the_floor(page, server, made)
    student = Answerer(
        page, lambda cue: (zones[cue["cue"]], 420.0) if cue["cue"] in zones else None, touch=True
    )
    begin(page)
    student.until_given(1)
    page.evaluate(HIDE, True)  # another tab or app came to the front
    student.until({"paused"})
    page.get_by_text("The screen was hidden").wait_for()
    page.evaluate(HIDE, False)
    page.get_by_role("button", name="Resume").click()
    student.until_given(2)
    student.until({"round"})
    page.reload()
    page.get_by_role("button", name="Close the run").click()
    page.get_by_text("All answers saved").wait_for()
    page.get_by_role("link", name="See results").click()
    page.get_by_text("Answer time, all rounds").wait_for()
    readout: Any = get(page, f"/api/runs/{run}/readout")
    assert readout["run"]["state"] == "complete"
    answered = [each for each in readout["responses"] if each["time_ms"] is not None]
    assert [each["time_ms"] for each in answered] == pytest.approx(
        [420.0] * len(student.given),
        abs=60,  # a sound may leave a little late
    )
    events = events_of(engine, run)
    assert {event["device"] for event in events if event["type"] == "input"} == {"touch"}
    assert [event["reason"] for event in events if event["type"] == "pause"] == ["hidden"]
    context.close()
