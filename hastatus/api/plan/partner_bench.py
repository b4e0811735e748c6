"""Partner drills on the bench: checked, drawn, with the gap sheet of a pair and a feed sheet."""

from __future__ import annotations

from collections import defaultdict
from functools import cache
from itertools import pairwise

from flask import Response
from flask_openapi3 import Tag
from pydantic import ValidationError

from hastatus.api.drill import models as drill_models
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.lookup import find_student, find_version
from hastatus.api.http.problems import Problem, faults_of
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.plan import bench, partner_models
from hastatus.api.plan import models as plan_models
from hastatus.core.adapt.needed_time import needed_time
from hastatus.core.drill.chain_parts import is_asked, parts
from hastatus.core.drill.checks import partner
from hastatus.core.drill.checks.finding import Finding, Infeasible
from hastatus.core.drill.checks.schools import more_schools, school_lines
from hastatus.core.drill.harder import harder_pair
from hastatus.core.drill.mirror import are_mirrored, in_stances
from hastatus.core.drill.pad_card import pad_card
from hastatus.core.drill.pair_facts import NOTHING_KNOWN, PairFacts, resolved
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_wording import branch_words, partner_differences, partner_facts
from hastatus.core.drill.passage import Branch, Passage
from hastatus.core.drill.shadow import NothingToAnswer, shadow
from hastatus.core.plan.feed_density import feed_density
from hastatus.core.plan.feed_pace import Needed, Needs, by_rule
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.gap_sheet import gap_sheet
from hastatus.core.plan.guess import predictable
from hastatus.core.read.defender_time import DefendedAttack
from hastatus.core.read.proportion import TOO_FEW
from hastatus.core.trade.label_packs import Labels
from hastatus.core.trade.limbs import Body, limbs
from hastatus.core.trade.pair import Pair
from hastatus.core.trade.technique import Side
from hastatus.store import answers, drills, partner_runs, students
from hastatus.store.models import Student

bp = ApiBlueprint(
    "partner_bench", __name__, url_prefix="/api", abp_tags=[Tag(name="partner drills")]
)


def checked(drill: PartnerDrill) -> PartnerDrill:
    """Refuse to keep a drill that cannot be done."""
    try:
        partner.check(drill)
    except Infeasible as error:
        raise bench.refused("Cannot be done", error.findings) from error
    return drill


@bp.post("/partner-bench", responses={200: partner_models.PartnerBenchView, **also(404)})
@signed_in
def bench_view(body: partner_models.PartnerBenchRequest) -> Response:
    """Check and draw what is on the bench, for a pair or for nobody; nothing is kept."""
    feeder = find_student(body.feeder_id) if body.feeder_id else None
    defender = find_student(body.defender_id) if body.defender_id else None
    if feeder and defender and feeder.id == defender.id:
        raise Problem(422, "Not a pair", "defender_id: nobody works with themselves; choose two.")
    try:
        drill = bench.drill_of(body, PartnerDrill, drills.read_partner)
    except ValidationError as error:
        return reply(_unread(error))
    drill, labels = bench.in_labels_of_club(drill)
    return reply(_view(body, drill, labels, feeder, defender))


@bp.get(
    "/drills/<uuid:drill_id>/versions/<int:number>/alone", responses={200: plan_models.ShadowView}
)
@signed_in
def alone(path: drill_models.VersionPath) -> Response:
    """The solo drill that a partner drill makes, with the feeder's side as cues; not kept."""
    drill = drills.read_partner(find_version(path.drill_id, path.number))
    try:
        return reply(plan_models.ShadowView(document=shadow(drill)))
    except NothingToAnswer as error:
        raise Problem(422, "Cannot be done alone", str(error)) from error


def _view(
    body: partner_models.PartnerBenchRequest,
    drill: PartnerDrill,
    labels: Labels,
    feeder: Student | None,
    defender: Student | None,
) -> partner_models.PartnerBenchView:
    pair = pair_of(feeder, defender)
    facts = facts_of(feeder, defender)
    stances = [student.stance if student else None for student in (feeder, defender)]
    done = in_stances(drill, mirrored=are_mirrored(drill, *stances))
    findings = partner.find(done, pair)
    rung = done.rungs[body.rung - 1]
    followed = not any(
        finding.check == "structure" and finding.level == "stop" for finding in findings
    )
    sheet = None
    if followed:
        needs = _needs(defender, done) if defender else by_rule
        sheet = gap_sheet(resolved(done, facts), rung, pair, needs=needs, labels=labels)
    feeds = _feeds(done, body, feeder, defender) if followed else None
    return partner_models.PartnerBenchView(
        rung=body.rung,
        findings=findings,
        rungs=_rungs(drill),
        passages=[
            partner_models.PassageWords(
                key=passage.key,
                steps=_steps(done, rung, passage, labels),
                branches=[
                    branch_words(drill, passage, branch) + _for_pair(branch, facts)
                    for branch in passage.then
                ],
                share=drill.shares(drill.rungs[body.rung - 1]).get(passage.key),
            )
            for passage in done.passages
        ],
        mirrored=done.stances == "mirrored",
        people=[_partner(feeder, "feeder"), _partner(defender, "defender")],
        sheet=sheet,
        feeds=feeds if body.feeds else None,
        density=feed_density(done, feeds) if feeds else None,
        pads=pad_card(done, pair, labels) if followed else [],
        schools=school_lines(drill),
        more_schools=more_schools(drill),
        harder=harder_pair(drill.rungs[body.rung - 1]),
    )


