"""How well two people fit for a block, as a cost: what weighs, and what that is in words.

The weights are a coach's rules of thumb put into one unit (common practice, no source): ten
centimetres of height weigh as much as five of arm, and half as much as a level apart. Whom one has
worked with before weighs more than all of that together, and the more the oftener: so a club meets
everybody before it meets anybody again.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from hastatus.core.hall.attendee import Attendee
from hastatus.core.trade.contact import CONTACTS, Contact
from hastatus.core.trade.gear import HELD, Gear

MET = 40.0
"""Cost of having worked together once; twice costs four times that, and so on."""
MET_LITTLE = 0.5
"""The same where how well they fit is to weigh more."""
_HEIGHT_M, _ARM_M = 0.10, 0.05
_LEVEL, _STANCE, _CONTACT, _GEAR = 2.0, 0.5, 1.0, 1.0
_SAID_M = 0.12
"""From such a difference of height on, it is said."""

Pair = frozenset[str]


@dataclass(frozen=True, slots=True)
class Wishes:
    """What the pairs of a block should be like.

    levels: alike; or unequal on purpose, so that one can show it. stances: what the drill is
    written for; None: either. contact, gear: what the block asks of both. met: how often two
    have worked together before; met_cost: of once. apart: who is not to be put together.
    """

    levels: Literal["alike", "unequal"] = "alike"
    stances: Literal["same", "mirrored"] | None = None
    contact: Contact = "none"
    gear: frozenset[Gear] = frozenset()
    met: Mapping[Pair, int] = field(default_factory=dict)
    met_cost: float = MET
    apart: frozenset[Pair] = frozenset()


@dataclass(frozen=True, slots=True)
class Fit:
    """What two would be like together. cost: the less the better. but: what speaks against it."""

    cost: float
    but: tuple[str, ...]


def may(one: Attendee, other: Attendee, wishes: Wishes) -> bool:
    """Whether the two can be put together at all."""
    free = not one.off and not other.off
    return free and one.key != other.key and frozenset((one.key, other.key)) not in wishes.apart


def fit(one: Attendee, other: Attendee, wishes: Wishes) -> Fit:
    """The cost of putting two together, who may be."""
    parts = (
        _met(one, other, wishes),
        _height(one, other),
        _arm(one, other),
        _levels(one, other, wishes),
        _stances(one, other, wishes),
        _contact(one, other, wishes),
        _gear(one, other, wishes),
    )
    return Fit(sum(cost for cost, _ in parts), tuple(words for _, words in parts if words))


_Part = tuple[float, str]


def _met(one: Attendee, other: Attendee, wishes: Wishes) -> _Part:
    times = wishes.met.get(frozenset((one.key, other.key)), 0)
    words = {0: "", 1: "worked together before"}.get(times, f"worked together {times} times before")
    return wishes.met_cost * times**2, words


def _height(one: Attendee, other: Attendee) -> _Part:
    if one.height_m is None or other.height_m is None:
        return 0.0, ""
    apart = abs(one.height_m - other.height_m)
    return apart / _HEIGHT_M, f"{100 * apart:.0f} cm apart in height" if apart >= _SAID_M else ""


def _arm(one: Attendee, other: Attendee) -> _Part:
    if one.arm_m is None or other.arm_m is None:
        return 0.0, ""
    apart = abs(one.arm_m - other.arm_m)
    return apart / _ARM_M, ""


def _levels(one: Attendee, other: Attendee, wishes: Wishes) -> _Part:
    apart = abs(one.rank - other.rank)
    if wishes.levels == "unequal":
        return _LEVEL * (2 - apart), "of one level" if apart == 0 else ""
    return _LEVEL * apart, {0: "", 1: "a level apart"}.get(apart, f"{apart} levels apart")


def _stances(one: Attendee, other: Attendee, wishes: Wishes) -> _Part:
    here = "same" if one.stance == other.stance else "mirrored"
    if wishes.stances in (None, here):
        return 0.0, ""
    return _STANCE, f"{here} stances, the drill is written for {wishes.stances} ones"


def _contact(one: Attendee, other: Attendee, wishes: Wishes) -> _Part:
    least = min(one.contact, other.contact, key=CONTACTS.index)
    if CONTACTS.index(least) >= CONTACTS.index(wishes.contact):
        return 0.0, ""
    less = CONTACTS.index(wishes.contact) - CONTACTS.index(least)
    return _CONTACT * less, f"comes down to {least if least != 'none' else 'no contact'}"


def _gear(one: Attendee, other: Attendee, wishes: Wishes) -> _Part:
    worn = wishes.gear - frozenset(HELD)
    missing = sorted(worn - (one.gear & other.gear))
    names = ", ".join(item.replace("_", " ") for item in missing)
    return _GEAR * len(missing), f"not both have {names}" if missing else ""
