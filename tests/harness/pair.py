"""A pair for the journeys: two students, a short drill, and how a page comes to its mat."""

from __future__ import annotations

import time
import uuid
from collections.abc import Callable
from dataclasses import dataclass

from playwright.sync_api import Page, expect
from sqlalchemy import Engine

from hastatus.core.drill.partner import PartnerDrill, PartnerRounds, Turns
from hastatus.core.drill.settings import Fixed
from hastatus.core.starter.partner import PARTNER_STARTERS
from hastatus.core.trade.gear import Gear
from hastatus.store import drills, students
from hastatus.store.database import transaction
from tests.harness.club import Made, Server

ROUND_S = 14.0


@dataclass
class Pair:
    drill_id: uuid.UUID
    first: uuid.UUID
    second: uuid.UUID

    @property
    def query(self) -> str:
        return f"drill={self.drill_id}&feeder={self.first}&defender={self.second}&rung=1&seed=2"


def make_pair(engine: Engine, made: Made) -> Pair:
    """Two students with gear, and a drill of two short rounds on a quick beat."""
    drill = PARTNER_STARTERS["two-beat counter"]()
    rung = drill.rungs[-1].model_copy(
        update={
            "tempo_bpm": 120.0,
            "goal_bpm": 140.0,
            "pause": Fixed(wait_s=0.5),
            "rounds": PartnerRounds(count=2, duration_s=ROUND_S, rest_s=1),
            "turns": Turns(),
            "branches": False,
        }
    )
    short = drill.model_copy(update={"rungs": (rung,), "title": "Two rounds"})
    return two_with_gear(engine, made, short, "Ada Quill", "Bo Tarn")


def two_with_gear(
    engine: Engine,
    made: Made,
    drill: PartnerDrill,
    one: str,
    other: str,
    gear: tuple[Gear, ...] = ("gloves", "mouthguard"),
) -> Pair:
    """The drill is kept, and there are two who have this gear."""
    with transaction(engine) as db:
        kept = drills.add(db, made.club_id, drill)
        ids = [
            students.add(db, made.club_id, name=name, stance="left_lead", gear=gear).id
            for name in (one, other)
        ]
        return Pair(kept.id, *ids)


def agree(page: Page, server: Server, pair: Pair) -> str:
    """From the bench to the mat; the id of the run."""
    page.goto(f"{server.address}/build?{pair.query}")
    page.get_by_role("link", name="Run it").click()
    page.get_by_role("heading", name="Agree before contact").wait_for()
    begin = page.get_by_role("button", name="Agree and start")
    expect(begin).to_be_enabled()
    page.get_by_label("hardest contact").select_option("none")
    gentler = page.get_by_role("region", name="Tonight")
    expect(gentler).to_contain_text("no contact tonight; the drill has touch")
    page.get_by_label("hardest contact").select_option("touch")
    expect(gentler).not_to_contain_text("tonight")
    expect(begin).to_be_enabled()
    expect(page.get_by_text("No gear, no hard contact")).to_be_visible()
    begin.click()
    page.wait_for_url("**/mat")
    page.locator(".mat[data-phase=ready]").wait_for()
    return page.url.split("/")[-2]


def until(met: Callable[[], bool], within_s: float = 10.0) -> None:
    """Wait until something is so."""
    deadline = time.monotonic() + within_s
    while not met():
        assert time.monotonic() < deadline
        time.sleep(0.2)
