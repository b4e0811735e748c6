"""Cues whose speed is open: is a slow one found, and is none leaned on where all are alike?"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import partial

import numpy as np

from benchmarks.figure import Figure
from hastatus.core.adapt.open_cues import GUESSED_MORE, factors, slow_cue, speeds
from hastatus.core.adapt.weak_cues import Answered
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.order import draw_order
from hastatus.core.plan.statistics import guessed
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.demo.population import (
    Subject,
    autocorrelated,
    ex_gaussian,
    gamma,
    lognormal,
    two_speed,
    wald,
)

KINDS = (ex_gaussian, gamma, two_speed, lognormal, wald, autocorrelated)
CUES = "abcdefghijkl"
SLOW = CUES[0]
A_RUN = 40
"""Answers a run; what is known after it leans the next one."""
FOUND_AFTER, LONG = 120, 1600
SLOWER_S = 0.1


@dataclass(frozen=True, slots=True)
class Practice:
    """One student's runs. slowest: the cue that seems slowest. told: the one that is said to be.
    held: whether its interval holds the slow one's truth.
    most: how many times its share a cue came at the most, in the second half. guessed_more: how
    much easier the order was to guess at the worst."""

    slowest: str
    told: str | None
    held: bool
    most: float
    guessed_more: float


def twelve() -> Drill:
    """A drill of twelve cues that come equally often."""
    starter = block_on_sound_strike_on_light()
    asking = next(cue for cue in starter.cues if not cue.is_catch)
    cues = tuple(asking.model_copy(update={"key": key, "weight": 1.0}) for key in CUES)
    plain = {"cues": (), "weights": {}, "catch_share": 0.0, "overlap": None}
    rung = starter.rungs[0].model_copy(update=plain)
    return starter.model_copy(update={"cues": cues, "rungs": (rung,)})


def practise(drill: Drill, slower_s: float, answers: int, leans: bool, seed: int) -> Practice:
    """Runs of a student who is slower on one cue."""
    rng = np.random.default_rng(seed)
    subject: Subject = KINDS[int(rng.integers(len(KINDS)))](rng)
    plain = guessed(drill, drill.rungs[0]).history
    known: list[Answered] = []
    came: Counter[str] = Counter()
    worst = 0.0
    while len(known) < answers:
        found = factors(drill, 1, known[-480:]) if leans else {}
        leaned = drill.leaning(1, found)
        if found:
            worst = max(worst, guessed(leaned, leaned.rungs[0]).history - plain)
        shares = leaned.shares(leaned.rungs[0])
        seeds = (seed, len(known))
        order = draw_order(drill.rungs[0].order, shares, frozenset(), A_RUN, seeds)
        times = np.maximum(subject.draw(rng, A_RUN), 0.1)
        for cue, time in zip(order, times.tolist(), strict=True):
            known.append(Answered(cue, True, time + slower_s * (cue == SLOW)))
        if 2 * len(known) > answers:
            came.update(order)
    many = np.maximum(subject.draw(rng, 20_000), 0.1)
    truth = float(np.log(many + slower_s).mean() - np.log(many).mean())
    last = known[-480:]
    slow = slow_cue(CUES, last)
    return Practice(
        slowest=max(speeds(CUES, last), key=lambda speed: speed.slower).cue,
        told=slow.cue if slow else None,
        held=slow is not None and slow.low <= np.exp(truth) <= slow.high,
        most=max(came.values()) * len(CUES) / came.total(),
        guessed_more=worst,
    )


def figures(loose: bool) -> Iterator[Figure]:
    """Students with one slow cue of twelve, and students without."""
    students = 60 if loose else 800
    drill = twelve()
    with ProcessPoolExecutor(2) as pool:
        leaning = partial(practise, drill, SLOWER_S, FOUND_AFTER, True)
        equal = partial(practise, drill, SLOWER_S, FOUND_AFTER, False)
        alike = partial(practise, drill, 0.0, LONG, True)
        seeds = range(500, 500 + students)
        found = list(pool.map(leaning, seeds, chunksize=10))
        later = list(
            pool.map(partial(practise, drill, SLOWER_S, 480, True), seeds[::4], chunksize=5)
        )
        plain = list(pool.map(equal, seeds, chunksize=10))
        same = list(pool.map(alike, range(900, 900 + students // 8), chunksize=5))
    missed = 1 - float(np.mean([trial.slowest == SLOW for trial in found]))
    by_share = float(np.mean([trial.slowest == SLOW for trial in plain]))
    yield Figure(
        f"one cue of 12 slower by 100 ms: not found after {FOUND_AFTER} answers "
        f"(equal shares: {1 - by_share:.3f})",
        missed,
        "",
        0.10,
        1.6 if loose else 1.0,
    )
    told_wrong = float(np.mean([trial.told not in (SLOW, None) for trial in found]))
    told = float(np.mean([trial.told == SLOW for trial in found]))
    yield Figure(f"another cue told to be slower ({told:.2f} told right)", told_wrong, "", 0.02, 2)
    right = [trial.held for trial in later if trial.told == SLOW]
    yield Figure(
        f"its interval does not hold the truth, after 480 answers (told in {len(right)})",
        1 - float(np.mean(right)),
        "",
        0.07,
        2.0 if loose else 1.0,
    )
    yield Figure(
        "how much more is guessed by counting, at the worst",
        max(trial.guessed_more for trial in found),
        "",
        GUESSED_MORE + 0.001,
    )
    # A cue whose first answers happened to be slow is asked for a while; then no more.
    most = [trial.most for trial in same]
    yield Figure(
        f"all alike: the most that a cue came, of its share, in answers {LONG // 2} to {LONG}, "
        f"95 % of students (mean {np.mean(most):.2f})",
        float(np.quantile(most, 0.95)),
        "",
        1.25,
        1.1,
    )
    yield Figure(
        "all alike: a cue told to be slower after so many",
        float(np.mean([trial.told is not None for trial in same])),
        "",
        0.03,
        3,
    )
