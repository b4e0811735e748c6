"""What is put away can be brought back: at the foot of the screen, or from the archive."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from hastatus.demo.student import Habits
from hastatus.store import drills, students
from hastatus.store.database import transaction
from tests.harness.club import Server, coach_page, get, held, make_club
from tests.harness.kept_run import keep_run

pytestmark = pytest.mark.browser


def undo(page: Page, says: str) -> None:
    bar = page.locator(".undo-bar")
    expect(bar).to_contain_text(says)
    with page.expect_response(lambda answer: answer.request.method != "GET") as undone:
        bar.get_by_role("button", name="Undo").click()
    assert undone.value.ok
    expect(bar).to_have_count(0)


def names(page: Page) -> list[str]:
    return [student["name"] for student in get(page, "/api/students")["students"]]


def test_a_run_is_archived_deleted_and_brought_back(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    with transaction(engine) as db:
        known = {each.drill_id: each for each in drills.newest(db, made.club_id)}
    run = keep_run(engine, made, known[made.drill_id], Habits(), 1)
    context, page = coach_page(browser, server, made)
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{server.address}/read/{run}")
    page.get_by_role("button", name="Delete this run").click()
    page.get_by_text("is gone tomorrow").wait_for()
    undo(page, "The run is deleted.")
    page.get_by_role("button", name="Archive this run").click()
    page.get_by_text("it is in no list and counts for nothing").wait_for()
    page.goto(f"{server.address}/read")
    page.get_by_text("Nothing has been run yet").wait_for()
    page.get_by_role("link", name="Archived runs").click()
    page.get_by_role("link", name=re.compile(r"\d\d:\d\d")).click()
    page.get_by_role("button", name="Restore").click()
    page.get_by_role("button", name="Archive this run").wait_for()
    assert len(get(page, "/api/runs")["runs"]) == 1
    context.close()


def test_what_puts_a_student_away_comes_when_nothing_can_move_it(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    late = held(page, "**/defended")
    page.goto(f"{server.address}/people/{made.student_id}")
    page.get_by_role("status").filter(has_text="Loading the rest").wait_for()
    archive = page.get_by_role("button", name="Archive", exact=True)
    expect(archive).to_have_count(0)
    late[0].continue_()
    expect(archive).to_be_visible()
    context.close()


def test_a_student_is_put_away_and_twins_become_one(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    with transaction(engine) as db:
        known = students.names_of(db, made.club_id)[made.student_id]
        students.add(db, made.club_id, name=f" {known.upper()}", stance="left_lead")
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/people/{made.student_id}")
    page.get_by_role("button", name="Archive", exact=True).click()
    page.wait_for_url("**/people")
    page.get_by_role("link", name="Run", exact=True).click()  # the way back goes along
    undo(page, "is archived.")
    page.goto(f"{server.address}/people/{made.student_id}")
    page.get_by_role("button", name="The same person: make them one").click()
    page.locator(".undo-bar").wait_for()
    assert len(names(page)) == 1
    undo(page, "are one.")
    page.get_by_role("button", name="The same person: make them one").wait_for()
    assert len(names(page)) == 2
    context.close()


def test_a_sign_in_that_was_ended_by_mistake_goes_on(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    other_context, other = coach_page(browser, server, made)
    other.goto(f"{server.address}/people")
    page.goto(f"{server.address}/account")
    page.get_by_role("button", name="End it").first.click()
    page.locator(".undo-bar").wait_for()
    assert other.request.get(f"{server.address}/api/session").status == 401
    undo(page, "That sign-in has ended.")
    expect(page.get_by_role("button", name="End it")).to_have_count(1)
    other.reload()
    other.get_by_role("navigation").wait_for()
    other_context.close()
    context.close()
