"""How an exchange flows: blocks before a counter, punches before a tie-up, the counter's beat."""

from __future__ import annotations

from collections.abc import Iterator

from hastatus.core.drill.checks.finding import Finding, at, mend, path_of
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import Walk, Walked

_BLOCKS = ("block", "parry", "check", "brace")
_TIES = ("grip", "frame", "jam")


def flow_findings(drill: PartnerDrill, walk: Walk) -> Iterator[Finding]:
    """What goes on for too long, and counters that come too late."""
    for person in ("a", "b"):
        yield from _in_a_row(drill, walk, person)
    yield from _counters(drill, walk)


def _in_a_row(drill: PartnerDrill, walk: Walk, person: str) -> Iterator[Finding]:
    blocks = punches = 0
    for step in walk.steps:
        mine = step.person == person
        if mine and (step.strikes or step.technique.family in _TIES):
            blocks = punches = 0
        elif mine and step.technique.use == "defense" and step.technique.family in _BLOCKS:
            blocks += 1
            if blocks == drill.blocks + 1:
                yield at(
                    drill,
                    step,
                    "blocks",
                    f"{blocks} blocks in a row without a counter; {drill.blocks} is the ceiling",
                )
        elif not mine and step.technique.use == "attack" and step.technique.limb == "hand":
            punches += 1
            if punches == drill.punches + 1:
                yield at(
                    drill,
                    step,
                    "punches",
                    f"punch {punches} comes unanswered; tie up or hit back after {drill.punches} "
                    "at the latest",
                )


def _counters(drill: PartnerDrill, walk: Walk) -> Iterator[Finding]:
    """The first strike of the defender's after an attack is the counter; a grip has no beat."""
    attack: Walked | None = None
    for step in walk.steps:
        if step.lane == "feeder":
            if step.technique.use == "attack" and step.technique.family != "grip":
                attack = step
        elif step.strikes and attack is not None:
            beat = counter_beat(attack, step)
            if beat > drill.counter_beat:
                early = step.step.beat - (beat - drill.counter_beat)
                yield at(
                    drill,
                    step,
                    "counter_beat",
                    f"the counter lands on beat {beat:g} of the attack, {drill.counter_beat:g} at "
                    "most: by then the partner has recovered",
                    field="beat",
                    better=mend(
                        f"move it to beat {early:g}", (f"{path_of(drill, step)}.beat", early)
                    )
                    if early >= 1
                    else None,
                )
            attack = None


def counter_beat(attack: Walked, counter: Walked) -> float:
    """The beat that a counter lands on, the attack being beat one."""
    return counter.beat - attack.beat + 1
