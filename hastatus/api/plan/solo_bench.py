"""A drill as the bench shows it: planned, in words, with its figures and faults."""

from __future__ import annotations

import uuid
from collections.abc import Mapping

from pydantic import ValidationError
from sqlalchemy.orm import Session

from hastatus.api.drill import models as drill_models
from hastatus.api.http.lookup import find_student
from hastatus.api.http.problems import Problem, faults_of
from hastatus.api.http.session import db, who
from hastatus.api.plan import bench
from hastatus.api.plan import models as plan_models
from hastatus.core.adapt import open_cues
from hastatus.core.adapt.weak_cues import weights
from hastatus.core.drill import solo_wording
from hastatus.core.drill.checks import solo
from hastatus.core.drill.checks.fault import Fault, Unplannable
from hastatus.core.drill.checks.schools import more_schools, school_lines
from hastatus.core.drill.harder import harder
from hastatus.core.drill.requirement import TimedBy
from hastatus.core.drill.solo import Drill
from hastatus.core.plan import sounds as clips
from hastatus.core.plan.announcements import side_sounds
from hastatus.core.plan.prior import Prior
from hastatus.core.plan.run_plan import RoundPlan, RunPlan, plan_run
from hastatus.core.plan.statistics import PlanFigures, plan_figures
from hastatus.core.read.expected_share import ExpectedShare, expected_from
from hastatus.core.trade.label_packs import Labels
from hastatus.store import answers, drills


def make_plan(
    drill: Drill,
    *,
    seed: int,
    rung: int,
    window_s: float | None,
    prior: Prior | None = None,
    stance: str,
    sound_only: bool,
    factors: Mapping[str, float],
    rounds: int | None = None,
) -> RunPlan:
    """Plan a run; what cannot be planned is a 422 with the reason."""
    try:
        return plan_run(
            drill,
            seed=seed,
            rung=rung,
            window_s=window_s,
            prior=prior,
            stance="right_lead" if stance == "right_lead" else "left_lead",
            sound_only=sound_only,
            weights=factors,
            rounds=rounds,
        )
    except Unplannable as error:
        raise bench.refused("Cannot be planned", error.faults) from error
    except (IndexError, ValueError) as error:
        raise Problem(422, "Cannot be planned", str(error)) from error


def factors_for(
    student_id: uuid.UUID | None, drill_id: uuid.UUID | None, drill: Drill, rung: int
) -> dict[str, float]:
    """How much more often each cue of a rung is to come: the weak ones, or those still open."""
    if student_id is None or drill_id is None or rung > len(drill.rungs):
        return {}  # a rung that is not there is refused where it is planned
    return factors_of(db(), who().club_id, student_id, drill_id, drill, rung)


def factors_of(
    session: Session,
    club_id: uuid.UUID,
    student_id: uuid.UUID,
    drill_id: uuid.UUID,
    drill: Drill,
    rung: int,
) -> dict[str, float]:
    """`factors_for` a student of a club on a rung that there is."""
    answered = answers.by_cue(session, club_id, student_id, drill_id)
    return weights(drill, answered) or open_cues.factors(drill, rung, answered)


def slow_cue(
    student_id: uuid.UUID | None, drill_id: uuid.UUID | None, drill: Drill, labels: Labels
) -> str | None:
    """The cue that the student surely answers more slowly than the others, in a sentence."""
    if student_id is None or drill_id is None or drill.is_test:
        return None
    asking = [cue.key for cue in drill.cues if not cue.is_catch]
    answered = answers.by_cue(db(), who().club_id, student_id, drill_id)
    slow = open_cues.slow_cue(asking, answered)
    if slow is None:
        return None
    names = {cue_name.key: cue_name.name for cue_name in drill_models.cue_names(drill, labels)}
    return open_cues.told(slow, names[slow.cue])


def check(drill: Drill) -> None:
    """Refuse to keep a drill that has no plan."""
    try:
        solo.check(drill)
    except Unplannable as error:
        raise bench.refused("Cannot be planned", error.faults) from error


