"""A run that is followed batch by batch."""

from __future__ import annotations

import gc
import weakref

from hastatus.core.loop.live_run import fold_again
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.run.device import Device
from hastatus.core.run.setup import Setup
from hastatus.demo.student import Habits, simulate
from tests.harness.club import short_drill


def test_what_is_made_of_a_setup_goes_with_it() -> None:
    """A server forgets the runs used longest ago: nothing else may hold their long plans."""
    drill = short_drill(20)
    setup = Setup(drill, plan_run(drill, seed=4), Device())
    batches, state = simulate(setup, Habits(), 4)
    assert fold_again(setup, batches) == state
    plan = weakref.ref(setup.plan)
    del setup
    gc.collect()
    assert plan() is None


def test_runs_that_are_followed_by_turns_do_not_mix() -> None:
    drill = short_drill(20, count=2)
    setups = [Setup(drill, plan_run(drill, seed=seed), Device()) for seed in (1, 2)]
    runs = [simulate(setup, Habits(), 1) for setup in setups]
    again = [fold_again(setup, batches) for setup, (batches, _) in zip(setups, runs, strict=True)]
    assert again == [state for _, state in runs]
    assert again[0] != again[1]
