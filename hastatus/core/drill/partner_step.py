"""One step of a two-sided drill: who does what on which beat, with which feet and how hard."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from hastatus.core.fields import Document, Key, Line
from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.contact import Contact
from hastatus.core.trade.footwork import FOOTWORK_NAMES, Footwork
from hastatus.core.trade.label_packs import PLAIN, Labels
from hastatus.core.trade.reach import Surface
from hastatus.core.trade.technique import Side, Target

Lane = Literal["feeder", "defender"]
Perceived = Literal["seen", "called", "felt", "lost_contact"]
Check = Literal[
    "fit", "side", "limb", "standing_leg", "reach", "surface", "room",
    "blocks", "punches", "counter_beat", "sight", "mapping", "choice", "feet",
]  # fmt: skip
"""Checks that a coach may wave through. Those of contact and gear are not among them."""

Beat = Annotated[float, Field(ge=1, le=64.5, multiple_of=0.5, allow_inf_nan=False)]
"""A beat of a passage, from 1; halves allowed."""


class PadHold(Document):
    """How a partner holds the pad that a step lands on.

    angle_deg: 0 faces the striker, 90 is edge on. ahead_m: from the holder's midline to its face.
    gives: the holder gives ground with the strike.
    """

    angle_deg: Annotated[int, Field(ge=0, le=90)] = 0
    ahead_m: Annotated[float, Field(ge=0, le=0.9, allow_inf_nan=False)] = 0.3
    gives: bool = False


class Waiver(Document):
    """A check that the coach has waved through at a step, and why."""

    check: Check
    reason: Line


class PartnerStep(Document):
    """One step of a passage.

    lane: whose side it is on. target: what it aims at; None: the technique's own line. spot: where
    exactly, or how, in words. footwork: what the feet do with it. foot: the one that moves, as it
    is named before it moves; None: as the footwork has it. front: the foot that is in front once it
    has moved, as it was named before the exchange; from this step on, its own hand or leg included,
    lead and rear count from there; None: as before. contact: how hard it lands. perceived: how the
    other one takes it in. surface: what of the hand strikes; None: the technique's own. until: the
    beat up to which it is held; None: the limb goes straight home. pad: the pad it lands on; None:
    a person. when: the choice of the passage that it comes with; None: it always comes. also: other
    techniques that are right here as well; the defender chooses.
    """

    lane: Lane
    beat: Beat
    technique: Key
    side: Side = "lead"
    target: Target | None = None
    spot: Annotated[Line | None, Field(max_length=40)] = None
    footwork: Footwork = "hold"
    foot: Side | None = None
    front: Side | None = None
    contact: Contact = "none"
    perceived: Perceived = "seen"
    surface: Surface | None = None
    until: Beat | None = None
    pad: PadHold | None = None
    when: Key | None = None
    also: Annotated[tuple[Key, ...], Field(max_length=4)] = ()
    kept: Annotated[tuple[Waiver, ...], Field(max_length=10)] = ()

    def what(self, labels: Labels = PLAIN) -> str:
        """The step without its feet, for example "rear body straight to the ribs", or "hands up:
        ribs open"."""
        technique = TECHNIQUES.get(self.technique)
        lands = technique is None or technique.strikes
        words = labels.sided(self.technique, self.side)
        if self.spot:
            words += f" to the {self.spot}" if lands else f": {self.spot}"
        return " or ".join([words, *(labels.sided(key, self.side) for key in self.also)])

    @property
    def feet(self) -> str:
        """What the feet do with it, in words; empty where they hold."""
        words = [] if self.footwork == "hold" else [FOOTWORK_NAMES[self.footwork]]
        if self.foot:
            words.append(f"with the {self.foot} foot")
        if self.front:
            words.append("to the first stance" if self.front == "lead" else "to the other stance")
        return " ".join(words)

    def name(self, labels: Labels = PLAIN) -> str:
        """The step as a coach says it, for example "rear body straight, slide-step"."""
        between = ", " if self.footwork != "hold" else " "
        return between.join(filter(None, (self.what(labels), self.feet)))

    def reason(self, check: Check) -> str | None:
        """Why `check` is waved through here; None where it is not."""
        return next((waiver.reason for waiver in self.kept if waiver.check == check), None)