def _steps(
    drill: PartnerDrill, rung: PartnerRung, passage: Passage, labels: Labels
) -> list[partner_models.StepWords]:
    facts = []
    for step, part in zip(passage.steps, parts(drill, passage), strict=True):
        technique = drill.technique(step.technique)
        strikes = technique is not None and technique.strikes
        facts.append(
            partner_models.StepWords(
                what=step.what(labels),
                feet=step.feet,
                side=step.side,
                strikes=strikes,
                asked=is_asked(rung, part),
            )
        )
    return facts


def pair_of(feeder: Student | None, defender: Student | None) -> Pair:
    """The limbs of two students; usual ones where nobody is chosen or nothing is known."""
    a, b = (students.body_of(student) if student else Body() for student in (feeder, defender))
    return Pair(limbs(a), limbs(b))


def _needs(defender: Student, drill: PartnerDrill) -> Needs:
    """What is measured of the defender, each answer worked out once.

    Solo answers are only looked up where partner rounds do not tell enough.
    """
    club_id = who().club_id
    in_pairs: dict[tuple[str, Side], list[DefendedAttack]] = defaultdict(list)
    for record in partner_runs.held_by(db(), club_id, defender.id):
        in_pairs[record.technique, record.side].append(record.held)
    asked = {(step.technique, step.side) for passage in drill.passages for step in passage.steps}
    few = {answer for answer in asked if len(in_pairs.get(answer, ())) < TOO_FEW}
    alone = answers.by_technique(db(), club_id, defender.id, few)

    @cache
    def needs(answer: str | None, side: Side) -> Needed:
        if answer is None:
            return needed_time(drill.target)
        return needed_time(
            drill.target,
            partner=in_pairs.get((answer, side), ()),
            solo=alone.get((answer, side), ()),
        )

    return needs


def _partner(student: Student | None, role: str) -> partner_models.PartnerView:
    if student is None:
        return partner_models.PartnerView(
            role=role, name=None, known=False, reach_from="nobody yet"
        )
    body = students.body_of(student)
    source = "estimated from height" if body.known else "no height kept: usual lengths are taken"
    if body.arm_m and body.leg_m:
        source = "measured"
    elif body.arm_m or body.leg_m:
        source = "partly measured"
    return partner_models.PartnerView(
        role=role, name=student.name, known=body.known, reach_from=source
    )


def _rungs(drill: PartnerDrill) -> list[plan_models.RungWords]:
    facts = [partner_facts(drill, rung, predictable(drill, rung)) for rung in drill.rungs]
    changes: list[list[str]] = [
        [],
        *(partner_differences(old, new) for old, new in pairwise(facts)),
    ]
    return [
        plan_models.RungWords(name=rung.name, facts=facts_of, changes=changed)
        for rung, facts_of, changed in zip(drill.rungs, facts, changes, strict=True)
    ]


def facts_of(feeder: Student | None, defender: Student | None) -> PairFacts:
    """What is known of these two that a branch may depend on; nothing while one is open."""
    if feeder is None or defender is None:
        return NOTHING_KNOWN
    a, b = students.body_of(feeder), students.body_of(defender)
    pair = pair_of(feeder, defender)
    return PairFacts(
        taller_m=a.height_m - b.height_m if a.height_m and b.height_m else None,
        longer_m=pair.a.arm - pair.b.arm if a.known and b.known else None,
        mirrored=feeder.stance != defender.stance,
        feeder_left=feeder.stance == "right_lead",
        defender_left=defender.stance == "right_lead",
    )


def _for_pair(branch: Branch, facts: PairFacts) -> str:
    """Whether a fact of the pair holds for the two that are chosen, in words."""
    if branch.fact is None:
        return ""
    holds = facts.holds(branch.fact, branch.by_m)
    return {None: "", True: " (so it is with these two)", False: " (not with these two)"}[holds]


def _feeds(
    drill: PartnerDrill,
    body: partner_models.PartnerBenchRequest,
    feeder: Student | None,
    defender: Student | None,
) -> FeedSheet | None:
    try:
        return sheet_of(drill, body.seed, body.rung, feeder, defender)
    except Infeasible:
        return None


def sheet_of(
    drill: PartnerDrill, seed: int, rung: int, feeder: Student | None, defender: Student | None
) -> FeedSheet:
    """The feed sheet for two, or for nobody. Raises `Infeasible`; IndexError for no such rung."""
    facts = facts_of(feeder, defender)
    return feed_sheet(
        drill,
        seed=seed,
        rung=rung,
        facts=lambda one, other: facts if one < other else facts.turned(),
    )


def _unread(error: ValidationError) -> partner_models.PartnerBenchView:
    """A document that is no drill: where and why, and nothing else."""
    return partner_models.PartnerBenchView(
        rung=1,
        findings=[
            Finding(where=fault.where or "title", what=fault.what) for fault in faults_of(error)
        ],
        rungs=[],
        passages=[],
        mirrored=False,
        people=[],
        sheet=None,
        feeds=None,
        density=None,
        pads=[],
        schools=[],
        more_schools=[],
        harder=None,
    )
