"""What scoring makes of simulated students, against what they really did.

A careful referee knows, for each cue, what the student made up their mind to and when it landed.
What the score calls jumped, wrong or missed, and the referee does not, is a false fault.
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

import numpy as np

from benchmarks.figure import Figure
from hastatus.core.drill.solo import Drill
from hastatus.core.loop.live_run import Tail, begin, fold_batch, rescore, revise
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch
from hastatus.core.run.setup import Setup
from hastatus.core.score.response import Response
from hastatus.core.starter import STARTERS
from hastatus.demo.student import Done, Habits, SimulatedPlayer

MEANS_MS = (450.0, 600.0, 700.0)
TAU_MS = 110.0
CUES = 800
"""Cues that a rung is judged by at each mean, at least."""
MOST_RUNS = 40


@dataclass(frozen=True)
class Cell:
    """One rung of a starter, done by students of one mean response time."""

    starter: str
    rung: int
    mean_ms: float


@dataclass(frozen=True)
class Judged:
    """False faults by kind, of so many cues."""

    cell: Cell
    cues: int
    faults: dict[str, int]


def play(drill: Drill, rung: int, habits: Habits, seed: int) -> tuple[list[Response], list[Done]]:
    """One run with its real loop of planner, player, scorer and controller."""
    setup = Setup(drill, plan_run(drill, seed=seed, rung=rung), Device())
    state = begin(setup)
    batches: list[Batch] = []

    def post(batch: Batch) -> Tail | None:
        batches.append(batch)
        fold_batch(setup, state, batch)
        return revise(setup, state, batch)

    player = SimulatedPlayer(setup, habits, np.random.default_rng((seed, 5)), post)
    player.play()
    return rescore(setup, batches, settled=False).responses, player.done


def false_fault(response: Response, done: Done, grace_ms: float) -> str | None:
    """What the score calls a fault and the referee does not, or None."""
    said = response.outcome
    if said not in ("jumped", "wrong", "missed"):
        return None
    if done.what == "nothing":
        return said if said != "missed" else None
    if done.what == "right" and done.time_ms is not None:
        # After its own limit an answer comes too late to count: nothing was missed by the score.
        too_late = done.time_ms > response.window_ms + grace_ms
        return None if said == "missed" and too_late else said
    return (
        None
        if said in (done.what, "missed") and done.what == "jumped"
        else (None if said == done.what else said)
    )


def judge(cell: Cell) -> Judged:
    """Enough runs of a cell, by seeds of its own."""
    drill = STARTERS[cell.starter]()
    habits = Habits(
        mu_ms=cell.mean_ms - TAU_MS, sigma_ms=50, tau_ms=TAU_MS, rear_ms=0, hear_ms=0, tiring_ms=0,
        lapses=0.02, wrong=0.02, jumps=0.005, answers_catch=0.05,
    )  # fmt: skip
    grace_ms = drill.judging.grace_s * 1000
    faults: Counter[str] = Counter()
    cues = 0
    start = sum(map(ord, cell.starter)) * 1000 + cell.rung * 100 + int(cell.mean_ms)
    for number in range(MOST_RUNS):
        responses, done = play(drill, cell.rung, habits, start * 100 + number)
        truth = {(cue.round, cue.slot): cue for cue in done}
        for response in responses:
            known = truth.get((response.round, response.slot))
            if known is None or response.left_out is not None:
                continue
            cues += 1
            found = false_fault(response, known, grace_ms)
            if found:
                faults[found] += 1
        if cues >= CUES or not cues:
            break
    return Judged(cell, cues, dict(faults))


def cells(loose: bool) -> list[Cell]:
    """Every rung of every starter, at each mean; the suite takes the worst ones of old."""
    rungs = [(name, rung) for name, make in STARTERS.items()
             for rung in range(1, len(make().rungs) + 1)]  # fmt: skip
    if loose:
        rungs = [("compact guard", 3), ("wide swing", 3)]
    return [Cell(name, rung, mean_ms) for name, rung in rungs for mean_ms in MEANS_MS]


def judge_all(loose: bool) -> list[Judged]:
    with ProcessPoolExecutor(2) as pool:
        return [judgement for judgement in pool.map(judge, cells(loose)) if judgement.cues]


def share(judged: list[Judged]) -> float:
    """False faults, % of the cues."""
    return (
        100
        * sum(sum(judgement.faults.values()) for judgement in judged)
        / sum(x.cues for x in judged)
    )


def figures(loose: bool) -> Iterator[Figure]:
    """The worst rung over all means, and each mean over all rungs."""
    judged = judge_all(loose)
    rungs: dict[tuple[str, int], list[Judged]] = defaultdict(list)
    for judgement in judged:
        rungs[judgement.cell.starter, judgement.cell.rung].append(judgement)
    (starter, rung), worst = max(rungs.items(), key=lambda item: share(item[1]))
    what = "called jumped, wrong or missed and was none"
    where = f"worst of {len(rungs)} rungs ({starter}, rung {rung})"
    yield Figure(f"{what}, {where}", share(worst), "%", 0.5)
    for mean_ms in MEANS_MS:
        here = [judgement for judgement in judged if judgement.cell.mean_ms == mean_ms]
        yield Figure(f"{what}, all rungs at a mean of {mean_ms:.0f} ms", share(here), "%", 0.5)


if __name__ == "__main__":
    for found in sorted(judge_all(loose=False), key=lambda judgement: -share([judgement]))[:25]:
        print(f"{share([found]):.2f} % of {found.cues}: {found.cell} {found.faults}")
