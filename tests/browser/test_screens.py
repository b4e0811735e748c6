"""Every screen at every size: nothing sticks out sideways, words can be read, a thumb hits what it
aims at, and axe-core finds nothing (WCAG 2.2 A and AA, and its best practices)."""

from __future__ import annotations

import uuid
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Page
from sqlalchemy import Engine

from hastatus.demo import club
from tests.harness.club import Server
from tests.harness.home import make_link, practise

pytestmark = pytest.mark.browser

AXE = (Path(__file__).parents[2] / "ui/node_modules/axe-core/axe.min.js").read_text()
RULES = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"]
TOUCH = ((390, 844), (320, 640), (820, 1180), (640, 400))
DESK = ((1280, 800),)
"""Phones, a tablet, a desk; 640 × 400 is the desk at 200 % zoom (WCAG 1.4.10: reflow)."""
AXE_SIZES = ((390, 844), (1280, 800))
TARGET_PX = 44
LEAST_TYPE_PX = 11
LONG = (
    "Maximiliana Featherstonehaugh-Cholmondeley of the lower lock 2",
    "عبد الرحمن بن عبد العزيز آل الشيخ محمد",
    "Zoë̈ Ñandú̧ Ångström̂ Çelik̇ Żółć",
)
"""Sixty characters, Arabic, combining marks; made up."""

DRAWN = """async () => {
  await document.fonts.ready
  for (let frames = 0; frames < 3; frames += 1) await new Promise(requestAnimationFrame)
}"""
LOADED = """async () => {
  const loading = () =>
    !document.querySelector('main') || document.body.innerText.includes('Loading')
  for (const began = performance.now(); loading(); ) {
    if (performance.now() > began + 20_000) throw new Error('this page is still loading')
    await new Promise((resolve) => setTimeout(resolve, 40))
  }
}"""
STICKS_OUT = """() => {
  const wide = document.documentElement.clientWidth
  const unseen = (one) => {
    for (let at = one; at; at = at.parentElement) {
      if (at.matches('.overflow-x-auto, [aria-hidden=true]')) return true
      if (getComputedStyle(at).clipPath !== 'none') return true
      if (at.getBoundingClientRect().width <= 1) return true
    }
    return false
  }
  const beyond = [...document.body.querySelectorAll('*')].filter((one) => {
    const { left, right, width } = one.getBoundingClientRect()
    return width > 1 && (right > wide + 1 || left < -1) && !unseen(one)
  })
  return beyond.slice(0, 4).map((one) => one.outerHTML.slice(0, 160))
}"""
CUT = """() => [...document.querySelectorAll('button, .btn')]
  .filter((one) => one.clientWidth > 0 && one.scrollWidth > one.clientWidth + 1)
  .map((one) => one.outerHTML.slice(0, 160))"""
SMALL = """(least) => {
  const found = []
  const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  while (texts.nextNode()) {
    const one = texts.currentNode.parentElement
    const { width, height } = one.getBoundingClientRect()
    if (!texts.currentNode.textContent.trim() || !width || !height) continue
    const scale = one.closest('svg') && one.getScreenCTM ? one.getScreenCTM().a : 1
    if (parseFloat(getComputedStyle(one).fontSize) * scale < least - 0.05)
      found.push(texts.currentNode.textContent.trim().slice(0, 40))
  }
  return found
}"""
TIGHT = """(least) => [...document.querySelectorAll(
    'a[href], button, input, select, textarea, summary')].filter((one) => {
  if (one.closest('svg') || (one.tagName === 'A' && getComputedStyle(one).display === 'inline'))
    return false
  const boxes = [one, one.closest('label')].filter(Boolean).map((it) => it.getBoundingClientRect())
  if (!boxes[0].width || !boxes[0].height) return false
  return Math.max(...boxes.map((box) => box.width)) < least - 0.5
    || Math.max(...boxes.map((box) => box.height)) < least - 0.5
}).map((one) => one.outerHTML.slice(0, 160))"""
BARRIERS = """async (tags) => {
  const colours = (one) => {
    const found = [getComputedStyle(one).color]
    for (let at = one; at; at = at.parentElement) {
      const { backgroundColor, backgroundImage, opacity } = getComputedStyle(at)
      found.push(backgroundColor, backgroundImage, opacity)
    }
    return found.join()
  }
  const written = [...document.body.querySelectorAll('*')].filter((one) =>
    [...one.childNodes].some((each) => each.nodeType === 3 && each.data.trim())
    && one.getBoundingClientRect().width)
  const first = !window.judged
  const judged = (window.judged ??= new WeakMap())
  const unread = written.filter((one) => judged.get(one) !== colours(one))
  for (const one of unread) judged.set(one, colours(one))
  const run = (on, options) => axe.run(on, { resultTypes: ['violations'], ...options })
  const rules = { 'color-contrast': { enabled: first } }
  const found = (await run(document, { runOnly: tags, rules })).violations
  if (first || !unread.length) return found
  const contrast = await run({ include: unread }, { runOnly: ['color-contrast'] })
  return [...found, ...contrast.violations]
}"""
"""Contrast is half of the work: what was looked at in its colours is not looked at again."""


