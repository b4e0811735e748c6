"""A phone's film dropped on its run: sent, its zones drawn, read beside the server, looked at."""

from __future__ import annotations

import re
import uuid
from datetime import UTC, datetime
from pathlib import Path

import numpy as np
import pytest
from playwright.sync_api import Browser, Page, expect
from sqlalchemy import Engine

from hastatus.core.film.pair_sounds import PairRun, pair_sounds
from hastatus.core.motion.zone import BodyPart, CameraPlace, Person
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.agreement import Settled
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.core.sound import named, tones
from hastatus.core.starter import STARTERS
from hastatus.demo.film_picture import Look
from hastatus.demo.filmed_pair import FilmedPair
from hastatus.demo.filmed_run import FilmedRun, Filming
from hastatus.demo.pairs import Pair, batches
from hastatus.demo.student import Habits, simulate
from hastatus.store import batch_intake, drills, partner_batches, partner_runs, runs, students
from hastatus.store.database import transaction
from hastatus.store.models import Coach
from tests.harness.club import Made, Server, coach_page, make_club

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
        played, state = simulate(Setup(drill, plan, Device()), Habits(), 3)
        coach = db.query(Coach).filter(Coach.club_id == made.club_id).one()
        run = runs.add(
            db, made.club_id, run_id, student_id=made.student_id, coach_id=coach.id,
            version=version, recorder=uuid.uuid4(), plan=plan, device=Device(),
            started_at=datetime.now(UTC),
        )  # fmt: skip
        runs.import_batches(db, run, played, state)
    filming = Filming(look=Look(width=320, height=180), length_s=20.0, starts_s=-4.0)
    return run_id, FilmedRun.of(drill, plan, played, filming, 4)


def pair_run(engine: Engine, made: Made) -> tuple[uuid.UUID, FilmedPair]:
    """A partner run that is done, and the two in front of a phone, the second on the left."""
    run_id, recorder = uuid.uuid4(), uuid.uuid4()
    with transaction(engine) as db:
        club = made.club_id
        entry = next(one for one in drills.shelf(db, club) if one.title == "Answer on three")
        version = drills.version(db, club, entry.id)
        assert version is not None
        drill = drills.read_partner(version)
        sheet = feed_sheet(drill, seed=5, tempo_bpm=80)
        coach = db.query(Coach).filter(Coach.club_id == club).one()
        other = students.add(db, club, name="Ines Marlow", stance="left_lead", notes="")
        partner_runs.add(
            db, club, run_id, version=version, coach_id=coach.id, recorder=recorder,
            partners=[made.student_id, other.id], sheet=sheet,
            agreement=Settled(contact="touch", stop_word="red"),
        )  # fmt: skip
        marked = batches(drill, sheet, Pair(clean=0.8), np.random.default_rng(5))
        for batch in marked:
            digest = batch_intake.payload_hash(batch.model_dump_json().encode())
            partner_batches.take(db, club, run_id, recorder, batch, digest)
    run = PairRun(drill, sheet, [mark for batch in marked for mark in batch.marks], left=1)
    filming = Filming(look=Look(width=320, height=180), length_s=28.0, starts_s=2.0)
    return run_id, FilmedPair(run, filming, 6, ahead=0.0)


