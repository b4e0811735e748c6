"""Techniques, sides and stances.

A drill only ever says *lead* or *rear*: the side in front or behind in the stance. Which hand or
which half of the screen that is follows from the student's stance, so a left-hander runs the same
drill mirrored (common practice, no source).
"""

from __future__ import annotations

from collections.abc import Mapping
from types import MappingProxyType
from typing import Literal

from hastatus.core.fields import Document, Key, Line

Side = Literal["lead", "rear"]
Stance = Literal["left_lead", "right_lead"]
OTHER_SIDE: Mapping[Side, Side] = MappingProxyType({"lead": "rear", "rear": "lead"})
Use = Literal["attack", "defense", "move"]
Family = Literal[
    "straight", "circular", "rising", "falling", "linear_kick", "round_kick", "grip",
    "block", "parry", "cover", "slip", "roll", "duck", "lean", "check", "jam", "frame", "brace",
    "step",
]  # fmt: skip
Target = Literal["head", "body", "leg"]
Reach = Literal["clinch", "elbow", "punch", "kick"]
Limb = Literal["hand", "forearm", "elbow", "knee", "foot", "shin", "head", "trunk", "feet"]


class Technique(Document):
    """Something a feeder, a defender or a student alone does.

    key: identifier used in drill documents.
    name: what a coach calls it, without the side.
    use: an attack strikes, a defense answers an attack, a move changes where one stands.
    family: how it works. line: the height it serves or aims at.
    reach: the band of distance it belongs to. limb: what does it.
    lands: it ends in a touch that a pad, a key or a microphone can sense; a slip does not.
    sided: lead and rear differ; a duck has no side.
    """

    key: Key
    name: Line
    use: Use
    family: Family
    line: Target
    reach: Reach
    limb: Limb
    lands: bool = True
    sided: bool = True

    @property
    def strikes(self) -> bool:
        """Whether it hits the other one: an attack, or a defense that jams."""
        return self.use == "attack" or self.family == "jam"


def hand(side: Side, stance: Stance) -> Literal["left", "right"]:
    """The hand (and the half of the screen) that `side` means in `stance`."""
    return "left" if (side == "lead") == (stance == "left_lead") else "right"


def other(stance: Stance) -> Stance:
    """The mirrored stance."""
    return "right_lead" if stance == "left_lead" else "left_lead"
