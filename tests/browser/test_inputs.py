"""Whole rounds by microphone, by MIDI pads and by the pad kit, and what goes wrong with them."""

from __future__ import annotations

from collections.abc import Iterator
from statistics import median
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Response, expect
from sqlalchemy import Engine

from tests.harness.answering import Answerer, begin
from tests.harness.capture import STREAMS, tracks
from tests.harness.club import Made, Server, coach_page, get, make_club, short_drill
from tests.harness.hearing import DELAY_MS, HIT_BACK, MIDI, STRIKE_BACK, microphone

DELAYS = {"low_knock": 340.0, "bell": 410.0, "lead_light": 370.0, "rear_light": 450.0}
NOTES = {"low_knock": 36, "bell": 37, "lead_light": 38, "rear_light": 39}
PLACES = {"left, upper": 36, "right, upper": 37, "left, second": 38, "right, second": 39}
"""Where the drill has its answers, for a student whose left hand leads."""


@pytest.fixture
def made(engine: Engine) -> Made:
    return make_club(engine, short_drill(9.0))


@pytest.fixture
def context(browser: Browser) -> Iterator[BrowserContext]:
    context = browser.new_context(viewport={"width": 1280, "height": 800})
    yield context
    context.close()


def choose(page: Page, server: Server, made: Made, *inputs: str) -> str:
    """From Run to a floor that listens to these inputs only; the run's id."""
    page.goto(f"{server.address}/run?student={made.student_id}&seed=128")
    for name in inputs:
        page.get_by_role("button", name=name, exact=True).click()
    for name in ("keys", "touch screen"):
        page.get_by_role("button", name=name, exact=True).click()
    page.get_by_role("button", name="Start", exact=True).click()
    page.wait_for_url("**/floor")
    page.locator("[data-phase=ready]").wait_for()
    return page.url.split("/")[-2]


def readout(page: Page, run: str) -> Any:
    return get(page, f"/api/runs/{run}/readout")


def answered(found: Any) -> list[dict[str, Any]]:
    return [each for each in found["responses"] if each["time_ms"] is not None]


@pytest.mark.alone
def test_a_device_is_measured_and_a_round_is_run_by_microphone(
    browser: Browser, server: Server, made: Made, context: BrowserContext
) -> None:
    context.add_init_script(microphone())
    context.add_init_script(STREAMS)
    page = coach_page(browser, server, made, context)[1]
    page.goto(f"{server.address}/device")
    page.get_by_role("button", name="Measure the sound").click()
    known = page.get_by_text("ms out and in")
    known.wait_for(timeout=30_000)
    way_ms = float((known.text_content() or "").split(" ms")[0])
    assert DELAY_MS <= way_ms < DELAY_MS + 60  # the stream's own hop is in it
    run = choose(page, server, made, "microphone")
    student = Answerer(page, lambda cue: None)
    page.evaluate(STRIKE_BACK, DELAYS)
    begin(page)
    assert tracks(page) == ["live"]
    student.until({"done"}, seconds=90)
    assert tracks(page) == ["ended"], "nobody is heard any more once the run is over"
    found = readout(page, run)
    assert found["device"]["calibrated"]
    asked = [each for each in found["responses"] if each["asked_technique"]]
    assert len(asked) >= 3  # as many as the seed gives at least
    off = [each["time_ms"] - DELAYS[each["cue"]] for each in answered(found)]
    # The cues' own sound is in the microphone all the time, and is no answer.
    assert len(off) >= len(asked) - 1
    sounds = [
        each["time_ms"] - DELAYS[each["cue"]]
        for each in answered(found)
        if each["channel"] == "hear"
    ]
    assert abs(median(sounds or off)) < 15
    assert {each["outcome"] for each in answered(found)} == {"clean"}
    assert {each["timed_with"] for each in answered(found)} == {"microphone"}
    assert found["spread_ms"] < 30
    page.goto(f"{server.address}/read/{run}")
    expect(page.get_by_text("strike heard")).to_be_visible()


def strike_a_key(page: Page, server: Server) -> Response | None:
    """Measure the sound, then strike a key thirteen times and keep it; None: one was not heard."""
    page.goto(f"{server.address}/device")
    with page.expect_response("**/loopback"):
        page.get_by_role("button", name="Measure the sound").click()
    page.get_by_text("ms out and in").wait_for(timeout=30_000)
    page.get_by_role("button", name="Begin to strike").click()
    page.get_by_role("status").wait_for()
    page.wait_for_timeout(800)
    # The key tells of each strike 20 ms after it was made.
    page.evaluate("addEventListener('keydown', (event) => room.strike(event.timeStamp, -20))")
    for _ in range(13):
        page.keyboard.press("KeyF")
        page.wait_for_timeout(400)
    page.wait_for_timeout(1000)
    if "13 felt · 13 heard" not in (page.get_by_role("status").text_content() or ""):
        return None
    with page.expect_response("**/strikes") as answered:
        page.get_by_role("button", name="Save", exact=True).click()
    return answered.value


