"""Practice at home: assigned and linked by a coach, done without a connection, and back."""

from __future__ import annotations

import gzip
import re
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Response, expect
from sqlalchemy import Engine

from hastatus.store import students
from hastatus.store.database import transaction
from tests.harness.answering import Answerer, begin, student
from tests.harness.club import Made, Server, coach_page, get, make_club, short_drill, sign_in
from tests.harness.crash import CrashingBrowser, answer_some, check_all_kept, go_on
from tests.harness.home import make_link as link_of
from tests.harness.home import practise

pytestmark = pytest.mark.browser

MOST_SCRIPT_BYTES = 180_000
MOST_TAPS = 4
ALL_SENT = re.compile("^saved here: works without")
PHONE = {"width": 390, "height": 844}
MOVED = """
const moved = Number(localStorage.getItem('moved days') ?? 0) * 86_400_000
const Real = Date
globalThis.Date = class extends Real {
  constructor(...given) { super(...(given.length ? given : [Real.now() + moved])) }
  static now() { return Real.now() + moved }
}
"""
"""The phone's own clock, so many days ahead."""


@pytest.fixture
def made(engine: Engine) -> Made:
    return make_club(engine, short_drill(7, count=1))


def assign(page: Page, server: Server) -> None:
    """From the people: the short drill, twice a week, for the one student there is."""
    page.goto(f"{server.address}/people")
    page.get_by_role("link", name="Home practice").click()
    page.get_by_role("button", name="Assign practice").click()
    form = page.get_by_role("form", name="Assign practice")
    form.get_by_label("called").fill("By the kitchen table")
    form.get_by_label("how often").select_option("2")
    form.get_by_label("Block the sound, strike the light").check()
    form.get_by_label("Pim Halloran").check()
    form.get_by_role("button", name="Save").click()
    page.get_by_role("heading", name="By the kitchen table").wait_for()


def make_link(page: Page) -> str:
    """From the home practice: a link for the student's phone."""
    page.get_by_role("link", name="Pim Halloran").click()
    page.get_by_role("button", name=re.compile("Make (a|another) link")).click()
    shown = page.get_by_role("status").filter(has_text="/home/")
    expect(shown.get_by_role("img", name="Link for Pim Halloran")).to_be_visible()
    return str(shown.get_by_text(re.compile("^http")).inner_text())


class Phone:
    """A phone that opens a link; `taps` counts what its owner has to tap."""

    def __init__(self, browser: Browser) -> None:
        self.context: BrowserContext = browser.new_context(viewport=PHONE, has_touch=True)
        self.context.add_init_script(MOVED)
        self.page = self.context.new_page()
        self.taps = 0

    def open(self, link: str) -> None:
        self.page.goto(link)
        expect(self.page.get_by_role("status")).to_contain_text("works without a connection")

    def day(self, days: int) -> None:
        """It is so many days later, and the page is opened anew."""
        self.page.evaluate(f"localStorage.setItem('moved days', '{days}')")
        self.page.reload()
        self.page.get_by_role("heading", name="Hello Pim").wait_for()

    def tap(self, name: str | re.Pattern[str]) -> None:
        self.taps += 1
        self.page.get_by_role("button", name=name).click()

    def practise(self, word: str = "Right") -> Answerer:
        """Today's practice, answered, and what it was like."""
        self.tap(re.compile("^(Start|Practise once more)"))
        self.page.locator("[data-phase=ready]").wait_for()
        answers = student(self.page)
        begin(self.page)
        self.taps += 1
        answers.until({"sending", "done"})
        self.page.get_by_role("button", name=word).click()
        self.page.get_by_role("heading", name="Hello Pim").wait_for()
        return answers


def test_three_practices_without_a_connection_come_back_whole(
    engine: Engine, server: Server, browser: Browser, made: Made
) -> None:
    _, page = coach_page(browser, server, made)
    assign(page, server)
    link = make_link(page)
    assert "Pim" not in link
    phone = Phone(browser)
    loaded: list[Response] = []
    phone.page.on("response", lambda response: loaded.append(response))
    phone.open(link)
    script = [one for one in loaded if one.url.endswith(".js") and "worker" not in one.url]
    size = sum(len(gzip.compress(one.body())) for one in script)
    assert 50_000 < size <= MOST_SCRIPT_BYTES
    phone.page.get_by_role("button", name="keys", exact=True).click()
    phone.context.set_offline(True)
    done = []
    for practised, days in enumerate((0, 2, 5)):
        phone.day(days)
        taken = phone.taps
        done.append(phone.practise())
        assert phone.taps - taken <= MOST_TAPS
        expect(phone.page.get_by_role("status")).to_contain_text(f"{practised + 1} to send")
    assert get(page, f"/api/runs?student_id={made.student_id}") == {"runs": []}
    phone.day(6)
    expect(phone.page.get_by_text("3 to send")).to_be_visible()
    phone.context.set_offline(False)
    phone.page.reload()
    expect(phone.page.get_by_role("status")).to_have_text(ALL_SENT)
    runs: Any = get(page, f"/api/runs?student_id={made.student_id}")
    newest_first = [run["id"] for run in runs["runs"]]
    assert len(newest_first) == 3
    for run, answers in zip(reversed(newest_first), done, strict=True):
        check_all_kept(engine, run, [answers])
    plans = [get(page, f"/api/runs/{run}") for run in newest_first]
    seeds = {plan["plan"]["seed"] for plan in plans}  # type: ignore[index]
    assert len(seeds) == 3
    page.goto(f"{server.address}/people/home")
    row = page.get_by_role("row").filter(has_text="Pim Halloran")
    expect(row).to_contain_text("clean · right")


