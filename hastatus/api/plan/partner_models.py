"""Request and answer models of partner drills."""

from __future__ import annotations

import uuid

from pydantic import BaseModel

from hastatus.api.drill.models import RungNumber, Seed
from hastatus.api.http.query import Query
from hastatus.api.plan.models import BenchRequest, RungWords
from hastatus.core.drill.checks.fault import Mend
from hastatus.core.drill.checks.finding import Finding
from hastatus.core.drill.checks.schools import SchoolLine
from hastatus.core.drill.cue import Mark
from hastatus.core.drill.pad_card import PadLine
from hastatus.core.drill.partner import PartnerRung
from hastatus.core.drill.partner_step import Lane
from hastatus.core.drill.solo_wording import Fact
from hastatus.core.plan.feed_density import FeedDensity
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.gap_sheet import GapSheet
from hastatus.core.trade.technique import Side


class PartnerBenchRequest(BenchRequest):
    """What to check and draw: a partner drill on the bench, for a pair or for nobody.

    feeds: the feed sheet is wanted, too.
    """

    seed: Seed = 1
    feeder_id: uuid.UUID | None = None
    defender_id: uuid.UUID | None = None
    feeds: bool = False


class StepWords(BaseModel):
    """A step in words, as this pair does it.

    strikes: it is an attack or a counter. asked: the rung asks for it.
    """

    what: str
    feet: str
    side: Side
    strikes: bool
    asked: bool


class PassageWords(BaseModel):
    """A passage in words. share: of exchanges that start with it, if any do."""

    key: str
    steps: list[StepWords]
    branches: list[str]
    share: float | None


class PartnerView(BaseModel):
    """One of the pair. known: whether reach can be told; reach_from: what from."""

    role: str
    name: str | None
    known: bool
    reach_from: str


class Done(BaseModel):
    """A technique that a role does in an exchange, and with which side.

    turned: a step has put the other foot in front by then.
    """

    lane: Lane
    technique: str
    side: Side
    turned: bool


class CardLine(BaseModel):
    """An exchange for the feeder's card: what it is called, and what each does, in words.

    done: what either does, each once, in order, to be shown. key: of its passage.
    """

    key: str
    call: str
    mark: Mark
    feeder: list[str]
    defender: list[str]
    done: list[Done]


class TechniqueWay(BaseModel):
    """How a technique is done, and what usually goes wrong. technique: its key."""

    technique: str
    name: str
    right_way: str
    usual_fault: str


class FeederCardQuery(Query):
    """Which rung the card is of."""

    rung: RungNumber = 1


class FeederCard(BaseModel):
    """A partner drill on one rung, on a card to print. facts: the rung in words. lines: its
    exchanges. ways: of its techniques. pads: how they are held. about_s: how long it takes."""

    title: str
    version: int
    rung: int
    facts: list[Fact]
    about_s: float
    lines: list[CardLine]
    ways: list[TechniqueWay]
    pads: list[PadLine]
    cautions: list[str]


class PartnerBenchView(BaseModel):
    """A drill on the bench.

    mirrored: how the pair stands. sheet: distances and times; None while the drill cannot be
    followed. feeds: the feed sheet, where it was asked for and the drill can be done.
    density: how often each defender is attacked on this rung. pads: how the pads are held.
    schools: which it follows where coaches disagree; more_schools: the edits that say one more.
    harder: the rung that usually comes after this one.
    """

    rung: int
    findings: list[Finding]
    rungs: list[RungWords]
    passages: list[PassageWords]
    mirrored: bool
    people: list[PartnerView]
    sheet: GapSheet | None
    feeds: FeedSheet | None
    density: FeedDensity | None
    pads: list[PadLine]
    schools: list[SchoolLine]
    more_schools: list[Mend]
    harder: PartnerRung | None
