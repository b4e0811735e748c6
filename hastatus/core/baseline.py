"""The baseline: a short test that is repeated every few weeks, and what it says.

Its rounds differ in one thing at a time: one sound, one light, more sounds to choose from, and one
that asks for nothing. So one student's speed, the cost of choice, sound against light, and holding
back can be told apart, and compared from test to test.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from hastatus.core.choice import ChoiceCost, choice_cost
from hastatus.core.difference import Difference, Group, difference
from hastatus.core.drill import Drill
from hastatus.core.plan import RoundPlan, RunPlan
from hastatus.core.reliability import reliability, smallest_change, typical_error
from hastatus.core.response import Response
from hastatus.core.stats import TOO_FEW, right_times

LEAST_TESTS = 4
"""Fewer tests of a student leave the own typical error to chance."""


@dataclass(frozen=True, slots=True)
class Part:
    """One round of a baseline. choices: cues that ask for an answer; holds: whether one does not.

    median_ms: of right answers, None with too few to say. answers: cues that asked.
    """

    kind: Literal["sound", "light", "mixed"]
    choices: int
    holds: bool
    median_ms: float | None
    answers: int
    right: int


@dataclass(frozen=True, slots=True)
class Baseline:
    """What a baseline says. choice: over its rounds of sounds; light: against one sound.

    false_alarms, held_of: answers to cues that ask for nothing, of how many there were.
    """

    parts: list[Part]
    choice: ChoiceCost | None
    light: Difference | None
    false_alarms: int
    held_of: int

    def simple_ms(self, kind: Literal["sound", "light"]) -> float | None:
        """Median of the round with one cue of this kind."""
        return simple_ms(self.parts, kind)


def simple_ms(parts: Sequence[Part], kind: Literal["sound", "light"]) -> float | None:
    """Median of the round with one cue of this kind and nothing to hold back from."""
    for part in parts:
        if part.kind == kind and part.choices == 1 and not part.holds:
            return part.median_ms
    return None


def read_baseline(drill: Drill, plan: RunPlan, responses: Sequence[Response]) -> Baseline | None:
    """Read a run of a baseline; None for another drill."""
    if drill.purpose != "baseline":
        return None
    parts: list[Part] = []
    sounds: dict[int, list[float]] = {}
    alone: dict[str, Group] = {}
    for each in plan.rounds:
        mine = [found for found in responses if found.round == each.number]
        part, group = _part(drill, plan, each, mine)
        parts.append(part)
        if part.holds:
            continue
        if part.kind == "sound":
            sounds.setdefault(part.choices, []).extend(time / 1000 for time in group.times)
        if part.choices == 1:
            alone.setdefault(part.kind, group)
    catch = [each for each in responses if each.asked_technique is None and not each.left_out]
    return Baseline(
        parts=parts,
        choice=choice_cost(sounds),
        light=difference(alone["sound"], alone["light"]) if len(alone) == 2 else None,
        false_alarms=sum(each.outcome != "held" for each in catch),
        held_of=len(catch),
    )


def _part(
    drill: Drill, plan: RunPlan, each: RoundPlan, responses: Sequence[Response]
) -> tuple[Part, Group]:
    keys = drill.shares(drill.rungs[plan.rung - 1], each.turn)
    cues = [drill.cue(key) for key in keys]
    asking = [cue for cue in cues if not cue.is_catch]
    channels = {cue.channel for cue in asking}
    kind: Literal["sound", "light", "mixed"] = "mixed"
    if len(channels) == 1:
        kind = "sound" if channels == {"hear"} else "light"
    times, censored = right_times(responses)
    asked = [found for found in responses if found.asked_technique and not found.left_out]
    part = Part(
        kind,
        len(asking),
        len(cues) > len(asking),
        float(np.median(times)) if len(times) >= TOO_FEW else None,
        len(asked),
        len(times),
    )
    return part, Group(kind, times, censored)


@dataclass(frozen=True, slots=True)
class Agreement:
    """How far a second test agrees with the first. icc: ICC(2,1) of one sound, over students with
    two tests; typical_ms: the typical error of one test.
    """

    icc: float
    typical_ms: float
    students: int


def agreement(tests: Sequence[Sequence[Sequence[Part]]]) -> Agreement | None:
    """From the parts of the last two tests of each student; None for fewer than eight students."""
    table = []
    for each in tests:
        simple = [simple_ms(parts, "sound") for parts in each[:2]]
        known = [ms for ms in simple if ms is not None]
        if len(known) == 2:
            table.append(known)
    found = reliability(table) if len(table) >= TOO_FEW else None
    error = typical_error(table)
    if found is None or error is None:
        return None
    return Agreement(found.agreement, error, len(table))


@dataclass(frozen=True, slots=True)
class RealChange:
    """From the first test to the last. smallest: the smallest change that is no noise, from the
    student's own typical error; real: whether the change is larger. tests: how many there were.
    """

    change: float
    typical_error: float
    smallest: float
    real: bool
    tests: int


def change(values: Sequence[float]) -> RealChange | None:
    """How repeated values changed; None for fewer than `LEAST_TESTS`."""
    if len(values) < LEAST_TESTS:
        return None
    error = typical_error([values])
    if error is None or not math.isfinite(error):
        return None
    whole = values[-1] - values[0]
    smallest = smallest_change(error, len(values))
    return RealChange(whole, error, smallest, abs(whole) > smallest, len(values))