@pytest.fixture(scope="module")
def demo(engine: Engine) -> None:
    """Two weeks of the made-up club: what is drawn over time has something to draw."""
    club.fill(engine, today=datetime.now(UTC), say=lambda _: None, weeks=2)


def signed_in(browser: Browser, server: Server) -> Iterator[Page]:
    width, height = TOUCH[0]
    context = browser.new_context(viewport={"width": width, "height": height}, has_touch=True)
    page = context.new_page()
    page.goto(server.address)
    page.get_by_label("Login").fill(club.LOGIN)
    page.get_by_label("Password").fill(club.PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("navigation").wait_for()
    yield page
    context.close()


def read(page: Page, path: str) -> Any:
    return page.evaluate(f"fetch('{path}').then((answer) => answer.json())")


def send(page: Page, path: str, body: dict[str, Any]) -> dict[str, Any]:
    token = read(page, "/api/session")["csrf"]
    answer: dict[str, Any] = page.evaluate(
        "([path, body, token]) => fetch(path, {method: 'POST', body: JSON.stringify(body),"
        " headers: {'Content-Type': 'application/json', 'X-CSRF-Token': token}})"
        ".then((answer) => answer.json())",
        [path, body, token],
    )
    return answer


def screens(page: Page) -> dict[str, str]:
    """The address of every screen, and of those with the longest names."""
    drills = read(page, "/api/library")["drills"]
    ids = {drill["title"]: drill["id"] for drill in drills}
    students = {student["name"]: student for student in read(page, "/api/students")["students"]}
    for name in LONG:
        if name not in students:
            students[name] = send(page, "/api/students", {"name": name, "stance": "left_lead"})
    fenn, solo, partner = students["Fenn Astley"], drills[0]["id"], ids["Two beats, then in"]
    test = read(page, f"/api/students/{fenn['id']}")["baselines"]["tests"][-1]["run_id"]
    together = read(page, "/api/partner-runs")["runs"][0]["id"]
    pair = f"feeder={students['Bram Oduya']['id']}&defender={students[LONG[0]]['id']}&rung=4"
    ids_of_run = {"id": str(uuid.uuid4()), "recorder": str(uuid.uuid4())}
    run = send(page, "/api/runs", {**ids_of_run, "drill_id": solo,
                                   "student_id": students[LONG[1]]["id"], "seed": 1})  # fmt: skip
    lines = read(page, "/api/evenings")
    evening, past = lines["tonight"], lines["evenings"][1]["id"]
    codes = read(page, f"/api/evenings/{evening}/codes?origin=http://hall.example")["codes"]
    link = send(page, "/api/invitations", {"name": LONG[0]})
    practise(page, students[LONG[0]]["id"], solo)
    at_home = make_link(page, students[LONG[0]]["id"])
    return {
        "tonight": "/tonight",
        "class, not begun": f"/tonight/{evening}/run",
        "wall, not begun": f"/tonight/{evening}/wall",
        "phone": codes[0]["path"],
        "phone, of nobody": "/mine/nobody-has-this-code",
        "link": link["path"],
        "link of nobody": "/join/nobody-has-this-link",
        "phones": f"/tonight/{evening}/codes",
        "what was seen": f"/tonight/{past}/after",
        "feed sheets": f"/sheets/{past}/second",
        "cards and calls": f"/calls/{evening}/first",
        "library": "/build",
        "bench": f"/build?drill={solo}&student={fenn['id']}",
        "partner bench": f"/build?drill={partner}&{pair}",
        "words": "/build/words",
        "run": "/run",
        "run, chosen": f"/run?student={fenn['id']}",
        "run, with a partner": f"/run?student={fenn['id']}&drill={partner}",
        "run, a long name": f"/run?student={students[LONG[0]]['id']}",
        "agree": f"/pair?drill={partner}&{pair}",
        "floor, of another device": f"/runs/{run['id']}/floor",
        "results": "/read",
        "archived runs": "/read?archived=yes",
        "two runs compared": f"/compare?one={fenn['last']['id']}&of_one={fenn['id']}"
        f"&other={test}&of_other={fenn['id']}",
        "readout": f"/read/{fenn['last']['id']}",
        "readout of a test": f"/read/{test}",
        "readout of nothing": f"/read/{run['id']}",
        "readout of a pair": f"/pairs/{together}",
        "people": "/people",
        "people, adding": "/people?add=yes",
        "student": f"/people/{fenn['id']}",
        "student with no run": f"/people/{students[LONG[1]]['id']}",
        "log": "/log",
        "log of classes": f"/log/classes?student={fenn['id']}",
        "book of incidents": "/log/incidents",
        "device": "/device",
        "account": "/account",
        "home practice": "/people/home",
        "who did what": "/log/audit",
        "at home": at_home,
        "at home, nobody": "/home/nobody-has-this-link",
        "card": f"/card/{solo}",
        "partner card": f"/card/{partner}",
        "feed sheet": f"/feed/{partner}?{pair}",
    }


def settle(page: Page, address: str) -> None:
    # Quiet for half a second: a plan is asked for when its drill has come.
    page.goto(address, wait_until="networkidle")
    page.evaluate(LOADED)
    page.evaluate(DRAWN)


def a_class(page: Page, address: str, at: dict[str, str]) -> Iterator[str]:
    """A class that runs, from state to state, on all of its screens."""
    settle(page, address + at["class, not begun"])
    page.get_by_role("button", name="All blocks").click()
    yield "class, all blocks"
    page.locator(".class-blocks").get_by_role("button").nth(2).click()
    page.locator(".class-tile").first.wait_for()
    yield "class, pairs"
    page.locator(".class-tile").first.click()
    yield "class, a pair"
    for name in ("phone", "wall, not begun"):
        settle(page, address + at[name])
        page.get_by_label("left of this part").filter(has_text=":").wait_for()
        yield f"{name}, in a round"
    settle(page, address + at["class, not begun"])
    page.get_by_role("button", name="Stop!").click()
    yield "class, stopped"


def in_motion(page: Page, address: str, at: dict[str, str]) -> Iterator[str]:
    """The floor and the mat, from state to state; the name of the one that is on."""
    yield from a_class(page, address, at)
    settle(page, address + at["run, chosen"])
    page.get_by_role("button", name="Start", exact=True).click()
    page.get_by_role("button", name="Begin").wait_for()
    yield "floor, ready"
    page.get_by_role("button", name="Begin").click()
    page.get_by_role("button", name="Skip the walk-through").click()
    page.locator("[data-phase=round]").wait_for()
    yield "floor, round"
    page.get_by_role("button", name="Pause").click()
    page.locator("[data-phase=paused]").wait_for()
    yield "floor, paused"
    settle(page, address + at["agree"])
    page.get_by_role("button", name="Agree and start").click()
    page.locator(".mat[data-phase=ready]").wait_for()
    yield "mat, ready"
    page.get_by_role("button", name="Begin round").click()
    page.locator(".mat[data-phase=round]").wait_for()
    page.wait_for_timeout(4000)
    yield "mat, round"
    page.get_by_role("button", name="Pause").click()
    page.locator(".mat[data-phase=paused]").wait_for()
    yield "mat, paused"


AREAS = (
    "left", "right", "middle", "high", "low", "left-high", "left-low", "right-high", "right-low",
)  # fmt: skip
FLASH = """(areas) => areas.filter((area) => {
  const one = document.createElement('div')
  one.className = `flash flash-${area}`
  document.querySelector('main').append(one)
  const { left, right, top, bottom } = one.getBoundingClientRect()
  one.remove()
  return left < 0 || top < 0 || right > innerWidth || bottom > innerHeight
})"""


def turned(page: Page) -> Iterator[tuple[int, int, bool]]:
    """The screen at each size in turn, under a finger or under a mouse: width, height, touch."""
    # A floor in full screen has a size of its own.
    page.evaluate("document.fullscreenElement && document.exitFullscreen()")
    pointer = page.context.new_cdp_session(page)
    for touch, sizes in ((True, TOUCH), (False, DESK)):
        pointer.send("Emulation.setTouchEmulationEnabled", {"enabled": touch})
        for width, height in sizes:
            page.set_viewport_size({"width": width, "height": height})
            page.evaluate(DRAWN)
            assert page.evaluate("matchMedia('(pointer: coarse)').matches") == touch
            yield width, height, touch
    pointer.send("Emulation.setTouchEmulationEnabled", {"enabled": True})
    pointer.detach()


def cut_cues(page: Page) -> list[str]:
    """Places of a cue that a screen cuts off, on the floor."""
    found = []
    for width, height, _ in turned(page):
        found += [f"at {width} × {height}: cue {one}" for one in page.evaluate(FLASH, list(AREAS))]
    return found


def findings(page: Page) -> list[str]:
    """What is wrong with the screen as it stands, turned from size to size."""
    found = []
    for width, height, touch in turned(page):
        wrong = [f"sticks out: {one}" for one in page.evaluate(STICKS_OUT)]
        wrong += [f"cut off: {one}" for one in page.evaluate(CUT)]
        wrong += [f"small: {one}" for one in page.evaluate(SMALL, LEAST_TYPE_PX)]
        if touch:
            wrong += [f"tight: {one}" for one in page.evaluate(TIGHT, TARGET_PX)]
        if (width, height) in AXE_SIZES:
            wrong += barriers(page)
        found += [f"at {width} × {height}: {one}" for one in wrong]
    return found


def barriers(page: Page) -> list[str]:
    """What axe-core finds."""
    if page.evaluate("typeof axe === 'undefined'"):
        page.evaluate(AXE)
    return [
        f"axe {rule['id']}: {node['target']} {node['failureSummary']}"
        for rule in page.evaluate(BARRIERS, RULES)
        for node in rule["nodes"]
    ]


def outside(page: Page, address: str) -> list[str]:
    """What is wrong with the help, and with the sign-in."""
    page.goto(f"{address}/run")
    page.get_by_role("button", name="Help").click()
    page.get_by_role("dialog").wait_for()
    wrong = [f"help, {finding}" for finding in findings(page)]
    page.context.clear_cookies()
    settle(page, address)
    return wrong + [f"sign-in, {finding}" for finding in findings(page)]


def test_every_screen_fits_and_can_be_read_and_hit(
    demo: None, server: Server, browser: Browser
) -> None:
    for page in signed_in(browser, server):
        wrong: list[str] = []
        at = screens(page)
        for name, path in at.items():
            settle(page, server.address + path)
            assert page.title().endswith("Hastatus"), name
            wrong += [f"{name}, {finding}" for finding in findings(page)]
        for name in in_motion(page, server.address, at):
            wrong += [f"{name}, {finding}" for finding in findings(page)]
            if name == "floor, paused":
                wrong += cut_cues(page)
        wrong += outside(page, server.address)
        assert wrong == [], "\n".join(wrong)
