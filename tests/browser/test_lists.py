"""Long lists are drawn as far as they are seen, and reach to their end."""

from __future__ import annotations

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine, text

from tests.harness.club import Made, Server, coach_page, make_club

pytestmark = pytest.mark.browser

MANY = 400
SCROLLED_MS = 2000
"""The browser scrolls smoothly, and takes no key while it does."""
MOST_NODES = 4000
"""Of a page; 400 rows drawn whole are some 8,000."""


def fill(engine: Engine, made: Made) -> None:
    """Give a club hundreds of students and drills."""
    asked = {"club": made.club_id, "many": MANY}
    with engine.begin() as connection:
        connection.execute(
            text("""
                INSERT INTO students (club_id, id, name, stance)
                SELECT :club, gen_random_uuid(), 'Student ' || to_char(one, 'FM0000'), 'left_lead'
                FROM generate_series(1, :many) AS one
            """),
            asked,
        )
        connection.execute(
            text("""
                WITH made AS (
                    INSERT INTO drills (club_id, id, version)
                    SELECT :club, gen_random_uuid(), 1 FROM generate_series(1, :many)
                    RETURNING id
                ), one AS (SELECT * FROM drill_versions WHERE club_id = :club LIMIT 1)
                INSERT INTO drill_versions (club_id, drill_id, number, schema_version, document)
                SELECT :club, made.id, 1, one.schema_version, one.document FROM made, one
            """),
            asked,
        )


def nodes(page: Page) -> int:
    return int(page.evaluate("document.querySelectorAll('*').length"))


def test_hundreds_of_rows_are_drawn_as_they_are_seen(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    fill(engine, made)
    context, page = coach_page(browser, server, made)
    for path, first in (("/people", "Student 0001"), ("/build?sort=came", "Block the sound")):
        page.goto(f"{server.address}{path}")
        rows = page.locator("tbody tr:not([aria-hidden])")
        expect(page.get_by_role("link", name=first).first).to_be_visible()
        page.locator("tbody tr[aria-hidden]").wait_for(state="attached")  # the room of the rest
        total = int(page.locator("table").get_attribute("aria-rowcount") or 0) - 1
        assert total > MANY
        assert rows.count() < 120
        assert nodes(page) < MOST_NODES
        press_until_seen(page, "End", row=total + 1)
        press_until_seen(page, "Home", row=2)
    who_trains(page, server)
    context.close()


def press_until_seen(page: Page, key: str, row: int) -> None:
    for _ in range(10):
        page.keyboard.press(key)
        try:
            expect(page.locator(f"tr[aria-rowindex='{row}']")).to_be_in_viewport(
                timeout=SCROLLED_MS
            )
        except AssertionError:
            continue
        return
    raise AssertionError(f"{key} does not lead to row {row}")


def who_trains(page: Page, server: Server) -> None:
    """Of hundreds who could be chosen the first are listed; a name finds any of them."""
    page.goto(f"{server.address}/run")
    students = page.get_by_label("Students").get_by_role("button")
    page.get_by_role("button", name="Show all").wait_for()
    assert students.count() < 60
    page.get_by_label("Find a student").fill("0399")
    page.get_by_role("button", name="Student 0399").click()
    page.get_by_role("button", name="Start", exact=True).wait_for()
    page.get_by_label("Find a student").fill("")
    expect(page.get_by_role("button", name="Student 0399")).to_have_attribute(
        "aria-pressed", "true"
    )
    page.get_by_role("button", name="Show all").click()
    expect(students).to_have_count(MANY + 1)
