"""The feeder's card of a run: each exchange of the rung with what both do, in the club's words."""

from __future__ import annotations

from hastatus.api.run.partner_run_models import CardLine, TechniqueWay
from hastatus.api.trade.catalogue import notes_of
from hastatus.core.drill.chain_parts import is_asked, parts
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import Lane
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.paths import walks
from hastatus.core.trade.label_packs import Labels


def card(drill: PartnerDrill, rung: PartnerRung, labels: Labels) -> list[CardLine]:
    """One line for each passage that may come, in the order in which they are come to."""
    passages = {passage.key: passage for walk in walks(drill, rung) for passage in walk.passages}
    return [
        CardLine(
            call=passage.called,
            mark=passage.mark,
            feeder=_words(drill, rung, passage, "feeder", labels),
            defender=_words(drill, rung, passage, "defender", labels),
        )
        for passage in passages.values()
    ]


def ways(drill: PartnerDrill, rung: PartnerRung, labels: Labels) -> list[TechniqueWay]:
    """How each technique of the rung is done, and what usually goes wrong."""
    used = dict.fromkeys(step.step.technique for walk in walks(drill, rung) for step in walk.steps)
    notes = {note.technique: note for note in notes_of(used)}
    return [
        TechniqueWay(
            name=labels.name(key),
            right_way=notes[key].right_way,
            usual_fault=notes[key].usual_fault,
        )
        for key in used
        if key in notes
    ]


def _words(
    drill: PartnerDrill, rung: PartnerRung, passage: Passage, lane: Lane, labels: Labels
) -> list[str]:
    asked = [
        step
        for step, part in zip(passage.steps, parts(drill, passage), strict=True)
        if step.lane == lane and is_asked(rung, part)
    ]
    return [step.name(labels) for step in sorted(asked, key=lambda step: step.beat)]