def test_what_was_done_under_a_closed_link_goes_out_under_the_next(
    engine: Engine, server: Server, browser: Browser, made: Made
) -> None:
    _, page = coach_page(browser, server, made)
    assign(page, server)
    phone = Phone(browser)
    phone.open(make_link(page))
    phone.tap("follow along, no times")
    phone.context.set_offline(True)
    phone.practise("Too hard")
    expect(phone.page.get_by_role("status")).to_contain_text("1 to send")
    page.get_by_role("button", name="Close the link").click()
    expect(page.get_by_text("The link is closed.")).to_be_visible()
    phone.context.set_offline(False)
    phone.page.reload()
    expect(phone.page.get_by_text("This link is closed.")).to_be_visible()
    expect(phone.page.get_by_role("button", name=re.compile("^(Start|Practise)"))).to_be_disabled()
    page.reload()
    phone.open(make_link_again(page))
    expect(phone.page.get_by_role("status")).to_have_text(ALL_SENT)
    page.goto(f"{server.address}/people/home")
    row = page.get_by_role("row").filter(has_text="Pim Halloran")
    expect(row).to_contain_text("followed along · too hard")
    stranger = Phone(browser)
    stranger.page.goto(f"{server.address}/home/nobody-has-this-one")
    expect(stranger.page.get_by_role("alert")).to_contain_text("This link opens nothing")


def make_link_again(page: Page) -> str:
    page.get_by_role("button", name=re.compile("Make (a|another) link")).click()
    shown = page.get_by_role("status").filter(has_text="/home/")
    return str(shown.get_by_text(re.compile("^http")).inner_text())


def test_a_family_practises_on_one_phone(
    engine: Engine, server: Server, browser: Browser, made: Made
) -> None:
    with transaction(engine) as db:
        mina = students.add(db, made.club_id, name="Mina Halloran", stance="left_lead", notes="")
    _, page = sign_in(browser, server, made)
    links = []
    for student_id in (made.student_id, mina.id):
        practise(page, student_id, made.drill_id)
        links.append(f"{server.address}{link_of(page, student_id)}")
    phone = Phone(browser)
    for link in reversed(links):
        phone.open(link)
    phone.tap("follow along, no times")
    phone.context.set_offline(True)
    phone.practise("Too easy")
    phone.page.goto(links[1])
    phone.page.get_by_role("heading", name="Hello Mina").wait_for()
    expect(phone.page.get_by_role("button", name=re.compile("^Start"))).to_be_visible()
    expect(phone.page.get_by_role("status")).to_contain_text("1 to send")
    phone.context.set_offline(False)
    phone.page.reload()
    expect(phone.page.get_by_role("status")).to_have_text(ALL_SENT)
    page.goto(f"{server.address}/people/home")
    rows = page.get_by_role("row")
    expect(rows.filter(has_text="Pim Halloran")).to_contain_text("too easy")
    expect(rows.filter(has_text="Mina Halloran")).to_contain_text("not yet")


def test_a_killed_phone_goes_on_in_the_round_without_a_connection(
    engine: Engine, server: Server, browser: Browser, tmp_path: Path
) -> None:
    made = make_club(engine, short_drill(10, count=2))
    _, page = coach_page(browser, server, made)
    assign(page, server)
    path = make_link(page).removeprefix(server.address)
    phone = CrashingBrowser(tmp_path / "profile", browser, server, made)
    at_home = phone.context.new_page()
    at_home.goto(server.address + path)
    expect(at_home.get_by_role("status")).to_contain_text("works without a connection")
    at_home.get_by_role("button", name="keys", exact=True).click()
    at_home.wait_for_timeout(500)
    phone.context.set_offline(True)
    at_home.get_by_role("button", name=re.compile("^Start")).click()
    at_home.locator("[data-phase=ready]").wait_for()
    before = student(at_home)
    begin(at_home)
    answer_some(at_home, before, 2)
    phone.kill()
    at_home = phone.open_home(path)
    at_home.get_by_role("button", name=re.compile("^Continue")).click()
    at_home.locator("[data-phase=ready]").wait_for()
    after = student(at_home)
    go_on(at_home, after, 1)
    after.until({"sending", "done"})
    at_home.get_by_role("button", name="Right").click()
    phone.context.set_offline(False)
    at_home.reload()
    expect(at_home.get_by_role("status")).to_have_text(ALL_SENT)
    runs: Any = get(page, f"/api/runs?student_id={made.student_id}")
    check_all_kept(engine, runs["runs"][0]["id"], [before, after])
    phone.context.close()
