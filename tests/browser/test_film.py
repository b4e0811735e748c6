"""A phone's film dropped on its run: sent, its zones drawn, read beside the server, looked at."""

from __future__ import annotations

import re
import uuid
from datetime import UTC, datetime
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.core.sound import tones
from hastatus.core.starter import STARTERS
from hastatus.demo.film_picture import Look
from hastatus.demo.filmed_run import FilmedRun, Filming
from hastatus.demo.student import Habits, simulate
from hastatus.store import drills, runs
from hastatus.store.database import transaction
from hastatus.store.models import Coach
from tests.harness.club import Made, Server, make_club, sign_in

pytestmark = pytest.mark.browser

SAMPLES = {f"tone:{name}": tones.named(name) for name in tones.SOUNDS}


def slipped(engine: Engine, made: Made) -> tuple[uuid.UUID, FilmedRun]:
    """A run of slips that is done, and somebody who slips in front of a phone."""
    run_id = uuid.uuid4()
    with transaction(engine) as db:
        version = drills.version(db, made.club_id, made.drill_id)
        assert version is not None
        drill = drills.read(version)
        plan = plan_run(drill, seed=3, rounds=1)
        batches, state = simulate(Setup(drill, plan, Device()), Habits(), 3)
        coach = db.query(Coach).filter(Coach.club_id == made.club_id).one()
        run = runs.add(
            db, made.club_id, run_id, student_id=made.student_id, coach_id=coach.id,
            version=version, recorder=uuid.uuid4(), plan=plan, device=Device(),
            started_at=datetime.now(UTC),
        )  # fmt: skip
        runs.import_batches(db, run, batches, state)
    filming = Filming(look=Look(width=320, height=180), length_s=20.0, starts_s=-4.0)
    return run_id, FilmedRun.of(drill, plan, batches, filming, 4)


def draw_head(page: Page, filmed: FilmedRun) -> None:
    """Drag a box around the head, as somebody would."""
    zone = next(zone for zone in filmed.place.zones if zone.part == "head")
    picture = page.get_by_role("button", name="Box around the head")
    picture.get_by_role("img").wait_for()
    expect(picture.get_by_role("img")).to_have_js_property("complete", True)
    picture.scroll_into_view_if_needed()
    box = picture.bounding_box()
    assert box is not None
    corners = (
        (zone.left, zone.top),
        (zone.left + zone.width, zone.top + zone.height),
    )
    (left, top), (right, bottom) = (
        (box["x"] + x * box["width"], box["y"] + y * box["height"]) for x, y in corners
    )
    page.mouse.move(left, top)
    page.mouse.down()
    page.mouse.move((left + right) / 2, (top + bottom) / 2)
    page.mouse.move(right, bottom)
    page.mouse.up()


def test_a_film_of_slips_is_dropped_on_its_run_and_read(
    engine: Engine, server: Server, browser: Browser, tmp_path: Path
) -> None:
    made = make_club(engine, STARTERS["one thing more"]())
    run_id, filmed = slipped(engine, made)
    film = tmp_path / "slips.mp4"
    filmed.write(film, SAMPLES)
    context, page = sign_in(browser, server, made)
    page.goto(f"{server.address}/read/{run_id}")
    page.get_by_label("Choose a film of this run").set_input_files(film)
    line = page.get_by_role("article", name="slips.mp4")
    expect(line.get_by_role("status").first).to_contain_text("Draw where head")
    line.get_by_role("button", name="Draw the zones").click()
    draw_head(page, filmed)
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("ArrowRight")
    line.get_by_label("Name of this place").fill("corner by the door")
    line.get_by_role("button", name="Read the film").click()
    expect(line.get_by_role("status").first).to_have_text("Read", timeout=60_000)
    expect(line).to_contain_text(re.compile(r"Lined up by \d+ of \d+ sounds, to ± \d ms"))
    told = line.get_by_role("row").all_inner_texts()[1:]
    answers = [one for one in filmed.answers if 0.6 < one.cue_s < 18]
    seen = [float(found[1]) for row in told if (found := re.search(r"head (\d\.\d+) ±", row))]
    moved = [one.move.onset_s - one.cue_s for one in answers if one.move]
    assert abs(len(seen) - len(moved)) <= 2
    assert abs(sorted(seen)[len(seen) // 2] - sorted(moved)[len(moved) // 2]) < 0.06
    page.reload()
    expect(line).to_contain_text("corner by the door")
    line.get_by_role("button", name="Remove").click()
    expect(line).to_have_count(0)
    page.get_by_role("button", name="Undo").click()
    expect(line).to_have_count(1)
    page.get_by_label("Choose a film of this run").set_input_files(
        {"name": "still.mp4", "mimeType": "video/mp4", "buffer": b"no film"}
    )
    other = page.get_by_role("article", name="still.mp4")
    other.get_by_label("Where the phone stood").select_option(label="corner by the door")
    expect(other.get_by_role("status").first).to_contain_text(
        "Cannot be used: this is no film that can be read", timeout=60_000
    )
    context.close()
