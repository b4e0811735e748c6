"""What a student kept out as a defender: partner runs over the weeks, and the time they need."""

from __future__ import annotations

import uuid
from collections import defaultdict

from flask import Response
from flask_openapi3 import APIBlueprint, Tag

from hastatus.api.club import models as club_models
from hastatus.api.http.lookup import find_student
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.run import partner_run_models
from hastatus.api.run.partner_run_view import line
from hastatus.core.adapt.needed_time import needed
from hastatus.core.adapt.needed_time_belief import need
from hastatus.core.drill.target import TARGET
from hastatus.core.read.defender_time import DefendedAttack
from hastatus.core.read.partner_run import Share
from hastatus.core.read.proportion import wilson_usual
from hastatus.core.trade.technique import Side
from hastatus.store import answers, club_catalogue, partner_runs

bp = APIBlueprint("defended", __name__, url_prefix="/api", abp_tags=[Tag(name="partner runs")])


@bp.get("/students/<uuid:student_id>/defended", responses={200: partner_run_models.DefendedView})
@signed_in
def defended(path: club_models.StudentPath) -> Response:
    """A student's partner runs, newest first, and how long each answer needs there."""
    student = find_student(path.student_id)
    newest = partner_runs.latest(db(), who().club_id, student_id=student.id, limit=60)
    runs = [line(run) for run in newest]
    return reply(
        partner_run_models.DefendedView(
            target=TARGET,
            carry_over=_carry_over(student.id, runs),
            runs=runs,
            answers=_answers(student.id),
        )
    )


def _carry_over(
    student_id: uuid.UUID, runs: list[partner_run_models.PartnerRunLine]
) -> Share | None:
    """Over these runs; where nobody counted what was missed, uses alone are no share."""
    own = [partner for run in runs for partner in run.partners if partner.id == student_id]
    counted = [partner for partner in own if partner.missed_chances]
    used = sum(partner.carried_over for partner in counted)
    chances = used + sum(partner.missed_chances for partner in counted)
    if not chances:
        return None
    return Share("free rounds", used, chances, wilson_usual(used, chances))


def _answers(student_id: uuid.UUID) -> list[partner_run_models.HeldView]:
    labels = club_catalogue.labels(db(), who().club_id)
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
