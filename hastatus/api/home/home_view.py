"""A student's practice as a phone has it: all that is needed to go on without a connection."""

from __future__ import annotations

from collections.abc import Iterable
from typing import get_args

from flask import g

from hastatus.api.drill import models as drill_models
from hastatus.api.home import home_models, planning
from hastatus.api.home.planning import Planned, day_of
from hastatus.api.http.session import db
from hastatus.api.run import player_assets
from hastatus.core.drill import solo_wording
from hastatus.core.drill.cautions import cautions
from hastatus.core.drill.solo import Drill
from hastatus.core.home import ahead, dose
from hastatus.core.plan import sounds
from hastatus.core.run.controls import HOME_KEY, TAP_KEY, controls
from hastatus.core.run.device import device_of
from hastatus.core.run.loudness import FASTEST_REHEARSAL_S, LOUDNESS_AT_START
from hastatus.core.trade.colours import HEX
from hastatus.core.trade.figure import Figure, figures
from hastatus.core.trade.label_packs import Labels
from hastatus.core.trade.technique import Stance, hand
from hastatus.store import accounts, club_catalogue, head_knocks, practices
from hastatus.store import models as rows

AT_HOME = "at home"
FOR_STUDENTS = ("guide", "waiting", "window", "rounds")
"""The settings of a rung that whoever practises wants to know."""
HELD = (
    "After a head knock there is no practice here until your coach has written down that a medical "
    "professional allows it."
)


def home_view(token: str) -> home_models.HomeView:
    """What the link that was opened opens now; `g` has it and its student."""
    student: rows.Student = g.student
    held = HELD if head_knocks.hold(db(), student.club_id, student.id) else ""
    today = day_of(accounts.now())
    having = practices.of_student(db(), student.club_id, student.id, today)
    runs_ahead = [
        one
        for row, member in having
        if not held
        for one in planning.planned_ahead(db(), student, row, member, sound_only=g.link.sound_only)
    ]
    labels = club_catalogue.labels(db(), student.club_id)
    return home_models.HomeView(
        first_name=student.name.split()[0],
        expires_at=g.link.expires_at,
        held=held,
        sound_only=g.link.sound_only,
        device=device_of(AT_HOME, (), ()),
        practices=[_practice(row, member) for row, member in having],
        drills=_drills(runs_ahead, labels, f"/api/home/{token}"),
        planned=[_planned(one, labels) for one in runs_ahead],
        figures=_figures(runs_ahead),
        colours=dict(HEX),
        loudness=LOUDNESS_AT_START,
        rehearsal_step_s=FASTEST_REHEARSAL_S,
        home_key=HOME_KEY,
        tap_key=TAP_KEY,
    )


def _practice(row: rows.Practice, member: rows.PracticeStudent) -> home_models.HomePracticeView:
    document = practices.document_of(row, member)
    mine = practices.done(db(), row.club_id, member.student_id)
    days = (
        day_of(one.started_at)
        for one, plan, _ in mine
        if plan.practice_id == row.id and one.rounds > 0
    )
    weeks = dose.weeks(document, days, day_of(accounts.now()))
    return home_models.HomePracticeView(
        id=row.id,
        title=document.title,
        days=document.days,
        kept=weeks[-1].days if weeks else 0,
        ends_on=document.ends_on,
    )


def _key(one: Planned) -> str:
    return f"{one.row.drill_id}:{one.row.version}:{one.plan.rung}"


def _by_drill(planned: Iterable[Planned]) -> dict[str, tuple[Drill, list[Planned]]]:
    """The planned runs by drill, version and rung."""
    groups: dict[str, tuple[Drill, list[Planned]]] = {}
    for one in planned:
        groups.setdefault(_key(one), (one.drill, []))[1].append(one)
    return groups


def _clips(drill: Drill, planned: Iterable[Planned], labels: Labels) -> list[sounds.Clip]:
    """All that sounds in some planned runs of a drill, each once."""
    every = {
        clip.name: clip
        for one in planned
        for clip in sounds.needed(drill, one.plan, drill.labels(labels))
    }
    return list(every.values())


def _drills(
    planned: Iterable[Planned], labels: Labels, base: str
) -> list[home_models.HomeDrillView]:
    stances: tuple[Stance, Stance] = get_args(Stance)
    views = []
    for key, (drill, its) in _by_drill(planned).items():
        own = drill.labels(labels)
        rung = drill.rungs[its[0].plan.rung - 1]
        views.append(
            home_models.HomeDrillView(
                key=key,
                drill_id=its[0].row.drill_id,
                version=its[0].row.version,
                document=drill,
                cues=drill_models.cue_names(drill, own),
                controls={stance: controls(drill, rung, stance, own) for stance in stances},
                lead_side={stance: hand("lead", stance) for stance in stances},
                sounds=player_assets.sound_views(_clips(drill, its, labels), drill.voice, base),
                played=player_assets.played(drill),
                pictures=player_assets.pictures(drill, base),
                shown=player_assets.shown(drill, own, base),
                cautions=cautions(drill),
                facts=[
                    f"{fact.name}: {fact.value}"
                    for fact in solo_wording.facts(drill, rung)
                    if fact.key in FOR_STUDENTS
                ],
            )
        )
    return views


def _figures(planned: Iterable[Planned]) -> dict[str, list[Figure]]:
    """How the techniques that are asked for are drawn, in both stances."""
    asked = {
        step.technique
        for one in planned
        for cue in one.drill.cues
        for chain in cue.asks
        for step in chain.steps
    }
    stances: tuple[Stance, Stance] = get_args(Stance)
    return {
        stance: [figure for figure in figures(stance) if figure.technique in asked]
        for stance in stances
    }


def _planned(one: Planned, labels: Labels) -> home_models.HomePlanned:
    row, plan, drill = one.row, one.plan, one.drill
    return home_models.HomePlanned(
        id=row.id,
        practice_id=row.practice_id,
        number=row.number,
        position=row.position,
        drill=_key(one),
        asked=row.asked,
        reason=row.reason,
        total_s=plan.total_s,
        flash_s=drill.rungs[plan.rung - 1].flash_s,
        plan=plan,
        beside=player_assets.beside(drill, plan, drill.labels(labels)),
        ahead=ahead.ahead(drill, plan),
        done=one.done,
    )
