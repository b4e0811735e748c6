"""Every finding of a score, each once, those that stop first."""

from __future__ import annotations

from hastatus.core.drill.checks.answers import answer_findings
from hastatus.core.drill.checks.contact import cap_findings
from hastatus.core.drill.checks.finding import Finding, Infeasible
from hastatus.core.drill.checks.flow import flow_findings
from hastatus.core.drill.checks.gap import gap_findings
from hastatus.core.drill.checks.limbs import limb_findings
from hastatus.core.drill.checks.perception import sight_findings
from hastatus.core.drill.checks.structure import structure_findings
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import walks
from hastatus.core.trade.pair import USUAL_PAIR, Pair


def find(drill: PartnerDrill, pair: Pair = USUAL_PAIR) -> list[Finding]:
    """What is wrong with a score for a pair.

    Limbs are checked at the fastest beat of any rung: what is home in time there is so anywhere.
    """
    stops = [*structure_findings(drill)]
    if stops:
        return stops
    found = [*cap_findings(drill), *sight_findings(drill)]
    beat_s = 60.0 / max(rung.fastest_bpm for rung in drill.rungs)
    for walk in walks(drill):
        found += limb_findings(drill, walk, beat_s)
        found += answer_findings(drill, walk)
        found += flow_findings(drill, walk)
        found += gap_findings(drill, walk, pair)
    once = {(each.where, each.check, each.step): each for each in reversed(found)}
    place = {passage.key: number for number, passage in enumerate(drill.passages)}
    return sorted(
        once.values(),
        key=lambda each: (
            each.level != "stop",
            each.kept is not None,
            place.get(each.passage or "", -1),
            each.beat or 0.0,
        ),
    )


def check(drill: PartnerDrill, pair: Pair = USUAL_PAIR) -> None:
    """Raise `Infeasible` with every finding that stops."""
    stops = [each for each in find(drill, pair) if each.level == "stop"]
    if stops:
        raise Infeasible(stops)
