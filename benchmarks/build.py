"""The bench in a browser: from an edit to the redrawn strip and figures."""

from __future__ import annotations

import re
from collections.abc import Iterator
from statistics import quantiles

from playwright.sync_api import Page, sync_playwright

from benchmarks.figure import Figure
from hastatus.core.drill.settings import Rounds
from hastatus.core.starter import block_on_sound_strike_on_light
from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Server, make_club, sign_in
from tests.harness.database import temporary_database, url_of

EDIT = """
async ([label, value, where, what]) => {
  const field = [...document.querySelectorAll('label')]
    .find((each) => each.textContent.trim() === label)
  const input = document.getElementById(field.htmlFor)
  const plan = document.querySelector(where)
  const redrawn = new Promise((resolve, reject) => {
    const observer = new MutationObserver((changes) => {
      const parts = changes.map(({ target }) => target.parentElement ?? target)
      if (!parts.some((part) => part.closest(what))) return
      observer.disconnect()
      resolve()
    })
    observer.observe(plan, { subtree: true, childList: true, attributes: true,
      characterData: true })
    setTimeout(() => reject(new Error(`nothing redrawn after ${label} ${value}`)), 5000)
  })
  const set = Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set
  const begun = performance.now()
  set.call(input, String(value))
  input.dispatchEvent(new Event('input', { bubbles: true }))
  await redrawn
  await new Promise((resolve) => requestAnimationFrame(() => {
    const drawn = new MessageChannel()
    drawn.port1.onmessage = resolve
    drawn.port2.postMessage(null)
  }))
  return performance.now() - begun
}
"""
"""Types a value into a field; resolves to the ms until what it changes is drawn anew."""
_DRAWN = ("section[aria-label=Plan]", "[data-round] svg, dl")


def figures(loose: bool) -> Iterator[Figure]:
    """Measure edits of a drill with one round of thirty minutes."""
    half_hour = block_on_sound_strike_on_light().in_rounds(
        Rounds(count=1, duration_s=1800, rehearse=False)
    )
    with temporary_database() as engine, sync_playwright() as playwright:
        server = Server(url_of(engine))
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
        try:
            server.start()
            made = make_club(engine, half_hour)
            _, page = sign_in(browser, server, made)
            page.goto(f"{server.address}/build?drill={made.drill_id}&rung=3")
            page.locator("[data-round='1'] svg").first.wait_for()
            times = _edits(page, 12 if loose else 40)
        finally:
            browser.close()
            server.stop()
    yield Figure(
        "edit to redrawn strip and figures, 30-minute drill, 95th percentile",
        quantiles(times, n=20)[-1],
        "ms",
        100,
        3,
    )


def _edits(page: Page, count: int) -> list[float]:
    """Edits of four kinds in turn: each changes every cue of the plan."""
    fields = {
        "Waiting": ("and on average", [0.61 + 0.03 * place for place in range(count)]),
        "Don't-react cues": ("don’t-react cues", [10.3 + 0.2 * place for place in range(count)]),
        "Answer window": ("starts with", [1.01 + 0.01 * place for place in range(count)]),
        "Overlap": ("that follow another", [5.1 + 0.6 * place for place in range(count)]),
    }
    times = []
    _warm(page)
    for name, (label, values) in fields.items():
        page.get_by_role("button", name=name).first.click()
        page.get_by_label(label).wait_for()
        times += [float(page.evaluate(EDIT, [label, round(value, 3), *_DRAWN])) for value in values]
        page.get_by_role("button", name=name).first.click()
    return times


def _warm(page: Page) -> None:
    """Edits that are not counted: both server processes open connections, the page compiles."""
    page.get_by_role("button", name=re.compile("^Flash ")).click()
    page.get_by_role("button", name="Goal").click()
    page.get_by_label("the rung has done its work at").wait_for()
    for place in range(16):
        page.get_by_label("the rung has done its work at").fill(str(0.3 + 0.01 * place))
        page.wait_for_timeout(150)
    page.get_by_role("button", name="Goal").click()
