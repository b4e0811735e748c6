"""What the mat has marked arrives, whatever the line, the page or the server does meanwhile."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Browser, Page, Route, expect
from sqlalchemy import Engine, text

from tests.harness.club import Server, coach_page, get, make_club
from tests.harness.pair import agree, make_pair, until

pytestmark = pytest.mark.browser


def test_a_reload_goes_on_and_what_a_tab_leaves_behind_is_sent(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """One tab marks. The line hangs and its page is closed: the next sheet sends the marks."""
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    run_id = agree(page, server, make_pair(engine, made))
    tab = context.new_page()
    tab.goto(f"{server.address}/pairs/{run_id}/mat")
    expect(tab.get_by_role("alert")).to_contain_text("open in another tab")
    page.bring_to_front()
    page.keyboard.press(" ")
    struck, covered = (page.get_by_role("button", name=name) for name in ("Got through", "Covered"))
    expect(struck).to_be_enabled(timeout=10_000)
    page.keyboard.press("v")
    expect(covered).to_have_attribute("aria-pressed", "true")
    # A reload in the middle of the round stands still where it was, its taps with it.
    page.reload()
    page.locator(".mat[data-phase=paused]").wait_for()
    expect(covered).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("u")
    expect(covered).to_have_attribute("aria-pressed", "false")
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=round]").wait_for()
    # The line hangs: a mark is kept on the device while the one before is on its way.
    context.route("**/batches", lambda _: None)
    with page.expect_request("**/batches"):
        page.keyboard.press("v")
    page.keyboard.press("x")
    expect(page.get_by_role("button", name="Got through")).to_have_attribute("aria-pressed", "true")
    # A tab lets go of its run a moment after it is closed: the next sheet waits for it.
    tab.evaluate(
        f"void navigator.locks.request('hastatus run {run_id}', () => new Promise(() => 0))"
    )
    page.wait_for_timeout(200)
    page.close()
    context.unroute("**/batches")
    log = context.new_page()
    log.goto(f"{server.address}/log")
    log.wait_for_timeout(400)
    tab.close()

    def grades() -> list[str]:
        read: Any = get(log, f"/api/partner-runs/{run_id}/readout")
        return [each["grade"] for each in read["exchanges"]]

    until(lambda: grades() == ["struck"])
    context.close()


def test_strikes_that_never_pause_and_a_batch_that_is_too_large_are_sent(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """Marks go every 400 ms without waiting for quiet; what an older page made is divided."""
    page, run_id = in_a_round(engine, server, browser)
    sent: list[str] = []
    page.on("request", lambda each: sent.append(each.url) if "/batches" in each.url else None)
    for _ in range(12):  # a tap every 250 ms: never 400 ms of quiet
        page.keyboard.press("v")
        page.wait_for_timeout(150)
        page.keyboard.press("u")
        page.wait_for_timeout(100)
    assert len(sent) >= 4
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=paused]").wait_for()
    page.wait_for_timeout(1000)
    page.evaluate(TOO_LARGE, run_id)
    page.reload()
    page.locator(".mat[data-phase=paused]").wait_for()
    with engine.connect() as connection:
        sizes = text(
            "SELECT jsonb_array_length(body -> 'marks') FROM mark_batches WHERE run_id = :run "
            "ORDER BY number DESC LIMIT 4"
        )
        asked = {"run": run_id}
        until(lambda: list(connection.scalars(sizes, asked)) == [20, 500, 20, 500])
    expect(page.locator(".mat")).not_to_contain_text("refused")


def test_what_is_refused_is_stepped_over_saved_and_brought_in_again(
    engine: Engine, server: Server, browser: Browser
) -> None:
    page, run_id = in_a_round(engine, server, browser)
    until(lambda: get(page, f"/api/partner-runs/{run_id}/readout")["missing"] == [])

    def refuse(route: Route) -> None:
        if '"covered"' in str(route.request.post_data):
            route.fulfill(status=422, json={"detail": "marks.0: this server knows no covers."})
        else:
            route.continue_()

    page.route("**/batches", refuse)
    page.keyboard.press("v")
    expect(page.locator(".mat")).to_contain_text("a part was refused: kept on this device")
    page.keyboard.press("x")
    expect(page.get_by_role("button", name="Got through")).to_have_attribute("aria-pressed", "true")
    read = f"/api/partner-runs/{run_id}/readout"
    until(lambda: [each["grade"] for each in get(page, read)["exchanges"]] == ["struck"])
    assert len(get(page, read)["missing"]) == 1
    page.keyboard.press(" ")
    page.unroute("**/batches")
    page.goto(f"{server.address}/people")
    page.get_by_role("link", name="Some answers were refused").click()
    expect(page.get_by_text("this server knows no covers")).to_be_visible()
    with page.expect_download() as saving:
        page.get_by_role("button", name="Save to a file").click()
    brought = page.get_by_label("File of kept batches")
    brought.set_input_files({"name": "x", "mimeType": "text/plain", "buffer": b"[]"})
    expect(page.get_by_role("alert")).to_contain_text("not a file of kept batches")
    brought.set_input_files(saving.value.path())
    expect(page.get_by_role("status").filter(has_text="1 batch taken")).to_be_visible()
    expect(page.get_by_text("this server knows no covers")).to_have_count(0)
    assert get(page, read)["missing"] == []


def in_a_round(engine: Engine, server: Server, browser: Browser) -> tuple[Page, str]:
    """The mat of a new pair, in its first exchange, and the id of the run."""
    made = make_club(engine)
    _, page = coach_page(browser, server, made)
    run_id = agree(page, server, make_pair(engine, made))
    page.keyboard.press(" ")
    expect(page.get_by_role("button", name="Covered")).to_be_enabled(timeout=10_000)
    return page, run_id


TOO_LARGE = """
(run) => new Promise((done, failed) => {
  const opened = indexedDB.open('hastatus pairs');
  opened.onerror = failed;
  opened.onsuccess = () => {
    const tx = opened.result.transaction(['runs', 'batches'], 'readwrite');
    const runs = tx.objectStore('runs'), batches = tx.objectStore('batches');
    runs.get(run).onsuccess = (event) => {
      const kept = event.target.result, strike = { kind: 'strike', source: 'microphone' };
      const marks = (count) =>
        Array.from({ length: count }, (_, n) => ({ ...strike, at_ms: 9000 + 250 * n }));
      for (const [place, count] of [520, 520].entries()) {
        const number = kept.next + place;
        const batch = { recorder: kept.recorder, number, mark_version: 1, last: false };
        const body = JSON.stringify({ ...batch, marks: marks(count) });
        batches.put({ run, number, body });
      }
      runs.put({ ...kept, next: kept.next + 2 });
    };
    tx.oncomplete = () => { opened.result.close(); done(); };
  };
})
"""
"""Two batches of 520 strikes, as an older page left them on this device."""
