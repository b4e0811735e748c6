"""Whether what is asked can be known: one and the same feed does not ask for different answers.

Where it does, something must tell them: the answer is named just before, or the feed differs in
what can be seen, heard or felt of it (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from hastatus.core.drill.chain_parts import is_asked, parts
from hastatus.core.drill.checks.finding import Finding, mend
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Gives, PairFact, Passage

Timed = tuple[float, tuple[object, ...]]
"""A beat, and what is given or asked on it."""
_Told = tuple[Gives, PairFact | None]
"""What tells one way on from another: what the partner gives, and a fact that both know."""


def mapping_findings(drill: PartnerDrill) -> Iterator[Finding]:
    """Passages that look alike and ask for different answers, on rungs where nothing tells which.

    On a rung whose order is set everybody knows what comes; where it is announced they are told.
    """
    for number, rung in enumerate(drill.rungs):
        if rung.announced or rung.order.kind in ("set", "rotating"):
            continue
        named = set[str]()  # each passage once, with the first that it looks like
        for choice in _choices(drill, rung):
            for (one_gives, one), (other_gives, other) in combinations(choice, 2):
                if one_gives != other_gives or other.key in named:
                    continue
                step = _first_untold(drill, rung, one, other)
                if step is not None:
                    named.add(other.key)
                    yield _finding(drill, number, one, other, step)


def _choices(
    drill: PartnerDrill, rung: PartnerRung
) -> Iterator[list[tuple[_Told | None, Passage]]]:
    """What may come at each point where something is chosen: at the start, and after a passage."""
    yield [(None, passage) for passage in drill.starts_on(rung)]
    if not rung.branches:
        return
    for passage in drill.passages:
        yield [
            ((branch.gives, branch.fact), drill.written(branch.to))
            for branch in passage.then
            if branch.to is not None and branch.share > 0
        ]


def _first_untold(
    drill: PartnerDrill, rung: PartnerRung, one: Passage, other: Passage
) -> int | None:
    """The place in `other` of the first answer that differs though all before it looks alike."""
    mine, theirs = _asked(drill, rung, one), _asked(drill, rung, other)
    differing = set(mine.values()) ^ set(theirs.values())
    if not differing:
        return None
    beat = min(at for at, _ in differing)
    if _given(drill, one, beat) != _given(drill, other, beat):
        return None
    here = [index for index, asked in theirs.items() if asked in differing]
    return min(here, default=0)


def _asked(drill: PartnerDrill, rung: PartnerRung, passage: Passage) -> dict[int, Timed]:
    """What the defender is to do on which beat, by its place in the passage."""
    return {
        index: (
            step.beat,
            (frozenset((step.technique, *step.also)), step.side, step.target, step.feet),
        )
        for index, (step, part) in enumerate(zip(passage.steps, parts(drill, passage), strict=True))
        if part is not None and is_asked(rung, part) and step.when is None
    }


def _given(drill: PartnerDrill, passage: Passage, until: float) -> set[Timed]:
    """What is seen, heard or felt of the other side up to a beat, pads that are held included."""
    return {
        (step.beat, _look(drill, step))
        for step in passage.steps
        if step.beat <= until
        and step.when is None
        and (step.lane == "feeder" or step.pad is not None)
    }


def _look(drill: PartnerDrill, step: PartnerStep) -> tuple[object, ...]:
    technique = drill.technique(step.technique)
    height = step.target or (technique.line if technique else None)
    if step.lane == "defender":
        return ("pad", height, step.pad)
    side = step.side if technique is None or technique.sided else None
    return (step.technique, side, height, step.spot, step.feet, step.perceived, step.surface)


def _finding(drill: PartnerDrill, number: int, one: Passage, other: Passage, index: int) -> Finding:
    rung = drill.rungs[number]
    step = other.steps[index] if index < len(other.steps) else None
    return Finding(
        where=f"rungs.{number}.announced",
        what=f"on rung {number + 1}, “{rung.name}”, nothing tells “{other.name}” from "
        f"“{one.name}”: the feed is the same and the answers differ",
        level="hint",
        mend=mend("name it just before", (f"rungs.{number}.announced", True)),
        check="mapping",
        passage=other.key,
        step=None if step is None else index,
        beat=None if step is None else step.beat,
        kept=None if step is None else step.reason("mapping"),
    )
