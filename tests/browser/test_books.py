"""People from a table, a template, the book of incidents, the log of classes."""

from __future__ import annotations

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from tests.harness.club import Server, coach_page, make_club

pytestmark = pytest.mark.browser

TABLE = "name,stance,height_m,shoe size\nCy Rill,right,1.81,43\nDi Moss,up,1.70,40\nEd Wray,,,\n"


def test_a_club_keeps_its_books(engine: Engine, server: Server, browser: Browser) -> None:
    context, page = coach_page(browser, server, make_club(engine))
    people(page, server)
    incidents(page, server)
    template(page, server)
    page.goto(f"{server.address}/log")
    page.get_by_role("link", name="Classes").click()
    expect(page.get_by_text("Nothing was marked that fits.")).to_be_visible()
    context.close()


def people(page: Page, server: Server) -> None:
    """A bad row says why, and is not added; somebody erased comes back."""
    page.goto(f"{server.address}/people")
    page.get_by_label("Table of people").set_input_files(
        {"name": "people.csv", "mimeType": "text/csv", "buffer": TABLE.encode()}
    )
    preview = page.get_by_label("People from a table")
    expect(preview).to_contain_text("“up” is none of left or right")
    expect(preview).to_contain_text("shoe size")
    preview.get_by_label("Add line 4").uncheck()
    preview.get_by_role("button", name="Add 1").click()
    expect(page.get_by_text("1 were added.")).to_be_visible()
    page.get_by_role("link", name="Cy Rill").click()
    page.get_by_role("button", name="Delete").click()
    page.goto(f"{server.address}/people?archived=yes")
    gone = page.get_by_label("Deleted")
    expect(gone).to_contain_text("Cy Rill")
    gone.get_by_role("button", name="Bring back").click()
    page.goto(f"{server.address}/people")
    expect(page.get_by_role("link", name="Cy Rill")).to_be_visible()


def incidents(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/log")
    page.get_by_role("link", name="Book of incidents").click()
    page.get_by_role("button", name="Write an entry").click()
    page.get_by_label("What happened").fill("Sprained ankle")
    page.get_by_label("Who", exact=True).select_option("Cy Rill")
    page.get_by_label("What was done").fill("ice, sat out")
    page.get_by_role("button", name="Write it down").click()
    line = page.get_by_role("listitem").filter(has_text="Sprained ankle")
    expect(line).to_contain_text("Cy Rill")
    line.get_by_role("button", name="Add to it").click()
    line.get_by_label("What happened").fill("Back again")
    line.get_by_label("Cleared by whom").fill("physiotherapist")
    line.get_by_role("button", name="Write it down").click()
    expect(line).to_contain_text("Cleared by: physiotherapist")


def template(page: Page, server: Server) -> None:
    page.goto(f"{server.address}/tonight")
    page.get_by_role("button", name="Plan an evening").click()
    page.get_by_role("button", name="More").click()
    page.get_by_role("button", name="Keep as a template").click()
    expect(page.get_by_text("Kept as the template")).to_be_visible()
    planned = page.url
    page.get_by_label("from a template").select_option("Evening class")
    page.wait_for_url(lambda address: address != planned)
    page.get_by_role("button", name="More").click()
    with page.expect_download() as kept:
        page.get_by_role("link", name="Calendar file").click()
    assert kept.value.suggested_filename == "evenings.ics"
