"""What a planned round will be like, in numbers."""

from __future__ import annotations

import math
from collections import Counter
from dataclasses import dataclass

from hastatus.core import safety, waiting
from hastatus.core.drill import Drill
from hastatus.core.order import longest_repeat
from hastatus.core.plan import RunPlan


@dataclass(frozen=True, slots=True)
class PlanFigures:
    """Figures of a plan, over all its rounds.

    cues_a_minute: mean rate. counts: cues by key. longest_repeat: same cue in a row.
    bits: information of one cue (Shannon 1948), from the drill's shares.
    worst_second: flashes in the worst second. total_s: rounds and rests.
    mean_wait_s: mean waiting time. guessable_share: share of cues whose moment somebody who knows
    the longest wait could guess.
    """

    cues_a_minute: float
    counts: dict[str, int]
    longest_repeat: int
    bits: float
    worst_second: int
    total_s: float
    mean_wait_s: float
    guessable_share: float


def entropy(shares: list[float]) -> float:
    """Information of one draw in bits: the sum of −p log₂ p (Shannon 1948)."""
    return -sum(share * math.log2(share) for share in shares if share > 0)


def plan_figures(drill: Drill, plan: RunPlan) -> PlanFigures:
    """The figures of `plan`, which was made from `drill`."""
    rung = drill.rungs[plan.rung - 1]
    rounds = [[cue.cue for cue in round_plan.cues] for round_plan in plan.rounds]
    see = {cue.key for cue in drill.cues if cue.channel == "see"}
    flashes = [[cue.at_s for cue in each.cues if cue.cue in see] for each in plan.rounds]
    shown = drill.shares(rung)
    if plan.sound_only:
        shown = {key: share for key, share in shown.items() if key not in see}
    total = sum(shown.values())
    return PlanFigures(
        cues_a_minute=60
        * sum(len(keys) for keys in rounds)
        / (drill.rounds.count * drill.rounds.duration_s),
        counts=dict(Counter(key for keys in rounds for key in keys)),
        longest_repeat=max(longest_repeat(keys) for keys in rounds),
        bits=entropy([share / total for share in shown.values()]),
        worst_second=max(safety.worst_second(onsets) for onsets in flashes),
        total_s=drill.rounds.total_s,
        mean_wait_s=waiting.mean(rung.waiting),
        guessable_share=waiting.guessable_share(rung.waiting),
    )
