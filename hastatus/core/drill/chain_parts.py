"""Which part of the defender's chain each step is: answer, counter or exit."""

from __future__ import annotations

from hastatus.core.drill.cue import Part
from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.passage import Passage

_ORDER: tuple[Part, ...] = ("answer", "counter", "exit")


def parts(drill: PartnerDrill, passage: Passage) -> list[Part | None]:
    """The part of each step of a passage, in its order; None for the feeder's.

    What comes first is the answer, whatever it is; a strike after it is a counter, and a move after
    a counter leaves.
    """
    kinds: list[Part | None] = [None] * len(passage.steps)
    own = [index for index, step in enumerate(passage.steps) if step.lane == "defender"]
    countered = False
    for number, index in enumerate(sorted(own, key=lambda i: passage.steps[i].beat)):
        technique = drill.technique(passage.steps[index].technique)
        kinds[index] = "answer"
        if number and technique and technique.use == "attack":
            kinds[index], countered = "counter", True
        elif countered and technique and technique.use == "move":
            kinds[index] = "exit"
    return kinds


def is_asked(rung: PartnerRung, part: Part | None) -> bool:
    """Whether a rung asks for this part; the feeder's steps always."""
    if part is None:
        return True
    deepest: Part = "answer" if rung.counter_share == 0 else rung.answers
    return _ORDER.index(part) <= _ORDER.index(deepest)