def bench_view(body: plan_models.PlanRequest) -> plan_models.PlanView:
    """Plan what is on the bench; a drill that cannot be read or planned says why, in its place."""
    student = find_student(body.student_id) if body.student_id else None
    try:
        drill, labels = bench.in_labels_of_club(bench.drill_of(body, Drill, drills.read))
    except ValidationError as error:
        return _unread(body, error)
    findings = solo.find(drill)
    rung = body.rung
    plan, figures = None, None
    if not any(fault.level == "stop" for fault in findings):
        plan = make_plan(
            drill,
            seed=body.seed,
            rung=rung,
            window_s=body.window_s,
            stance=student.stance if student else "left_lead",
            sound_only=body.sound_only,
            factors=factors_for(body.student_id, body.drill_id, drill, rung),
        )
        figures = plan_figures(drill, plan)
    window_s = plan.window_s if plan else drill.rungs[rung - 1].window_s
    expected, source = _expected(body.student_id, body.drill_id, drill, window_s)
    return plan_models.PlanView(
        rung=rung,
        window_s=window_s,
        rounds=[_drawn(drill, plan, round_plan, labels) for round_plan in plan.rounds]
        if plan
        else [],
        figures=figures,
        faults=findings,
        rungs=_rungs(drill),
        cues=_cues(drill, figures, labels),
        expected=expected,
        expected_from=source,
        weights=plan.weights if plan else {},
        slow_cue=slow_cue(body.student_id, body.drill_id, drill, labels),
        schools=school_lines(drill),
        more_schools=more_schools(drill),
        harder=harder(drill.rungs[rung - 1]),
    )


def _unread(body: plan_models.PlanRequest, error: ValidationError) -> plan_models.PlanView:
    """A document that is no drill: where and why, and nothing else."""
    return plan_models.PlanView(
        rung=body.rung,
        window_s=0.0,
        rounds=[],
        figures=None,
        faults=[Fault(where=fault.where or "title", what=fault.what) for fault in faults_of(error)],
        rungs=[],
        cues=[],
        expected=None,
        expected_from="",
        weights={},
        slow_cue=None,
        schools=[],
        more_schools=[],
        harder=None,
    )


def _drawn(
    drill: Drill, plan: RunPlan, round_plan: RoundPlan, labels: Labels
) -> plan_models.DrawnRound:
    sounds = side_sounds(drill, plan, round_plan, labels)
    return plan_models.DrawnRound(
        number=round_plan.number,
        stance=round_plan.stance,
        duration_s=round_plan.duration_s,
        cues=round_plan.cues,
        sounds=[plan_models.DrawnSound(round(sound.at_s, 4), sound.clip.name) for sound in sounds],
    )


def _rungs(drill: Drill) -> list[plan_models.RungWords]:
    facts = []
    for number, rung in enumerate(drill.rungs):
        changes = solo_wording.differences(drill, drill.rungs[number - 1], rung) if number else []
        facts.append(
            plan_models.RungWords(
                name=rung.name, facts=solo_wording.facts(drill, rung), changes=changes
            )
        )
    return facts


def _cues(drill: Drill, figures: PlanFigures | None, labels: Labels) -> list[plan_models.CueWords]:
    facts = []
    timed: dict[str, TimedBy] = figures.timed_by if figures else {}
    for cue, names in zip(drill.cues, drill_models.cue_names(drill, labels), strict=True):
        clip = clips.of_cue(cue) or clips.spoken(cue.announcement(labels))
        facts.append(
            plan_models.CueWords(
                **names.model_dump(),
                timed_by=timed.get(cue.key),
                clip=clip.name,
            )
        )
    return facts


def _expected(
    student_id: uuid.UUID | None, drill_id: uuid.UUID | None, drill: Drill, window_s: float
) -> tuple[ExpectedShare | None, str]:
    """The share expected clean, and what it rests on."""
    if student_id is None:
        return None, "nobody is chosen"
    club_id = who().club_id
    return expected_from(
        answers.of_drill(db(), club_id, student_id, drill_id) if drill_id else [],
        lambda: answers.of_techniques(db(), club_id, student_id, drill.first_answers),
        window_s,
    )
