"""A pair on the mat: agreed, fed, marked by keys with a microphone beside, read; a head knock."""

from __future__ import annotations

from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect
from sqlalchemy import Engine, text

from hastatus.core.drill.partner import PartnerRounds
from hastatus.core.sound import signal_code
from hastatus.core.starter.partner import PARTNER_STARTERS
from tests.harness.club import Made, Server, coach_page, get, make_club
from tests.harness.hearing import MIDI, microphone
from tests.harness.pair import ROUND_S, Pair, agree, make_pair, two_with_gear

pytestmark = pytest.mark.browser


def test_a_pair_is_fed_marked_and_read(engine: Engine, server: Server, browser: Browser) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    context.add_init_script(microphone(delay_ms=40))
    pair = make_pair(engine, made)
    run_id = agree(page, server, pair)
    expect(page.get_by_text("Ada Quill").first).to_be_visible()
    page.get_by_role("button", name="Listen for strikes").click()
    expect(page.get_by_role("button", name="Hears strikes")).to_be_visible()
    screen = behind_the_defender(context, server, run_id)
    _, elsewhere = coach_page(browser, server, made)
    elsewhere.goto(f"{server.address}/pairs/{run_id}/feeder")
    elsewhere.locator(".feeder").wait_for()
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
    struck = page.get_by_role("button", name="Got through")
    expect(struck).to_be_enabled(timeout=10_000)
    page.keyboard.press("x")
    page.get_by_role("button", name="End the round").click()
    a_free_round(page)
    page.get_by_role("button", name="See results").click()
    page.wait_for_url(f"**/pairs/{run_id}")
    read_it(page, run_id)


# Every sound that is started: how long it is, and when it is heard on the page's clock.
HEARD = """() => {
  const { start } = AudioBufferSourceNode.prototype
  window.heard = []
  AudioBufferSourceNode.prototype.start = function (at_s = 0) {
    const { contextTime, performanceTime } = this.context.getOutputTimestamp()
    const t_ms = performanceTime + 1000 * (at_s - contextTime)
    window.heard.push({ length_s: this.buffer.duration, t_ms: performance.timeOrigin + t_ms })
    return start.call(this, at_s)
  }
}"""


def test_a_round_begins_and_ends_with_a_signal_where_its_marks_say(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """A film of the round is lined up by them."""
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    context.add_init_script(f"({HEARD})()")
    run_id = agree(page, server, make_pair(engine, made))
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=round]").wait_for()
    page.wait_for_timeout(1500)
    page.get_by_role("button", name="End the round").click()
    page.wait_for_timeout(1500)
    view: Any = get(page, f"/api/partner-runs/{run_id}")
    assert len({one for pair in view["signals"] for one in pair.values()}) == 2 * len(
        view["signals"]
    )
    began_ms = page.evaluate(
        """async (run) => {
        const opened = indexedDB.open('hastatus pairs')
        const db = await new Promise((done) => (opened.onsuccess = () => done(opened.result)))
        const asked = db.transaction('runs').objectStore('runs').get(run)
        return (await new Promise((done) => (asked.onsuccess = () => done(asked.result)))).began_ms
    }""",
        run_id,
    )
    with engine.connect() as db:
        rows = db.execute(
            text("SELECT body FROM mark_batches WHERE run_id = :run ORDER BY number"),
            {"run": run_id},
        ).scalars()
        marks = [mark for body in rows for mark in body["marks"]]
    asked = [
        began_ms + mark["at_ms"] + 1000 * view["signal_after_s"]
        for mark in marks
        if mark["kind"] in ("round_begun", "round_over")
    ]
    heard = [
        one["t_ms"]
        for one in page.evaluate("window.heard")
        if one["length_s"] == pytest.approx(signal_code.LENGTH_S, abs=1e-3)
    ]
    assert heard == pytest.approx(asked, abs=10)
    context.close()


def a_free_round(page: Page) -> None:
    """Nothing is fed; chances of one answer are tapped, one too many, over a reload."""
    page.get_by_role("button", name="Free round, ").click()
    page.get_by_role("heading", name="Free round").wait_for()
    page.get_by_role("button", name="body straight").click()
    turned_up = page.get_by_role("button", name="Ada Quill: used")
    turned_up.click()
    page.get_by_role("button", name="Ada Quill: a chance missed").click()
    turned_up.click()
    expect(turned_up).to_contain_text("2")
    page.get_by_role("button", name="Take the last tap back").click()
    expect(turned_up).to_contain_text("1")
    page.get_by_role("button", name="End the free round").click()
    page.reload()
    page.get_by_role("button", name="body straight").click()
    expect(turned_up).to_contain_text("1")


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
    expect(page.get_by_text("1 exchange is too few to tell", exact=False)).to_have_count(2)
    read: Any = get(page, f"/api/partner-runs/{run_id}/readout")
    told = [(each["round"], each["grade"], each["defender"]) for each in read["exchanges"]]
    assert told == [(1, "countered", 1), (2, "struck", 0)]
    assert read["exchanges"][0]["faults"] == ["skips the body shot"]
    heard = read["exchanges"][0]["hits"]
    assert {(each["kind"], each["partner"]) for each in heard} == {("strike", None)}
    (body_shot,), nobody = read["carry_over"]
    assert (body_shot["name"], body_shot["used"], body_shot["of"]) == ("body straight", 1, 2)
    assert nobody == []
    assert read["free_s"] > 0
    assert read["missing"] == []
    assert read["run"]["state"] == "closed"


