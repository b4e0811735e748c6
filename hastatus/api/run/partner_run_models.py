"""Request and answer models of partner runs."""

from __future__ import annotations

import uuid
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, Field

from hastatus.api.drill.models import RungNumber, Seed
from hastatus.api.plan.partner_models import CardLine, TechniqueWay
from hastatus.api.run.models import SignalPair, SoundView
from hastatus.core.adapt.tempo_rule import TempoSuggestion
from hastatus.core.drill.checks.schools import SchoolLine
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.partner_step import Lane
from hastatus.core.fields import Document
from hastatus.core.plan.feed_pace import Need
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.read.carry_over import CarryOver
from hastatus.core.read.kept_tempo import KeptTempo
from hastatus.core.read.partner_run import PartnerReading
from hastatus.core.read.proportion import Interval
from hastatus.core.run.agreement import Agreed, PartnerReadiness, Refusal, Settled
from hastatus.core.run.allowance import Allowance
from hastatus.core.run.partner_events import Grade, HeadKnock, MarkBatch
from hastatus.core.run.sheet_clock import Stands
from hastatus.core.score.exchanges import Exchange
from hastatus.core.score.landings import CountersHeard
from hastatus.core.trade.faults import OwnedFault
from hastatus.core.trade.gear import Gear
from hastatus.core.trade.technique import Stance
from hastatus.store.away import Away


class PairRequest(Document):
    """Who wants to do what, and what they have agreed.

    partners: in the order of the feed sheet. seed: of its order; None: a new one for each run.
    """

    drill_id: uuid.UUID
    rung: RungNumber = 1
    seed: Seed | None = None
    partners: Annotated[tuple[uuid.UUID, ...], Field(min_length=1, max_length=3)]
    agreement: Agreed


class PartnerRunRequest(PairRequest):
    """A new partner run. id and recorder are made by the device, so that a repeat is harmless."""

    id: uuid.UUID
    recorder: uuid.UUID


class StartView(BaseModel):
    """Whether they may start.

    brings: each one's gear and limits. asked, held: what is worn and held on this rung. here: what
    of the latter there is tonight.
    comes_to: how hard and how quick the rung is tonight, and what was lowered.
    """

    refusals: list[Refusal]
    brings: list[PartnerReadiness]
    asked: list[Gear]
    held: list[Gear]
    here: list[Gear]
    comes_to: Allowance
    cautions: list[str]


class Room(Document):
    """What holds for everybody tonight. no_touch: nobody touches anybody."""

    no_touch: bool


class PartnerRunPath(BaseModel):
    partner_run_id: uuid.UUID


class KnockRequest(Document):
    """A head knock of the mat, told at once. knock: as its mark says it. taken_back: it was a slip
    of the finger."""

    recorder: uuid.UUID
    knock: HeadKnock
    taken_back: bool = False


class KnockAck(BaseModel):
    """hold: whether the student is held off the floor now."""

    hold: bool


class TakingPart(BaseModel):
    """Somebody in a partner run.

    clean, graded: of the exchanges they defended. interval: of the share clean, 95 % (Wilson);
    None: none was graded. watched: of those graded, how many were marked by exception. carry_over:
    how often a drilled answer turned up in free rounds, of its chances; None: there was none.
    """

    id: uuid.UUID
    name: str
    clean: int
    graded: int
    interval: Interval | None
    watched: int = 0
    carry_over: CarryOver | None = None


class PartnerRunLine(BaseModel):
    """A partner run in a list. away: archived or deleted; None: neither."""

    id: uuid.UUID
    drill_id: uuid.UUID
    drill: str
    rung: int
    partners: list[TakingPart]
    started_at: datetime
    state: Literal["open", "closed"]
    away: Away | None


class AskedStrike(BaseModel):
    """A strike that a passage asks for: on whose side, and on which of its beats."""

    lane: Lane
    beat: float


