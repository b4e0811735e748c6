"""A run's results: every response and what they amount to."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Literal

from pydantic import TypeAdapter

from hastatus.core.adapt import ladder
from hastatus.core.loop.live_run import Rescored, rescore
from hastatus.core.read.baseline import Baseline, read_baseline
from hastatus.core.read.difference import Difference
from hastatus.core.read.microphone_trust import microphone_doubt
from hastatus.core.read.solo_run import side_difference
from hastatus.core.read.summary import Summary, summarise
from hastatus.core.run.events import Batch, RunRecord, check_batch
from hastatus.core.run.setup import Setup
from hastatus.core.score.response import Response
from hastatus.core.score.scorer import SCORING_VERSION


@dataclass(frozen=True, slots=True)
class Figures:
    """What a scored run is in numbers.

    strays: inputs that answered nothing; stray_whys: how many for each reason. lost: hits of a pad
    kit that never came. missing: numbers of batches that have not come.
    complete: whether every batch up to the last is in. baseline: where the drill is one.
    side: how much slower the rear side was than the lead; None with too few answers to say.
    microphone_doubt: why the microphone could not be trusted, or None.
    """

    summary: Summary
    evidence: ladder.RunEvidence
    strays: int
    missing: list[int]
    complete: bool
    baseline: Baseline | None = None
    stray_whys: dict[str, int] = field(default_factory=dict)
    lost: int = 0
    side: Difference | None = None
    microphone_doubt: str | None = None


@dataclass(frozen=True, slots=True)
class Results:
    """A scored run as a document.

    responses: in onset order. holding: the pace was holding at the end, because nobody answered.
    """

    responses: Sequence[Response]
    figures: Figures
    holding: bool
    kind: Literal["hastatus-results"] = "hastatus-results"
    schema_version: Literal[1] = 1
    scoring_version: int = SCORING_VERSION


FIGURES = TypeAdapter(Figures)
RESULTS = TypeAdapter(Results)


def read(setup: Setup, batches: Iterable[Batch], *, closed: bool = False) -> Results:
    """Score a run afresh from all its batches; `closed` when no more of them are expected."""
    done = rescore(setup, batches, closed=closed, settled=False)
    figures = Figures(
        summary=summarise(done.responses),
        evidence=ladder.evidence(setup.drill, setup.plan.rung, done.responses),
        strays=done.state.score.strays,
        missing=done.missing,
        complete=done.state.complete and not done.missing,
        side=side_difference(setup.drill, done.responses),
        baseline=read_baseline(setup.drill, setup.plan, done.responses, _extra(done)),
        stray_whys=done.state.score.stray_whys,
        lost=done.state.score.lost,
        microphone_doubt=microphone_doubt(done.state.score.heard_extra, _minutes(setup, done)),
    )
    return Results(done.responses, figures, done.state.controller.holding)


def _extra(done: Rescored) -> int:
    """Hits that answered nothing; a hit that rings on, or is heard twice, is none of them."""
    whys = done.state.score.stray_whys
    return sum(whys.get(why, 0) for why in ("outside", "second", "too_late", "between"))


def _minutes(setup: Setup, done: Rescored) -> float:
    """Length of the rounds that were begun, in minutes."""
    begun = set(done.state.score.started_rounds)
    return (
        sum(round_plan.duration_s for round_plan in setup.plan.rounds if round_plan.number in begun)
        / 60
    )


def read_record(record: RunRecord) -> Results:
    """Score a run record. Raises `events.BadBatch` where a batch does not fit its plan."""
    for batch in record.batches:
        check_batch(batch, record.drill, record.plan, record.device)
    return read(Setup(record.drill, record.plan, record.device), record.batches, closed=True)
