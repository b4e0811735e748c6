"""A partner run as an answer: as the mat needs it, and as it stands in a list."""

from __future__ import annotations

import dataclasses
from collections.abc import Iterable, Sequence

from hastatus.api.http.session import db, who
from hastatus.api.plan.feeder_card import card, ways
from hastatus.api.run import partner_run_models, player_assets
from hastatus.core.drill.cautions import cautions
from hastatus.core.drill.checks.schools import school_lines
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import Lane
from hastatus.core.drill.paths import follow, walks
from hastatus.core.plan.feed_density import feed_density
from hastatus.core.plan.feed_sheet import FeedSheet
from hastatus.core.plan.round_signal import MAT_AFTER_S, round_signals
from hastatus.core.read.carry_over import CarryOver, carry_over
from hastatus.core.read.proportion import wilson_usual
from hastatus.core.run.agreement import Settled
from hastatus.core.score.expected_grades import expected_grades, fitting_grades
from hastatus.core.trade.faults import OwnedFault
from hastatus.core.trade.label_packs import Labels
from hastatus.core.trade.technique import Stance, other
from hastatus.store import away, club_catalogue, drills, head_knocks, partner_runs
from hastatus.store.models import PartnerRun, Student


def line(run: PartnerRun) -> partner_run_models.PartnerRunLine:
    """A partner run as it stands in a list."""
    title = partner_runs.version_of(db(), run).document["title"]
    return _line(run, partner_runs.students_of(db(), run), title)


def lines(listed: Sequence[PartnerRun]) -> list[partner_run_models.PartnerRunLine]:
    """Partner runs of the club as they stand in a list."""
    club = who().club_id
    students = partner_runs.students_of_each(db(), club, listed)
    titles = drills.titles(db(), club, {(run.drill_id, run.version) for run in listed})
    return [_line(run, students[run.id], titles[run.drill_id, run.version]) for run in listed]


def _line(
    run: PartnerRun, students: Sequence[Student], title: str
) -> partner_run_models.PartnerRunLine:
    figures = partner_runs.figures_of(db(), run)
    return partner_run_models.PartnerRunLine(
        id=run.id,
        drill_id=run.drill_id,
        drill=title,
        rung=run.rung,
        partners=[
            partner_run_models.TakingPart(
                id=student.id,
                name=student.name,
                interval=wilson_usual(defended.clean, defended.graded) if defended.graded else None,
                carry_over=carry_over([one for one in figures.chances if one.partner == place]),
                **dataclasses.asdict(defended),
            )
            for place, (student, defended) in enumerate(
                zip(students, figures.defended, strict=True)
            )
        ],
        started_at=run.started_at,
        state="closed" if run.closed_at else "open",
        away=away.of(run),
    )


def detail(run: PartnerRun) -> partner_run_models.PartnerRunDetail:
    """A partner run with its drill and what was agreed."""
    version = partner_runs.version_of(db(), run)  # held here, it is not asked for again
    drill = drills.read_partner(version)
    return partner_run_models.PartnerRunDetail(
        **dict(line(run)),
        version=run.version,
        document=drill,
        agreement=Settled.model_validate(run.agreement),
        grades=fitting_grades(drill, drill.rungs[run.rung - 1]),
    )


def view(run: PartnerRun) -> partner_run_models.PartnerRunView:
    """A partner run with all that the mat needs."""
    known = detail(run)
    drill = known.document
    sheet = FeedSheet.model_validate(run.sheet)
    rung = drill.rungs[run.rung - 1]
    club_labels = drill.labels(club_catalogue.labels(db(), who().club_id))
    done = dict.fromkeys(
        [
            *(passage.key for passage in drill.passages),
            *(
                part.passage
                for round_ in sheet.rounds
                for turn in round_.turns
                for feed in turn.every_feed
                for part in feed.path
            ),
        ]
    )
    card_lines = card(drill, rung, club_labels)
    signals = round_signals(sheet.seed, len(sheet.rounds))
    return partner_run_models.PartnerRunView(
        **dict(known),
        sheet=sheet,
        cautions=cautions(drill, bare=known.agreement.bare),
        drilled=_drilled(drill, rung, club_labels),
        calls={key: drill.passage(key).called for key in done},
        signals=player_assets.signals(signals),
        sounds=player_assets.sound_views(
            [clip for one in signals for clip in (one.begins, one.ends)], drill.voice
        ),
        signal_after_s=MAT_AFTER_S,
        strikes={key: _strikes(drill, key) for key in done},
        slip_s=head_knocks.SLIP.total_seconds(),
        expected=expected_grades(drill, run.rung, sheet.rounds),
        attacks_a_beat=_attacks_a_beat(drill, sheet),
        card=card_lines,
        ways=ways(card_lines, club_labels),
        stances=_stances(drill, sheet),
        schools=school_lines(drill),
        faults=[OwnedFault(name=fault, owner=drill.owner_of(fault)) for fault in drill.watch],
    )


def _stances(drill: PartnerDrill, sheet: FeedSheet) -> dict[Lane, Stance]:
    """How the first feeder and the first defender stand in the first round."""
    feeder = sheet.rounds[0].stance
    defender = other(feeder) if drill.stances == "mirrored" else feeder
    return {"feeder": feeder, "defender": defender}


def _drilled(
    drill: PartnerDrill, rung: PartnerRung, labels: Labels
) -> list[partner_run_models.DrilledAnswer]:
    """What the defender does on the rung against an attack, or back, each once; no mere moves."""
    keys: dict[str, None] = {}
    for walk in walks(drill, rung):
        for step in walk.steps:
            if step.lane == "defender" and step.technique.use != "move":
                keys |= dict.fromkeys((step.step.technique, *step.step.also))
    return [partner_run_models.DrilledAnswer(key=key, name=labels.name(key)) for key in keys]


def named_answers(
    carried: Iterable[CarryOver], labels: Labels
) -> list[partner_run_models.AnswerCarryOver]:
    """Each answer in the club's words."""
    return [
        partner_run_models.AnswerCarryOver(
            name=labels.name(one.answer) if one.answer else "any answer",
            used=one.used,
            of=one.of,
            interval=one.interval,
        )
        for one in carried
    ]


def _attacks_a_beat(drill: PartnerDrill, sheet: FeedSheet) -> float | None:
    density = feed_density(drill, sheet)
    if density is None or not sheet.tempo_bpm:
        return None
    return round(density.attacks_a_minute / sheet.tempo_bpm, 4)


def _strikes(drill: PartnerDrill, key: str) -> list[partner_run_models.AskedStrike]:
    steps = [step for step in follow(drill, [key]).steps if step.strikes]
    return [partner_run_models.AskedStrike(lane=step.lane, beat=step.beat) for step in steps]
