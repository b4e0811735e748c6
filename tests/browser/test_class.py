"""A class in the browser: planned, who is here, put together, somebody late, cards for calls."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from playwright.sync_api import Browser, Page, Response, expect
from sqlalchemy import Engine

from hastatus.store import students
from hastatus.store.database import transaction
from tests.harness.club import Made, Server, coach_page, make_club, sign_in

pytestmark = pytest.mark.browser

NAMES = ("Ada Quill", "Bo Tarn", "Cy Rill", "Di Moss", "Ed Wray")


def here(page: Page, name: str) -> None:
    who = page.get_by_label("Who is here", exact=True)
    who.get_by_role("button", name=name).first.click()
    expect(who.get_by_role("button", name=name).first).to_have_attribute("aria-pressed", "true")


def groups(page: Page) -> list[set[str]]:
    lines = page.get_by_role("group").locator("ul > li").all()
    return [set(line.locator("button").all_inner_texts()) for line in lines]


@pytest.mark.parametrize("size", [(390, 844), (1280, 800)], ids=["phone", "desk"])
def test_a_class_is_planned_and_put_together(
    engine: Engine, server: Server, browser: Browser, size: tuple[int, int]
) -> None:
    made = make_club(engine)
    with transaction(engine) as db:
        for name in NAMES:
            students.add(db, made.club_id, name=name, stance="left_lead")
    context, page = sign_in(browser, server, made)
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.get_by_role("link", name="Tonight").click()
    page.get_by_text("No class is planned").wait_for()
    page.get_by_role("button", name="Plan an evening").click()
    page.get_by_role("heading", name="Evening class").wait_for()
    a_block_in_pairs(page)
    too_much(page)
    for name in NAMES[:4]:
        here(page, name)
    page.get_by_role("button", name="Put them together").click()
    page.get_by_role("button", name="All anew").wait_for()
    before = groups(page)
    assert sorted(map(len, before)) == [2, 2]
    assert set.union(*before) == set(NAMES[:4])
    # Somebody comes late: one pair takes them in, the other stays.
    here(page, NAMES[4])
    page.get_by_role("button", name="Somebody came or went: place them").click()
    expect(page.get_by_role("group").get_by_role("button", name=NAMES[4])).to_be_visible()
    assert len([group for group in groups(page) if group in before]) == 1
    exchange(page)
    another_coach_sees_it(browser, server, made, page)
    more_of_somebody(page)
    cards(page)
    context.close()


def a_block_in_pairs(page: Page) -> None:
    page.get_by_role("button", name="Add a block").click()
    page.get_by_label("what", exact=True).select_option("in pairs")
    page.get_by_label("drill", exact=True).select_option("One hits, one guards")
    page.get_by_label("2 any").check()
    page.get_by_label("minutes a rung").fill("6")
    page.get_by_label("what comes is told by").select_option("a number is called, cards")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("button", name="Save", exact=True)).to_have_count(0)
    expect(page.get_by_label("The plan")).to_contain_text("a number is called")


def too_much(page: Page) -> None:
    """What is over says so, with what would help; one tap of it, and it fits."""
    page.get_by_role("button", name="Day, times, floor").click()
    page.get_by_label("to", exact=True).fill("19:15")
    page.get_by_label("from", exact=True).fill("19:00")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_label("The times")).to_contain_text("min over")
    page.get_by_role("button", name="without Base and warm-up").click()
    expect(page.get_by_label("The times")).to_contain_text("are left")


def exchange(page: Page) -> None:
    (one, other) = (sorted(group)[0] for group in groups(page))
    before = groups(page)
    page.get_by_role("group").get_by_role("button", name=one).click()
    page.get_by_text("Now tap whom to exchange with").wait_for()
    page.get_by_role("group").get_by_role("button", name=other).click()
    expect(page.get_by_text("Now tap whom to exchange with")).to_have_count(0)
    expect(page.get_by_role("group").locator("ul > li").first).not_to_contain_text(one)
    after = groups(page)
    assert after != before
    assert set.union(*after) == set(NAMES)


def another_coach_sees_it(browser: Browser, server: Server, made: Made, page: Page) -> None:
    context, other = coach_page(browser, server, made)
    other.goto(page.url)
    other.get_by_role("button", name="All anew").wait_for()
    assert groups(other) == groups(page)
    mine, theirs = (
        one.get_by_label("Who is here", exact=True).get_by_role("button", name="No touch").first
        for one in (page, other)
    )
    mine.click()
    expect(theirs).to_have_attribute("aria-pressed", "true")
    context.close()


def more_of_somebody(page: Page) -> None:
    """Gear that is here tonight speaks against a pair or not; how it was is kept."""
    who = page.get_by_label("Who is here", exact=True)
    who.get_by_role("button", name=f"More of {NAMES[0]}").click()
    gear = who.get_by_role("group", name=f"Gear of {NAMES[0]} tonight")
    kept: Callable[[Response], bool] = lambda answer: answer.request.method == "PATCH"  # noqa: E731
    with page.expect_response(kept):
        gear.get_by_label("gloves").click()
        expect(gear.get_by_label("gloves")).to_be_checked()
    with page.expect_response(kept):
        who.get_by_label("How ready they feel afterwards").select_option("7")
    page.reload()
    who.get_by_role("button", name=f"More of {NAMES[0]}").click()
    expect(gear.get_by_label("gloves")).to_be_checked()
    expect(who.get_by_label("How ready they feel afterwards")).to_have_value("7")
    who.get_by_role("button", name=f"More of {NAMES[0]}").click()


def cards(page: Page) -> None:
    page.get_by_role("link", name="Cards and calls").click()
    page.get_by_role("heading", name="Cards for the feeders").wait_for()
    assert page.locator(".call-card").count() >= 2
    expect(page.get_by_role("heading", name="For the caller")).to_be_visible()
    page.get_by_role("link", name="Back to the evening").click()
    page.get_by_role("heading", name="The plan").wait_for()
