"""What is kept of a partner run for each who took part, so that lists need not read its marks."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from hastatus.core.drill.mirror import in_stances
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.read.carry_over import Chances
from hastatus.core.read.defender_time import HeldAnswer, defended_attacks
from hastatus.core.read.partner_run import faults_of
from hastatus.core.run.partner_events import TempoSet
from hastatus.core.score.exchanges import Exchange


@dataclass(frozen=True, slots=True)
class Defended:
    """What somebody kept out as defender. watched: of those graded, how many were marked by
    exception."""

    clean: int
    graded: int
    watched: int = 0


@dataclass(frozen=True, slots=True)
class TaggedFaults:
    """How often a fault was tagged to a partner, from 0."""

    fault: str
    partner: int
    count: int


@dataclass(frozen=True, slots=True)
class PartnerFigures:
    """defended: by partner, from 0. held: how long they had, and whether it was enough. paces: the
    tempo that each had come to as defender, BPM; None: none was set. faults: that were tagged.
    chances: of free rounds."""

    defended: tuple[Defended, ...]
    held: tuple[HeldAnswer, ...]
    paces: tuple[float | None, ...] = ()
    faults: tuple[TaggedFaults, ...] = ()
    chances: tuple[Chances, ...] = ()


def partner_figures(
    drill: PartnerDrill,
    exchanges: Sequence[Exchange],
    stances: Sequence[str],
    paces: Sequence[float | None] = (),
    chances: Sequence[Chances] = (),
) -> PartnerFigures:
    """The figures of a run. stances: of the partners, in the order of the feed sheet. paces,
    chances: see `PartnerFigures`."""
    defended = []
    for person in range(len(stances)):
        own = [
            exchange
            for exchange in exchanges
            if exchange.clean is not None and exchange.defender == person
        ]
        defended.append(
            Defended(
                clean=sum(bool(exchange.clean) for exchange in own),
                graded=len(own),
                watched=sum(exchange.watched for exchange in own),
            )
        )

    def mirrored(exchange: Exchange) -> bool:
        return stances[exchange.feeder] != stances[exchange.defender]

    held = [
        answer
        for turned in (False, True)
        for answer in defended_attacks(
            in_stances(drill, mirrored=turned),
            [exchange for exchange in exchanges if mirrored(exchange) == turned],
        )
    ]
    tagged = faults_of(drill, exchanges)
    faults = tuple(TaggedFaults(fault, who, count) for (fault, who), count in tagged.items())
    return PartnerFigures(tuple(defended), tuple(held), tuple(paces), faults, tuple(chances))


def last_paces(tempos: Iterable[TempoSet], people: int) -> tuple[float | None, ...]:
    """The tempo that each partner had come to as defender, BPM; None where none was set."""
    paces: list[float | None] = [None] * people
    for tempo in tempos:
        for partner in range(people) if tempo.partner is None else (tempo.partner,):
            if partner < people:
                paces[partner] = tempo.bpm
    return tuple(paces)