@pytest.mark.alone
def test_a_key_is_measured_against_what_is_heard_of_it(
    browser: Browser, server: Server, made: Made, context: BrowserContext
) -> None:
    """Where the strikes differ too much the page says to try again, and so somebody would."""
    # A long way, so that a strike can be put in before the page knows of its key, even when the
    # machine stands still for a quarter of a second meanwhile.
    context.add_init_script(microphone(delay_ms=280))
    page = coach_page(browser, server, made, context)[1]
    page.goto(f"{server.address}/device")
    page.get_by_role("button", name="Listen to strikes").click()
    expect(page.get_by_text("measure 1 first")).to_be_visible()
    for _ in range(4):
        answered = strike_a_key(page, server)
        if answered is not None and answered.ok:
            break
        assert answered is None or "Try again" in answered.json()["detail"], answered.text()
    assert answered is not None
    assert answered.ok, answered.text()
    key = next(one for one in answered.json()["inputs"] if one["source"] == "key")
    assert key["ms"] == pytest.approx(20, abs=6)
    assert key["spread_ms"] < 15
    expect(page.get_by_text("taken off").first).to_be_visible()


@pytest.mark.parametrize(
    ("refused", "says"),
    [("NotAllowedError", "was not allowed"), ("NotFoundError", "No microphone was found")],
)
def test_without_a_microphone_it_says_so_and_tries_again(
    browser: Browser, server: Server, made: Made, context: BrowserContext, refused: str, says: str
) -> None:
    context.add_init_script(microphone())
    context.add_init_script(f"window.refused = '{refused}'")
    page = coach_page(browser, server, made, context)[1]
    page.goto(f"{server.address}/device")
    page.get_by_role("button", name="Measure the sound").click()
    expect(page.get_by_role("alert")).to_contain_text(says)
    choose(page, server, made, "microphone")
    expect(page.get_by_role("alert")).to_contain_text(says)
    page.evaluate("window.refused = null")
    page.get_by_role("button", name="Try again").click()
    expect(page.get_by_role("alert")).to_have_count(0)


def test_a_noisy_room_is_refused_with_what_to_do(
    browser: Browser, server: Server, made: Made, context: BrowserContext
) -> None:
    context.add_init_script(microphone(leak=0.0))
    page = coach_page(browser, server, made, context)[1]
    page.goto(f"{server.address}/device")
    page.get_by_role("button", name="Measure the sound").click()
    expect(page.get_by_role("alert")).to_contain_text("Make it louder", timeout=30_000)


@pytest.mark.alone
def test_pads_are_learned_and_a_round_outlasts_their_being_unplugged(
    browser: Browser, server: Server, made: Made, context: BrowserContext
) -> None:
    context.add_init_script(MIDI)
    page = coach_page(browser, server, made, context)[1]
    page.goto(f"{server.address}/device")
    page.get_by_role("button", name="Look for pads").click()
    for place, note in PLACES.items():
        page.get_by_role("button", name=place).click()
        expect(page.get_by_role("button", name=place)).to_contain_text("hit it")
        page.evaluate("note => pads.hit(note)", note)
        expect(page.get_by_role("button", name=place)).to_contain_text(f"note {note}")
    page.get_by_role("button", name="left, third").click()
    page.evaluate("pads.hit(36)")
    expect(page.get_by_role("alert")).to_contain_text("two pads send note 36")
    run = choose(page, server, made, "MIDI pads")
    student = Answerer(page, lambda cue: None)
    page.evaluate(HIT_BACK, NOTES)
    begin(page)
    student.until({"round"})
    page.evaluate("pads.unplug()")
    student.until({"paused"})
    expect(page.get_by_role("alert")).to_contain_text("Plug them in again")
    page.evaluate("pads.plugIn()")
    expect(page.get_by_role("alert")).to_have_count(0)
    page.get_by_role("button", name="Resume").click()
    student.until({"done"}, seconds=90)
    found = answered(readout(page, run))
    assert len(found) >= 3
    assert {each["outcome"] for each in found} == {"clean"}
    assert all(300 < each["time_ms"] < 420 for each in found)
    assert {each["timed_with"] for each in found} == {"midi"}


