"""At the mat: a stream marked by exception, each defender at a pace of their own; and what may come
in the middle of an exchange, which nobody waits for."""

from __future__ import annotations

import re
from typing import Any

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from hastatus.core.drill.partner import PartnerRounds, TempoRule, Turns
from hastatus.core.drill.settings import Fixed
from hastatus.core.starter.partner import PARTNER_STARTERS
from tests.harness.club import Server, coach_page, get, make_club
from tests.harness.pair import two_with_gear

pytestmark = pytest.mark.browser

TURN_S, ROUND_S = 10, 42
ADA, BO = "Ada Quill", "Bo Tarn"


def test_a_stream_is_marked_by_exception_and_each_climbs_alone(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """The compact guard, in turns of ten seconds: Bo keeps everything out, Ada does not."""
    made = make_club(engine)
    drill = PARTNER_STARTERS["compact guard"]()
    rung = drill.rungs[-1].model_copy(
        update={
            "tempo_bpm": 80.0,
            "goal_bpm": 100.0,
            "climb": TempoRule(rule="by_rule", clean=4, failed=2, step_bpm=6),
            "turns": Turns(switch="time", every_s=TURN_S),
            "rounds": PartnerRounds(count=1, duration_s=ROUND_S),
            "watch_s": 60.0,
        }
    )
    short = drill.model_copy(update={"rungs": (rung,), "title": "A short stream"})
    pair = two_with_gear(engine, made, short, ADA, BO)
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/pair?{pair.query}")
    page.get_by_role("button", name="Agree and start").click()
    page.locator(".mat[data-phase=ready]").wait_for()
    run = page.url.split("/")[-2]
    page.keyboard.press(" ")
    head = page.locator(".mat-head")
    expect(head).to_contain_text(f"{BO}’s pace")
    expect(head).to_contain_text("80 bpm")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Watching")).to_be_visible()
    expect(page.get_by_role("button", name="Deflected")).to_have_count(0)
    expect(head).to_contain_text(f"{ADA}’s pace", timeout=1000 * (TURN_S + 3))
    two_get_through(page)
    # Bo kept out all of the first turn, and comes back quicker; Ada comes back slower.
    expect(head).to_contain_text(f"{BO}’s pace", timeout=1000 * (TURN_S + 3))
    expect(head).to_contain_text("86 bpm")
    expect(head).to_contain_text(f"{ADA}’s pace", timeout=1000 * (TURN_S + 3))
    expect(head).to_contain_text(re.compile("74 bpm|80 bpm"))
    page.get_by_role("button", name="See results").wait_for(timeout=1000 * (TURN_S + 5))
    page.get_by_role("button", name="See results").click()
    by_exception(page, run)
    the_next_run_goes_on(page, server, pair.query)
    context.close()


def two_get_through(page: Page) -> None:
    """Two attacks, a few seconds apart, so that they are two exchanges."""
    struck = page.get_by_role("button", name="Got through")
    page.wait_for_timeout(4500)
    for number in (1, 2):
        page.keyboard.press("x")
        # Not the button: a tap just before the next exchange shows on it for an instant alone.
        expect(page.get_by_text(f"{number} tapped")).to_be_visible()
        expect(struck).to_have_attribute("aria-pressed", "false", timeout=4000)
    page.keyboard.press("1")


def by_exception(page: Page, run: str) -> None:
    expect(page.get_by_text("By exception: watched")).to_contain_text("2 not clean")
    expect(page.get_by_text(f"{BO} as defender")).to_be_visible()
    read: Any = get(page, f"/api/partner-runs/{run}/readout")
    watched = read["reading"]["watched"]
    assert watched["fed"] - 2 <= watched["exchanges"] <= watched["fed"]
    assert (watched["not_clean"], read["reading"]["overall"]["clean"]) == (
        2, watched["exchanges"] - 2,
    )  # fmt: skip
    assert {each["defender"] for each in read["exchanges"] if each["grade"]} == {0}
    # Every turn was fed to its end at its own pace: about 20 attacks a minute at 44 beats.
    assert watched["fed"] >= 20
    # Bo climbed by a step, and Ada went down by one.
    assert {"74", "86"} <= {tempo["name"] for tempo in read["reading"]["tempos"]}
    fault = read["reading"]["faults"][0]
    assert (fault["owner"], fault["partners"]) == ("defender", [1, 0])
    assert read["run"]["partners"][1]["watched"] > 5


def the_next_run_goes_on(page: Page, server: Server, query: str) -> None:
    """Each begins where they had come to."""
    page.goto(f"{server.address}/pair?{query}")
    page.get_by_role("button", name="Agree and start").click()
    page.locator(".mat[data-phase=ready]").wait_for()
    again: Any = get(page, f"/api/partner-runs/{page.url.split('/')[-2]}")
    ada, bo = again["sheet"]["paces"]
    assert ada <= 80 < bo  # Ada may have climbed again by the end
    assert again["sheet"]["tempo_bpm"] == 80


def test_an_overhand_comes_in_the_middle_or_does_not(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """The two-beat counter, in turn, attack by attack: the feeder is told, the defender is not."""
    made = make_club(engine)
    drill = PARTNER_STARTERS["two-beat counter"]()
    rung = drill.rungs[-1].model_copy(
        update={
            "tempo_bpm": 150.0,
            "goal_bpm": 160.0,
            "pause": Fixed(wait_s=0.5),
            "rounds": PartnerRounds(count=1, ends="time", duration_s=45),
        }
    )
    short = drill.model_copy(update={"rungs": (rung,), "title": "Two beats, quickly"})
    pair = two_with_gear(engine, made, short, ADA, BO)
    context, page = coach_page(browser, server, made)
    bench = f"{server.address}/build?{pair.query}"
    page.goto(bench)
    ways = page.get_by_role("group", name="Exchanges")
    expect(ways.get_by_role("button", name="lead, rear 65 %")).to_be_visible()
    ways.get_by_role("button", name="lead, rear, overhand 35 %").click()
    overhand = page.get_by_role("button", name="feeder, beat 3: lead overhand")
    overhand.click()
    expect(page.get_by_label("it comes")).to_have_value("over")
    page.goto(f"{server.address}/pair?{pair.query}")
    page.get_by_role("button", name="Agree and start").click()
    page.locator(".mat[data-phase=ready]").wait_for()
    run = page.url.split("/")[-2]
    screen = context.new_page()
    screen.goto(f"{server.address}/pairs/{run}/feeder")
    screen.locator(".feeder[data-phase=ready]").wait_for()
    page.bring_to_front()
    page.keyboard.press(" ")
    head = page.locator(".mat-head")
    call = screen.locator(".feeder-call span")
    expect(head).to_contain_text(f"feeds {ADA}")
    expect(head).to_contain_text(f"feeds {BO}", timeout=15_000)  # in turn, attack by attack
    expect(call).to_have_text("lead, rear, overhand", timeout=30_000)
    expect(page.locator(".mat-now b")).to_have_text("lead, rear, overhand", timeout=15_000)
    countered = page.get_by_role("button", name="Countered")
    page.wait_for_timeout(600)
    page.keyboard.press("c")
    expect(countered).to_have_attribute("aria-pressed", "true")
    page.get_by_role("button", name="End the round").click()
    page.get_by_role("button", name="See results").click()
    page.get_by_text("clean: 1 of 1 exchanges").wait_for()
    read: Any = get(page, f"/api/partner-runs/{run}/readout")
    assert [each["path"] for each in read["exchanges"]] == [["pair+over"]]
    assert [way["name"] for way in read["reading"]["ways"]] == ["lead, rear, overhand"]
    made: Any = get(page, f"/api/partner-runs/{run}")
    turns = made["sheet"]["rounds"][0]["turns"]
    feeds = [feed for turn in turns for feed in turn["feeds"]]
    came = {feed["path"][0]["passage"] for feed in feeds}
    assert came == {"pair", "pair+over"}
    assert all(len(turn["feeds"]) <= 1 for turn in turns)
    context.close()


def test_both_hunt_and_each_touch_costs_a_forfeit(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """Tag: nobody feeds, one tap for each touch, and what is owed is always in sight."""
    made = make_club(engine)
    drill = PARTNER_STARTERS["tag"]()
    rung = drill.rungs[1].model_copy(update={"rounds": PartnerRounds(count=2, duration_s=30)})
    short = drill.model_copy(update={"rungs": (rung,), "title": "Short tag"})
    pair = two_with_gear(engine, made, short, ADA, BO, gear=())
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/pair?{pair.query}")
    page.get_by_role("button", name="Agree and start").click()
    page.locator(".mat[data-phase=ready]").wait_for()
    run = page.url.split("/")[-2]
    screen = context.new_page()
    screen.goto(f"{server.address}/pairs/{run}/feeder")
    screen.locator(".feeder[data-phase=ready]").wait_for()
    page.bring_to_front()
    page.keyboard.press(" ")
    expect(page.locator(".mat-head")).to_contain_text(f"both hunt {ADA}, {BO}")
    expect(screen.get_by_text("Both hunt")).to_be_visible()
    owed = page.get_by_role("list", name="Forfeits")
    page.get_by_role("button", name=f"{ADA} touched").click()
    expect(owed).to_have_text(f"{BO} was touched once: owes a push-up")
    page.keyboard.press("b")
    page.keyboard.press("a")
    page.keyboard.press("a")
    page.keyboard.press("u")  # one too many
    expect(owed).to_contain_text(f"{BO} was touched 2 times: owes a push-up for each")
    page.reload()  # a tablet that went away has not lost what is owed
    page.locator(".mat[data-phase=paused]").wait_for()
    expect(owed).to_contain_text(f"{BO} was touched 2 times: owes a push-up for each")
    page.get_by_role("button", name="Resume").click()
    page.get_by_role("button", name="End the round").click()
    page.get_by_role("button", name="No more rounds").click()
    expect(owed).to_contain_text(f"{ADA} was touched once: owes a push-up")
    page.get_by_role("button", name="See results").click()
    told = page.get_by_label("Touches")
    expect(told).to_contain_text("touched 2, was touched 1 · a push-up")
    read: Any = get(page, f"/api/partner-runs/{run}/readout")
    assert read["reading"]["touches"] == [2, 1]
    assert read["reading"]["overall"]["graded"] == 0
    context.close()
