"""What scoring listens for after a cue, and what an answer to it was."""

from __future__ import annotations

from typing import Literal, NamedTuple

from hastatus.core.catalogue import Side
from hastatus.core.chain import Asked, AskedStep
from hastatus.core.response import OpenCue, StepResult


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


def begun(expected: Expected, cue: OpenCue, time_ms: float) -> AskedStep | None:
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


def later_steps(expected: Expected, cue: OpenCue) -> tuple[StepResult, ...]:
    """What became of the later steps of the chain that was begun; none where none was."""
    if cue.chain is None:
        return ()
    results = []
    for place, step in enumerate(expected.rest[cue.chain]):
        limit_ms = cue.window_ms + step.offset_s * 1000
        time_ms = None
        outcome: Literal["clean", "late", "wrong", "missed"] = "missed"
        if place < len(cue.landed):
            landed = cue.landed[place]
            time_ms = landed.t_ms - cue.onset_ms
            right = landed.technique is None or (landed.technique, landed.side) == (
                step.technique,
                step.side,
            )
            outcome = "wrong" if not right else "clean" if time_ms <= limit_ms else "late"
        results.append(StepResult(step.part, step.technique, step.side, time_ms, limit_ms, outcome))
    return tuple(results)
