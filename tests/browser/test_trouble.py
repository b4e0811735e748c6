"""What goes wrong in a gym: the server dies, the page is reloaded, the line drops, sign-ins end."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine, select, update

from hastatus.store.database import transaction
from hastatus.store.models import Coach, EventBatch, SignIn
from tests.harness.answering import RIGHT, Answerer, begin, student
from tests.harness.club import (
    PASSWORD,
    Server,
    coach_page,
    get,
    held,
    make_club,
    short_drill,
    to_the_floor,
)

pytestmark = pytest.mark.browser

# As a browser does where the disk has no room: every write is refused.
FILL = """() => {
  const { add, put } = IDBObjectStore.prototype
  const refuse = () => { throw new DOMException('no space left', 'QuotaExceededError') }
  Object.assign(IDBObjectStore.prototype, { add: refuse, put: refuse })
  window.makeRoom = () => Object.assign(IDBObjectStore.prototype, { add, put })
}"""


@pytest.fixture
def own_server(server: Server) -> Iterator[Server]:
    """A server that this test may kill."""
    own = Server(server.url)
    own.start()
    yield own
    own.stop()


def check_nothing_lost(page: Page, engine: Engine, run: str, *students: Answerer) -> None:
    """Every cue that came and every answer that was given is stored, once, and scored."""
    with transaction(engine) as db:
        rows = db.scalars(
            select(EventBatch)
            .where(EventBatch.run_id == uuid.UUID(run))
            .order_by(EventBatch.number)
        ).all()
    assert [row.number for row in rows] == list(range(len(rows)))
    events = [event for row in rows for event in row.body["events"]]
    # A sound is logged as it left, which on a busy machine is not when it was meant to.
    onsets = {(e["round"], e["slot"]): e["t_ms"] for e in events if e["type"] == "cue"}
    stored = [(event["round"], event["slot"]) for event in events if event["type"] == "cue"]
    assert stored == [(cue["round"], cue["slot"]) for each in students for cue in each.shown]
    given = [answer for each in students for answer in each.given]
    inputs = [event["t_ms"] for event in events if event["type"] == "input"]
    assert inputs == pytest.approx([answer.t_ms for answer in given], abs=0.2)
    readout: Any = get(page, f"/api/runs/{run}/readout")
    assert readout["missing"] == []
    scored = {(each["round"], each["slot"]): each for each in readout["responses"]}
    # On a machine that stands still meanwhile the times are not trusted, and are left out.
    counted = [each for each in given if not scored[each.round, each.slot]["left_out"]]
    for answer in counted:
        after_ms = answer.t_ms - onsets[answer.round, answer.slot]
        found_ms = scored[answer.round, answer.slot]["time_ms"]
        assert found_ms == pytest.approx(after_ms, abs=0.2)


@pytest.mark.alone
def test_a_killed_server_loses_nothing(
    engine: Engine, own_server: Server, browser: Browser
) -> None:
    made = make_club(engine, short_drill(12))
    context, page = coach_page(browser, own_server, made)
    run = to_the_floor(page, own_server, made)
    answers = student(page)
    begin(page)
    answers.until_given(1)
    # The student does not wait for the server: it dies and comes back while answers go on.
    with ThreadPoolExecutor(1) as beside:
        killed = beside.submit(own_server.kill)
        answers.until_given(3)
        killed.result()
        assert page.get_by_text("kept on this device").is_visible()
        started = beside.submit(own_server.start)
        answers.until({"done"})
        started.result()
    check_nothing_lost(page, engine, run, answers)
    context.close()


def test_a_reload_goes_on_in_the_round(engine: Engine, server: Server, browser: Browser) -> None:
    made = make_club(engine, short_drill(9, count=2))
    context, page = coach_page(browser, server, made)
    run = to_the_floor(page, server, made)
    before = student(page)
    begin(page)
    before.until_given(2)
    before.until({"round"})
    page.reload()
    page.locator("[data-phase=ready]").wait_for()
    page.get_by_text("Round 1 was cut off").wait_for()
    after = student(page)
    page.get_by_role("button", name="Continue with round 1").click()
    after.until_given(1)
    after.until({"rest", "count-in"})
    after.until({"round"})
    context.set_offline(True)  # a dropped line: the round goes on
    after.until_given(2)
    context.set_offline(False)
    assert after.until({"done", "sending"})
    after.until({"done"})
    check_nothing_lost(page, engine, run, before, after)
    context.close()


@pytest.mark.parametrize("what", ["full", "cleared"])
def test_a_full_or_cleared_device_loses_nothing(
    engine: Engine, server: Server, browser: Browser, what: str
) -> None:
    made = make_club(engine, short_drill(10))
    context, page = coach_page(browser, server, made)
    run = to_the_floor(page, server, made)
    answers = student(page)
    begin(page)
    answers.until_given(1)
    if what == "full":
        page.evaluate(FILL)
        page.get_by_text("this device is full").wait_for()
        answers.until_given(3)
        page.evaluate("window.makeRoom()")
    else:
        cleared = {"origin": server.address, "storageTypes": "indexeddb"}
        context.new_cdp_session(page).send("Storage.clearDataForOrigin", cleared)
        answers.until_given(3)
    answers.until({"done"})
    check_nothing_lost(page, engine, run, answers)
    context.close()


def test_an_ended_sign_in_is_caught_up(engine: Engine, server: Server, browser: Browser) -> None:
    made = make_club(engine, short_drill(8))
    context, page = coach_page(browser, server, made)
    run = to_the_floor(page, server, made)
    answers = student(page)
    begin(page)
    answers.until_given(1)
    with transaction(engine) as db:
        coach = db.scalars(select(Coach).where(Coach.login == made.login)).one()
        db.execute(
            update(SignIn).where(SignIn.coach_id == coach.id).values(revoked_at=SignIn.created_at)
        )
    refused = "/readout"  # what the floor asks for besides, which must not put it away
    with page.expect_response(lambda told: told.url.endswith(refused) and told.status == 401):
        answers.until({"sending"})
    page.get_by_text("The sign-in has run out").wait_for()
    page.wait_for_timeout(500)
    asked = page.locator(".floor-sign-in")
    asked.get_by_label("Login").fill(made.login)
    asked.get_by_label("Password").fill(PASSWORD)
    asked.get_by_role("button", name="Sign in").click()
    answers.until({"done"})
    expect(page.get_by_role("region", name="How it went")).to_be_visible()
    check_nothing_lost(page, engine, run, answers)
    context.close()


def test_two_tabs_and_two_devices_do_not_mix(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine, short_drill(8))
    context, page = coach_page(browser, server, made)
    run = to_the_floor(page, server, made, sound_only=True)
    floor = f"{server.address}/runs/{run}/floor"
    tab = context.new_page()
    tab.goto(floor)
    tab.get_by_text("open in another tab").wait_for()
    other, elsewhere = coach_page(browser, server, made)
    elsewhere.goto(floor)
    elsewhere.get_by_text("recorded on another device").wait_for()
    page.bring_to_front()
    answers = student(page)
    begin(page)
    answers.until_given(1)
    refused = elsewhere.evaluate(
        """async ([run, recorder]) => {
          const session = await (await fetch('/api/session')).json()
          const body = JSON.stringify({ recorder, number: 0, epoch: 0, until_ms: 0, events: [] })
          const headers = { 'Content-Type': 'application/json', 'X-CSRF-Token': session.csrf }
          return (await fetch(`/api/runs/${run}/batches`, { method: 'POST', headers, body })).status
        }""",
        [run, str(uuid.uuid4())],
    )
    assert refused == 409
    answers.until({"done"})
    check_nothing_lost(page, engine, run, answers)
    assert all(RIGHT[cue["cue"]] in ("KeyR", "KeyU") for cue in answers.shown)  # sound only
    # The first tab still holds the run; when it goes, this one may take over.
    page.close()
    tab.reload()
    tab.get_by_text("All answers saved").wait_for()
    context.close()
    other.close()


def test_a_press_on_the_navigation_is_not_overruled_by_where_one_lands(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    # What says where to land comes while the page that was pressed for is still on its way.
    late = held(page, "**/api/evenings", "**/assets/People-*.js")
    page.goto(server.address)
    page.get_by_role("link", name="People").click()
    page.wait_for_timeout(500)
    for route in late:
        if "evenings" in route.request.url:
            route.continue_()
    page.wait_for_timeout(500)
    for route in late:
        if "People" in route.request.url:
            route.continue_()
    page.get_by_role("heading", name="People").wait_for()
    assert page.url.endswith("/people")
    context.close()
