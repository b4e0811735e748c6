"""A class that runs, on three devices at once: the coach's tablet, a feeder's phone, the wall."""

from __future__ import annotations

import re
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect
from sqlalchemy import Engine

from hastatus.core.hall.evening import Evening
from hastatus.store import drills, evenings, students
from hastatus.store.database import transaction
from tests.harness.club import Made, Server, coach_page, make_club

pytestmark = pytest.mark.browser

NAMES = (
    "Ada Quill", "Bo Tarn", "Cy Rill", "Di Moss", "Ed Wray", "Flo Birch", "Gus Holt", "Hal Fenn",
    "Ivy Sand", "Joe Marl",
)  # fmt: skip
LATE = "Kit Vane"
TABLET, PHONE, WALL = (820, 1180), (390, 844), (1920, 1080)


def plan_evening(engine: Engine, made: Made, feeds: str = "phone") -> str:
    """An evening of a talk, pairs fed by phones and pairs with numbers; ten people are here."""
    now = datetime.now(UTC)
    evening_id = uuid.uuid4()
    with transaction(engine) as db:
        shelf = {one.title: str(one.id) for one in drills.shelf(db, made.club_id)}
        pairs: dict[str, Any] = {"kind": "partner", "minutes": 10}
        plan = {
            "title": "Tuesday class",
            "starts_at": now.isoformat(),
            "ends_at": (now + timedelta(minutes=90)).isoformat(),
            "blocks": [
                {"key": "talk", "kind": "talk", "name": "What comes tonight", "minutes": 5},
                {"key": "phones", "name": "With phones", "feeds": feeds,
                 "drill_id": shelf["One hits, one guards"], **pairs},
                {"key": "numbers", "name": "With numbers", "feeds": "numbered",
                 "drill_id": shelf["Turn about"], **pairs},
            ],
        }  # fmt: skip
        row = evenings.add(db, made.club_id, evening_id, Evening.model_validate(plan))
        for name in (*NAMES, LATE):
            student = students.add(db, made.club_id, name=name, stance="left_lead")
            if name != LATE:
                evenings.be_here(evenings.attend(db, row, student.id), True)
    return str(evening_id)


def sized(context: BrowserContext, page: Page, size: tuple[int, int]) -> Page:
    page.set_viewport_size({"width": size[0], "height": size[1]})
    return page


def put_together(page: Page, blocks: int) -> None:
    for done in range(1, blocks + 1):
        page.get_by_role("button", name="Put them together").first.click()
        expect(page.get_by_role("button", name="All anew")).to_have_count(done)


def fits(page: Page) -> None:
    """Nothing sticks out to the side, and every button can be hit with cold fingers."""
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    small = page.evaluate(
        "[...document.querySelectorAll('main button')].filter(one => one.offsetHeight < 44)"
        ".map(one => one.innerText)"
    )
    assert not small


