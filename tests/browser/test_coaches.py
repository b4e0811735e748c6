"""A second coach comes by a link, is out when they have left, and is brought back."""

from __future__ import annotations

import pyotp
import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from tests.harness.club import PASSWORD as CLUB_PASSWORD
from tests.harness.club import Server, coach_page, fill_sign_in, make_club

pytestmark = pytest.mark.browser

LOGIN, PASSWORD = "cleo@weir.example", "rope bridge lantern"


def test_a_coach_comes_by_a_link_and_leaves(
    engine: Engine, server: Server, browser: Browser
) -> None:
    context, owner = coach_page(browser, server, make_club(engine))
    owner.goto(f"{server.address}/account")
    coaches = owner.get_by_label("Coaches", exact=True)
    coaches.get_by_label("Name of a new coach").fill("Cleo Wharf")
    coaches.get_by_role("button", name="Make a link").click()
    address = shown_link(owner)
    theirs = browser.new_context(viewport={"width": 390, "height": 844})
    phone = theirs.new_page()
    phone.goto(address)
    expect(phone.get_by_text("Cleo Wharf, you are to be a coach of")).to_be_visible()
    phone.get_by_label("Login").fill(LOGIN)
    phone.get_by_label("Password").fill("1234567890")
    phone.get_by_role("button", name="Become a coach").click()
    expect(phone.get_by_text("among the first that are guessed")).to_be_visible()
    phone.get_by_label("Password").fill(PASSWORD)
    phone.get_by_role("button", name="Become a coach").click()
    phone.get_by_role("navigation").wait_for()
    phone.goto(f"{server.address}/account")
    mine = phone.get_by_label("Coaches", exact=True)
    expect(mine).to_contain_text("Cleo Wharf (you)")
    expect(mine.get_by_role("button")).to_have_count(0)  # no owner, so nothing to change
    leaves_and_comes_back(owner, phone, server)
    for one in (context, theirs):
        one.close()


def shown_link(owner: Page) -> str:
    shown = owner.get_by_role("status").filter(has_text="Give this link to")
    return shown.locator("p.figures").inner_text()


def leaves_and_comes_back(owner: Page, phone: Page, server: Server) -> None:
    owner.reload()
    line = owner.get_by_role("row").filter(has_text="Cleo Wharf")
    line.get_by_role("button", name="Has left").click()
    expect(line).to_contain_text("has left")
    phone.reload()
    phone.get_by_role("button", name="Sign in").wait_for()
    owner.get_by_role("button", name="Undo").click()
    expect(line).not_to_contain_text("has left")
    phone.get_by_label("Login").fill(LOGIN)
    phone.get_by_label("Password").fill(PASSWORD)
    phone.get_by_role("button", name="Sign in").click()
    phone.get_by_role("navigation").wait_for()
    own = owner.get_by_role("row").filter(has_text="(you)")
    own.get_by_role("button", name="Leave the club").click()
    expect(owner.get_by_text("is the only owner of the club")).to_be_visible()
    line.get_by_role("button", name="Link for a new password").click()
    phone.goto(shown_link(owner))
    expect(phone.get_by_text("Cleo Wharf, set a new password")).to_be_visible()


def test_a_second_factor_is_added_asked_for_and_seen_in_who_did_what(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/account")
    factor = page.get_by_role("region", name="Second factor")
    factor.get_by_label("Your password").fill(CLUB_PASSWORD)
    factor.get_by_role("button", name="Add it").click()
    secret = factor.locator("span.figures").inner_text()
    factor.get_by_label("Code that the phone shows").fill(pyotp.TOTP(secret).now())
    factor.get_by_role("button", name="Ask for codes from now on").click()
    spare = factor.get_by_role("listitem").first.inner_text()
    factor.get_by_role("button", name="I have them").click()
    page.get_by_role("button", name="Sign out").click()
    fill_sign_in(page, made)
    expect(page.get_by_text("Now the code from your phone")).to_be_visible()
    page.get_by_label("Code from your phone").fill("000000")
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_text("This code is wrong")).to_be_visible()
    page.get_by_label("Code from your phone").fill(spare)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation").wait_for()
    page.goto(f"{server.address}/account")
    page.get_by_role("link", name="Who did what").click()
    expect(page.get_by_role("row").nth(1)).to_contain_text("signed in")
    expect(page.get_by_role("row").nth(2)).to_contain_text("Sign out")
    context.close()


def test_what_is_typed_stays_where_one_looks_away_from_the_sign_in(
    server: Server, browser: Browser
) -> None:
    """Who comes back to the tab, from where the password is kept, is asked for no more than is
    missing."""
    page = browser.new_page()
    page.goto(server.address)
    page.get_by_label("Login").fill("wren@lockside.example")
    with page.expect_response("**/api/session"):
        page.evaluate("document.dispatchEvent(new Event('visibilitychange', { bubbles: true }))")
    page.evaluate("new Promise((after) => setTimeout(after, 300))")
    expect(page.get_by_label("Login")).to_have_value("wren@lockside.example", timeout=1000)
