"""Passages: what is done from one choice of the partner's to the next.

An exchange starts with a passage that has a weight. At a passage's end the partner gives one of
its branches, each with a share and its own continuation; without branches the exchange is over.
A branch back to an earlier passage makes a loop.
"""

from __future__ import annotations

from collections.abc import Collection
from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.drill.cue import Mark
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.fields import Document, Key, Line, Share

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


PairFact = Literal[
    "feeder_taller", "defender_taller", "same_height", "feeder_longer", "defender_longer",
    "same_stance", "mirrored_stance", "feeder_left_handed", "feeder_right_handed",
    "defender_left_handed", "defender_right_handed",
]  # fmt: skip
"""A fact of the pair that a branch may depend on."""


class Branch(Document):
    """One way on. share: relative to the others'. to: the passage; None: the exchange is over.

    fact: of the pair; where it does not hold this way is not there; None: it is drawn for anybody.
    by_m: differences of less than this are none, m.
    """

    gives: Gives = "goes_on"
    fact: PairFact | None = None
    by_m: Annotated[float, Field(ge=0.01, le=0.5, allow_inf_nan=False)] = 0.05
    share: Annotated[float, Field(ge=0, le=100, allow_inf_nan=False)] = 1.0
    to: Key | None = None


class Choice(Document):
    """What the partner may do in the middle of a passage, while the other side goes on.

    It comes or does not come, and nobody waits for it. share: of the exchanges that it comes in, 0
    to 1. call: what is said to the feeder; None: its name.
    """

    key: Key
    name: Line
    gives: Gives = "follow_up"
    share: Share = 0.5
    call: Annotated[Line | None, Field(max_length=40)] = None


class Passage(Document):
    """Steps of both sides over beats.

    beats: its length; what follows begins after it. weight: how often an exchange starts with it,
    relative to the others; 0: it is only come to by a branch. call: what is said to the feeder.
    swap: when it ends, feeder and defender have changed roles. choices: of the partner's in the
    middle of it; steps say with which of them they come.
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
    choices: Annotated[tuple[Choice, ...], Field(max_length=3)] = ()

    def given(self, keys: Collection[str]) -> Passage:
        """The passage as it is done when these of its choices come, and no others.

        Raises KeyError for a choice that it does not have.
        """
        if not self.choices and not keys:
            return self
        known = {choice.key: choice for choice in self.choices}
        came = [known[key] for key in keys]
        return self.model_copy(
            update={
                "key": "+".join([self.key, *keys]),
                "name": ", ".join([self.name, *(choice.name for choice in came)]),
                "call": ", ".join([self.called, *(choice.call or choice.name for choice in came)]),
                "steps": tuple(
                    step for step in self.steps if step.when is None or step.when in keys
                ),
            }
        )

    @property
    def starts(self) -> bool:
        """Whether an exchange may start with it."""
        return self.weight > 0

    @property
    def called(self) -> str:
        """What the feeder is told."""
        return self.call or self.name
