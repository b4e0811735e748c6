"""A pair on the mat: agreed, fed, marked by keys with a microphone beside, read; a head knock."""

from __future__ import annotations

import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect
from sqlalchemy import Engine, text

from hastatus.core.partner.drill import PartnerDrill, PartnerRounds
from hastatus.core.setting import Fixed
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.store import drills, students
from hastatus.store.database import transaction
from tests.browser.club import Made, Server, get, make_club, sign_in
from tests.browser.hearing import MIDI, microphone

pytestmark = pytest.mark.browser

ROUND_S = 14.0


@dataclass
class Pair:
    drill_id: uuid.UUID
    first: uuid.UUID
    second: uuid.UUID

    @property
    def query(self) -> str:
        return f"drill={self.drill_id}&feeder={self.first}&defender={self.second}&rung=1&seed=2"


def make_pair(engine: Engine, made: Made) -> Pair:
    """Two students with gear, and a drill of two short rounds on a quick beat."""
    drill = PARTNER_STARTERS["two-beat counter"]()
    rung = drill.rungs[-1].model_copy(
        update={
            "tempo_bpm": 120.0,
            "goal_bpm": 140.0,
            "pause": Fixed(wait_s=0.5),
            "rounds": PartnerRounds(count=2, duration_s=ROUND_S, rest_s=1),
        }
    )
    short = drill.model_copy(update={"rungs": (rung,), "title": "Two rounds"})
    return two_with_gear(engine, made, short, "Ada Quill", "Bo Tarn")


def two_with_gear(engine: Engine, made: Made, drill: PartnerDrill, one: str, other: str) -> Pair:
    """The drill is kept, and the two may do it."""
    gear = ("gloves", "mouthguard")
    with transaction(engine) as db:
        kept = drills.add(db, made.club_id, drill)
        ids = [
            students.add(db, made.club_id, name=name, stance="left_lead", gear=gear).id
            for name in (one, other)
        ]
        return Pair(kept.id, *ids)


def agree(page: Page, server: Server, pair: Pair) -> str:
    """From the bench to the mat; the id of the run."""
    page.goto(f"{server.address}/build?{pair.query}")
    page.get_by_role("link", name="Run it").click()
    page.get_by_role("heading", name="Agree before contact").wait_for()
    begin = page.get_by_role("button", name="Agreed: to the mat")
    expect(begin).to_be_enabled()
    page.get_by_label("no harder than").select_option("none")
    expect(page.get_by_role("alert")).to_contain_text("comes to touch, agreed is none")
    expect(begin).to_be_disabled()
    page.get_by_label("no harder than").select_option("touch")
    expect(begin).to_be_enabled()
    expect(page.get_by_text("No gear, no touch")).to_be_visible()
    begin.click()
    page.wait_for_url("**/mat")
    page.locator(".mat[data-phase=ready]").wait_for()
    return page.url.split("/")[-2]


def test_a_pair_is_fed_marked_and_read(engine: Engine, server: Server, browser: Browser) -> None:
    made = make_club(engine)
    context, page = sign_in(browser, server, made)
    context.add_init_script(microphone(delay_ms=40))
    pair = make_pair(engine, made)
    run_id = agree(page, server, pair)
    expect(page.get_by_text("Ada Quill").first).to_be_visible()
    page.get_by_role("button", name="Listen for strikes").click()
    expect(page.get_by_role("button", name="Hears strikes")).to_be_visible()
    screen = behind_the_defender(context, server, run_id)
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=round]").wait_for()
    # The feeder's screen says what comes, before it comes, and is big enough for five metres.
    call = screen.locator(".feeder-call span")
    expect(call).to_have_text("lead, rear")
    height = screen.evaluate(
        "document.querySelector('.feeder-call').getBoundingClientRect().height"
    )
    assert height > 0.18 * 1080
    # So does a screen on another device, which hears of it by the server.
    _, elsewhere = sign_in(browser, server, made)
    elsewhere.goto(f"{server.address}/pairs/{run_id}/feeder")
    expect(elsewhere.locator(".feeder[data-phase=round]")).to_be_visible()
    expect(elsewhere.locator(".feeder-call span")).to_have_text("lead, rear")
    elsewhere.context.close()
    countered = page.get_by_role("button", name="Countered")
    expect(countered).to_be_enabled(timeout=10_000)  # the first exchange has begun
    for delay_ms in (20, 190, 360):  # off the beat, wherever it is: a click may hide one
        page.evaluate(f"room.strike(performance.now(), {delay_ms})")
    page.keyboard.press("c")
    expect(countered).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("x")  # a wrong tap, taken back with one key
    expect(countered).to_have_attribute("aria-pressed", "false")
    page.keyboard.press("u")
    expect(countered).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("1")  # the first fault of the drill
    expect(page.get_by_role("button", name="skips the body shot")).to_have_attribute(
        "aria-pressed", "true"
    )
    page.keyboard.press("ArrowUp")
    expect(page.locator(".mat-tempo")).to_contain_text("122")
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=paused]").wait_for()
    expect(screen.get_by_text("Pause")).to_be_visible()
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=rest]").wait_for(timeout=30_000)
    # The roles have changed, and a reload loses nothing.
    page.reload()
    page.locator(".mat[data-phase=ready], .mat[data-phase=rest]").wait_for()
    page.get_by_role("button", name="Begin round 2").click()
    expect(page.locator(".mat-head")).to_contain_text("feeds Bo Tarn")
    struck = page.get_by_role("button", name="Struck")
    expect(struck).to_be_enabled(timeout=10_000)
    page.keyboard.press("x")
    page.get_by_role("button", name="End the round").click()
    page.get_by_role("button", name="Ada Quill: it turned up").click()
    page.get_by_role("button", name="Read it").click()
    page.wait_for_url(f"**/pairs/{run_id}")
    read_it(page, run_id)


