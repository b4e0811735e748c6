"""When strikes came against the beats they were asked on: counters and chains.

A strike is given to the step whose beat it is nearest to. Where only the room was listened to,
nobody can tell whose strike it was: what is told is which step of the score it fits.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from hastatus.core.partner.drill import PartnerDrill
from hastatus.core.partner.exchanges import Exchange
from hastatus.core.partner.walk import Walked, follow

When = Literal["before", "during", "after"]

DURING_S = 0.10
"""A counter this near to the attack's arrival comes with it, in seconds."""
NEAR_BEATS = 0.45
"""A strike belongs to a step at most this far from it, in beats."""


@dataclass(frozen=True, slots=True)
class Arrival:
    """One counter that was heard. when: against the arrival of the attack it answers. beats: from
    it, the attack being beat one; late_ms: against the beat it was asked on."""

    passage: str
    step: int
    when: When
    beats: float
    late_ms: float


def arrivals(drill: PartnerDrill, exchange: Exchange, beat_s: float) -> list[Arrival]:
    """The counters of an exchange that were heard; none without strikes or on a free exchange."""
    if not exchange.path or not exchange.strikes_ms:
        return []
    walk = follow(drill, exchange.path)
    heard = _heard(walk.steps, exchange.strikes_ms, beat_s)
    found = []
    attack: Walked | None = None
    for step in walk.steps:
        if step.lane == "feeder":
            attack = step if step.technique.use == "attack" else attack
            continue
        at_ms = heard.get((step.passage.key, step.index, step.beat))
        if attack is None or at_ms is None or not step.strikes:
            continue
        arrived_ms = heard.get(
            (attack.passage.key, attack.index, attack.beat), (attack.beat - 1) * beat_s * 1000
        )
        apart_s = (at_ms - arrived_ms) / 1000
        found.append(
            Arrival(
                passage=step.passage.key,
                step=step.index,
                when=_when(apart_s),
                beats=round(apart_s / beat_s + 1, 2),
                late_ms=round(at_ms - (step.beat - 1) * beat_s * 1000, 1),
            )
        )
    return found


def _when(apart_s: float) -> When:
    if apart_s < -DURING_S:
        return "before"
    return "during" if apart_s <= DURING_S else "after"


def _heard(
    steps: Sequence[Walked], strikes_ms: Sequence[float], beat_s: float
) -> dict[tuple[str, int, float], float]:
    """For each attack and counter the strike nearest to its beat; each strike is given once.

    A block is no sound of its own: it is the attack that is heard on it.
    """
    landing = [step for step in steps if step.strikes]
    free = list(strikes_ms)
    pairs = sorted(
        (
            (abs(at_ms - (step.beat - 1) * beat_s * 1000), number, at_ms)
            for number, step in enumerate(landing)
            for at_ms in strikes_ms
        ),
    )
    given: dict[int, float] = {}
    for off_ms, number, at_ms in pairs:
        if off_ms <= NEAR_BEATS * beat_s * 1000 and number not in given and at_ms in free:
            given[number] = at_ms
            free.remove(at_ms)
    return {
        (landing[number].passage.key, landing[number].index, landing[number].beat): at_ms
        for number, at_ms in given.items()
    }
