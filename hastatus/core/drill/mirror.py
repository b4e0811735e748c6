"""A drill in the other stances.

In mirrored stances a strike comes to the other side of the defender, so all of the defender's sides
change over; seen from outside, every hand and foot is where it was. Once a step has put a foot in
front, both stances are one, and hands and feet are named alike (common practice, no source).
"""

from __future__ import annotations

from typing import Literal, NamedTuple

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.paths import walks
from hastatus.core.trade.footwork import Footwork
from hastatus.core.trade.pair import Person
from hastatus.core.trade.technique import OTHER_SIDE, Stance

_STEPS: dict[Footwork, Footwork] = {
    "step_off_lead": "step_off_rear",
    "step_off_rear": "step_off_lead",
}


Named = Literal["alike", "from_the_start"]
"""Once both stances are one: all of a step's names are alike, or all but which foot is in front,
which is named as its owner stood before the exchange."""


class Place(NamedTuple):
    """A step's place: the passage it is written in, and which of its steps it is."""

    passage: str
    step: int


def are_mirrored(drill: PartnerDrill, feeder: Stance | None, defender: Stance | None) -> bool:
    """Whether two people stand mirrored; where one is not chosen, as the drill is written."""
    if feeder is None or defender is None:
        return drill.stances == "mirrored"
    return feeder != defender


def in_stances(drill: PartnerDrill, *, mirrored: bool) -> PartnerDrill:
    """The drill as it is done in same or mirrored stances, whichever it is written for."""
    if mirrored == (drill.stances == "mirrored"):
        return drill
    named = _named_by_place(drill)
    passages = tuple(_turned(passage, named) for passage in drill.passages)
    stances = "mirrored" if mirrored else "same"
    return drill.model_copy(update={"passages": passages, "stances": stances})


def _named_by_place(drill: PartnerDrill) -> dict[Place, Named]:
    """How each step is named once a defender has put a foot in front: from there on both stances
    are one, and the names alone of which foot is in front count from where its owner began.

    Steps before that are not in it. Where a passage is come to either way, as on the shortest way;
    `checks.feet` says so.
    """
    if not any(step.front for passage in drill.passages for step in passage.steps):
        return {}
    names: dict[Place, Named | None] = {}
    for walk in walks(drill):
        owner: Person | None = None
        for step in walk.steps:
            here: Named | None = None
            if owner is not None:
                here = "alike" if step.person != owner else "from_the_start"
            names.setdefault(Place(step.written, step.index), here)
            if owner is None and step.lane == "defender" and step.step.front:
                owner = step.person
    return {place: named for place, named in names.items() if named}


def _turned(passage: Passage, named: dict[Place, Named]) -> Passage:
    steps = tuple(
        _other(step, named.get(Place(passage.key, index)))
        for index, step in enumerate(passage.steps)
    )
    return passage.model_copy(update={"steps": steps})


def _other(step: PartnerStep, named: Named | None) -> PartnerStep:
    """A step in the other stances. named: None before a defender has put a foot in front."""
    front = OTHER_SIDE[step.front] if step.front else None
    if named == "alike" or (named is None and step.lane == "feeder"):
        return step
    if named == "from_the_start":
        return step.model_copy(update={"front": front})
    return step.model_copy(
        update={
            "side": step.side if front else OTHER_SIDE[step.side],
            "footwork": _STEPS.get(step.footwork, step.footwork),
            "foot": OTHER_SIDE[step.foot] if step.foot else None,
            "front": front,
        }
    )
