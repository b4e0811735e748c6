"""What scoring listens for after a cue, and what an answer to it was."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import Literal, NamedTuple

from hastatus.core.drill.requirement import Asked, AskedStep, ask
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.plan.timeline import Asking
from hastatus.core.run.events import CueShown
from hastatus.core.score.response import HoldResult, Landed, OpenCue, StepResult
from hastatus.core.trade.technique import Side

ROUNDING_MS = 1e-6
"""Sums of times are compared to within this."""


class Meaning(NamedTuple):
    """The answer a control stands for."""

    technique: str
    side: Side


class Expected(NamedTuple):
    """What is listened for after one kind of slot, at hand without looking through the drill.

    first: the first step that lands of each chain. rest: the later ones, by chain.
    asks: the answer of the first chain, for the record; None for a catch cue.
    offset_ms: how far the latest of the first steps may come after the answer window.
    """

    asked: Asked
    first: tuple[AskedStep, ...]
    rest: tuple[tuple[AskedStep, ...], ...]
    asks: Meaning | None
    offset_ms: float

    @classmethod
    def of(cls, asked: Asked) -> Expected:
        """What is listened for where `asked` is asked."""
        sensed = [chain.sensed for chain in asked.chains]
        sensed = [steps for steps in sensed if steps]
        asks = None
        if asked.chains:
            answer = asked.chains[0].steps[0]
            asks = Meaning(answer.technique, answer.side)
        first = tuple(steps[0] for steps in sensed)
        return cls(
            asked,
            first,
            tuple(steps[1:] for steps in sensed),
            asks,
            max((step.offset_s for step in first), default=0.0) * 1000,
        )

    @property
    def evades(self) -> bool:
        """Whether what is asked lands on nothing."""
        return self.asks is not None and not self.first


class Expecting:
    """What is listened for after each cue of a plan, at hand without looking through the drill.

    all_evade: every answer on the rung lands on nothing, so that leaving home, or moving before a
    camera, is an answer after a catch cue, too.
    """

    def __init__(self, drill: Drill, plan: RunPlan) -> None:
        rung = drill.rungs[plan.rung - 1]
        self._plan = plan
        asked = [ask(drill, rung, cue).timed_by for cue in drill.cues_on(rung)]
        self.all_evade = "not_sensed" in asked and set(asked) <= {"not_sensed", "catch"}
        self._asking = Asking(drill, rung)
        self._expected: dict[int, Expected] = {}
        # Where every slot asks for the whole of its cue, the cue's key says enough.
        self._alike = rung.stacking is None and rung.counters is None
        self._by_cue: dict[str, Expected] = {}

    def of(self, cue: OpenCue | CueShown) -> Expected:
        if self._alike and cue.cue in self._by_cue:
            return self._by_cue[cue.cue]
        asked = self._asking.of(self._plan.rounds[cue.round - 1].slots[cue.slot], cue.cue)
        expected = self._expected.get(id(asked))
        if expected is None:
            expected = self._expected[id(asked)] = self._by_cue[cue.cue] = Expected.of(asked)
        return expected


def matching_step(expected: Expected, cue: OpenCue, time_ms: float) -> AskedStep | None:
    """The accepted step that an answer was: of several, the first whose limit holds it.

    What only a time is known of counts as what was asked.
    """
    if cue.technique is None:
        return expected.first[0] if expected.first else None
    if len(expected.first) == 1:
        step = expected.first[0]
        return step if (step.technique, step.side) == (cue.technique, cue.side) else None
    right = [
        step for step in expected.first if step.technique == cue.technique and step.side == cue.side
    ]
    if len(right) < 2:
        return right[0] if right else None
    right.sort(key=lambda step: step.offset_s)
    for step in right:
        if time_ms <= cue.window_ms + step.offset_s * 1000:
            return step
    return right[-1]


def fitting_step(rest: Sequence[AskedStep], landed: Sequence[Landed], meaning: Meaning) -> int:
    """Which of the later steps `meaning` is, in order and with gaps: the first one that it fits
    after what has landed; the very next one where it fits none."""
    following = landed[-1].step + 1 if landed else 0
    for index in range(following, len(rest)):
        if (rest[index].technique, rest[index].side) == meaning:
            return index
    return following


def later_steps(expected: Expected, cue: OpenCue) -> tuple[StepResult, ...]:
    """What became of the later steps of the chain that was begun; none where none was.

    The limit of a step is its time after the last step before it that landed. Where a pause cut
    the chain off, what had not come by then is not judged.
    """
    if cue.chain is None or cue.answered_ms is None:
        return ()
    landed = {arrived.step: arrived for arrived in cue.landed}
    before_ms = cue.answered_ms - cue.onset_ms
    before_s = expected.first[cue.chain].offset_s
    results = []
    for index, step in enumerate(expected.rest[cue.chain]):
        limit_ms = before_ms + (step.offset_s - before_s) * 1000
        arrival = landed.get(index)
        time_ms = None
        outcome: Literal["clean", "late", "wrong", "missed"] = "missed"
        if arrival:
            time_ms = arrival.t_ms - cue.onset_ms
            outcome = "clean" if time_ms <= limit_ms + ROUNDING_MS else "late"
            if not _is(arrival, step):
                outcome = "wrong"
            before_ms, before_s = time_ms, step.offset_s
        elif cue.cut_off and not any(later > index for later in landed):
            break
        results.append(StepResult(step.part, step.technique, step.side, time_ms, limit_ms, outcome))
    return tuple(results)


def holds(expected: Expected, cue: OpenCue) -> tuple[HoldResult, ...]:
    """How long each step that asks to be held was, where a later one landed after it."""
    if cue.chain is None or cue.answered_ms is None or not cue.landed:
        return ()
    done = [(cue.answered_ms, expected.first[cue.chain])]
    done += [(arrived.t_ms, expected.rest[cue.chain][arrived.step]) for arrived in cue.landed]
    return tuple(
        HoldResult(step.technique, after_ms - t_ms, step.hold_s * 1000)
        for (t_ms, step), (after_ms, _) in pairwise(done)
        if step.hold_s
    )


def _is(landed: Landed, step: AskedStep) -> bool:
    """Whether what landed is the step; of a strike heard only the time is known."""
    return landed.technique is None or (landed.technique, landed.side) == (
        step.technique,
        step.side,
    )