def test_a_reload_goes_on_and_what_a_tab_leaves_behind_is_sent(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """One tab marks. The line hangs and its page is closed: the next sheet sends the marks."""
    made = make_club(engine)
    context, page = sign_in(browser, server, made)
    run_id = agree(page, server, make_pair(engine, made))
    tab = context.new_page()
    tab.goto(f"{server.address}/pairs/{run_id}/mat")
    expect(tab.get_by_role("alert")).to_contain_text("open in another tab")
    page.bring_to_front()
    page.keyboard.press(" ")
    struck, covered = (page.get_by_role("button", name=name) for name in ("Struck", "Covered"))
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
    expect(page.get_by_role("button", name="Struck")).to_have_attribute("aria-pressed", "true")
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
    made = make_club(engine)
    _, page = sign_in(browser, server, made)
    run_id = agree(page, server, make_pair(engine, made))
    page.keyboard.press(" ")
    covered = page.get_by_role("button", name="Covered")
    expect(covered).to_be_enabled(timeout=10_000)
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


def until(met: Callable[[], bool], within_s: float = 10.0) -> None:
    """Wait until something is so."""
    deadline = time.monotonic() + within_s
    while not met():
        assert time.monotonic() < deadline
        time.sleep(0.2)


def behind_the_defender(context: BrowserContext, server: Server, run_id: str) -> Page:
    screen = context.new_page()
    screen.set_viewport_size({"width": 1920, "height": 1080})
    screen.goto(f"{server.address}/pairs/{run_id}/feeder")
    screen.locator(".feeder[data-phase=ready]").wait_for()
    return screen


def read_it(page: Page, run_id: str) -> None:
    """What is read is what was tapped, heard and set."""
    expect(page.get_by_text("clean: 1 of 2 exchanges")).to_be_visible()
    expect(page.get_by_text("skips the body shot")).to_be_visible()
    expect(page.get_by_text("2 exchanges are too few to say", exact=False)).to_be_visible()
    read: Any = get(page, f"/api/partner-runs/{run_id}/readout")
    told = [(each["round"], each["grade"], each["defender"]) for each in read["exchanges"]]
    assert told == [(1, "countered", 1), (2, "struck", 0)]
    assert read["exchanges"][0]["faults"] == ["skips the body shot"]
    heard = read["exchanges"][0]["hits"]
    assert {(each["kind"], each["partner"]) for each in heard} == {("strike", None)}
    assert read["carried_over"] == [0]
    assert read["missing"] == []
    assert read["run"]["state"] == "closed"


def test_a_head_knock_stops_everything(engine: Engine, server: Server, browser: Browser) -> None:
    """Off at once; held until a medical clearance is written down (C26, from memory)."""
    made = make_club(engine)
    _, page = sign_in(browser, server, made)
    pair = make_pair(engine, made)
    agree(page, server, pair)
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=round]").wait_for()
    page.get_by_role("button", name="Head knock: Ada Quill").click()
    page.get_by_role("button", name="Pressed by mistake").click()  # all is as it was, but paused
    page.locator(".mat[data-phase=paused]").wait_for()
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=round]").wait_for()
    page.get_by_role("button", name="Head knock: Bo Tarn").click()
    expect(page.get_by_role("heading", name="Stop. Off the floor.")).to_be_visible()
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=knocked]").wait_for()
    page.wait_for_timeout(800)  # the mark is sent a moment later
    page.goto(f"{server.address}/pair?{pair.query}")
    expect(page.get_by_role("alert")).to_contain_text("Bo Tarn had a head knock")
    expect(page.get_by_role("alert")).not_to_contain_text("Ada Quill")
    expect(page.get_by_role("button", name="Agreed: to the mat")).to_be_disabled()
    page.goto(f"{server.address}/people/{pair.second}")
    expect(page.get_by_text("On hold since a head knock")).to_be_visible()
    page.get_by_label("medical clearance").fill("Dr. Amsel, on paper, 2 December")
    page.get_by_role("button", name="Write it down").click()
    expect(page.get_by_text("On hold since a head knock")).to_have_count(0)
    expect(page.get_by_text("Nothing with a partner on the day")).to_be_visible()
    page.goto(f"{server.address}/pair?{pair.query}")
    expect(page.get_by_role("alert")).to_contain_text("also with a clearance")
    expect(page.get_by_label("defends first")).to_contain_text("off the floor until")
    page.goto(f"{server.address}/log")
    expect(page.get_by_role("table", name="Head knocks")).to_contain_text("Dr. Amsel")
    for where in ("run", "people"):  # wherever students are listed
        page.goto(f"{server.address}/{where}")
        expect(page.get_by_text("head knock: off the floor until")).to_have_count(1)
    with engine.begin() as connection:
        connection.execute(text("UPDATE head_knocks SET at = at - interval '25 hours'"))
    page.goto(f"{server.address}/pair?{pair.query}")
    expect(page.get_by_role("button", name="Agreed: to the mat")).to_be_enabled()


