"""What a planned round will be like, in numbers."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from hastatus.core.drill import foreperiod
from hastatus.core.drill.repeats import longest_repeat
from hastatus.core.drill.requirement import Asked, TimedBy, ask
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.plan import flash_limit
from hastatus.core.plan.guess import Guesses, Overlapping, guesses
from hastatus.core.plan.run_plan import RoundPlan, RunPlan, without_lights
from hastatus.core.plan.timeline import Asking


@dataclass(frozen=True, slots=True)
class PlanFigures:
    """Figures of a plan, over all its rounds.

    cues_a_minute: mean rate. counts: cues by key. longest_repeat: same cue in a row.
    bits: information of one cue (Shannon 1948), from the drill's shares.
    guess_last, guess_history: how often somebody who knew the last cue, or had counted all of
    them, would guess the next. worst_second: flashes in the worst second.
    blocks_row: answers in a row without a counter, at the most. total_s: rounds and rests.
    mean_wait_s: mean waiting time. wait_low_s, wait_high_s: eight waits in ten lie between.
    guessable_share: share of cues whose moment somebody who knows the longest wait could guess.
    blind_press: share of cues that one press met which is made at the best moment, without a cue;
    tapping: share that came out clean for somebody who only taps along, where each has one answer.
    floor_m: side of the free floor, m. timed_by: where each cue's time comes from, by key.
    """

    cues_a_minute: float
    counts: dict[str, int]
    longest_repeat: int
    bits: float
    guess_last: float
    guess_history: float
    worst_second: int
    blocks_row: int
    total_s: float
    mean_wait_s: float
    wait_low_s: float
    wait_high_s: float
    guessable_share: float
    blind_press: float
    tapping: float
    floor_m: float
    timed_by: dict[str, TimedBy]


def entropy(shares: list[float]) -> float:
    """Information of one draw in bits: the sum of −p log₂ p (Shannon 1948)."""
    return -sum(share * math.log2(share) for share in shares if share > 0)


def plan_figures(drill: Drill, plan: RunPlan) -> PlanFigures:
    """The figures of `plan`, which was made from `drill`."""
    if plan.sound_only:
        drill = without_lights(drill)
    drill = drill.leaning(plan.rung, plan.weights)
    rung = drill.rungs[plan.rung - 1]
    rounds = [[cue.cue for cue in round_plan.cues] for round_plan in plan.rounds]
    see = {cue.key for cue in drill.cues if cue.channel == "see"}
    flashes = [
        [cue.at_s for cue in round_plan.cues if cue.cue in see] for round_plan in plan.rounds
    ]
    guess = guessed(drill, rung)
    low, high = _spread(plan.rounds)
    cut_s = drill.judging.jump_cut_s
    turns = range(max(1, len(rung.rounds.turns)))
    bits = [entropy(list(drill.shares(rung, turn).values())) for turn in turns]
    return PlanFigures(
        cues_a_minute=60
        * sum(map(len, rounds))
        / sum(round_plan.duration_s for round_plan in plan.rounds),
        counts=dict(Counter(key for keys in rounds for key in keys)),
        longest_repeat=max(map(longest_repeat, rounds)),
        bits=sum(bits) / len(bits),
        guess_last=guess.last,
        guess_history=guess.history,
        worst_second=max(map(flash_limit.worst_second, flashes)),
        blocks_row=max(_blocks_row(drill, rung, round_plan) for round_plan in plan.rounds),
        total_s=plan.total_s,
        mean_wait_s=foreperiod.mean(rung.waiting),
        wait_low_s=low,
        wait_high_s=high,
        guessable_share=_guessable(rung),
        blind_press=foreperiod.blind_press(rung.waiting, cut_s, plan.window_s),
        tapping=foreperiod.tapping(cut_s, plan.window_s),
        floor_m=drill.place.floor_m,
        timed_by={cue.key: ask(drill, rung, cue).timed_by for cue in drill.cues_on(rung)},
    )


def guessed(drill: Drill, rung: Rung) -> Guesses:
    """What could be guessed of a rung's order: the mean of its turns."""
    if rung.guide:
        return Guesses(0.0, 0.0)
    catch = frozenset(cue.key for cue in drill.cues if cue.is_catch)
    turns = range(max(1, len(rung.rounds.turns)))
    overlap = None
    if rung.overlap:
        channels = tuple((cue.key, cue.channel) for cue in drill.cues if not cue.is_catch)
        overlap = Overlapping(rung.overlap.share, channels)
    by_turn = [guesses(rung.order, drill.shares(rung, turn), catch, overlap) for turn in turns]
    return Guesses(
        last=sum(guess.last for guess in by_turn) / len(by_turn),
        history=sum(guess.history for guess in by_turn) / len(by_turn),
    )


def _guessable(rung: Rung) -> float:
    """A warning tells the moment as far as its lead is known; else the waiting time does."""
    if rung.lead_in is None:
        return foreperiod.guessable_share(rung.waiting)
    if rung.lead_in.kind == "announce" or rung.lead_in.most_s == rung.lead_in.least_s:
        return 1.0
    return min(1.0, 0.2 / (rung.lead_in.most_s - rung.lead_in.least_s))


def _spread(rounds: Sequence[RoundPlan]) -> tuple[float, float]:
    waits = [
        cues.slots[cue.slot].wait_s
        for cues in rounds
        for cue in cues.cues
        if cues.slots[cue.slot].overlap is None and not cues.slots[cue.slot].burst
    ]
    if not waits:
        return 0.0, 0.0
    low, high = np.quantile(waits, (0.1, 0.9)).tolist()
    return low, high


def _blocks_row(drill: Drill, rung: Rung, round_plan: RoundPlan) -> int:
    """The longest row of defended cues that pass without a counter."""
    longest = row = 0
    asking = Asking(drill, rung)
    hits: dict[int, bool] = {}
    for placed in round_plan.cues:
        asked = asking.of(round_plan.slots[placed.slot])
        if not asked.chains:
            continue
        if id(asked) not in hits:
            hits[id(asked)] = _hits_back(drill, asked)
        row = 0 if hits[id(asked)] else row + 1
        longest = max(longest, row)
    return longest


def _hits_back(drill: Drill, asked: Asked) -> bool:
    """Whether what is asked holds a strike, as an answer or as a counter."""
    for chain in asked.chains:
        for step in chain.steps:
            technique = drill.technique(step.technique)
            if step.part == "counter" or (technique and technique.use == "attack"):
                return True
    return False
