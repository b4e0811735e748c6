"""A partner drill in the browser: written from empty, mended, kept, fed, run, read, done alone."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from hastatus.core.drill.checks.partner import find
from hastatus.core.drill.partner import PartnerDrill
from hastatus.store import students
from hastatus.store.database import transaction
from tests.harness.club import RENDERED_MS, Made, Server, get, make_club, sign_in
from tests.harness.hearing import microphone
from tests.harness.keyboard import choose_technique

pytestmark = pytest.mark.browser


def step(page: Page, **fields: str) -> None:
    """Set fields of the chosen step."""
    editor = page.get_by_label("Step", exact=True)
    for label, value in fields.items():
        field = editor.get_by_label(label, exact=True)
        kind = field.evaluate("each => each.tagName")
        if kind == "BUTTON":
            choose_technique(page, label, value)
        elif kind == "SELECT":
            field.select_option(value)
        else:
            field.fill(value)


def test_a_score_from_empty(engine: Engine, server: Server, browser: Browser) -> None:
    made = make_club(engine)
    context, page = sign_in(browser, server, made)
    context.add_init_script(microphone(delay_ms=40))
    page.get_by_role("button", name="New partner drill").click()
    page.get_by_label("Title of the drill").fill("Sluice gate")
    exchange = page.get_by_label("Exchange", exact=True)
    exchange.get_by_label("name", exact=True).fill("hook in")
    # The feeder's first step is there; it becomes a hook, which is short of the start.
    page.get_by_role("button", name="feeder, beat 1: lead straight").click()
    step(page, technique="hook", contact="touch")
    checks = page.get_by_label("Checks", exact=True)
    expect(checks).to_contain_text("lead hook ends at")
    expect(page.get_by_text("cm short").first).to_be_visible()
    page.get_by_role("button", name="Step in with it").click()
    expect(checks).to_contain_text("fit.")
    # The defender answers on the wrong side, and is put right; then hits back.
    page.keyboard.press("Escape")
    page.keyboard.press("d")
    step(page, technique="ear cover", side="lead")
    expect(checks).to_contain_text("comes to the rear side")
    page.get_by_role("button", name="Take the rear side").click()
    expect(checks).to_contain_text("fit.")
    page.get_by_role("group", name="defender").get_by_text("add a step").click()
    step(page, technique="straight", side="rear", beat="4", contact="touch")
    # Too late, and kept with a reason, which stays.
    expect(checks).to_contain_text("2.5 at most")
    page.get_by_role("button", name="Allow it, with a reason").click()
    page.get_by_label("Why it is allowed").fill("slow on purpose, to see it")
    page.get_by_role("button", name="Allow it", exact=True).click()
    expect(page.get_by_label("Allowed")).to_contain_text("slow on purpose")
    # A second exchange, to which the partner may go on.
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Let the partner choose what follows").click()
    page.get_by_role("button", name="One more choice").click()
    page.get_by_role("button", name="Add an exchange").click()
    exchange.get_by_label("name", exact=True).fill("rear hand")
    exchange.get_by_label("how often").fill("0")
    page.get_by_role("button", name="hook in", exact=False).first.click()
    exchange.get_by_label("then", exact=True).nth(1).select_option("passage_2")
    expect(page.get_by_role("button", name="hook in → rear hand 50 %")).to_be_visible()
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("version 1", exact=False).first).to_be_visible()
    drill_id = page.url.split("drill=")[1].split("&")[0]
    document = kept(page, drill_id)
    assert document.title == "Sluice gate"
    assert [each.kept for each in find(document)] == ["slow on purpose, to see it"]
    assert [passage.name for passage in document.passages] == ["hook in", "rear hand"]
    in_the_ear(page, drill_id)
    read_the_sheet(page, server, drill_id)
    run_and_read(page, server, make_pair(engine, made), drill_id)
    do_it_alone(page, server, drill_id)


def make_pair(engine: Engine, made: Made) -> str:
    """Two students with gear, as the addresses name them."""
    gear = ("gloves", "mouthguard")
    with transaction(engine) as db:
        one = students.add(db, made.club_id, name="Edie Marsh", stance="left_lead", gear=gear)
        other = students.add(db, made.club_id, name="Finn Roe", stance="left_lead", gear=gear)
        return f"feeder={one.id}&defender={other.id}"


def run_and_read(page: Page, server: Server, pair: str, drill_id: str) -> None:
    """What was just written goes to the mat: tapped by keys, heard by the microphone, read."""
    page.goto(f"{server.address}/build?drill={drill_id}&{pair}")
    page.get_by_role("link", name="Run it").click()
    page.get_by_role("button", name="Agree and start").click()
    page.wait_for_url("**/mat")
    run_id = page.url.split("/")[-2]
    page.get_by_role("button", name="Listen for strikes").click()
    page.keyboard.press(" ")
    expect(page.get_by_role("button", name="Got through")).to_be_enabled(timeout=15_000)
    expect(page.locator(".mat-now")).to_contain_text("hook in")
    page.evaluate("room.strike(performance.now(), 300)")
    page.wait_for_timeout(500)
    page.keyboard.press("c")
    page.get_by_role("button", name="End the round").click()
    page.get_by_role("button", name="No more rounds").click()
    page.get_by_role("button", name="See results").click()
    page.wait_for_url(f"**/pairs/{run_id}")
    expect(page.get_by_text("clean: 1 of 1 exchanges")).to_be_visible()
    read: Any = get(page, f"/api/partner-runs/{run_id}/readout")
    assert [(each["grade"], each["path"][0]) for each in read["exchanges"]] == [
        ("countered", "passage_1")
    ]
    assert read["exchanges"][0]["hits"]


def kept(page: Page, drill_id: str) -> PartnerDrill:
    view: Any = get(page, f"/api/drills/{drill_id}")
    return PartnerDrill.model_validate(view["document"])


def in_the_ear(page: Page, drill_id: str) -> None:
    """A track for the feeder's ear, and the list of what the other hears: nothing of it."""
    page.get_by_role("button", name="Export").click()
    with page.expect_download(timeout=RENDERED_MS) as waiting:
        page.get_by_role("button", name="Feed track (Opus)").click()
    assert waiting.value.suggested_filename == "sluice-gate.opus"
    page.get_by_label("In the ear of").select_option("the first to defend")
    with page.expect_download() as waiting:
        page.get_by_role("button", name="List (CSV)").click()
    heard = Path(waiting.value.path()).read_text()
    assert ",call," in heard
    page.get_by_role("button", name="Close").click()


