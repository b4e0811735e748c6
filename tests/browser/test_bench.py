"""Building a drill from empty to running: by the keyboard alone, and with the mouse."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from tests.harness.answering import begin
from tests.harness.club import (
    RENDERED_MS,
    Server,
    coach_page,
    drill_ids,
    get,
    make_club,
    to_the_floor,
)
from tests.harness.keyboard import choose_technique, pick, retype, tab_to

pytestmark = pytest.mark.browser


def newest(page: Page, title: str) -> dict[str, object]:
    return get(page, f"/api/drills/{drill_ids(page)[title]}")  # type: ignore[return-value]


def test_a_drill_is_built_and_run_with_the_keyboard_only(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/build")
    page.get_by_role("heading", name="Library").wait_for()
    tab_to(page, "New drill")
    page.keyboard.press("Enter")
    page.wait_for_url("**/build?drill=*")
    page.locator("svg[aria-label^='Round 1']").wait_for()
    tab_to(page, "Title of the drill")
    retype(page, "Two lights")

    tab_to(page, "Play")
    page.keyboard.press("c")
    # A second cue, open, with the focus on it.
    page.locator("button[id^=cue-][aria-expanded=true]:focus").wait_for()
    tab_to(page, "cue")
    pick(page, "a flash")
    tab_to(page, "where")
    pick(page, "rear half")
    tab_to(page, "side")
    pick(page, "rear")
    tab_to(page, "technique")
    page.keyboard.press("Enter")
    page.keyboard.type("straight")
    page.keyboard.press("Enter")
    page.locator("button[aria-haspopup=dialog]:focus").wait_for()  # back where it was opened
    expect(
        page.get_by_role("button", name="see triangle, rear side → rear straight")
    ).to_be_visible()

    tab_to(page, "Rounds")
    page.keyboard.press("Enter")
    tab_to(page, "rounds")
    retype(page, "1")
    tab_to(page, "length")
    retype(page, "20")
    tab_to(page, "Play")
    page.keyboard.press("r")  # a second rung, a step harder
    expect(page.get_by_role("button", name="2 slow, quicker")).to_have_attribute(
        "aria-pressed", "true"
    )
    page.keyboard.press("1")
    before = page.locator("path[data-cue]").first.get_attribute("d")
    page.keyboard.press("n")
    page.wait_for_function(
        "before => document.querySelector('path[data-cue]').getAttribute('d') !== before",
        arg=before,
    )
    page.keyboard.press("Control+s")
    page.get_by_text("· version 1").wait_for()
    tab_to(page, "Run it")
    page.keyboard.press("Enter")
    page.get_by_role("heading", name="Two lights").wait_for()
    tab_to(page, "Pim Halloran")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Start", exact=True).wait_for()
    tab_to(page, "Start")
    page.keyboard.press("Enter")
    page.locator("[data-phase=ready]").wait_for()
    page.keyboard.press("Enter")  # Begin has the focus
    page.locator("[data-phase=rehearsal]").wait_for()
    page.keyboard.press("Enter")
    page.locator("[data-phase=round]").wait_for(timeout=10_000)

    kept = newest(page, "Two lights")["document"]
    assert [cue["stimulus"]["kind"] for cue in kept["cues"]] == ["sound", "light"]  # type: ignore[index]
    rung = kept["rungs"][0]  # type: ignore[index]
    assert (rung["rounds"]["count"], rung["rounds"]["duration_s"]) == (1, 20)
    context.close()


def test_a_drill_is_built_and_run_with_the_mouse(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/build")
    page.get_by_role("button", name="New drill").click()
    page.get_by_label("Title of the drill").fill("Slip and hit")
    page.get_by_role("button", name="hear low knock →").click()
    page.get_by_label("cue", exact=True).select_option("a spoken call")
    page.get_by_label("words").fill("in")
    choose_technique(page, "it stands for", "straight")
    choose_technique(page, "technique", "slip")
    expect(page.get_by_text("Usual: the head leaves the line")).to_be_visible()
    page.get_by_role("button", name="Then a further step").click()
    expect(page.get_by_text("timed by the counter")).to_be_visible()
    # A hook instead: the slip is named where it stands, and the mend is one press.
    choose_technique(page, "it stands for", "hook")
    page.get_by_role("list", name="Faults").get_by_text("a slip moves into a hook").wait_for()
    page.get_by_role("button", name="ask for roll under").click()
    page.get_by_role("list", name="Faults").get_by_text("slip moves").wait_for(state="detached")
    page.get_by_role("button", name="Order").click()
    page.get_by_role("button", name="Rounds").click()
    page.get_by_label("end", exact=True).select_option("by count")
    page.get_by_label("cues", exact=True).fill("4")
    page.get_by_label("walk-through first").uncheck()
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_text("· version 1").wait_for()
    page.get_by_role("link", name="Run it").click()
    page.get_by_role("button", name="Pim Halloran").click()
    page.get_by_role("button", name="Start", exact=True).click()
    page.locator("[data-phase=ready]").wait_for()
    begin(page)
    page.locator("[data-phase=round]").wait_for(timeout=10_000)
    context.close()


def test_edits_survive_a_reload_and_another_coach(
    engine: Engine, server: Server, browser: Browser, tmp_path: Path
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    bench = f"{server.address}/build?drill={made.drill_id}"
    page.goto(bench)
    title = page.get_by_label("Title of the drill")
    title.fill("Mine")
    page.get_by_role("button", name="Don't-react cues").click()
    page.get_by_label("don’t-react cues").fill("20")
    expect(page.get_by_role("button", name="Don't-react cues")).to_contain_text("20 %")
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="Don't-react cues")).to_contain_text("10 %")
    page.get_by_role("button", name="Redo").click()
    expect(page.get_by_role("button", name="Don't-react cues")).to_contain_text("20 %")
    page.reload()
    expect(title).to_have_value("Mine")
    expect(page.get_by_role("button", name="Don't-react cues")).to_contain_text("20 %")

    other_context, other = coach_page(browser, server, made)
    other.goto(bench)
    other.get_by_label("Title of the drill").fill("Theirs")
    other.keyboard.press("Control+s")
    other.get_by_text("· version 3").wait_for()
    page.keyboard.press("Control+s")
    page.get_by_text("Version 3 was saved meanwhile").wait_for()
    assert newest(page, "Theirs")["version"] == 3
    page.get_by_role("button", name="Save mine as version 4").click()
    page.get_by_text("· version 4").wait_for()
    assert newest(page, "Mine")["version"] == 4

    page.get_by_role("button", name="Export").click()
    with page.expect_download() as waiting:
        page.get_by_role("link", name="Drill file (JSON)").click()
    file = tmp_path / "drill.json"
    waiting.value.save_as(file)
    with page.expect_download(timeout=RENDERED_MS) as waiting:
        page.get_by_role("button", name="Cue track (WAV)").click()
    assert waiting.value.suggested_filename == "mine.wav"
    expect(page.get_by_text(re.compile(r"^saved, .* MB$"))).to_be_visible()
    document = json.loads(file.read_text())
    document["drill"]["title"] = "Brought in"
    file.write_text(json.dumps(document))
    page.goto(f"{server.address}/build")
    page.get_by_label("Drill file").set_input_files(file)
    page.wait_for_url("**/build?drill=*")
    expect(title).to_have_value("Brought in")
    document["drill"]["schema_version"] = 99
    file.write_text(json.dumps(document))
    page.goto(f"{server.address}/build")
    page.get_by_label("Drill file").set_input_files(file)
    page.get_by_text("newer version of Hastatus").wait_for()
    other_context.close()
    context.close()


def test_listening_moves_over_the_strip_and_the_card_is_one_page(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/build?drill={made.drill_id}&rung=3")
    strip = page.locator("[data-round='1'] svg")
    strip.wait_for()
    box = strip.bounding_box()
    assert box
    page.mouse.click(box["x"] + box["width"] * 0.5, box["y"] + 20)
    listen = page.get_by_role("button", name="Play from round 1")
    text = listen.text_content() or ""
    assert any(middle in text for middle in ("0:03", "0:04"))  # of a round of eight seconds
    page.locator("body").press("Space")
    page.get_by_role("button", name="Stop").wait_for()
    page.wait_for_timeout(1200)
    page.locator("body").press("Space")
    listen.wait_for()
    assert listen.text_content() != text
    page.get_by_role("button", name="Export").click()
    page.get_by_role("link", name="Card to print").click()
    page.get_by_role("heading", name="Cue and answer").wait_for()
    pdf = page.pdf(prefer_css_page_size=True)
    assert pdf.count(b"/Type /Page\n") + pdf.count(b"/Type /Page ") == 1
    context.close()


def test_a_call_is_recorded_and_what_is_no_sound_is_refused(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """The browser's made-up microphone beeps once a second."""
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/build?drill={made.drill_id}")
    page.get_by_role("button", name="hear low knock →").click()
    page.get_by_label("cue", exact=True).select_option("my own call")
    page.get_by_role("list", name="Faults").get_by_text("No plan").wait_for()
    no_sound = {"name": "call.wav", "mimeType": "audio/wav", "buffer": b"no sound at all"}
    page.get_by_label("Sound file").set_input_files([no_sound])  # type: ignore[list-item]
    page.get_by_text("this is no sound that can be read").wait_for()
    page.get_by_role("button", name="Record", exact=True).click()
    page.wait_for_timeout(2500)
    page.get_by_role("button", name="Stop recording").click()
    page.locator("audio").wait_for()
    page.get_by_role("list", name="Faults").get_by_text("No plan").wait_for(state="detached")
    page.get_by_label("what it says").fill("beep")
    page.keyboard.press("Control+s")
    page.get_by_text("· version 3").wait_for()
    to_the_floor(page, server, made)
    context.close()


