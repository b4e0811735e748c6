"""The feeder's card: each exchange of a rung with what both do, in the club's words."""

from __future__ import annotations

from collections.abc import Sequence, Set
from typing import get_args

from flask import Response
from flask_openapi3 import Tag

from hastatus.api.drill.models import VersionPath
from hastatus.api.http.blueprint import ApiBlueprint
from hastatus.api.http.document import also
from hastatus.api.http.lookup import find_version
from hastatus.api.http.problems import not_found
from hastatus.api.http.reply import reply
from hastatus.api.http.session import db, signed_in, who
from hastatus.api.plan.partner_models import (
    CardLine,
    Done,
    FeederCard,
    FeederCardQuery,
    TechniqueWay,
)
from hastatus.api.trade.catalogue import notes_of
from hastatus.core.drill.cautions import cautions
from hastatus.core.drill.chain_parts import is_asked, parts
from hastatus.core.drill.pad_card import pad_card
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import Lane, PartnerStep
from hastatus.core.drill.partner_wording import partner_facts
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.paths import walks
from hastatus.core.plan.guess import predictable
from hastatus.core.trade.label_packs import Labels
from hastatus.core.trade.pair import USUAL_PAIR
from hastatus.store import club_catalogue, drills

bp = ApiBlueprint("feeder-card", __name__, url_prefix="/api", abp_tags=[Tag(name="plan")])


@bp.get(
    "/drills/<uuid:drill_id>/versions/<int:number>/feeder-card",
    responses={200: FeederCard, **also(404)},
)
@signed_in
def feeder_card(path: VersionPath, query: FeederCardQuery) -> Response:
    """A partner drill on one rung, to print; 404 for a solo drill, or a rung it does not have."""
    version = find_version(path.drill_id, path.number)
    drill = drills.read_any(version)
    if not isinstance(drill, PartnerDrill) or query.rung > len(drill.rungs):
        raise not_found("card")
    rung = drill.rungs[query.rung - 1]
    labels = drill.labels(club_catalogue.labels(db(), who().club_id))
    lines = card(drill, rung, labels)
    here = {step.written for walk in walks(drill, rung) for step in walk.steps}
    return reply(
        FeederCard(
            title=drill.title,
            version=version.number,
            rung=query.rung,
            facts=partner_facts(drill, rung, predictable(drill, rung)),
            about_s=drill.lengths_s[query.rung - 1],
            lines=lines,
            ways=ways(lines, labels),
            pads=[pad for pad in pad_card(drill, USUAL_PAIR, labels) if pad.passage in here],
            cautions=cautions(drill),
        )
    )


def card(drill: PartnerDrill, rung: PartnerRung, labels: Labels) -> list[CardLine]:
    """One line for each passage that may come, in the order in which they are come to."""
    ways_through = walks(drill, rung)
    passages = {passage.key: passage for walk in ways_through for passage in walk.passages}
    turned = {
        (one.passage.key, one.step) for walk in ways_through for one in walk.steps if one.turned
    }
    return [
        CardLine(
            key=passage.key,
            call=passage.called,
            mark=passage.mark,
            feeder=_words(drill, rung, passage, "feeder", labels),
            defender=_words(drill, rung, passage, "defender", labels),
            done=_done(drill, rung, passage, turned),
        )
        for passage in passages.values()
    ]


def ways(lines: Sequence[CardLine], labels: Labels) -> list[TechniqueWay]:
    """How each technique of these exchanges is done, and what usually goes wrong."""
    used = dict.fromkeys(done.technique for line in lines for done in line.done)
    notes = {note.technique: note for note in notes_of(used)}
    return [
        TechniqueWay(
            technique=key,
            name=labels.name(key),
            right_way=notes[key].right_way,
            usual_fault=notes[key].usual_fault,
        )
        for key in used
        if key in notes
    ]


def _done(
    drill: PartnerDrill, rung: PartnerRung, passage: Passage, turned: Set[tuple[str, PartnerStep]]
) -> list[Done]:
    """What the feeder, then the defender does in a passage, each technique once.

    turned: steps of passages, by key, after which the other foot is in front.
    """
    done_by_key: dict[str, Done] = {}
    for lane in get_args(Lane):
        for step in _asked(drill, rung, passage, lane):
            done = Done(
                lane=lane,
                technique=step.technique,
                side=step.side,
                turned=(passage.key, step) in turned,
            )
            done_by_key.setdefault(step.technique, done)
    return list(done_by_key.values())


def _words(
    drill: PartnerDrill, rung: PartnerRung, passage: Passage, lane: Lane, labels: Labels
) -> list[str]:
    return [step.name(labels) for step in _asked(drill, rung, passage, lane)]


def _asked(
    drill: PartnerDrill, rung: PartnerRung, passage: Passage, lane: Lane
) -> list[PartnerStep]:
    """What a role does in a passage on this rung, in order of beats."""
    asked = [
        step
        for step, part in zip(passage.steps, parts(drill, passage), strict=True)
        if step.lane == lane and is_asked(rung, part)
    ]
    return sorted(asked, key=lambda step: step.beat)
