"""Keeping a run up to date while it goes on: score, adapt and re-time, batch by batch."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from weakref import WeakKeyDictionary

from pydantic import TypeAdapter

from hastatus.core.adapt.controllers import ControllerState, follow, mark, settle
from hastatus.core.fields import Document, Seconds
from hastatus.core.plan.flash_limit import UnsafePlan
from hastatus.core.plan.run_plan import duration
from hastatus.core.plan.timeline import PlacedCue, lay_out
from hastatus.core.run.events import Batch, Committed
from hastatus.core.run.setup import Setup
from hastatus.core.score.response import Response, ScoreState
from hastatus.core.score.scorer import Scorer


class Tail(Document):
    """The rest of a round, re-timed: its revision, and the window it was made with.

    duration_s: the length of the round now; None where it ends by the clock.
    """

    revision: int
    round: int
    from_slot: int
    window_s: Seconds
    cues: tuple[PlacedCue, ...]
    duration_s: Seconds | None = None


@dataclass(slots=True)
class RunState:
    """Folded state of a run; equal to a full re-score of batches 0 to next_batch − 1.

    next_batch: number of the next batch to fold. revision: how often the window has changed.
    last_batch: number of the last batch, once it has been folded. events: how many were folded.
    """

    score: ScoreState
    controller: ControllerState
    next_batch: int = 0
    revision: int = 0
    last_batch: int | None = None
    answers: int = 0
    clean: int = 0
    events: int = 0

    @property
    def complete(self) -> bool:
        """Whether every batch up to the last is in."""
        return self.last_batch is not None


RUN_STATE = TypeAdapter(RunState)
"""Reads and writes a state as JSON."""


def begin(setup: Setup) -> RunState:
    """The state before the first batch."""
    return RunState(ScoreState(), ControllerState(window_s=setup.plan.window_s))


def fold_batch(setup: Setup, state: RunState, batch: Batch) -> list[Response]:
    """Fold the next batch into `state`, in place; return the responses that became certain."""
    responses = _fold(setup, state, batch, _scorer(setup, state))
    if responses:
        settle(state.controller, setup.drill.pace, setup.plan.believed)
    return responses


def fold_again(setup: Setup, batches: Iterable[Batch]) -> RunState:
    """The state after `batches`, given in number order, up to the first gap."""
    state = begin(setup)
    for batch in batches:
        if batch.number != state.next_batch:
            break
        fold_batch(setup, state, batch)
    return state


def _scorer(setup: Setup, state: RunState) -> Scorer:
    rules = _rules.get(setup)
    if rules is None:
        rules = _rules[setup] = Scorer(setup.drill, setup.plan, setup.device)
    return rules.at(state.score)


_rules: WeakKeyDictionary[Setup, Scorer] = WeakKeyDictionary()
"""Scorers before their first batch, for as long as somebody holds the setup: to make one takes
longer than most batches."""


def _fold(setup: Setup, state: RunState, batch: Batch, scorer: Scorer) -> list[Response]:
    """`fold_batch`, with the window of the measured rule still to be settled."""
    responses = scorer.fold(batch)
    before = mark(state.controller, setup.drill.pace)
    for response in responses:
        follow(state.controller, setup.drill.pace, response)
        if response.left_out is None and response.asked_technique:
            state.answers += 1
            state.clean += response.outcome == "clean"
    if mark(state.controller, setup.drill.pace) != before:
        state.revision += 1
    state.next_batch = batch.number + 1
    state.events += len(batch.events)
    if batch.last:
        state.last_batch = batch.number
    return responses


def revise(setup: Setup, state: RunState, batch: Batch) -> Tail | None:
    """A revised tail for a player that follows an older window, None when it is up to date.

    Also None when what the player says it has committed breaks the flash rule.
    """
    committed = batch.committed
    if committed is None or batch.last or batch.revision >= state.revision:
        return None
    drill = setup.played
    rung = drill.rungs[setup.plan.rung - 1]
    try:
        cues = lay_out(
            drill,
            rung,
            setup.plan.rounds[committed.round - 1].slots,
            state.controller.window_s,
            committed.placed,
        )
    except UnsafePlan:
        return None  # no plan of ours commits such flashes: nothing is built on them
    return Tail(
        revision=state.revision,
        round=committed.round,
        from_slot=committed.placed[-1].slot + 1 if committed.placed else 0,
        window_s=round(state.controller.window_s, 4),
        cues=tuple(cues),
        duration_s=None if rung.rounds.ends == "time" else _length(setup, committed, cues),
    )


def _length(setup: Setup, committed: Committed, cues: list[PlacedCue]) -> float:
    """Length of a round that ends by count, its committed cues included."""
    rung = setup.played.rungs[setup.plan.rung - 1]
    placed = [*committed.placed, *cues]
    before = committed.placed[0].slot if committed.placed else 0
    # What was committed earlier is known by its number only, and that is all the length needs.
    earlier = setup.plan.rounds[committed.round - 1].cues[:before]
    return duration(rung, (*earlier, *placed))


@dataclass(slots=True)
class Rescored:
    """A run scored afresh. missing: numbers of batches that have not come, or came emptied."""

    responses: list[Response]
    state: RunState
    missing: list[int] = field(default_factory=list)


def rescore(
    setup: Setup, batches: Iterable[Batch], *, closed: bool = False, settled: bool = True
) -> Rescored:
    """Score a run from all its batches, whatever order they are given in, gaps stepped over.

    closed: no more batches are expected, so what still listens is left out as stopped. settled:
    the window that would follow is wanted, too; finding it takes a while.
    """
    state = begin(setup)
    scorer = _scorer(setup, state)
    responses: list[Response] = []
    missing: list[int] = []
    for batch in sorted(batches, key=lambda batch: batch.number):
        missing.extend(range(state.next_batch, batch.number + batch.emptied))
        responses.extend(_fold(setup, state, batch, scorer))
    if settled:
        settle(state.controller, setup.drill.pace, setup.plan.believed)
    if closed:
        responses.extend(scorer.stop())
    return Rescored(responses, state, missing)
