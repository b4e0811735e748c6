"""Partner drills: checked and redrawn while they are edited, fed, and the whole library."""

from __future__ import annotations

import time
import uuid
from collections.abc import Iterator
from statistics import quantiles

import numpy as np
from playwright.sync_api import Page, sync_playwright
from sqlalchemy import Engine

from benchmarks.build import EDIT
from benchmarks.figure import Figure, median_ms
from hastatus.core.drill.checks.partner import find
from hastatus.core.drill.file import DrillFile
from hastatus.core.drill.partner import PartnerDrill, PartnerRounds
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.gap_sheet import gap_sheet
from hastatus.core.run.agreement import Settled
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.starter.partner.build import done, drill, fed, passage
from hastatus.core.trade.pair import USUAL_PAIR
from hastatus.demo import pairs
from hastatus.store import accounts, drills, partner_batches, partner_runs, students
from hastatus.store.database import transaction
from tests.harness.chromium import CHROMIUM, FLAGS
from tests.harness.club import Made, Server, make_club, sign_in
from tests.harness.database import temporary_database, url_of

BEATS = 32
_DRAWN = ('section[aria-label="Both sides"]', "svg")


def long_drill() -> PartnerDrill:
    """A drill of 64 steps: a feed and an answer on each of 32 beats."""
    steps = []
    for beat in range(1, BEATS + 1):
        lead = beat % 2 == 1
        feet = " +advance" if beat == 1 else ""
        steps.append(fed(f"{beat} {'lead' if lead else 'rear'} straight{feet}"))
        answer = "straight" if beat % 3 == 0 else "parry"
        steps.append(done(f"{beat} {'rear' if lead else 'lead'} {answer}"))
    first = PARTNER_STARTERS["two-beat counter"]()
    return drill(
        "Long",
        passage("long", "long", BEATS, *steps),
        rungs=first.rungs[:1],
        place=first.place,
    )


def figures(loose: bool) -> Iterator[Figure]:
    """Measure the bench's edits, a feed sheet, and the library."""
    times = _in_a_browser(12 if loose else 80)
    yield Figure(
        "edit to checks and redrawn gap line, 64-step drill, 95th percentile",
        quantiles(times, n=20)[-1],
        "ms",
        100,
        3,
    )
    half_hour = _half_hour()
    yield Figure(
        "feed sheet of 30 minutes",
        median_ms(lambda: feed_sheet(half_hour, seed=1, rung=len(half_hour.rungs)), 9),
        "ms",
        50,
        3,
    )
    started = time.perf_counter()
    for make in PARTNER_STARTERS.values():
        _whole(make())
    yield Figure(
        f"{len(PARTNER_STARTERS)} partner patterns checked, planned, fed and exported",
        time.perf_counter() - started,
        "s",
        2,
        3,
    )


def _half_hour() -> PartnerDrill:
    made = PARTNER_STARTERS["two-beat counter"]()
    rounds = PartnerRounds(count=1, duration_s=1800)
    rungs = tuple(rung.model_copy(update={"rounds": rounds}) for rung in made.rungs)
    return made.model_copy(update={"rungs": rungs})


def _whole(made: PartnerDrill) -> None:
    """Checked, planned, fed and exported, on every rung."""
    find(made)
    for number, rung in enumerate(made.rungs, start=1):
        gap_sheet(made, rung, USUAL_PAIR)
        feed_sheet(made, seed=1, rung=number)
    DrillFile(drill=made).model_dump_json()


def _in_a_browser(count: int) -> list[float]:
    """Edits of a step, from the key to the picture."""
    with temporary_database() as engine, sync_playwright() as playwright:
        server = Server(url_of(engine))
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=list(FLAGS))
        try:
            server.start()
            made = make_club(engine, long_drill())
            pair = _history(engine, made)
            _, page = sign_in(browser, server, made)
            page.goto(f"{server.address}/build?drill={made.drill_id}&{pair}")
            page.locator('section[aria-label="Both sides"] svg').first.wait_for()
            return _edits(page, count)
        finally:
            browser.close()
            server.stop()


def _history(engine: Engine, made: Made) -> str:
    """A pair with a row of partner runs by pads behind them; what the address says of it."""
    rng = np.random.default_rng(3)
    drill = PARTNER_STARTERS["compact guard"]()
    sheet = feed_sheet(drill, seed=3, rung=2)
    with transaction(engine) as db:
        version = drills.version(db, made.club_id, drills.add(db, made.club_id, drill).id)
        two = [
            students.add(db, made.club_id, name=name, stance="left_lead").id
            for name in ("Ada Quill", "Bo Tarn")
        ]
        coach = accounts.find_coach(db, made.login)
        assert coach is not None
        assert version is not None
        for _ in range(partner_runs.HELD_RUNS):
            run = partner_runs.add(
                db, made.club_id, uuid.uuid4(), version=version, coach_id=coach.id,
                recorder=uuid.uuid4(), partners=two, sheet=sheet,
                agreement=Settled(contact="touch", stop_word="red"),
            )  # fmt: skip
            for batch in pairs.batches(drill, sheet, pairs.Pair(0.8, 0.45), rng):
                partner_batches.take(db, made.club_id, run.id, run.recorder, batch, b"")
    return f"feeder={two[0]}&defender={two[1]}"


def _edits(page: Page, count: int) -> list[float]:
    """A step moved from beat to beat: its checks, its place on its lane and the gap line change."""
    page.get_by_role("button", name="feeder, beat 2:").click()
    values = [2.5 + 0.5 * (place % 40) for place in range(count + 8)]
    times = [float(page.evaluate(EDIT, ["beat", value, *_DRAWN])) for value in values]
    return times[8:]  # the first ones open connections and compile the page
