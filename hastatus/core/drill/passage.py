"""Passages: what is done from one choice of the partner's to the next.

An exchange starts with a passage that has a weight. At a passage's end the partner gives one of
its branches, each with a share and its own continuation; without branches the exchange is over.
A branch back to an earlier passage makes a loop.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.drill.cue import Mark
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.fields import Document, Key, Line

Gives = Literal[
    "arm_light", "arm_neutral", "arm_heavy", "real", "feint",
    "follow_up", "no_follow_up", "comes_on", "retreats", "goes_on",
]  # fmt: skip
"""What the partner gives. "goes_on": nothing is chosen, the next passage follows."""
GIVES_NAMES: dict[Gives, str] = {
    "arm_light": "the arm is light",
    "arm_neutral": "the arm is neutral",
    "arm_heavy": "the arm is heavy",
    "real": "it is real",
    "feint": "it is a feint",
    "follow_up": "a follow-up comes",
    "no_follow_up": "no follow-up",
    "comes_on": "the partner comes on",
    "retreats": "the partner retreats",
    "goes_on": "it goes on",
}


class Branch(Document):
    """One way on. share: relative to the others'. to: the passage; None: the exchange is over."""

    gives: Gives = "goes_on"
    share: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 1.0
    to: Key | None = None


class Passage(Document):
    """Steps of both sides over beats.

    beats: its length; what follows begins after it. weight: how often an exchange starts with it,
    relative to the others; 0: it is only come to by a branch. call: what is said to the feeder.
    swap: when it ends, feeder and defender have changed roles.
    """

    key: Key
    name: Line
    mark: Mark
    steps: Annotated[tuple[PartnerStep, ...], Field(max_length=128)] = ()
    beats: Annotated[float, Field(ge=0.5, le=64.5, multiple_of=0.5, allow_inf_nan=False)] = 4.0
    weight: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 1.0
    call: Annotated[Line | None, Field(max_length=40)] = None
    then: Annotated[tuple[Branch, ...], Field(max_length=8)] = ()
    swap: bool = False

    @property
    def starts(self) -> bool:
        """Whether an exchange may start with it."""
        return self.weight > 0

    @property
    def called(self) -> str:
        """What the feeder is told."""
        return self.call or self.name
