"""A drill in the other stances.

In mirrored stances a strike comes to the other side of the defender, so all of the defender's sides
change over; seen from outside, every hand and foot is where it was. Once a step has put a foot in
front, both stances are one, and hands and feet are named alike (common practice, no source).
"""

from __future__ import annotations

from typing import NamedTuple

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.paths import walks
from hastatus.core.trade.footwork import Footwork
from hastatus.core.trade.technique import OTHER_SIDE, Stance

_STEPS: dict[Footwork, Footwork] = {
    "step_off_lead": "step_off_rear",
    "step_off_rear": "step_off_lead",
}


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
    placed = _placed(drill)
    passages = tuple(_turned(passage, placed) for passage in drill.passages)
    stances = "mirrored" if mirrored else "same"
    return drill.model_copy(update={"passages": passages, "stances": stances})


def _placed(drill: PartnerDrill) -> frozenset[Place]:
    """The defender's steps before which a foot has been put in front: from there on both stances
    are one. Where a passage is come to either way, as on the shortest way; `checks.feet` says so.
    """
    if not any(step.front for passage in drill.passages for step in passage.steps):
        return frozenset()
    found: dict[Place, bool] = {}
    for walk in walks(drill):
        placed = False
        for step in walk.steps:
            if step.lane == "defender":
                found.setdefault(Place(step.written, step.index), placed)
                placed = placed or step.step.front is not None
    return frozenset(place for place, placed in found.items() if placed)


def _turned(passage: Passage, placed: frozenset[Place]) -> Passage:
    steps = tuple(
        _other(step, placed=Place(passage.key, index) in placed)
        if step.lane == "defender"
        else step
        for index, step in enumerate(passage.steps)
    )
    return passage.model_copy(update={"steps": steps})


def _other(step: PartnerStep, *, placed: bool) -> PartnerStep:
    """A step in the other stances. placed: a foot was put in front before it."""
    front = OTHER_SIDE[step.front] if step.front else None
    if placed:
        return step.model_copy(update={"front": front})
    return step.model_copy(
        update={
            "side": step.side if front else OTHER_SIDE[step.side],
            "footwork": _STEPS.get(step.footwork, step.footwork),
            "foot": OTHER_SIDE[step.foot] if step.foot else None,
            "front": front,
        }
    )
