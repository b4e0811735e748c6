"""Two runs set against each other, of one student or of two."""

from __future__ import annotations

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.lookup import find_run
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.read import lists
from hastatus.api.read.models import ComparedKind, ComparisonPath, ComparisonView
from hastatus.core.read.comparison import ScoredRun, compare_runs
from hastatus.core.trade.label_packs import Labels
from hastatus.core.trade.technique import Side
from hastatus.store import club_catalogue, runs
from hastatus.store.models import Run

bp = ApiBlueprint("comparisons", __name__, url_prefix="/api", abp_tags=[Tag(name="read")])

_NAMES = {
    "all": "all answers", "lead": "lead side", "rear": "rear side", "hear": "all heard",
    "see": "all seen",
}  # fmt: skip


@bp.get("/runs/<uuid:run_id>/comparisons/<uuid:other_id>", responses={200: ComparisonView})
@signed_in
def get_comparison(path: ComparisonPath) -> Response:
    """Two runs, kind of answer by kind of answer."""
    pair = [find_run(path.run_id), find_run(path.other_id)]
    comparison = compare_runs(*map(_scored, pair))
    one, other = lists.of(db(), who().club_id, pair)
    labels = club_catalogue.labels(db(), who().club_id)
    kinds = [
        ComparedKind(
            name=_name(group.key, labels), one=group.one, other=group.other, found=group.found
        )
        for group in comparison.groups
    ]
    return reply(ComparisonView(one=one, other=other, kinds=kinds, doubts=comparison.doubts))


def _scored(run: Run) -> ScoredRun:
    setup = runs.setup_of(db(), run)
    responses = runs.score_run(db(), run).responses
    return ScoredRun(setup.drill, run.rung, setup.device.calibrated, responses)


def _name(key: str, labels: Labels) -> str:
    """A kind in the club's words: "rear high block"."""
    if key in _NAMES:
        return _NAMES[key]
    technique, side = key.rsplit(" ", 1)
    known: Side = "lead" if side == "lead" else "rear"
    return labels.sided(technique, known)
