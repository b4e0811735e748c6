"""Reading times on the screen: a run, a five-minute test, a student's tests over the weeks."""

from __future__ import annotations

import pytest
from playwright.sync_api import Browser, expect
from sqlalchemy import Engine

from hastatus.demo.student import Habits
from hastatus.store import drills
from hastatus.store.database import transaction
from tests.harness.club import Server, coach_page, make_club, short_drill
from tests.harness.kept_run import keep_run

pytestmark = pytest.mark.browser

OUTLINES = """() => {
  const style = getComputedStyle(document.documentElement);
  const rgb = (name) => {
    const span = document.body.appendChild(document.createElement('span'));
    span.style.color = style.getPropertyValue(name);
    const found = getComputedStyle(span).color;
    span.remove();
    return found;
  };
  const names = ['blue', 'vermillion', 'orange', 'purple', 'green', 'sky'];
  const hues = names.map((name) => rgb(`--cue-${name}`));
  const shapes = [...document.querySelectorAll('main svg *')].map(getComputedStyle);
  const outlines = shapes.filter(({ fill }) => hues.includes(fill)).map(({ stroke }) => stroke);
  return [outlines.length, [...new Set(outlines)], rgb('--color-ink')];
}"""
"""Of shapes in a cue's hue: how many there are, the colours of their outlines; and ink."""

SLOW_REAR = Habits(rear_ms=150, tiring_ms=0, lapses=0)
TESTED = Habits(mu_ms=280, sigma_ms=25, tau_ms=40, choice_ms=100, rear_ms=0)


def test_times_are_read_with_their_intervals(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine, short_drill(60, count=4))
    with transaction(engine) as db:
        known = {each.drill_id: each for each in drills.newest(db, made.club_id)}
        test = next(each for each in known.values() if drills.read(each).purpose == "baseline")
    practice = [keep_run(engine, made, known[made.drill_id], SLOW_REAR, week) for week in (0, 1)]
    for week in range(4):
        keep_run(engine, made, test, TESTED, week)
    context, page = coach_page(browser, server, made)

    page.goto(f"{server.address}/read/{practice[-1]}")
    differences = page.get_by_role("region", name="Differences")
    side = differences.get_by_role("row", name="rear side, against lead side")
    expect(side).to_contain_text("ms slower")
    # The drill has no overlapping pairs on this rung, so nothing is said of them.
    expect(differences.get_by_text("second of a pair")).to_have_count(0)
    expect(differences).to_contain_text("This device is not measured")
    expect(page.get_by_text("slow: over 1½ times the median")).to_be_visible()
    # A hue alone does not stand out from a light ground: it is outlined (W3C WCAG 2.2, SC 1.4.11).
    shapes, outlines, ink = page.evaluate(OUTLINES)
    assert shapes > 20
    assert outlines == [ink]

    page.goto(f"{server.address}/people")
    expect(page.get_by_text("rear side slower over 2 runs")).to_be_visible()
    page.get_by_role("link", name="Pim Halloran").click()
    tests = page.get_by_role("region", name="Baselines")
    expect(tests.get_by_text("One sound:")).to_contain_text("ms a week")
    tests.get_by_role("link").first.click()
    baseline = page.get_by_role("region", name="Baseline")
    expect(baseline.get_by_role("row")).to_have_count(6)  # its head and five rounds
    expect(baseline).to_contain_text("extra time when the choices double")
    # Rounds of a test differ in their choice, so they are not set against each other.
    expect(page.get_by_role("region", name="Differences")).to_have_count(0)
    context.close()
