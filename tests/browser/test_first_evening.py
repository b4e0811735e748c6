"""From a sign-in to the first cue: what a coach has to press, counted."""

from __future__ import annotations

import uuid

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect
from sqlalchemy import Engine

from hastatus.store import accounts
from hastatus.store.database import transaction
from tests.harness.club import PASSWORD, Server, make_club

pytestmark = pytest.mark.browser

PHONE, TABLET = {"width": 390, "height": 844}, {"width": 820, "height": 1180}


class Taps:
    """Presses what is named, and counts."""

    def __init__(self, page: Page) -> None:
        self.page, self.count = page, 0

    def press(self, role: str, name: str, *, exact: bool = False) -> None:
        self.page.get_by_role(role, name=name, exact=exact).first.click()  # type: ignore[arg-type]
        self.count += 1


def signed_in(
    browser: Browser, server: Server, login: str, size: dict[str, int]
) -> tuple[BrowserContext, Taps]:
    context = browser.new_context(viewport=size, has_touch=True)  # type: ignore[arg-type]
    page = context.new_page()
    page.goto(server.address)
    page.get_by_label("Login").fill(login)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation").wait_for()
    return context, Taps(page)


def comes_to_a_cue(taps: Taps) -> None:
    taps.press("button", "Start", exact=True)
    taps.press("button", "Begin")
    taps.page.locator("[data-phase=rehearsal], [data-phase=round]").first.wait_for()


@pytest.mark.parametrize("size", [PHONE, TABLET], ids=["phone", "tablet"])
def test_a_known_student_is_three_taps_from_the_first_cue(
    engine: Engine, server: Server, browser: Browser, size: dict[str, int]
) -> None:
    made = make_club(engine)
    context, taps = signed_in(browser, server, made.login, size)
    taps.press("button", "Pim Halloran")
    comes_to_a_cue(taps)
    assert taps.count <= 3
    context.close()


@pytest.mark.parametrize("size", [PHONE, TABLET], ids=["phone", "tablet"])
def test_a_new_club_is_led_to_its_first_cue(
    engine: Engine, server: Server, browser: Browser, size: dict[str, int]
) -> None:
    login = f"{uuid.uuid4().hex[:8]}@lockside.example"
    with transaction(engine) as db:
        club = accounts.add_club(db, "Lockside beginners")
        accounts.add_coach(db, club.id, login=login, name="Orla", password=PASSWORD, role="owner")
    context, taps = signed_in(browser, server, login, size)
    card = taps.page.get_by_role("region", name="Your first evening")
    expect(card).to_contain_text("1 Add a student")
    taps.press("link", "Add a student")
    taps.page.get_by_label("Name").fill("Wren Abbot")
    taps.press("button", "Save")
    taps.press("link", "Start a run")
    comes_to_a_cue(taps)
    assert taps.count <= 6
    context.close()


def test_a_second_student_of_one_name_is_warned_of(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, taps = signed_in(browser, server, made.login, PHONE)
    taps.page.goto(f"{server.address}/people?add=yes")
    taps.page.get_by_label("Name").fill("pim  HALLORAN")
    expect(taps.page.get_by_text("There is a Pim Halloran already")).to_be_visible()
    context.close()
