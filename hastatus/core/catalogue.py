"""Techniques, sides and stances.

A drill only ever says *lead* or *rear*: the side in front or behind in the stance. Which hand or
which half of the screen that is follows from the student's stance, so a left-hander runs the same
drill mirrored (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from types import MappingProxyType
from typing import Literal

Side = Literal["lead", "rear"]
Stance = Literal["left_lead", "right_lead"]
Family = Literal["block", "straight"]
Line = Literal["head", "body", "leg"]


@dataclass(frozen=True, slots=True)
class Technique:
    """A defense or a strike.

    key: identifier used in drill documents.
    name: what a coach calls it, without the side.
    family: how it works (a block stops, a straight strikes along the shortest line).
    line: the height it serves.
    """

    key: str
    name: str
    family: Family
    line: Line


TECHNIQUES: Mapping[str, Technique] = MappingProxyType(
    {
        technique.key: technique
        for technique in (
            Technique("high_block", "high block", "block", "head"),
            Technique("straight", "straight", "straight", "head"),
        )
    }
)


def hand(side: Side, stance: Stance) -> Literal["left", "right"]:
    """The hand (and the half of the screen) that `side` means in `stance`."""
    return "left" if (side == "lead") == (stance == "left_lead") else "right"
