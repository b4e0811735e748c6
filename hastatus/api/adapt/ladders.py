"""Where students stand on a drill, what is suggested, and what the coach decides."""

from __future__ import annotations

import uuid

from flask import Response
from flask_openapi3 import Tag
from sqlalchemy.orm import Session

from hastatus.api.adapt import models as adapt_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.lookup import find_student, find_version
from hastatus.api.http.problems import Problem, not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.store import drills, ladders
from hastatus.store.models import LadderChoice

bp = ApiBlueprint("ladders", __name__, url_prefix="/api", abp_tags=[Tag(name="people")])


@bp.get("/choices", responses={200: adapt_models.ChoiceList})
@signed_in
def list_choices() -> Response:
    """The club's newest decisions on rung and window."""
    choices = ladders.choices(db(), who().club_id, None)
    return reply(adapt_models.ChoiceList(choices=[choice_view(row) for row in choices]))


@bp.get(
    "/students/<uuid:student_id>/ladders/<uuid:drill_id>", responses={200: adapt_models.LadderView}
)
@signed_in
def get_ladder(path: adapt_models.LadderPath) -> Response:
    """Where the student's next run of a drill starts, and what is suggested."""
    find_student(path.student_id)
    return reply(ladder_view(db(), who().club_id, path.student_id, path.drill_id))


@bp.post(
    "/students/<uuid:student_id>/ladders/<uuid:drill_id>/choices",
    responses={201: adapt_models.LadderView},
)
@signed_in
def choose(path: adapt_models.LadderPath, body: adapt_models.ChoiceRequest) -> Response:
    """Take the suggestion, or set rung and window by hand; either is logged."""
    find_student(path.student_id)
    drill = drills.read(find_version(path.drill_id))
    if body.rung > len(drill.rungs):
        raise Problem(422, "Not valid", f"rung: the drill has {len(drill.rungs)} rungs.")
    if not drill.pace.least_s <= body.window_s <= drill.pace.most_s:
        raise Problem(
            422,
            "Not valid",
            f"window_s: this drill allows {drill.pace.least_s} to {drill.pace.most_s} s.",
        )
    ladders.choose(
        db(),
        who().club_id,
        student_id=path.student_id,
        drill_id=path.drill_id,
        coach_id=who().coach_id,
        kind=body.kind,
        rung=body.rung,
        window_s=body.window_s,
        suggested=ladders.suggestion(db(), who().club_id, path.student_id, path.drill_id, drill),
    )
    view = ladder_view(db(), who().club_id, path.student_id, path.drill_id)
    return reply(view, 201)


def ladder_view(
    db: Session, club_id: uuid.UUID, student_id: uuid.UUID, drill_id: uuid.UUID
) -> adapt_models.LadderView:
    """Where a student stands on a drill; 404 without such a drill."""
    version = drills.version(db, club_id, drill_id)
    if version is None:
        raise not_found("drill")
    drill = drills.read(version)
    suggestion = ladders.suggestion(db, club_id, student_id, drill_id, drill)
    state = ladders.state(db, club_id, student_id, drill_id)
    if state is None:
        return adapt_models.LadderView(
            rung=suggestion.rung,
            window_s=suggestion.window_s,
            by="start",
            suggestion=suggestion,
        )
    return adapt_models.LadderView(
        rung=min(state.rung, len(drill.rungs)),
        window_s=state.window_s,
        by=ladders.set_by(db, club_id, student_id, drill_id),
        suggestion=suggestion,
    )


def choice_view(row: LadderChoice) -> adapt_models.ChoiceView:
    """A decision, as it stands in lists."""
    return adapt_models.ChoiceView(
        student_id=row.student_id,
        drill_id=row.drill_id,
        kind=row.kind,
        rung=row.rung,
        window_s=row.window_s,
        suggested=adapt_models.suggestion_of(row.suggested),
        at=row.at,
    )
