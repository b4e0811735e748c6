"""What a student kept out as a defender: partner runs over the weeks, and the time they need."""

from __future__ import annotations

import uuid
from collections import defaultdict

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.club import models as club_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.lookup import find_student
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.run import partner_run_models
from hastatus.api.run.partner_run_view import lines, named_answers
from hastatus.core.adapt.needed_time import needed
from hastatus.core.adapt.needed_time_belief import need
from hastatus.core.drill.target import TARGET
from hastatus.core.read.carry_over import Chances, by_answer, carry_over
from hastatus.core.read.defender_time import DefendedAttack
from hastatus.core.trade.label_packs import Labels
from hastatus.core.trade.technique import Side
from hastatus.store import answers, club_catalogue, partner_runs
from hastatus.store.asked_runs import Asked
from hastatus.store.models import PartnerRun

bp = ApiBlueprint("defended", __name__, url_prefix="/api", abp_tags=[Tag(name="partner runs")])


@bp.get("/students/<uuid:student_id>/defended", responses={200: partner_run_models.DefendedView})
@signed_in
def defended(path: club_models.StudentPath) -> Response:
    """A student's partner runs, newest first, and how long each answer needs there."""
    student = find_student(path.student_id)
    newest = partner_runs.latest(db(), who().club_id, Asked(student_id=student.id), limit=60)
    seats = {
        run_id: [taking_part.id for taking_part in students].index(student.id)
        for run_id, students in partner_runs.students_of_each(db(), who().club_id, newest).items()
    }
    chances = [one for run in newest for one in _counted(run, seats[run.id])]
    labels = club_catalogue.labels(db(), who().club_id)
    return reply(
        partner_run_models.DefendedView(
            target=TARGET,
            carry_over=carry_over(chances),
            by_answer=named_answers(by_answer(chances), labels),
            runs=lines(newest),
            answers=_answers(student.id, labels),
        )
    )


def _counted(run: PartnerRun, seat: int) -> list[Chances]:
    """The chances of who has this seat in the free round of a run; where none that was missed was
    counted, uses alone are no share."""
    own = [one for one in partner_runs.figures_of(db(), run).chances if one.partner == seat]
    return own if any(one.missed for one in own) else []


def _answers(student_id: uuid.UUID, labels: Labels) -> list[partner_run_models.HeldView]:
    held: dict[tuple[str, Side], list[DefendedAttack]] = defaultdict(list)
    for record in partner_runs.held_by(db(), who().club_id, student_id):
        held[record.technique, record.side].append(record.held)
    return [
        partner_run_models.HeldView(
            name=labels.sided(technique, side),
            attacks=len(attacks),
            clean=sum(attack.clean for attack in attacks),
            need=need(attacks, TARGET),
            alone_s=needed(
                answers.of_techniques(db(), who().club_id, student_id, [(technique, side)]),
                TARGET,
            ),
        )
        for (technique, side), attacks in sorted(held.items())
    ]