@pytest.mark.alone
def test_an_evening_of_three_blocks_on_three_devices(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    evening = plan_evening(engine, made)
    context, page = coach_page(browser, server, made)
    tablet = sized(context, page, TABLET)
    tablet.goto(f"{server.address}/tonight/{evening}")
    put_together(tablet, 2)
    phone = phone_of(browser, tablet, server)
    wall_context, wall = coach_page(browser, server, made)
    sized(wall_context, wall, WALL).goto(f"{server.address}/tonight/{evening}/wall")

    expect(phone.get_by_role("status")).to_have_text("It has not begun yet.")
    phone.get_by_role("button", name="3", exact=True).click()
    tablet.get_by_role("button", name="Begin: What comes tonight").click()
    expect(wall.get_by_role("heading", name="What comes tonight")).to_be_visible()
    tablet.get_by_role("button", name="Next: With phones").click()
    expect(wall.locator(".wall-pairs li")).to_have_count(5)
    expect(phone.get_by_role("status")).to_have_text(re.compile("You (feed|defend)"))
    fits(tablet)
    fits(phone)

    one_clock(tablet, phone, wall)
    somebody_late(tablet, wall, evening, server)
    a_head_knock(tablet, evening, server)
    without_a_connection(context, tablet, wall)
    stop_word(tablet, wall, phone)
    by_numbers(tablet, wall)
    the_end(tablet, phone)
    for one in (context, wall_context, phone.context):
        one.close()


def phone_of(browser: Browser, tablet: Page, server: Server) -> Page:
    """A phone that has scanned the first code, with nobody signed in on it."""
    tablet.get_by_role("link", name="Phones").click()
    address = tablet.get_by_role("link", name="open it here").first.get_attribute("href")
    tablet.get_by_role("link", name="Back to the class").click()
    tablet.get_by_role("button", name="Begin: What comes tonight").wait_for()
    context = browser.new_context(
        viewport={"width": PHONE[0], "height": PHONE[1]}, has_touch=True, is_mobile=True
    )
    phone = context.new_page()
    phone.goto(f"{server.address}{address}")
    phone.get_by_role("heading", name=NAMES[0]).wait_for()
    return phone


def one_clock(*pages: Page) -> None:
    """Every device shows the same moment, to 50 ms (asked of it). A page shows a moment a little
    after it was; the freshest of many readings says how its clock stands."""
    stands = [
        max(
            page.evaluate(
                "() => Number(document.querySelector('[data-elapsed]').dataset.elapsed)"
                " - (performance.timeOrigin + performance.now()) / 1000"
            )
            for _ in range(150)
        )
        for page in pages
    ]
    assert max(stands) - min(stands) < 0.05, [stand - stands[0] for stand in stands]


def somebody_late(tablet: Page, wall: Page, evening: str, server: Server) -> None:
    """One pair takes them in; everybody sees it, and the clock goes on."""
    tablet.get_by_role("link", name="Plan and people").click()
    who = tablet.get_by_label("Who is here", exact=True)
    who.get_by_role("button", name=LATE).first.click()
    tablet.get_by_role("button", name="Somebody came or went: place them").first.click()
    tablet.get_by_role("link", name="Run the class").click()
    expect(wall.locator(".wall-pairs")).to_contain_text(LATE.split()[0])
    expect(tablet.get_by_label("The pairs")).to_contain_text(LATE)


def a_head_knock(tablet: Page, evening: str, server: Server) -> None:
    """Off at once; a slip of the finger can be taken back; then the others are put together."""
    pair = tablet.locator(".class-tile", has_text=LATE)
    pair.click()
    knock = tablet.get_by_role("button", name=re.compile("^Head knock"))
    name = (knock.inner_text()).removeprefix("Head knock: ")
    knock.click()
    tablet.get_by_role("button", name="Undo").click()
    tablet.get_by_role("button", name="Back to all").click()
    expect(tablet.locator(".class-tile", has_text="head knock")).to_have_count(0)
    tablet.locator(".class-tile", has_text=LATE).click()
    tablet.get_by_role("button", name=re.compile("^Head knock")).click()
    tablet.get_by_role("button", name="Got through").click()
    tablet.get_by_role("button", name="hand not home").click()
    tablet.get_by_label("A note on this pair").fill("shoulders up")
    tablet.get_by_role("button", name="Keep it").click()
    tablet.wait_for_timeout(2500)  # long enough to have watched
    tablet.get_by_role("button", name="Back to all").click()
    first = tablet.locator(".class-tile").first
    expect(first).to_contain_text("head knock")
    expect(first).to_contain_text("1 got through")
    tablet.get_by_role("link", name="Plan and people").click()
    held = tablet.get_by_label("Who is here", exact=True).get_by_role("button", name=name).first
    expect(held).to_contain_text("off the floor")
    tablet.get_by_role("button", name="Somebody came or went: place them").first.click()
    tablet.get_by_role("link", name="Run the class").click()
    expect(tablet.get_by_text("With nobody:")).to_contain_text(name)


def without_a_connection(context: BrowserContext, tablet: Page, wall: Page) -> None:
    """What is tapped holds here, and everywhere once there is a connection again."""
    context.set_offline(True)
    tablet.get_by_role("button", name="Pause").click()
    expect(tablet.get_by_role("status").first).to_have_text("Paused")
    expect(tablet.get_by_role("alert")).to_contain_text("No connection")
    stands = tablet.get_by_label("left of this part").inner_text()
    context.set_offline(False)
    expect(tablet.get_by_role("alert")).to_have_count(0)
    expect(wall.get_by_label("left of this part")).to_have_text(stands)
    tablet.reload()
    expect(tablet.get_by_label("left of this part")).to_have_text(stands)
    tablet.get_by_role("button", name="Go on").click()


def stop_word(tablet: Page, wall: Page, phone: Page) -> None:
    tablet.get_by_role("button", name="Stop!").click()
    expect(wall.locator(".wall")).to_have_attribute("data-stopped", "true")
    expect(phone.get_by_role("status")).to_have_text("Stop. Stand still.")
    tablet.get_by_role("button", name="Go on").click()
    expect(wall.locator(".wall[data-stopped]")).to_have_count(0)


def by_numbers(tablet: Page, wall: Page) -> None:
    """The voice calls each number, and the wall shows it."""
    tablet.evaluate(
        "window.heard = []; addEventListener('hastatus:class-sound',"
        " ({detail}) => window.heard.push(detail.name))"
    )
    tablet.get_by_role("button", name="Next: With numbers").click()
    if tablet.get_by_role("button", name="Let this device be the voice").count():
        tablet.get_by_role("button", name="Let this device be the voice").click()
    shown = set[str]()
    for _ in range(80):
        called = wall.locator(".wall-called").all_inner_texts()
        shown |= {f"spoken:{text.strip()}" for text in called}
        if shown & set(tablet.evaluate("window.heard")):
            return
        wall.wait_for_timeout(250)
    raise AssertionError(f"the wall shows {shown}, heard is {tablet.evaluate('window.heard')}")


def the_end(tablet: Page, phone: Page) -> None:
    tablet.get_by_role("button", name="All blocks").click()
    tablet.get_by_role("button", name="End the evening").click()
    expect(phone.get_by_role("heading", name="Not open")).to_be_visible()
    tablet.get_by_role("link", name="What was seen").click()
    tablet.get_by_role("heading", name="Block by block").wait_for()
    blocks = tablet.get_by_label("Blocks")
    expect(blocks).to_contain_text("shoulders up")
    expect(blocks).to_contain_text("hand not home")
    people = tablet.get_by_label("People")
    expect(people).to_contain_text("free → light and continuous: felt 3 of 10")
    tablet.get_by_role("button", name="Plan the next one like this").click()
    tablet.get_by_role("heading", name="The plan").wait_for()


def test_from_choosing_the_drill_to_the_first_call_in_few_taps(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """At most twelve taps (asked of it), and a minute for a hand that needs five seconds a tap."""
    made = make_club(engine)
    evening = plan_evening(engine, made)
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/tonight/{evening}")
    page.get_by_role("heading", name="The plan").wait_for()
    page.evaluate("window.taps = 0; addEventListener('click', () => (window.taps += 1), true)")
    page.get_by_role("button", name="Edit").nth(2).click()
    page.get_by_label("drill", exact=True).select_option("Two beats, then in")
    page.get_by_role("button", name="Save", exact=True).click()
    page.get_by_role("button", name="Put them together").nth(1).click()
    page.get_by_role("link", name="Run the class").click()
    page.get_by_role("button", name="All blocks").click()
    page.get_by_role("button", name="Two beats, then in").click()
    page.get_by_text("Round 1 of").wait_for()
    selecting = 2
    assert page.evaluate("window.taps") + selecting <= 12
    context.close()


def test_what_comes_next_is_said_in_the_ear_of_whoever_feeds(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """On a phone that nobody is signed in on: the calls of its own feeds, ahead of each."""
    made = make_club(engine)
    evening = plan_evening(engine, made, feeds="ear")
    context, tablet = coach_page(browser, server, made)
    tablet.goto(f"{server.address}/tonight/{evening}")
    put_together(tablet, 2)
    phone = phone_of(browser, tablet, server)
    phone.evaluate(
        "window.heard = []; addEventListener('hastatus:class-sound',"
        " ({detail}) => window.heard.push(detail.name))"
    )
    tablet.get_by_role("button", name="All blocks").click()
    tablet.locator(".class-blocks").get_by_role("button", name="With phones").click()
    phone.get_by_role("button", name="Say it in my ear").click()
    code = phone.url.split("/")[-1]
    own = phone.evaluate(f"fetch('/api/phones/{code}').then((answer) => answer.json())")
    calls = {feed["call"] for feed in own["feeds"]}
    assert calls
    for _ in range(240):
        heard = phone.evaluate("window.heard")
        if heard:
            break
        phone.wait_for_timeout(250)
    assert set(heard) <= calls
    assert heard
    context.close()


def test_no_tap_on_somebody_is_lost_when_the_page_goes(
    engine: Engine, server: Server, browser: Browser
) -> None:
    """Three come in at once, the line is slow, and the tablet is reloaded at that moment."""
    made = make_club(engine)
    evening = plan_evening(engine, made)
    context, tablet = coach_page(browser, server, made)
    tablet.goto(f"{server.address}/tonight/{evening}")
    gone = [tablet.get_by_role("button", name=re.compile(f"^{name}")).first for name in NAMES[:3]]
    for button in gone:
        expect(button).to_have_attribute("aria-pressed", "true")
    line = context.new_cdp_session(tablet)
    line.send("Network.enable")
    slow = {"offline": False, "latency": 700, "downloadThroughput": -1, "uploadThroughput": -1}
    line.send("Network.emulateNetworkConditions", slow)
    for button in gone:
        button.click()
    line.send("Network.emulateNetworkConditions", slow | {"latency": 0})
    tablet.reload()
    for button in gone:
        expect(button).to_have_attribute("aria-pressed", "false")
    context.close()