def make_turn_about(engine: Engine, made: Made) -> Pair:
    """A drill that goes round for ever, one short round of it."""
    drill = PARTNER_STARTERS["turn about"]()
    rounds = PartnerRounds(count=1, duration_s=ROUND_S, rest_s=0)
    rung = drill.rungs[0].model_copy(update={"rounds": rounds})
    short = drill.model_copy(update={"rungs": (rung,), "title": "One round about"})
    return two_with_gear(engine, made, short, "Cy Holm", "Dee Marsh")


def learn(page: Page, place: str, note: int) -> None:
    """Choose a place, then hit the pad that stands there."""
    page.get_by_role("button", name=place).click()
    expect(page.get_by_role("button", name=f"{place} hit it")).to_be_visible()
    page.evaluate(f"pads.hit({note})")
    expect(page.get_by_role("button", name=f"{place} note {note}")).to_be_visible()


def test_pads_tell_whose_strike_it_was_and_a_loop_is_marked_turn_by_turn(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = sign_in(browser, server, made)
    context.add_init_script(MIDI)
    pair = make_turn_about(engine, made)
    page.goto(f"{server.address}/pair?{pair.query}")
    expect(page.get_by_label("Who brings what")).to_contain_text("wears gloves, mouthguard")
    page.get_by_role("button", name="Agreed: to the mat").click()
    page.wait_for_url("**/mat")
    run_id = page.url.split("/")[-2]
    page.get_by_role("button", name="Listen to MIDI pads").click()
    learn(page, "on or held by Cy Holm", 36)
    learn(page, "on or held by Dee Marsh", 38)
    learn(page, "home pad of Cy Holm", 40)
    page.get_by_role("button", name="louder").click()
    expect(page.get_by_role("group", name="Loudness")).to_contain_text("30 %")
    page.keyboard.press(" ")
    covered = page.get_by_role("button", name="Covered")
    expect(covered).to_be_enabled(timeout=10_000)
    page.evaluate("pads.hit(40)")  # Cy's hand leaves home ...
    page.evaluate("pads.hit(38)")  # ... and lands on Dee
    head = page.locator(".mat-head")
    expect(head).to_contain_text("feeds Cy Holm")
    page.wait_for_timeout(500)
    page.keyboard.press("v")
    expect(head).to_contain_text("feeds Dee Marsh")  # the score has changed the roles over
    page.wait_for_timeout(500)
    page.evaluate("pads.hit(36)")
    page.keyboard.press("x")
    page.get_by_role("button", name="End the round").click()
    page.get_by_role("button", name="Read it").click()
    page.wait_for_url(f"**/pairs/{run_id}")
    read: Any = get(page, f"/api/partner-runs/{run_id}/readout")
    told = [(each["number"], each["grade"], each["defender"]) for each in read["exchanges"]]
    assert told == [(1, "covered", 1), (2, "struck", 0)]
    hits = [[(each["kind"], each["partner"]) for each in one["hits"]] for one in read["exchanges"]]
    assert ("set_off", 0) in hits[0]
    assert ("strike", 0) in hits[0]
    assert ("strike", 1) in hits[1]
    page.goto(f"{server.address}/people/{pair.second}")
    partner = page.get_by_role("region", name="With a partner")
    expect(partner).to_contain_text("1 of 1")
    expect(partner.get_by_role("img", name="Kept out as defender in 1 run")).to_be_visible()
    page.goto(f"{server.address}/log")
    expect(page.get_by_text("Cy Holm and Dee Marsh")).to_be_visible()
