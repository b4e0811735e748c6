"""What a cue asks for at one place of a plan: its chains, cut as the rung says, with their limits.

Limits add up. The answer has the answer window; each further step has its own limit after the
step before, and a hold is waited for. So the limit of a step is the end of the answer window plus
an offset that does not depend on the student.

What lands on nothing (a slip, a duck) is not sensed. Such an answer is timed by the first later
step of its chain that lands; where none does, the cue is shown and not timed.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from hastatus.core.drill.cue import WITHIN_S, Chain, Channel, Cue, Part, Step
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.trade.technique import Side

TimedBy = Literal["answer", "counter", "exit", "not_sensed", "catch"]


@dataclass(frozen=True, slots=True)
class AskedStep:
    """One step that is asked.

    offset_s: how far the limits up to its own reach past the answer window, s; the limit of a step
    after one that landed is the difference of their offsets. hold_s: held this long, s.
    """

    technique: str
    side: Side
    part: Part
    lands: bool
    offset_s: float
    hold_s: float = 0.0


@dataclass(frozen=True, slots=True)
class AskedChain:
    """One accepted chain as far as it is asked."""

    steps: tuple[AskedStep, ...]
    over_s: float

    @property
    def sensed(self) -> tuple[AskedStep, ...]:
        """The steps that land, in order."""
        return tuple(step for step in self.steps if step.lands)


@dataclass(frozen=True, slots=True)
class Asked:
    """What a cue asks for at its place.

    window_s: its own answer window, or None where the run's holds.
    after_s: time from the end of the answer window to the end of the longest chain.
    timed_by: which part of the first chain its time is taken from.
    """

    channel: Channel
    chains: tuple[AskedChain, ...]
    window_s: float | None
    after_s: float
    timed_by: TimedBy


def ask(
    drill: Drill, rung: Rung, cue: Cue, *, stage: int | None = None, counter: bool = True
) -> Asked:
    """What `cue` asks for on `rung`.

    stage: how many steps are stacked so far, from 1. counter: whether counter and exit are asked.
    """
    chains = []
    for chain in cue.asks:
        count = rung.steps_of(chain, stage)
        steps = chain.steps[:count]
        if not counter:
            steps = tuple(step for step in steps if step.part == "answer")
        chains.append(_asked(drill, rung, steps))
    own = [chain.steps[0].within for chain in cue.asks]
    limits = [duration.seconds(rung.tempo_bpm) for duration in own if duration]
    return Asked(
        channel=cue.channel,
        chains=tuple(chains),
        window_s=max(limits) if limits and len(limits) == len(own) else None,
        after_s=max((chain.over_s for chain in chains), default=0.0),
        timed_by=_timed_by(chains),
    )


def has_counter(rung: Rung, chain: Chain) -> bool:
    """Whether `chain`, as far as the rung asks it, holds a counter."""
    return any(step.part == "counter" for step in chain.steps[: rung.steps_of(chain)])


def _asked(drill: Drill, rung: Rung, steps: tuple[Step, ...]) -> AskedChain:
    asked = []
    offset = 0.0
    for number, step in enumerate(steps):
        if number:
            offset += step.within.seconds(rung.tempo_bpm) if step.within else WITHIN_S
        technique = drill.technique(step.technique)
        lands = technique.lands if technique else False
        # A technique without a side is one answer, whichever side a document names.
        side = step.side if technique is None or technique.sided else "lead"
        limit_s = round(offset, 4)
        asked.append(AskedStep(step.technique, side, step.part, lands, limit_s, step.hold_s or 0.0))
        offset += step.hold_s or 0.0
    return AskedChain(tuple(asked), round(offset, 4))


def _timed_by(chains: list[AskedChain]) -> TimedBy:
    if not chains:
        return "catch"
    sensed = chains[0].sensed
    return sensed[0].part if sensed else "not_sensed"
