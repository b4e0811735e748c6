"""The steps of an exchange that a film is asked about: the attack, the answer, the counter."""

from __future__ import annotations

from dataclasses import dataclass

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.motion.zone import BodyPart, seen_in
from hastatus.core.plan.feed_sheet import Feed


@dataclass(frozen=True, slots=True)
class PairSteps:
    """The first step of who feeds, the first of who defends, and the defender's first strike from
    the attack on. None where the exchange has none."""

    attack: PartnerStep | None
    answer: PartnerStep | None
    counter: PartnerStep | None


def pair_steps(drill: PartnerDrill, feed: Feed) -> PairSteps:
    """The steps of an exchange, by the passage that it starts with."""
    steps = sorted(drill.passage(feed.path[0].passage).steps, key=lambda step: step.beat)
    attack = next((step for step in steps if step.lane == "feeder"), None)
    defended = [step for step in steps if step.lane == "defender"]
    after = attack.beat if attack else 0.0
    counters = (step for step in defended if step.beat >= after and _strikes(drill, step))
    return PairSteps(attack, defended[0] if defended else None, next(counters, None))


def parts_of(drill: PartnerDrill, step: PartnerStep | None) -> tuple[BodyPart, ...]:
    """The zones in which a step is seen, the best first."""
    technique = drill.technique(step.technique) if step else None
    return seen_in(technique.limb, step.side) if step and technique else ()


def _strikes(drill: PartnerDrill, step: PartnerStep) -> bool:
    technique = drill.technique(step.technique)
    return technique is not None and technique.strikes
