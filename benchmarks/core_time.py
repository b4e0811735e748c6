"""How long the core takes to plan a run, to lay its tail out anew, to score it; to pair a class."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial

import numpy as np

from benchmarks.figure import Figure, median_ms
from hastatus.core.drill.settings import Rounds
from hastatus.core.drill.solo import Drill
from hastatus.core.hall.attendee import LEVELS, Attendee
from hastatus.core.hall.fit import Wishes
from hastatus.core.hall.pairing import grouping
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.plan.timeline import lay_out
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch
from hastatus.core.run.setup import Setup
from hastatus.core.score.scorer import score
from hastatus.core.starter import block_on_sound_strike_on_light
from hastatus.demo.student import Habits, simulate

EVENTS = 10_000


def in_rounds(count: int, seconds: float) -> Drill:
    """The starter drill in rounds of another length."""
    drill = block_on_sound_strike_on_light()
    rounds = Rounds(count=count, duration_s=seconds, rest_s=30)
    return drill.in_rounds(rounds)


def figures(loose: bool) -> Iterator[Figure]:
    """Plan, lay out and score."""
    half_hour = in_rounds(1, 1800)
    plan = plan_run(half_hour, seed=1, rung=3)
    yield Figure(
        "planning a 30-minute run",
        median_ms(lambda: plan_run(half_hour, seed=1, rung=3), 15),
        "ms",
        50,
        3,
    )
    only = plan.rounds[0]
    yield Figure(
        "re-timing its tail",
        median_ms(
            lambda: lay_out(half_hour, half_hour.rungs[2], only.slots, 0.7, only.cues[:4]), 15
        ),
        "ms",
        20,
        3,
    )
    yield _scoring()
    for count in (40, 41):
        here = _class_of(count)
        took = median_ms(partial(grouping, here, Wishes()), 7)
        yield Figure(f"putting {count} people together", took, "ms", 200, 3)


def _class_of(count: int) -> list[Attendee]:
    """People of all heights and levels."""
    rng = np.random.default_rng(1)
    return [
        Attendee(
            key=str(number),
            name=str(number),
            level=LEVELS[rng.integers(3)],
            height_m=float(rng.normal(1.74, 0.1)),
        )
        for number in range(count)
    ]


def _scoring() -> Figure:
    drill = in_rounds(40, 240)
    plan = plan_run(drill, seed=2, rung=3)
    setup = Setup(drill, plan, Device())
    batches = _first(simulate(setup, Habits(), 2)[0], EVENTS)
    return Figure(
        f"scoring {sum(len(batch.events) for batch in batches):,} events",
        median_ms(lambda: score(drill, plan, Device(), batches), 9),
        "ms",
        100,
        3,
    )


def _first(batches: list[Batch], events: int) -> list[Batch]:
    """The first batches that hold just `events` events; the last one is cut."""
    taken, left = [], events
    for batch in batches:
        taken.append(batch.model_copy(update={"events": batch.events[:left]}))
        left -= len(taken[-1].events)
        if not left:
            return taken
    raise AssertionError(f"the run has only {events - left} events")
