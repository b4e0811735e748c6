"""Contact and pace against the gear. Nothing here can be waved through."""

from __future__ import annotations

from collections.abc import Collection, Iterator

from hastatus.core.drill.checks.finding import Finding, mend
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Passage
from hastatus.core.trade.contact import CONTACTS, Contact
from hastatus.core.trade.gear import BARE_BPM, GEAR_NAMES, Gear, bare, cap


def cap_findings(drill: PartnerDrill, worn: Collection[Gear] | None = None) -> Iterator[Finding]:
    """Steps that land harder, and rungs that are faster, than the gear allows.

    worn: what both really have; None: what the drill asks for.
    """
    for rung_index, rung in enumerate(drill.rungs):
        asked = drill.gear_on(rung)
        gear = asked if worn is None else tuple(item for item in asked if item in worn)
        for finding, most in _contacts(drill, gear):
            if CONTACTS.index(rung.contact) > CONTACTS.index(most):
                yield finding
        fist = next(_bare_fists(drill, gear), None)
        if fist and rung.fastest_bpm > BARE_BPM:
            yield _too_fast(rung, f"rungs.{rung_index}", *fist)


def _contacts(drill: PartnerDrill, gear: Collection[Gear]) -> Iterator[tuple[Finding, Contact]]:
    """Each step that lands harder than its cap, with the cap."""
    for passage_index, passage in enumerate(drill.passages):
        for index, step in enumerate(passage.steps):
            finding = _contact(
                drill, passage, index, step, f"passages.{passage_index}.steps.{index}", gear
            )
            if finding:
                yield finding


def _too_fast(
    rung: PartnerRung, where: str, passage: Passage, index: int, step: PartnerStep
) -> Finding:
    goal = ((f"{where}.goal_bpm", BARE_BPM),) if rung.goal_bpm else ()
    tempo = min(rung.tempo_bpm or BARE_BPM, BARE_BPM)
    return Finding(
        where=f"{where}.tempo_bpm",
        what=f"{step.name()} is done with bare hands: {BARE_BPM:g} bpm at most, not "
        f"{rung.fastest_bpm:g}",
        mend=mend(f"{BARE_BPM:g} at most", (f"{where}.tempo_bpm", tempo), *goal),
        check="pace",
        passage=passage.key,
        step=index,
        beat=step.beat,
    )


def _contact(
    drill: PartnerDrill,
    passage: Passage,
    index: int,
    step: PartnerStep,
    where: str,
    gear: Collection[Gear],
) -> tuple[Finding, Contact] | None:
    technique = drill.technique(step.technique)
    strikes = technique is not None and technique.strikes
    if technique is None or not strikes:
        return None
    target = step.target or technique.line
    limit = cap(technique, target, gear, on_pad=step.pad is not None)
    if CONTACTS.index(step.contact) <= CONTACTS.index(limit.contact):
        return None
    needs = " and ".join(GEAR_NAMES[item] for item in limit.missing)
    most = "stop short of contact" if limit.contact == "none" else f"{limit.contact} at most"
    what = f"{step.name()}: {limit.why}, {most}" + (f"; more takes {needs}" if needs else "")
    changes = mend(most, (f"{where}.contact", limit.contact))
    return (
        Finding(
            where=f"{where}.contact",
            what=what,
            mend=changes,
            check="contact",
            passage=passage.key,
            step=index,
            beat=step.beat,
        ),
        limit.contact,
    )


def _bare_fists(
    drill: PartnerDrill, gear: Collection[Gear]
) -> Iterator[tuple[Passage, int, PartnerStep]]:
    for passage in drill.passages:
        for index, step in enumerate(passage.steps):
            technique = drill.technique(step.technique)
            strikes = technique is not None and technique.use == "attack"
            if technique and strikes and not step.pad and bare(technique, gear):
                yield passage, index, step