def draw(page: Page, place: CameraPlace, part: BodyPart, person: Person | None = None) -> None:
    """Drag a box around a part of somebody, as a coach would."""
    zone = next(zone for zone in place.zones if (zone.part, zone.person) == (part, person))
    if person:
        page.get_by_label("Of who stands").select_option(person)
        page.get_by_label("Box around", exact=True).select_option(part)
    picture = page.get_by_role("button", name="Box around the")
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
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/read/{run_id}")
    page.get_by_label("Choose a film of this run").set_input_files(film)
    line = page.get_by_role("article", name="slips.mp4")
    expect(line.get_by_role("status").first).to_contain_text("Draw where head")
    line.get_by_role("button", name="Draw the zones").click()
    draw(page, filmed.place, "head")
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("ArrowRight")
    line.get_by_label("Name of this place").fill("corner by the door")
    line.get_by_role("button", name="Read the film").click()
    expect(line.get_by_role("status").first).to_have_text("Read", timeout=180_000)
    expect(line).to_contain_text(re.compile(r"Lined up by \d+ of \d+ sounds, to ± \d ms"))
    told = line.get_by_role("row").all_inner_texts()[1:]
    answers = [one for one in filmed.answers if 0.6 < one.cue_s < 18]
    seen = [float(found[1]) for row in told if (found := re.search(r"head (\d\.\d+) ±", row))]
    moved = [one.move.onset_s - one.cue_s for one in answers if one.move]
    assert abs(len(seen) - len(moved)) <= 2
    assert abs(sorted(seen)[len(seen) // 2] - sorted(moved)[len(moved) // 2]) < 0.06
    line.get_by_role("button", name=re.compile("^Look at")).nth(1).click()
    look = line.get_by_role("region", name=re.compile("^Looking at"))
    another = look.get_by_role("button", name=re.compile("^Look at"), pressed=False).first
    asked = (another.get_attribute("aria-label") or "").removeprefix("Look at ")
    another.click()
    expect(look).to_have_accessible_name(f"Looking at {asked.replace(' at ', ', ')} in the film")
    picture = look.get_by_role("img", name=re.compile("^The film"))
    expect(picture).to_have_js_property("complete", True)
    shown = look.get_by_role("status").inner_text()
    look.get_by_role("button", name="One picture on").click()
    expect(look.get_by_role("status")).not_to_have_text(shown)
    assert page.evaluate("image => image.naturalWidth", picture.element_handle()) == 320
    look.get_by_label("Why it is corrected").fill("the shoulder went first")
    at_s = re.match(r"\d\.\d+", look.get_by_role("status").inner_text())
    assert at_s is not None
    look.get_by_role("button", name="It began here").click()
    expect(line).to_contain_text(f"head {at_s[0]} ± 0.02, by hand")
    expect(line).to_contain_text("the shoulder went first")
    line.get_by_role("button", name="Take back").click()
    expect(line).not_to_contain_text("by hand,")
    expect(line.get_by_role("region", name="Corrections")).to_have_count(0)
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
        "Cannot be used: this is no film that can be read", timeout=180_000
    )
    context.close()


def test_a_film_of_two_is_dropped_on_their_run_and_read(
    engine: Engine, server: Server, browser: Browser, tmp_path: Path
) -> None:
    made = make_club(engine)
    run_id, filmed = pair_run(engine, made)
    names = {one.name for one in pair_sounds(filmed.run)}
    samples = {name: named.samples(name.removeprefix("tone:")) for name in names}
    filmed.write(tmp_path / "two.mp4", samples)
    context, page = coach_page(browser, server, made)
    page.goto(f"{server.address}/pairs/{run_id}")
    page.get_by_label("Choose a film of this run").set_input_files(tmp_path / "two.mp4")
    line = page.get_by_role("article", name="two.mp4")
    line.get_by_label("Who stands left in it").select_option(label="Ines Marlow")
    line.get_by_role("button", name="Draw the zones").click()
    draw(page, filmed.place, "lead_hand", "left")
    expect(line.get_by_role("button", name="Read the film")).to_be_disabled()
    draw(page, filmed.place, "lead_hand", "right")
    line.get_by_role("button", name="Read the film").click()
    expect(line.get_by_role("status").first).to_have_text("Read", timeout=180_000)
    expect(line).to_contain_text("Lined up by 1 of 1 signals")
    line.get_by_text("As a table").click()
    told = [row.split("\t") for row in line.get_by_role("row").all_inner_texts()[1:]]
    within = [one for one in filmed.exchanges if one.at_s < 24]
    assert 3 <= len(told) <= len(within)
    for row, done in zip(told, within, strict=False):
        assert "Pim Halloran feeds" in row[0]
        for cell, move in zip(row[1:3], (done.fed, done.answered), strict=True):
            assert float(cell.split(" ±")[0]) == pytest.approx(move.onset_s - done.at_s, abs=0.07)
    chart = line.get_by_role("group", name=re.compile("^When who feeds"))
    chart.press("ArrowDown")
    chart.press("Enter")
    look = line.get_by_role("region", name=re.compile("^Looking at Exchange"))
    expect(look.get_by_role("img")).to_have_js_property("complete", True)
    look.get_by_role("button", name="Close").click()
    chart.click()
    expect(look).to_be_visible()
    page.reload()
    expect(line.get_by_label("Who stands left in it")).to_have_value("1")
    context.close()