class DrilledAnswer(BaseModel):
    """An answer of the rung that a free round is watched for."""

    key: str
    name: str


class PartnerRunDetail(PartnerRunLine):
    """A partner run with the drill that it was made of, and what was agreed. grades: those that
    fit."""

    version: int
    document: PartnerDrill
    agreement: Settled
    grades: list[Grade]


class PartnerRunView(PartnerRunDetail):
    """A partner run with all that the mat needs.

    drilled: answers and counters of the rung, to watch for in a free round.
    calls: what the feeder is told, by passage as it is done. signals: what begins and ends each
    round, signal_after_s after it, so that a film of it is lined up. sounds: to load. strikes: by
    passage as it is done, for simulated pads. slip_s: how long a head knock can be taken back.
    expected: the grade of each exchange that goes as it should, by round, in the order of their
    numbers; where the feeder chooses a round has one for all. attacks_a_beat: on each defender;
    None: nothing attacks, or the feeder chooses. faults: to tag.
    schools: which are followed. card: the exchanges that may come on the rung, to show and to
    rehearse. ways: of its techniques. stances: of the first who feeds and the first who defends.
    """

    drilled: list[DrilledAnswer]
    calls: dict[str, str]
    signals: list[SignalPair]
    signal_after_s: float
    sounds: list[SoundView]
    strikes: dict[str, list[AskedStrike]]
    slip_s: float
    expected: list[list[Grade]]
    attacks_a_beat: float | None
    faults: list[OwnedFault]
    schools: list[SchoolLine]
    card: list[CardLine]
    ways: list[TechniqueWay]
    stances: dict[Lane, Stance]
    sheet: FeedSheet
    cautions: list[str]


class PartnerRunList(BaseModel):
    runs: list[PartnerRunLine]


class HeldView(BaseModel):
    """How an answer holds in partner rounds.

    attacks, clean: how many were timed, and kept out. need: the time from the start of the attack
    that keeps the target's share out; alone_s: the same of answers in solo drills, from the cue, in
    seconds. None: too few to say.
    """

    name: str
    attacks: int
    clean: int
    need: Need | None
    alone_s: float | None


class AnswerCarryOver(BaseModel):
    """How often an answer turned up in free rounds. name: "any answer" where none was chosen."""

    name: str
    used: int
    of: int
    interval: Interval | None


class DefendedView(BaseModel):
    """A student as a defender. target: the share to keep out. runs: newest first. carry_over: how
    often drilled answers turned up in free rounds in which missed chances were counted, too; None:
    there was none. by_answer: each answer of these."""

    target: float
    carry_over: CarryOver | None
    by_answer: list[AnswerCarryOver]
    runs: list[PartnerRunLine]
    answers: list[HeldView]


class MarksRequest(MarkBatch):
    recorder: uuid.UUID

    def batch(self) -> MarkBatch:
        """The batch without its sender."""
        return MarkBatch(**{name: getattr(self, name) for name in MarkBatch.model_fields})


class StandsRequest(Stands):
    """Where the round stands, as the device that records it says."""

    recorder: uuid.UUID

    def stands(self) -> Stands:
        """Without its sender."""
        return Stands(**{name: getattr(self, name) for name in Stands.model_fields})


class StandsView(BaseModel):
    """Where the round stands by now; None: the mat has not said yet."""

    stands: Stands | None


class MarksAck(BaseModel):
    """What became of a batch. climb: the tempo that the rule suggests now, with its reason."""

    next_batch: int
    complete: bool
    climb: TempoSuggestion | None


class PartnerReadout(BaseModel):
    """A partner run, read. carry_over: by partner, each answer. free_s: length of free rounds."""

    run: PartnerRunDetail
    exchanges: list[Exchange]
    counters: CountersHeard
    reading: PartnerReading
    rhythms: list[KeptTempo]
    carry_over: list[list[AnswerCarryOver]]
    free_s: float
    missing: list[int]
