"""Every starter drill on the floor: its first cues come, and are timed the way it says."""

from __future__ import annotations

import time
from dataclasses import dataclass
from typing import Any

import pytest
from playwright.sync_api import Browser, Page
from sqlalchemy import Engine, select

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.plan.timeline import Asking
from hastatus.core.starter import STARTERS
from hastatus.store.database import transaction
from hastatus.store.models import Drill as DrillRow
from hastatus.store.models import DrillVersion
from tests.harness.answering import Answerer, begin
from tests.harness.club import SEED, Made, Server, coach_page, drill_ids, get, make_club, sign_in

pytestmark = pytest.mark.browser

ENOUGH = 3
"""Cues of each drill that are played; the last is cut off by the stop and not looked at."""
LONG_S = 9.0
"""Nobody waits longer for a cue: after a long hold, the one before is the last that is played."""
AT_ONCE = 6
"""Drills that are played beside one another, or waiting for their cues would take minutes."""


@dataclass
class Playing:
    """A drill on the floor of a browser of its own."""

    title: str
    run: str
    page: Page
    student: Answerer
    enough: int

    @property
    def over(self) -> bool:
        """Whether enough was shown, and the first answers have had their time; what is counted or
        held has begun."""
        if self.enough == 0:
            return self.page.locator(".floor-said").count() > 0
        shown = self.student.shown
        return len(shown) >= self.enough and self.student.now_ms > shown[0]["t_ms"] + 3000


def test_a_club_takes_a_drill_that_came_with_a_newer_version(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    with transaction(engine) as db:
        title = DrillVersion.document["title"].astext == "Turn about"
        version = db.scalars(
            select(DrillVersion).where(DrillVersion.club_id == made.club_id, title)
        ).one()
        drill = db.get_one(DrillRow, (made.club_id, version.drill_id))
        db.delete(version)
        db.flush()
        db.delete(drill)
    _, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/build")
    offer = page.get_by_role("region", name="New drills")
    assert "A new drill comes with this version: “Turn about”." in offer.inner_text()
    before = page.locator("tbody tr").count()
    offer.get_by_role("button", name="Add it").click()
    offer.wait_for(state="detached")
    page.get_by_role("link", name="Turn about").wait_for()
    assert page.locator("tbody tr").count() == before + 1


def test_every_starter_drill_plays(engine: Engine, server: Server, browser: Browser) -> None:
    made = make_club(engine)
    context, page = sign_in(browser, server, made)
    ids = drill_ids(page)
    titles = [make().title for make in STARTERS.values()]
    state = context.storage_state()
    pages = [browser.new_context(storage_state=state).new_page() for _ in range(AT_ONCE)]
    for some in (titles[at : at + AT_ONCE] for at in range(0, len(titles), AT_ONCE)):
        playing = [
            put_on(each, server, made, ids[title], title)
            for each, title in zip(pages, some, strict=False)
        ]
        play(playing)
        for each in playing:
            check(each)


def put_on(page: Page, server: Server, made: Made, drill_id: str, title: str) -> Playing:
    """From the run page to a floor that is ready, with somebody who knows every answer."""
    page.goto(f"{server.address}/run?student={made.student_id}&drill={drill_id}&rung=1&seed={SEED}")
    page.get_by_role("button", name="Start", exact=True).click()
    page.wait_for_url("**/floor")
    page.locator("[data-phase=ready]").wait_for()
    run = page.url.split("/")[-2]
    view: Any = get(page, f"/api/runs/{run}")
    cues = view["plan"]["rounds"][0]["cues"][:ENOUGH]
    enough = max(1, sum(cue["at_s"] < LONG_S for cue in cues)) if cues else 0
    return Playing(title, run, page, Answerer(page, lambda cue: right(view, cue)), enough)


def right(view: Any, cue: dict[str, Any]) -> tuple[str, float] | None:
    """The control that the cue asks for first, and a time well inside the window."""
    drill, plan = Drill.model_validate(view["document"]), RunPlan.model_validate(view["plan"])
    each = plan.rounds[cue["round"] - 1]
    asked = Asking(drill, drill.rungs[plan.rung - 1]).of(each.slots[cue["slot"]])
    if not asked.chains or not asked.chains[0].sensed:
        return None
    step = asked.chains[0].sensed[0]
    return next(
        (control["control"], 350.0)
        for control in view["controls"][each.stance]
        if (control["technique"], control["side"]) == (step.technique, step.side)
    )


def play(playing: list[Playing]) -> None:
    """Begin all, skip what is rehearsed, and stop each when enough has come."""
    for each in playing:
        begin(each.page)
        each.page.keyboard.press("Enter")
    deadline = time.monotonic() + 90
    going = list(playing)
    while going and time.monotonic() < deadline:
        time.sleep(0.05)  # six pages share the machine with this loop
        for each in list(going):
            each.student.look()
            if each.over:
                each.page.keyboard.press("s")
                each.page.keyboard.press("s")
                going.remove(each)
    assert not going, f"no cue came in {[each.title for each in going]}"
    for each in playing:
        each.student.until({"done"}, 30)


def check(each: Playing) -> None:
    """What was answered is clean; what lands on nothing says so."""
    readout: Any = get(each.page, f"/api/runs/{each.run}/readout")
    responses = {(found["round"], found["slot"]): found for found in readout["responses"]}
    came = sorted(each.student.shown, key=lambda cue: cue["t_ms"])
    assert bool(came) == bool(each.enough)
    for cue in came[: max(1, each.enough - 1)]:
        found = responses[cue["round"], cue["slot"]]
        given = any(
            (answer.round, answer.slot) == (cue["round"], cue["slot"])
            for answer in each.student.given
        )
        if given:
            assert found["outcome"] == "clean", (each.title, found)
            assert found["time_ms"] == pytest.approx(350, abs=60), (each.title, found)
        elif found["asked_technique"]:
            assert found["left_out"] == "not_sensed", (each.title, found)
        else:
            assert found["outcome"] == "held", (each.title, found)
