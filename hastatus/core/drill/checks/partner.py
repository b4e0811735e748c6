"""Every finding of a drill, each once, those that stop first."""

from __future__ import annotations

from hastatus.core.drill.checks.answers import answer_findings
from hastatus.core.drill.checks.choice import choice_findings
from hastatus.core.drill.checks.contact import cap_findings
from hastatus.core.drill.checks.facts import fact_findings
from hastatus.core.drill.checks.feet import feet_findings
from hastatus.core.drill.checks.finding import Finding, Infeasible
from hastatus.core.drill.checks.flow import flow_findings
from hastatus.core.drill.checks.gap import gap_findings
from hastatus.core.drill.checks.limbs import limb_findings
from hastatus.core.drill.checks.mapping import mapping_findings
from hastatus.core.drill.checks.owners import without_owner
from hastatus.core.drill.checks.perception import sight_findings
from hastatus.core.drill.checks.rounds import round_findings
from hastatus.core.drill.checks.schools import school_faults
from hastatus.core.drill.checks.structure import structure_findings
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import walks
from hastatus.core.trade.pair import USUAL_PAIR, Pair


def find(drill: PartnerDrill, pair: Pair = USUAL_PAIR) -> list[Finding]:
    """What is wrong with a drill for a pair.

    Limbs are checked at the fastest beat of any rung: what is home in time there is so anywhere.
    """
    stops = [*structure_findings(drill)]
    if stops:
        return stops
    findings = [*cap_findings(drill), *sight_findings(drill), *mapping_findings(drill)]
    findings += [*choice_findings(drill), *round_findings(drill)]
    findings += (
        Finding(where=where, what=what, level="hint", mend=better)
        for where, what, better in without_owner(drill)
    )
    findings += (Finding(**dict(fault)) for fault in school_faults(drill))
    beat_s = 60.0 / max(rung.fastest_bpm for rung in drill.rungs)
    every = walks(drill)
    findings += feet_findings(drill, every, beat_s)
    for walk in every:
        findings += limb_findings(drill, walk, beat_s)
        findings += answer_findings(drill, walk)
        findings += fact_findings(drill, walk)
        findings += flow_findings(drill, walk)
        findings += gap_findings(drill, walk, pair)
    once = {
        (finding.where, finding.check, finding.passage, finding.step): finding
        for finding in reversed(findings)
    }
    order = {passage.key: number for number, passage in enumerate(drill.passages)}
    return sorted(
        once.values(),
        key=lambda finding: (
            finding.level != "stop",
            finding.kept is not None,
            order.get(finding.passage or "", -1),
            finding.beat or 0.0,
        ),
    )


def check(drill: PartnerDrill, pair: Pair = USUAL_PAIR) -> None:
    """Raise `Infeasible` with every finding that stops."""
    stops = [finding for finding in find(drill, pair) if finding.level == "stop"]
    if stops:
        raise Infeasible(stops)
