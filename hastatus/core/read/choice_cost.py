"""What choice costs: the time that each bit of it adds to an answer.

Hick 1952 and Hyman 1953 (memory): time grows in a line with the information of the cue. Hyman
counts log₂ n of n equal choices; Hick's school counts log₂(n + 1), the chance that no cue comes
being one more choice.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np
import scipy
from scipy.special import stdtrit

from hastatus.core.read.proportion import TOO_FEW

School = Literal["hyman", "hick"]


@dataclass(frozen=True, slots=True)
class ChoiceCost:
    """base_s: time without choice, s. cost_s: time that one bit adds, with its 95 % interval."""

    base_s: float
    cost_s: float
    low_s: float
    high_s: float
    answers: int


def bits(choices: int, school: School = "hyman") -> float:
    """Information of one of `choices` equal cues, in bits."""
    return math.log2(choices + (school == "hick"))


def choice_cost(
    times_s: Mapping[int, Sequence[float]], school: School = "hyman"
) -> ChoiceCost | None:
    """From right answers' times (s) by number of equal cues; None where they are too few to say.

    Least squares over single answers; the interval allows for a spread that grows with choice
    (HC3; MacKinnon and White 1985, memory).
    """
    kept = {choices: times for choices, times in times_s.items() if len(times) >= TOO_FEW}
    if len(kept) < 2:
        return None
    x = np.concatenate([np.full(len(times), bits(n, school)) for n, times in kept.items()])
    y = np.concatenate([np.asarray(times, dtype=float) for times in kept.values()])
    design = np.column_stack([np.ones_like(x), x])
    inverse = np.linalg.inv(design.T @ design)
    estimate = inverse @ design.T @ y
    leverage = np.einsum("ij,jk,ik->i", design, inverse, design)
    scaled = ((y - design @ estimate) / (1 - leverage)) ** 2
    spread = inverse @ (design.T * scaled) @ design @ inverse
    reach = float(stdtrit(len(y) - 2, 0.975)) * math.sqrt(float(spread[1, 1]))
    base, cost = float(estimate[0]), float(estimate[1])
    return ChoiceCost(base, cost, cost - reach, cost + reach, len(y))


def choice_cost_of_rounds(
    rounds_s: Sequence[tuple[int, Sequence[float]]], school: School = "hyman"
) -> ChoiceCost | None:
    """From the rounds of a test: the number of equal cues of each, and its right answers' times, s.

    Rounds of one kind differ among themselves, and answers of one round go together; with at least
    two rounds more than kinds, the means of rounds are therefore what is fitted, with Student's t.
    None where the answers are too few to say.
    """
    kept = [(choices, times) for choices, times in rounds_s if times]
    by_choices: dict[int, list[float]] = {}
    for choices, times in kept:
        by_choices.setdefault(choices, []).extend(times)
    enough = [choices for choices, times in by_choices.items() if len(times) >= TOO_FEW]
    kept = [(choices, times) for choices, times in kept if choices in enough]
    if len(enough) < 2:
        return None
    if len(kept) < len(enough) + 2:
        return choice_cost({choices: by_choices[choices] for choices in enough}, school)
    x = np.array([bits(choices, school) for choices, _ in kept])
    y = np.array([float(np.mean(times)) for _, times in kept])
    line = scipy.stats.linregress(x, y)
    reach = float(stdtrit(len(y) - 2, 0.975)) * float(line.stderr)
    cost = float(line.slope)
    answers = sum(len(times) for _, times in kept)
    return ChoiceCost(float(line.intercept), cost, cost - reach, cost + reach, answers)