def read_the_sheet(page: Page, server: Server, drill_id: str) -> None:
    """The feeder's paper holds every exchange that the server has drawn for the seed."""
    page.goto(f"{server.address}/feed/{drill_id}?seed=4")
    page.get_by_role("heading", name="Round 1").wait_for()
    expect(page.get_by_text("for the feeder alone")).to_be_visible()
    body = json.dumps({"drill_id": drill_id, "seed": 4, "feeds": True})
    drawn = page.evaluate(
        """async (body) => {
          const { csrf } = await (await fetch('/api/session')).json()
          const headers = { 'Content-Type': 'application/json', 'X-CSRF-Token': csrf }
          return (await fetch('/api/partner-bench', { method: 'POST', headers, body })).json()
        }""",
        body,
    )
    feeds = [feed for each in drawn["feeds"]["rounds"] for turn in each["turns"]
             for feed in turn["feeds"]]  # fmt: skip
    assert len(feeds) > 8
    expect(page.locator("article.feed li")).to_have_count(len(feeds))
    followed = sum(len(feed["path"]) == 2 for feed in feeds)
    assert page.get_by_text("hook in → rear hand").count() == followed > 0
    assert any("stop word" in text for text in page.locator("footer p").all_inner_texts())


def do_it_alone(page: Page, server: Server, drill_id: str) -> None:
    """The solo version is a draft like any other: it has a plan, and is kept."""
    page.goto(f"{server.address}/build?drill={drill_id}")
    page.get_by_role("button", name="Make a solo version").click()
    expect(page.get_by_label("Title of the drill")).to_have_value("Sluice gate, alone (shadow)")
    page.get_by_label("Plan").get_by_text("cues a minute").wait_for()
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("link", name="Run it").wait_for()


def test_a_draft_of_a_score_outlives_a_reload(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    _, page = sign_in(browser, server, made)
    page.get_by_role("button", name="New partner drill").click()
    page.get_by_role("button", name="feeder, beat 1: lead straight").wait_for()
    page.keyboard.press("d")
    page.get_by_role("button", name="defender, beat 1: rear parry").wait_for()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name="defender, beat 1: rear parry")).to_have_count(0)
    page.keyboard.press("Control+Shift+z")
    page.get_by_role("button", name="defender, beat 1: rear parry").wait_for()
    page.reload()
    page.get_by_role("button", name="defender, beat 1: rear parry").wait_for()
    page.goto(f"{server.address}/build")
    expect(page.get_by_text("“New partner drill” is not saved")).to_be_visible()
    page.get_by_role("link", name="Continue").click()
    page.get_by_role("button", name="defender, beat 1: rear parry").click()
    page.keyboard.press("Delete")
    expect(page.get_by_role("button", name="defender, beat 1: rear parry")).to_have_count(0)
