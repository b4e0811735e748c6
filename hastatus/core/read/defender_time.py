"""How long a defender had, and whether the attack was kept out: what partner rounds tell of pace.

Nothing is heard of a block by itself. But where the feeder's hand left a home pad, the time from
its start to the attack's arrival is known, and the coach's tap says whether that was enough.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from statistics import median

from hastatus.core.drill.exchange_answers import answers_on
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import Walk, Walked, follow
from hastatus.core.score.exchanges import SET_OFF_MS, Exchange
from hastatus.core.score.landings import landings, partner_of, set_offs
from hastatus.core.trade.technique import Side


@dataclass(frozen=True, slots=True)
class DefendedAttack:
    """One attack on a defender. start_to_arrival_s: the time there was. clean: it was kept out."""

    start_to_arrival_s: float
    clean: bool


@dataclass(frozen=True, slots=True)
class HeldAnswer:
    """`held`, by whom (partner, from 0) and with which answer (technique and side)."""

    defender: int
    technique: str
    side: Side
    held: DefendedAttack


def defended_attacks(drill: PartnerDrill, exchanges: Sequence[Exchange]) -> list[HeldAnswer]:
    """What a run tells, exchange by exchange.

    Only exchanges with a grade and one attack count: of several, nobody has written down which got
    through. Where the arrival was not heard (an evaded attack lands on nothing) it is the beat, or
    on the feeder's own time the median time of that attack in the run. Simulated hits do not count.
    """
    timed = [one for exchange in exchanges if (one := _timed(drill, exchange))]
    usual: dict[str, list[float]] = {}
    for exchange, _, _, time_s in timed:
        if time_s is not None:
            usual.setdefault(exchange.path[0], []).append(time_s)
    answers = []
    for exchange, attack, answer, time_s in timed:
        times = usual.get(exchange.path[0])
        if time_s is None and times is None:
            continue
        had_s = median(times or []) if time_s is None else time_s
        answers.append(
            HeldAnswer(
                defender=exchange.defender if attack.person == "a" else exchange.feeder,
                technique=answer.step.technique,
                side=answer.side,
                held=DefendedAttack(round(had_s, 3), bool(exchange.clean)),
            )
        )
    return answers


def _timed(
    drill: PartnerDrill, exchange: Exchange
) -> tuple[Exchange, Walked, Walked, float | None] | None:
    """The attack of an exchange, its answer and the time there was; None where it tells nothing."""
    if exchange.clean is None or not exchange.path:
        return None
    walk = follow(drill, exchange.path)
    attack, answer = _only_attack(walk)
    if attack is None or answer is None:
        return None
    starts = [
        hit.at_ms
        for hit in set_offs(exchange)
        if hit.partner == partner_of(attack, exchange) and not hit.simulated
    ]
    if not starts:
        return None
    arrived_ms = next(
        (landing.at_ms for landing in landings(drill, exchange) if landing.step == attack), None
    )
    if arrived_ms is None and exchange.tempo_bpm is not None:
        arrived_ms = (attack.beat - 1) * exchange.beat_s * 1000
    if arrived_ms is None:
        return exchange, attack, answer, None
    before = [at_ms for at_ms in starts if 0 < arrived_ms - at_ms <= SET_OFF_MS]
    return (exchange, attack, answer, (arrived_ms - before[-1]) / 1000) if before else None


def _only_attack(walk: Walk) -> tuple[Walked | None, Walked | None]:
    attacks = [
        step for step in walk.steps if step.lane == "feeder" and step.technique.use == "attack"
    ]
    if len(attacks) != 1:
        return None, None
    return attacks[0], answers_on(walk).get((attacks[0].passage.key, attacks[0].index))