def test_an_order_is_put_together_a_fault_leads_to_its_field_and_edits_are_discarded(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/build?drill={made.drill_id}")
    page.get_by_role("button", name=re.compile("^Order ")).click()
    page.get_by_label("order", exact=True).select_option("set, always the same")
    order = page.get_by_role("group", name="the order, again and again")
    for cue in ("hear bell", "hear low knock"):
        order.get_by_role("button", name=f"Add {cue}").click()
    order.get_by_role("button", name="1: hear bell").drag_to(
        order.get_by_role("button", name="2: hear low knock")
    )
    order.get_by_role("button", name="1: hear low knock").wait_for()
    page.keyboard.press("Control+s")
    page.get_by_text("· version 3").wait_for()
    kept = get(page, f"/api/drills/{made.drill_id}")["document"]
    assert len(kept["rungs"][0]["order"]["sequence"]) == 2

    page.get_by_role("button", name="hear low knock →").click()
    often = page.get_by_label("how often", exact=True)
    often.fill("-1")
    page.get_by_role("button", name="hear low knock →").click()  # shut again
    fault = page.get_by_role("list", name="Faults").get_by_role("button", name="No plan").first
    fault.click()
    expect(often).to_be_focused()
    page.get_by_role("button", name="Discard the edits").click()
    page.get_by_text("· version 3").wait_for()
    page.get_by_role("button", name="Undo").click()  # nothing is lost
    page.get_by_text("edited; not saved").wait_for()
    context.close()