def test_beginners_without_gear_touch_and_get_away(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """Nothing worn, a touch agreed: the drill opens as it is; gear and room are set at the door."""
    made = make_club(engine)
    drill = PARTNER_STARTERS["touch and away"]()
    rung = drill.rungs[0].model_copy(update={"rounds": PartnerRounds(count=1, duration_s=20)})
    short = drill.model_copy(update={"rungs": (rung,), "title": "First touches"})
    pair = two_with_gear(engine, made, short, "Nell Tarry", "Bo Tarn", gear=())
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/pair?{pair.query}")
    tonight = page.get_by_role("region", name="Tonight")
    expect(tonight).to_have_text("This rung comes to: touch")
    expect(page.get_by_text("Bare hands: slow.")).to_be_visible()
    room = page.get_by_label("No touch tonight, in the whole room")
    room.check()
    expect(tonight).to_contain_text("no contact tonight; the drill has touch.")
    expect(tonight).to_contain_text("no touch tonight, in the whole room")
    room.uncheck()
    expect(tonight).to_have_text("This rung comes to: touch")
    page.get_by_role("button", name="Agree and start").click()
    page.locator(".mat[data-phase=ready]").wait_for()
    expect(page.get_by_role("note", name="Cautions")).to_contain_text("Bare hands: slow.")
    run = page.url.split("/")[-2]
    page.keyboard.press(" ")
    landed = page.get_by_role("button", name="Countered")
    expect(landed).to_be_enabled(timeout=15_000)
    page.keyboard.press("c")
    page.get_by_role("button", name="End the round").click()
    page.get_by_role("button", name="See results").click()
    page.get_by_text("clean:").wait_for()
    kept: Any = get(page, f"/api/partner-runs/{run}")
    assert kept["agreement"]["worn"] == [[], []]
    assert (kept["agreement"]["comes_to"], kept["agreement"]["lowered"]) == ("touch", [])
    context.close()


def test_a_head_knock_stops_everything(engine: Engine, server: Server, browser: Browser) -> None:
    """Off at once; held until a medical clearance is written down (C26, from memory)."""
    made = make_club(engine)
    _, page = coach_page(browser, server, made)
    pair = make_pair(engine, made)
    agree(page, server, pair)
    page.keyboard.press(" ")
    page.locator(".mat[data-phase=round]").wait_for()
    page.get_by_role("button", name="Head knock: Ada Quill").click()
    page.get_by_role("button", name="Undo", exact=True).click()  # all is as it was, but paused
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
    expect(page.get_by_role("button", name="Agree and start")).to_be_disabled()
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
    expect(page.get_by_role("button", name="Agree and start")).to_be_enabled()


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
    context, page = coach_page(browser, server, made)
    context.add_init_script(MIDI)
    pair = make_turn_about(engine, made)
    page.goto(f"{server.address}/pair?{pair.query}")
    gear = page.get_by_label("Gear check").get_by_role("region", name="Cy Holm")
    expect(gear.get_by_label("gloves")).to_be_checked()
    page.get_by_role("button", name="Agree and start").click()
    page.wait_for_url("**/mat")
    run_id = page.url.split("/")[-2]
    page.get_by_role("button", name="Listen to MIDI pads").click()
    learn(page, "on or held by Cy Holm", 36)
    learn(page, "on or held by Dee Marsh", 38)
    learn(page, "home pad of Cy Holm", 40)
    page.get_by_role("button", name="louder").click()
    expect(page.get_by_role("group", name="Volume")).to_contain_text("30 %")
    page.keyboard.press(" ")
    covered = page.get_by_role("button", name="Covered")
    expect(covered).to_be_enabled(timeout=10_000)
    page.evaluate("pads.hit(40)")  # Cy's hand leaves home ...
    page.evaluate("pads.hit(38)")  # ... and lands on Dee
    head = page.locator(".mat-head")
    expect(head).to_contain_text("feeds Cy Holm")
    page.wait_for_timeout(500)
    page.keyboard.press("v")
    expect(head).to_contain_text("feeds Dee Marsh")  # the drill has changed the roles over
    page.wait_for_timeout(500)
    page.evaluate("pads.hit(36)")
    page.keyboard.press("x")
    page.get_by_role("button", name="End the round").click()
    page.get_by_role("button", name="See results").click()
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
    expect(partner.get_by_role("group", name="Kept out as defender in 1 run")).to_be_visible()
    page.goto(f"{server.address}/log")
    expect(page.get_by_text("Cy Holm and Dee Marsh")).to_be_visible()
