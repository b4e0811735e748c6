"""The readout of a run, and its results to take away."""

from __future__ import annotations

import csv
import io
from collections.abc import Callable, Sequence

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.adapt.ladders import ladder_view
from hastatus.api.drill import models as drill_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import file
from hastatus.api.http.lookup import find_run
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.plan.solo_bench import slow_cue
from hastatus.api.read import lists
from hastatus.api.read import models as read_models
from hastatus.api.run import models as run_models
from hastatus.core.adapt.controllers import out_of_reach
from hastatus.core.drill.solo import Drill
from hastatus.core.loop import results
from hastatus.core.read import summary
from hastatus.core.read.solo_run import comparable, read_times, round_lengths_s
from hastatus.core.score.response import Response as CueResponse
from hastatus.store import club_catalogue, runs
from hastatus.store.models import Run

bp = ApiBlueprint("readouts", __name__, url_prefix="/api", abp_tags=[Tag(name="read")])

COLUMNS = (
    "round", "slot", "cue", "channel", "asked_technique", "asked_side", "at_s", "onset_ms",
    "spread_ms", "window_ms", "outcome", "time_ms", "censored_ms", "given_technique", "given_side",
    "gap_ms", "left_out", "source", "timed_by", "counter_ms", "counter", "exit_ms", "exit",
    "timed_with", "reaction_ms", "home_ms", "before_ms",
)  # fmt: skip


def _group(
    responses: Sequence[CueResponse],
    key: Callable[[CueResponse], str | None],
    order: Sequence[str],
) -> list[read_models.GroupView]:
    groups = summary.grouped(responses, key)
    return [
        read_models.GroupView(
            key=name,
            summary=summary.summarise(groups[name]),
            times_ms=summary.right_times(groups[name])[0],
        )
        for name in order
        if name in groups
    ]


@bp.get("/runs/<uuid:run_id>/readout", responses={200: read_models.ReadoutView})
@signed_in
def readout(path: run_models.RunPath) -> Response:
    """A run, read: every cue and answer, figures, what is next and why."""
    run = find_run(path.run_id)
    scored = runs.score_run(db(), run)
    setup = runs.setup_of(db(), run)
    responses = scored.responses
    compared = comparable(setup.drill, responses)
    labels = club_catalogue.labels(db(), who().club_id)
    view = read_models.ReadoutView(
        run=lists.of(db(), who().club_id, [run])[0],
        document=setup.drill,
        version=run.version,
        weights=setup.plan.weights,
        slow_cue=slow_cue(run.student_id, run.drill_id, setup.drill, labels),
        cues=drill_models.cue_names(setup.drill, labels),
        durations_s=round_lengths_s(setup.plan, responses),
        device=setup.device,
        responses=responses,
        summary=scored.figures.summary,
        by_cue=_group(
            responses, lambda response: response.cue, [cue.key for cue in setup.drill.cues]
        ),
        by_side=_group(compared, lambda response: response.asked_side, ("lead", "rear")),
        by_channel=_group(
            compared,
            lambda response: response.channel if response.asked_side else None,
            ("hear", "see"),
        ),
        reading=read_times(setup.drill, responses),
        baseline=scored.figures.baseline,
        strays=scored.figures.strays,
        stray_whys=scored.figures.stray_whys,
        lost=scored.figures.lost,
        microphone_doubt=scored.figures.microphone_doubt,
        out_of_reach=out_of_reach(setup.drill.pace, responses),
        missing=scored.figures.missing,
        holding=scored.holding,
        ladder=ladder_view(db(), who().club_id, run.student_id, run.drill_id),
        spread_ms=setup.device.widest_ms
        + max((response.spread_ms for response in responses), default=0.0),
        faults=_faults(setup.drill, run),
    )
    return reply(view)


def _faults(drill: Drill, run: Run) -> list[read_models.RunFault]:
    """What the drill watches for, and what else was seen in the run."""
    seen = {fault["fault"]: fault["count"] for fault in run.faults}
    names = dict.fromkeys((*drill.watch, *seen))
    return [read_models.RunFault(fault=name, count=seen.get(name, 0)) for name in names]


@bp.get("/runs/<uuid:run_id>/results.csv", responses=file("text/csv"))
@signed_in
def results_csv(path: run_models.RunPath) -> Response:
    """One row a cue, units in the names."""
    run = find_run(path.run_id)
    sheet = io.StringIO()
    writer = csv.writer(sheet)
    writer.writerow(COLUMNS)
    for response in runs.score_run(db(), run).responses:
        row = {name: getattr(response, name, None) for name in COLUMNS}
        for part in ("counter", "exit"):
            step = response.step(part)
            if step:
                row |= {f"{part}_ms": step.time_ms, part: step.outcome}
        writer.writerow(row.values())
    return Response(sheet.getvalue(), content_type="text/csv; charset=utf-8")


@bp.get("/runs/<uuid:run_id>/results.json", responses=file("application/json"))
@signed_in
def results_json(path: run_models.RunPath) -> Response:
    """The responses and figures as one document."""
    run = find_run(path.run_id)
    return Response(
        results.RESULTS.dump_json(runs.score_run(db(), run)), content_type="application/json"
    )