@pytest.mark.alone
def test_the_simulated_kit_plays_a_round_and_says_nothing_of_the_student(
    browser: Browser, server: Server, engine: Engine, context: BrowserContext
) -> None:
    made = make_club(engine, short_drill(14.0))
    page = coach_page(browser, server, made, context)[1]
    run = choose(page, server, made, "demo pads")
    begin(page)
    Answerer(page, lambda cue: None).until({"done"}, seconds=120)
    found = readout(page, run)
    given = answered(found)
    assert len(given) >= 3
    assert {each["timed_with"] for each in given} == {"pad"}
    # An ex-Gaussian of mean 530 ms, by a clock that is 80 ms off: uncorrected it would show.
    assert 400 < median(each["time_ms"] for each in given) < 700
    assert get(page, f"/api/students/{made.student_id}")["student"]["last"] is None  # type: ignore[index]
    page.goto(f"{server.address}/read/{run}")
    expect(page.get_by_text("simulated hits, not the student")).to_be_visible()


@pytest.mark.alone
def test_a_flood_of_hits_is_held_off_and_told(
    browser: Browser, server: Server, made: Made, context: BrowserContext
) -> None:
    context.add_init_script(MIDI)
    page = coach_page(browser, server, made, context)[1]
    run = choose(page, server, made, "MIDI pads")
    student = Answerer(page, lambda cue: None)
    begin(page)
    student.until({"round"})
    page.evaluate("for (let i = 0; i < 10_000; i++) pads.hit(36)")
    expect(page.get_by_text("an input has a fault")).to_be_visible()
    page.wait_for_timeout(1500)
    page.evaluate("pads.hit(36)")
    expect(page.get_by_text("an input has a fault")).to_have_count(0)
    student.until({"done"}, seconds=90)
    found = readout(page, run)
    assert found["strays"] < 100
    assert found["run"]["state"] == "complete"


FROM_HOME = """
(keys) => {
  const send = (type, code, after_ms) =>
    setTimeout(() => dispatchEvent(new KeyboardEvent(type, { code })), after_ms);
  send('keydown', 'KeyG', 0);
  addEventListener('hastatus:shown', ({ detail }) => {
    const key = keys[detail.cue];
    if (!key) return;
    send('keyup', 'KeyG', 260);
    send('keydown', key, 390);
    send('keydown', 'KeyG', 620);
  });
}
"""
CLICKER = """
(() => {
  const button = { pressed: false };
  navigator.getGamepads = () => [{ buttons: [button], timestamp: 0 }];
  window.click = () => {
    button.pressed = true;
    setTimeout(() => { button.pressed = false }, 80);
  };
})();
"""
CLICK_AND_TAP = """
(clicked) => addEventListener('hastatus:shown', ({ detail }) => {
  if (detail.cue === 'hold_light') return;
  const tap = () => dispatchEvent(new KeyboardEvent('keydown', { code: 'KeyT' }));
  setTimeout(clicked.includes(detail.cue) ? window.click : tap, 350);
})
"""


@pytest.mark.alone
def test_a_round_from_a_home_key_times_reaction_hit_and_return(
    browser: Browser, server: Server, made: Made, context: BrowserContext
) -> None:
    page = coach_page(browser, server, made, context)[1]
    page.goto(f"{server.address}/run?student={made.student_id}&seed=128")
    page.get_by_role("button", name="hold a home key").click()
    page.get_by_role("button", name="Start", exact=True).click()
    page.wait_for_url("**/floor")
    page.locator("[data-phase=ready]").wait_for()
    expect(page.get_by_text("Home: hold G")).to_be_visible()
    run = page.url.split("/")[-2]
    student = Answerer(page, lambda cue: None)
    page.evaluate(FROM_HOME, {"low_knock": "KeyR", "bell": "KeyU", "lead_light": "KeyF",
                              "rear_light": "KeyJ"})  # fmt: skip
    begin(page)
    student.until({"done"}, seconds=90)
    found = answered(readout(page, run))
    assert len(found) >= 3
    assert {each["outcome"] for each in found} == {"clean"}
    assert median(each["reaction_ms"] for each in found) == pytest.approx(260, abs=40)
    assert median(each["time_ms"] for each in found) == pytest.approx(390, abs=40)
    assert median(each["home_ms"] for each in found) == pytest.approx(620, abs=40)
    page.goto(f"{server.address}/read/{run}")
    expect(page.get_by_text("Home left for")).to_be_visible()


@pytest.mark.alone
def test_clicker_and_coachs_tap_give_times_and_nothing_is_called_wrong(
    browser: Browser, server: Server, made: Made, context: BrowserContext
) -> None:
    context.add_init_script(CLICKER)
    page = coach_page(browser, server, made, context)[1]
    run = choose(page, server, made, "clicker or gamepad", "coach's tap")
    student = Answerer(page, lambda cue: None)
    page.evaluate(CLICK_AND_TAP, ["lead_light", "rear_light"])
    begin(page)
    student.until({"done"}, seconds=90)
    found = readout(page, run)
    given = answered(found)
    assert {each["timed_with"] for each in given} == {"clicker", "coach"}
    assert {each["outcome"] for each in given} == {"clean"}
    assert found["spread_ms"] >= 120  # the coach reacts, too, and it is said
