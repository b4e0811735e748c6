"""When strikes came against the beats they were asked on: counters and chains.

A strike is given to the step whose beat it is nearest to. Pads know whose strike it was; where only
the room was listened to, what is told is which step of the score it fits.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from statistics import median
from typing import Literal

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import Walked, follow
from hastatus.core.score.exchanges import Exchange, Hit

When = Literal["before", "during", "after"]

DURING_S = 0.10
"""A counter this near to the attack's arrival comes with it, in seconds."""
NEAR_BEATS = 0.45
"""A strike belongs to a step at most this far from it, in beats."""


@dataclass(frozen=True, slots=True)
class Landing:
    """A step of the score and the strike that fits it. at_ms: from the start of the exchange."""

    step: Walked
    at_ms: float


@dataclass(frozen=True, slots=True)
class Arrival:
    """One counter that was heard.

    when: against the arrival of the attack it answers. beats: from it, the attack being beat one.
    late_ms: against the beat it was asked on; None on the feeder's own time. chain_beats: from the
    first attack of the exchange, that being beat one.
    """

    passage: str
    step: int
    when: When
    beats: float
    late_ms: float | None
    chain_beats: float


@dataclass(frozen=True, slots=True)
class CountersHeard:
    """The counters of a run. beats: the median one's; chain_beats: of the last in each exchange;
    None where none was heard."""

    before: int
    during: int
    after: int
    beats: float | None
    chain_beats: float | None


def arrivals(drill: PartnerDrill, exchange: Exchange) -> list[Arrival]:
    """The counters of an exchange that were heard; none without strikes or on a free exchange."""
    landed = landings(drill, exchange)
    at_ms = {_place(landing.step): landing.at_ms for landing in landed}
    beat_ms = exchange.beat_s * 1000
    strikes: list[Arrival] = []
    attack: Walked | None = None
    first_ms: float | None = None
    for step in follow(drill, exchange.path).steps if landed else ():
        if step.lane == "feeder":
            attack = step if step.technique.use == "attack" else attack
            continue
        here_ms = at_ms.get(_place(step))
        if attack is None or here_ms is None or not step.strikes:
            continue
        arrived_ms = at_ms.get(_place(attack), (attack.beat - 1) * beat_ms)
        first_ms = arrived_ms if first_ms is None else first_ms
        late_ms = round(here_ms - (step.beat - 1) * beat_ms, 1)
        strikes.append(
            Arrival(
                passage=step.passage.key,
                step=step.index,
                when=_when((here_ms - arrived_ms) / 1000),
                beats=round((here_ms - arrived_ms) / beat_ms + 1, 2),
                late_ms=late_ms if exchange.tempo_bpm else None,
                chain_beats=round((here_ms - first_ms) / beat_ms + 1, 2),
            )
        )
    return strikes


def counters(exchanges: Iterable[Sequence[Arrival]]) -> CountersHeard:
    """All counters of a run, exchange by exchange."""
    heard = [arrivals for arrivals in exchanges if arrivals]
    every = [one for arrivals in heard for one in arrivals]
    counts: dict[When, int] = {"before": 0, "during": 0, "after": 0}
    for one in every:
        counts[one.when] += 1
    chains = [max(one.chain_beats for one in arrivals) for arrivals in heard]
    return CountersHeard(
        **counts,
        beats=round(median(one.beats for one in every), 2) if every else None,
        chain_beats=round(median(chains), 2) if chains else None,
    )


def _when(apart_s: float) -> When:
    if apart_s < -DURING_S:
        return "before"
    return "during" if apart_s <= DURING_S else "after"


def _place(step: Walked) -> tuple[str, int, float]:
    return step.passage.key, step.index, step.beat


def landings(drill: PartnerDrill, exchange: Exchange) -> list[Landing]:
    """For each attack and counter the strike nearest to its beat; each strike is given once.

    A block is no sound of its own: it is the attack that is heard on it. On the feeder's own time
    the exchange begins with its first strike.
    """
    strikes = [hit for hit in exchange.hits if hit.kind == "strike"]
    if not exchange.path or not strikes:
        return []
    steps = [step for step in follow(drill, exchange.path).steps if step.strikes]
    beat_ms = exchange.beat_s * 1000
    start_ms = 0.0
    if exchange.tempo_bpm is None and steps:
        start_ms = strikes[0].at_ms - (steps[0].beat - 1) * beat_ms
    pairs = sorted(
        (abs(hit.at_ms - start_ms - (step.beat - 1) * beat_ms), number, index)
        for number, step in enumerate(steps)
        for index, hit in enumerate(strikes)
        if hit.partner in (None, partner_of(step, exchange))
    )
    given: dict[int, int] = {}
    for off_ms, number, index in pairs:
        free = number not in given and index not in given.values()
        if free and off_ms <= NEAR_BEATS * beat_ms:
            given[number] = index
    return [Landing(steps[number], strikes[given[number]].at_ms) for number in sorted(given)]


def partner_of(step: Walked, exchange: Exchange) -> int:
    """Whose step it is, whatever roles have changed over on the way."""
    return exchange.feeder if step.person == "a" else exchange.defender


def set_offs(exchange: Exchange) -> list[Hit]:
    """Hands that left their home pads."""
    return [hit for hit in exchange.hits if hit.kind == "set_off"]
