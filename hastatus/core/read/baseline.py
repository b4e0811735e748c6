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
import scipy
from scipy.special import ndtr, stdtrit

from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RoundPlan, RunPlan
from hastatus.core.read.choice_cost import ChoiceCost, choice_cost_of_rounds
from hastatus.core.read.dependence import Dependence, Place
from hastatus.core.read.difference import Difference, Group, difference
from hastatus.core.read.proportion import TELL_Z, TOO_FEW
from hastatus.core.read.reliability import (
    Repeatable,
    agreement_interval,
    reliability,
    repeatable,
    smallest_change,
    typical_error,
    typical_error_interval,
)
from hastatus.core.read.summary import right_times, summarise, time_dependence
from hastatus.core.read.trend import TESTS_SHARE, Slope, slope_of
from hastatus.core.score.response import Response

LEAST_TESTS = 4
"""Fewer tests of a student leave the own error to chance."""
LEAST_WEEKS = 0.5
"""Tests that lie nearer together than this say nothing of a week."""


MOST_BLIND = 0.1
"""A test in which more than this share of all hits were jumped or answered nothing says nothing:
who taps along is quick now and then by chance (our own rule; no source)."""


@dataclass(frozen=True, slots=True)
class Part:
    """One kind of rounds of a baseline. choices: cues that ask for an answer; holds: whether one
    does not.

    median_ms: of right answers, with its 95 % interval; None with too few to say. answers: cues
    that asked.
    """

    kind: Literal["sound", "light", "mixed"]
    choices: int
    holds: bool
    median_ms: float | None
    answers: int
    right: int
    low_ms: float | None = None
    high_ms: float | None = None


@dataclass(frozen=True, slots=True)
class Baseline:
    """What a baseline says. choice: over its rounds of sounds; light: against one sound.

    false_alarms, held_of: answers to cues that ask for nothing, of how many there were. jumped:
    answers sooner than anybody reacts. extra: hits that answered nothing. doubt: why the test says
    nothing, or None.
    """

    parts: list[Part]
    choice: ChoiceCost | None
    light: Difference | None
    false_alarms: int
    held_of: int
    jumped: int = 0
    extra: int = 0
    doubt: str | None = None

    def simple_ms(self, kind: Literal["sound", "light"]) -> float | None:
        """Median of the rounds with one cue of this kind; None where the test says nothing."""
        return None if self.doubt else simple_ms(self.parts, kind)


def simple_ms(parts: Sequence[Part], kind: Literal["sound", "light"]) -> float | None:
    """Median of the rounds with one cue of this kind and nothing to hold back from."""
    for part in parts:
        if part.kind == kind and part.choices == 1 and not part.holds:
            return part.median_ms
    return None


def read_baseline(
    drill: Drill, plan: RunPlan, responses: Sequence[Response], extra: int = 0
) -> Baseline | None:
    """Read a run of a baseline; None for another drill. extra: hits that answered nothing."""
    if not drill.is_test:
        return None
    turns: dict[int, list[RoundPlan]] = {}
    for round_plan in plan.rounds:
        turns.setdefault(round_plan.turn, []).append(round_plan)
    together = time_dependence(responses)
    parts = [_part(drill, plan, rounds, responses, together) for rounds in turns.values()]
    sounds: list[tuple[int, list[float]]] = []
    alone: dict[str, list[list[float]]] = {}
    for part, rounds in zip(parts, turns.values(), strict=True):
        times = [_times_s(responses, round_plan.number) for round_plan in rounds]
        if part.kind == "sound" and not part.holds:
            sounds += [(part.choices, time) for time in times]
        if part.choices == 1 and not part.holds:
            alone.setdefault(part.kind, times)
    catch = [
        response
        for response in responses
        if response.asked_technique is None and not response.left_out
    ]
    jumped = sum(response.outcome == "jumped" for response in responses)
    return Baseline(
        parts=parts,
        choice=choice_cost_of_rounds(sounds),
        light=_light(alone, together) if len(alone) == 2 else None,
        false_alarms=sum(response.outcome != "held" for response in catch),
        held_of=len(catch),
        jumped=jumped,
        extra=extra,
        doubt=_doubt(responses, jumped, extra),
    )


def _doubt(responses: Sequence[Response], jumped: int, extra: int) -> str | None:
    hits = sum(response.time_ms is not None for response in responses) + extra
    if not hits or (jumped + extra) / hits <= MOST_BLIND:
        return None
    return (
        f"{jumped} answers came before anybody could react and {extra} answered nothing, of "
        f"{hits} hits in all: who taps along is quick by chance. Do the test again."
    )


