"""A page that goes in mid-round is followed by another, with a clock of its own, in the round."""

from __future__ import annotations

import pytest

from hastatus.core.loop.live_run import RUN_STATE, begin, fold_batch, rescore, revise
from hastatus.core.plan.run_plan import plan_run
from hastatus.core.plan.timeline import PlacedCue
from hastatus.core.run.device import Device
from hastatus.core.run.events import Batch, Committed, CueShown, Event, Input, Resume
from hastatus.core.run.setup import Setup
from hastatus.core.starter import STARTERS
from hastatus.demo.student import Habits, simulate

PLAIN = "block the sound, strike the light"
AFTER_CUE_MS = 100.0
CLOCK_MS = 700.0
"""The new page's clock when the round goes on."""


def recorded(seed: int) -> tuple[Setup, list[Event]]:
    """A run on a rung without overlaps, as one list of events."""
    drill = next(make() for make in STARTERS.values() if make().title.lower() == PLAIN)
    plan = plan_run(drill, seed=seed, rung=1)
    setup = Setup(drill, plan, Device())
    batches = simulate(setup, Habits(), seed)[0]
    events = [event for batch in batches for event in batch.events]
    return setup, sorted(events, key=lambda event: event.t_ms)


def cut(events: list[Event], number: int) -> tuple[list[Batch], list[Batch], CueShown]:
    """The run as one page records it, and as two do: the first goes just after this cue."""
    cues = [event for event in events if isinstance(event, CueShown)]
    last, following = cues[number], cues[number + 1]
    gone_ms = last.t_ms + AFTER_CUE_MS
    before = [event for event in events if event.t_ms <= gone_ms]
    after = [
        event
        for event in events
        if event.t_ms > gone_ms and not (isinstance(event, Input) and event.t_ms < following.t_ms)
    ]
    later = [event.model_copy(update={"t_ms": event.t_ms - gone_ms + CLOCK_MS}) for event in after]
    going = [Resume(t_ms=CLOCK_MS), *later]
    whole = [Batch(number=0, epoch=0, until_ms=1e7, last=True, events=tuple(events))]
    two = [
        Batch(number=0, epoch=0, until_ms=last.t_ms, events=tuple(before)),
        Batch(number=1, epoch=1, until_ms=going[-1].t_ms, last=True, events=tuple(going)),
    ]
    return whole, two, last


@pytest.mark.parametrize("number", [0, 1, 7, 20])
@pytest.mark.parametrize("seed", [2, 9])
def test_only_what_was_open_is_left_out(seed: int, number: int) -> None:
    setup, events = recorded(seed)
    whole, two, last = cut(events, number)
    one = {
        (response.round, response.slot): response for response in rescore(setup, whole).responses
    }
    other = rescore(setup, two).responses
    assert [(each.round, each.slot) for each in other] == list(one)
    for each in other:
        if (each.round, each.slot) == (last.round, last.slot):
            assert each.left_out == "reload"
            assert each.time_ms is None
        else:
            alone = one[each.round, each.slot]
            assert each.time_ms == pytest.approx(alone.time_ms)
            assert (each.outcome, each.left_out) == (alone.outcome, alone.left_out)


@pytest.mark.parametrize("number", [0, 7])
def test_the_rest_of_the_round_follows_what_came_on_the_page_that_is_gone(number: int) -> None:
    setup, events = recorded(2)
    _, two, last = cut(events, number)
    state = begin(setup)
    fold_batch(setup, state, two[0])
    assert RUN_STATE.validate_json(RUN_STATE.dump_json(state)) == state
    placed = PlacedCue(last.slot, last.cue, last.at_s, last.window_ms / 1000)
    asked = Batch(
        number=1, epoch=1, until_ms=0, committed=Committed(round=last.round, placed=(placed,))
    )
    fold_batch(setup, state, asked)
    state.revision += 1  # as when the window has moved
    tail = revise(setup, state, asked)
    assert tail is not None
    assert (tail.round, tail.from_slot) == (last.round, last.slot + 1)
    assert tail.cues[0].slot == last.slot + 1
    assert tail.cues[0].at_s > placed.closes_s
