"""A live camera: a slip drill scored while it is trained, and the camera's delay measured."""

from __future__ import annotations

import uuid
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from hastatus.api.plan.next_plan import next_plan
from hastatus.core.drill.solo import Drill
from hastatus.demo.film_picture import Look, Move, Painter
from hastatus.store import drills, films
from hastatus.store.database import transaction
from hastatus.store.models import Student
from tests.harness.capture import STREAMS, tracks
from tests.harness.club import SEED, Made, Server, coach_page, get, make_club
from tests.harness.fake_camera import OPENED, RATE_HZ, camera_browser, mirror, write_camera_film
from tests.harness.slips import slip_drill

pytestmark = pytest.mark.browser

BEGINS_S = 9.0
"""Where the round's time zero is in the film."""
COUNT_IN_S = 3.0
FILM_IS_AT = """film_ms => new Promise((resolve) => {
  const left_ms = window.cameraOpened_ms + film_ms - performance.now();
  setTimeout(resolve, left_ms);
})"""


def slips(engine: Engine, made: Made, drill: Drill) -> list[float | None]:
    """When each slip of the film begins, in round time: after each cue of the plan, as it will be
    made; None after a catch cue."""
    rng = np.random.default_rng(5)
    with transaction(engine) as db:
        student = db.get_one(Student, (made.club_id, made.student_id))
        version = drills.version(db, made.club_id, made.drill_id)
        assert version is not None
        plan = next_plan(db, student, made.drill_id, drills.read(version)).plan(
            SEED, sound_only=False
        )
    by_key = {cue.key: cue for cue in drill.cues}
    return [
        None if by_key[cue.cue].is_catch else cue.at_s + float(rng.uniform(0.35, 0.6))
        for cue in plan.rounds[0].cues
    ]


def filmed(onsets_s: list[float | None]) -> Painter:
    """Somebody who slips to one side and the other at these moments of the round."""
    asked = [at_s for at_s in onsets_s if at_s is not None]
    moves = [
        Move("head", BEGINS_S + at_s, 0.3, ((-1) ** place * 0.26, -0.1))
        for place, at_s in enumerate(asked)
    ]
    return Painter(Look(width=320, height=240), moves, 3)


def begin_with_camera(page: Page, server: Server, made: Made) -> str:
    """From Run, with the camera as the only input, to a floor that is ready; the run's id."""
    page.goto(f"{server.address}/run?student={made.student_id}&drill={made.drill_id}&seed={SEED}")
    page.get_by_role("button", name="camera", exact=True).click()
    page.get_by_label("Where the camera stands").select_option(label="corner by the door")
    for other in ("keys", "touch screen"):
        page.get_by_role("button", name=other, exact=True).click()
    page.get_by_role("button", name="Start", exact=True).click()
    page.wait_for_url("**/floor")
    page.locator("[data-phase=ready]").wait_for()
    return page.url.split("/")[-2]


@pytest.mark.alone
def test_a_slip_drill_is_scored_live_from_the_camera(
    engine: Engine, server: Server, browser: Browser, tmp_path: Path
) -> None:
    drill = slip_drill(cues=8, rule="n_down")
    made = make_club(engine, drill)
    onsets = slips(engine, made, drill)
    painter = filmed(onsets)
    film = tmp_path / "slips.mjpeg"
    write_camera_film(film, BEGINS_S + 40, painter.at)
    with transaction(engine) as db:
        films.keep_place(db, made.club_id, uuid.uuid4(), painter.place())
    with camera_browser(browser.browser_type, film) as camera:
        context, page = coach_page(camera, server, made)
        page.add_init_script(OPENED)
        page.add_init_script(STREAMS)
        run = begin_with_camera(page, server, made)
        page.evaluate(FILM_IS_AT, 1000 * (BEGINS_S - COUNT_IN_S))
        page.get_by_role("button", name="Begin").click()
        page.get_by_text("All answers saved").wait_for(timeout=120_000)
        assert tracks(page) == ["ended"], "nobody is seen any more once the run is over"
        readout: Any = get(page, f"/api/runs/{run}/readout")
        context.close()
    heard = [one for one in readout["responses"] if one["asked_technique"]]
    slipped = [at_s for at_s in onsets if at_s is not None]
    off = [
        1000 * (one["at_s"] - at_s) + one["time_ms"]
        for one, at_s in zip(heard, slipped, strict=True)
        if one["timed_with"] == "camera"
    ]
    assert len(off) >= len(slipped) - 2, readout["responses"]
    # The film began when it began: that shift is the same for all.
    assert max(abs(one - np.median(off)) for one in off) < 1.5 * 1000 / RATE_HZ
    assert readout["responses"][-1]["window_ms"] < readout["responses"][0]["window_ms"]
    told = {one["outcome"] for one in readout["responses"] if one["left_out"] is None}
    assert told == {"clean", "held"}


@pytest.mark.alone
def test_a_camera_is_measured_by_flashes_that_it_sees(
    engine: Engine, server: Server, browser: Browser
) -> None:
    made = make_club(engine)
    context, page = coach_page(browser, server, made)
    page.add_init_script(mirror(120))
    page.goto(f"{server.address}/device")
    with page.expect_response("**/flashes", timeout=60_000) as answered:
        page.get_by_role("button", name="Measure the camera").click()
        expect(page.get_by_text("hold the mirror still")).to_be_visible()
    found = answered.value.json()["profile"]["corrections"][0]
    assert found["source"] == "camera"
    # What is put on the page is shown a picture or two later, and drawn anew every 33 ms.
    assert 60 < found["ms"] < 200
    assert found["spread_ms"] < 20
    expect(page.get_by_role("listitem").filter(has_text="4 · Camera")).to_contain_text("ms, ±")
    context.close()