def _part(
    drill: Drill,
    plan: RunPlan,
    rounds: Sequence[RoundPlan],
    responses: Sequence[Response],
    together: Dependence,
) -> Part:
    keys = drill.shares(drill.rungs[plan.rung - 1], rounds[0].turn)
    cues = [drill.cue(key) for key in keys]
    asking = [cue for cue in cues if not cue.is_catch]
    channels = {cue.channel for cue in asking}
    kind: Literal["sound", "light", "mixed"] = "mixed"
    if len(channels) == 1:
        kind = "sound" if channels == {"hear"} else "light"
    numbers = {round_plan.number for round_plan in rounds}
    summary = summarise([response for response in responses if response.round in numbers], together)
    return Part(
        kind,
        len(asking),
        len(cues) > len(asking),
        summary.median_ms,
        summary.count,
        summary.clean + summary.late,
        summary.median_low_ms,
        summary.median_high_ms,
    )


def _times_s(responses: Sequence[Response], number: int) -> list[float]:
    times, _ = right_times([response for response in responses if response.round == number])
    return [time / 1000 for time in times]


def _light(alone: dict[str, list[list[float]]], together: Dependence) -> Difference | None:
    """One light against one sound, from the means of their rounds where there are several."""
    means = {
        kind: [1000 * float(np.mean(times)) for times in rounds if times]
        for kind, rounds in alone.items()
    }
    answers = min(sum(map(len, rounds)) for rounds in alone.values())
    sound, light = means["sound"], means["light"]
    freedom = len(sound) + len(light) - 2
    if answers < TOO_FEW or min(len(sound), len(light)) < 1:
        return None
    if freedom < 2:
        ours, theirs = (
            Group(kind, [1000 * time for times in alone[kind] for time in times])
            for kind in ("sound", "light")
        )
        weights = [1 / len(ours)] * len(ours) + [-1 / len(theirs)] * len(theirs)
        numbers = [Place(0, number) for number in range(len(ours))]
        numbers += [Place(1, number) for number in range(len(theirs))]
        return difference(ours, theirs, together.widening(weights, numbers))
    squares = sum((ms - float(np.mean(times))) ** 2 for times in (sound, light) for ms in times)
    error = math.sqrt(squares / freedom * (1 / len(sound) + 1 / len(light)))
    reach = float(stdtrit(freedom, 0.975)) * error
    slower = float(np.mean(light)) - float(np.mean(sound))
    sure = float(stdtrit(freedom, ndtr(TELL_Z))) * error
    return Difference(
        "sound", "light", slower, slower - reach, slower + reach, answers, abs(slower) > sure
    )


@dataclass(frozen=True, slots=True)
class Agreement:
    """How far a second test agrees with the first. icc: ICC(2,1) of one sound, over students with
    two tests; typical_ms: the typical error of one test; each with its 95 % interval. smallest_ms:
    the smallest change between two tests that is no noise. repeatable: the ICC in a word.
    """

    icc: float
    icc_low: float
    icc_high: float
    typical_ms: float
    typical_low_ms: float
    typical_high_ms: float
    students: int
    smallest_ms: float
    repeatable: Repeatable


def agreement(tests: Sequence[Sequence[Sequence[Part]]]) -> Agreement | None:
    """From the parts of the last two tests of each student; None for fewer than eight students."""
    table = []
    for test in tests:
        simple = [simple_ms(parts, "sound") for parts in test[:2]]
        known = [ms for ms in simple if ms is not None]
        if len(known) == 2:
            table.append(known)
    split = reliability(table) if len(table) >= TOO_FEW else None
    error = typical_error(table)
    if split is None or error is None:
        return None
    low, high = agreement_interval(table)
    error_low, error_high = typical_error_interval(error, len(table) - 1)
    smallest = smallest_change(error)
    return Agreement(
        split.agreement, low, high, error, error_low, error_high, len(table), smallest,
        repeatable(split.agreement),
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class BaselineTrend:
    """How repeated tests went. weekly: ms that one test is slower by than one a week earlier.
    typical_error: of one test, ms; students: of how many students it is, 1 for the student's own.
    """

    weekly: Slope
    typical_error: float
    students: int


def baseline_trend(
    weeks: Sequence[float], values: Sequence[float], club: Agreement | None = None
) -> BaselineTrend | None:
    """How one student's tests went; None for fewer than `LEAST_TESTS`, or all within a few days.

    club: the club's own typical error, which more students know better than one; without it the
    error is that of the student's own tests about their line.
    """
    if len(values) < LEAST_TESTS or max(weeks) - min(weeks) < LEAST_WEEKS:
        return None
    fitted = scipy.stats.linregress(weeks, values)
    x = np.asarray(weeks, dtype=float)
    across = float(((x - x.mean()) ** 2).sum())
    own = float(fitted.stderr) * math.sqrt(across)
    freedom = float(len(values) - 2)
    error, students = own, 1
    if club is not None:
        # The student's own tests and the club's, each by how much they know.
        others = float(club.students - 1)
        error = math.sqrt((freedom * own**2 + others * club.typical_ms**2) / (freedom + others))
        freedom, students = freedom + others, club.students
    weekly = slope_of(
        float(fitted.slope), error / math.sqrt(across), freedom,
        float(fitted.intercept), len(values), TESTS_SHARE,
    )  # fmt: skip
    return BaselineTrend(weekly, error, students)
