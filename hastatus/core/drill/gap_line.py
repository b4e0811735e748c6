"""The gap of a pair: where they start, how it changes with each step, and what reaches.

A gap is the distance between the midlines of two people, in metres. How long a step is follows
from the length of the foot: common practice of the trade put into numbers, no source.
"""

from __future__ import annotations

from collections.abc import Collection, Iterator
from dataclasses import dataclass
from math import copysign, hypot

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import Walk, Walked
from hastatus.core.trade.footwork import Footwork
from hastatus.core.trade.gear import PADDLE_M, Gear
from hastatus.core.trade.limbs import Limbs
from hastatus.core.trade.pair import Pair
from hastatus.core.trade.reach import (
    Surface,
    bands,
    gap_reached,
    safe_gap,
    strike_m,
)

NEAREST_M = 0.25
"""Two people do not stand nearer than this, m."""

MARGIN_M = 0.03
"""A pair starts this much inside the shorter reach of its band, m."""

SHORT_M = 0.02
"""A strike that ends this much short still lands; one that is to stop short, `STOPPED_M`."""

STOPPED_M = 0.10

_FORWARD: dict[str, float] = {
    "advance": -1.0, "slide_step": -1.5, "cross_step": -2.0, "drive_in": -1.0,
    "step_to_mark": -1.0, "tackle": -2.0,
    "retreat": 1.0, "cross_back": 2.0, "step_round": 0.5, "step_back": 1.0, "hips_back": 0.5,
    "leave": 3.0, "shove_off": 1.5, "shove": 1.0,
}  # fmt: skip
"""Feet that the gap opens by."""

_STANCE_FEET = 1.5
"""How long a stance is, in feet. A foot that passes the other one goes twice as far, and the body
half of that: what a step forward or back that changes the lead closes or opens at the least."""

_OFF_LINE = ("step_off_lead", "step_off_rear", "step_off", "angle_off")


@dataclass(frozen=True, slots=True)
class GapAtStep:
    """The gap once a step is made. reached_m: the largest gap it reaches; None: no strike."""

    walked: Walked
    gap_m: float
    reached_m: float | None

    @property
    def short_m(self) -> float:
        """How much it ends short, m; negative where it reaches."""
        return self.gap_m - self.reached_m if self.reached_m is not None else -self.gap_m


def start_gap(drill: PartnerDrill, pair: Pair) -> float:
    """The gap before an exchange, m: just inside the shorter reach of the drill's band."""
    if drill.start_m is not None:
        return drill.start_m
    if drill.start == "outside":
        return safe_gap(pair.a, pair.b)
    ends = [
        band.to_m
        for body in (pair.a, pair.b)
        for band in bands(body, body)
        if band.reach == drill.start
    ]
    return min(ends) - MARGIN_M


def moved(gap_m: float, move: Footwork | str, body: Limbs, *, changes_lead: bool = False) -> float:
    """The gap after one person's move; a move off the line goes sideways by a foot's length.

    changes_lead: the foot passes the other one and stays in front, or behind.
    """
    if move in _OFF_LINE:
        return hypot(gap_m, body.foot_length)
    feet = _FORWARD.get(move, 0.0)
    if changes_lead and feet:
        feet = copysign(max(abs(feet), _STANCE_FEET), feet)
    return max(NEAREST_M, gap_m + feet * body.foot_length)


def gaps_at_steps(
    drill: PartnerDrill, walk: Walk, pair: Pair, worn: Collection[Gear] | None = None
) -> Iterator[GapAtStep]:
    """The gap at each step of a walk, in order. Who strikes while stepping steps first.

    worn: the gear on the rung that is asked about; None: what is worn on every rung.
    """
    worn = drill.gear_throughout if worn is None else worn
    gap_m = start_gap(drill, pair)
    for step in walk.steps:
        body = pair.of(step.person)
        gap_m = _stepped(gap_m, step, body)
        reached = reached_m(worn, step, body) if step.strikes else None
        yield GapAtStep(step, gap_m, reached)
        gap_m = moved(gap_m, step.step.technique, body)
        pad = step.step.pad
        if pad and pad.gives:
            gap_m = moved(gap_m, "retreat", pair.of("b" if step.person == "a" else "a"))


def _stepped(gap_m: float, walked: Walked, body: Limbs) -> float:
    """The gap once the feet of a step have moved."""
    changes_lead = walked.turned != walked.turned_before
    move: Footwork = walked.step.footwork
    if changes_lead and move == "hold" and walked.technique.key == "withdraw_leg":
        move = "retreat"
    return moved(gap_m, move, body, changes_lead=changes_lead)


def reached_m(
    worn: Collection[Gear], step: Walked, body: Limbs, surface: Surface | None = None
) -> float:
    """The largest gap that a strike reaches with this gear from where its feet have led, m."""
    paddle = step.technique.key == "tag" and "paddles" in worn
    strike = strike_m(
        step.technique,
        body,
        surface or step.step.surface,
        glove="gloves" in worn,
        added_m=PADDLE_M if paddle else 0.0,
    )
    lunge = -min(0.0, _FORWARD.get(step.step.technique, 0.0)) * body.foot_length
    pad = step.step.pad
    return gap_reached(strike + lunge, pad.ahead_m if pad else 0.0)
