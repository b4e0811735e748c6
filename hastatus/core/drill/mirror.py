"""A drill in the other stances.

In mirrored stances a strike comes to the other side of the defender, so all of the defender's sides
change over; seen from outside, every hand is where it was (common practice, no source).
"""

from __future__ import annotations

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Passage
from hastatus.core.trade.footwork import Footwork
from hastatus.core.trade.technique import Side, Stance

_SIDES: dict[Side, Side] = {"lead": "rear", "rear": "lead"}
_STEPS: dict[Footwork, Footwork] = {
    "step_off_lead": "step_off_rear",
    "step_off_rear": "step_off_lead",
}


def are_mirrored(drill: PartnerDrill, feeder: Stance | None, defender: Stance | None) -> bool:
    """Whether two people stand mirrored; where one is not chosen, as the drill is written."""
    if feeder is None or defender is None:
        return drill.stances == "mirrored"
    return feeder != defender


def in_stances(drill: PartnerDrill, *, mirrored: bool) -> PartnerDrill:
    """The drill as it is done in same or mirrored stances, whichever it is written for."""
    if mirrored == (drill.stances == "mirrored"):
        return drill
    passages = tuple(_turned(passage) for passage in drill.passages)
    stances = "mirrored" if mirrored else "same"
    return drill.model_copy(update={"passages": passages, "stances": stances})


def _turned(passage: Passage) -> Passage:
    steps = tuple(_other(step) if step.lane == "defender" else step for step in passage.steps)
    return passage.model_copy(update={"steps": steps})


def _other(step: PartnerStep) -> PartnerStep:
    footwork = _STEPS.get(step.footwork, step.footwork)
    return step.model_copy(update={"side": _SIDES[step.side], "footwork": footwork})
