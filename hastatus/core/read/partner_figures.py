"""What is kept of a partner run for each who took part, so that lists need not read its marks."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from hastatus.core.drill.mirror import in_stances
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.read.defender_time import HeldAnswer, defended_attacks
from hastatus.core.score.exchanges import Exchange


@dataclass(frozen=True, slots=True)
class Defended:
    """What somebody kept out as defender. carried_over: in the free round."""

    clean: int
    graded: int
    carried_over: int


@dataclass(frozen=True, slots=True)
class PartnerFigures:
    """defended: by partner, from 0. held: how long they had, and whether it was enough."""

    defended: tuple[Defended, ...]
    held: tuple[HeldAnswer, ...]


def partner_figures(
    drill: PartnerDrill,
    exchanges: Sequence[Exchange],
    carried_over: Sequence[int],
    stances: Sequence[str],
) -> PartnerFigures:
    """The figures of a run. carried_over: the partner of each carry-over. stances: of the partners,
    in the order of the feed sheet."""
    defended = []
    for person in range(len(stances)):
        own = [exchange for exchange in exchanges if exchange.grade and exchange.defender == person]
        carried = carried_over.count(person)
        defended.append(Defended(sum(bool(exchange.clean) for exchange in own), len(own), carried))

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
    return PartnerFigures(tuple(defended), tuple(held))
