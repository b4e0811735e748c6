"""The feeder's card of a run: each exchange of the rung with what both do, in the club's words."""

from __future__ import annotations

from hastatus.api.run.partner_run_models import CardLine
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


def _words(
    drill: PartnerDrill, rung: PartnerRung, passage: Passage, lane: Lane, labels: Labels
) -> list[str]:
    asked = [
        step
        for step, part in zip(passage.steps, parts(drill, passage), strict=True)
        if step.lane == lane and is_asked(rung, part)
    ]
    return [step.name(labels) for step in sorted(asked, key=lambda step: step.beat)]
