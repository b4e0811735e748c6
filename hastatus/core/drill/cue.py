"""Cues: what is heard or seen, and the chains of answers it asks for."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, model_validator

from hastatus.core.fields import Document, Key, Line, Seconds
from hastatus.core.trade.colours import Colour, Shape
from hastatus.core.trade.label_packs import PLAIN, Labels
from hastatus.core.trade.technique import Side

Channel = Literal["hear", "see"]
SoundName = Literal[
    "low_knock", "high_knock", "bang", "bell", "high_bell", "low_tone", "tone", "high_tone"
]
Place = Literal[
    "lead", "rear", "middle", "high", "low", "lead_high", "lead_low", "rear_high", "rear_low"
]  # fmt: skip
Direction = Literal["up", "down", "lead", "rear"]
PictureName = Literal[
    "head_target", "body_target", "leg_target",
    "swing", "fists", "raised_hands", "into_stance", "open_hands", "turned_away",
]  # fmt: skip
Part = Literal["answer", "counter", "exit"]
AssetId = Annotated[str, StringConstraints(pattern=r"^[0-9a-f]{64}$")]
"""SHA-256 of an asset's bytes."""
Words = Annotated[Line, Field(max_length=60)]
"""What is spoken: a word or a few."""

WITHIN_S = 1.0
"""Time for a further step of a chain that has no limit of its own, in seconds."""


class Mark(Document):
    """The one sign a cue has everywhere: list, strip, floor, card."""

    shape: Shape
    colour: Colour


class Sound(Document):
    """A cue that is heard."""

    kind: Literal["sound"] = "sound"
    sound: SoundName


class Call(Document):
    """A spoken call, rendered in the drill's voice."""

    kind: Literal["call"] = "call"
    words: Words


class Recording(Document):
    """The coach's own call. words: what it says, for lists and for the card."""

    kind: Literal["recording"] = "recording"
    asset: AssetId
    words: Words


class Light(Document):
    """The mark, filling its place: a half of the screen, its middle, a band or a quarter."""

    kind: Literal["light"] = "light"
    place: Place


class Arrow(Document):
    """An arrow in the mark's colour that points somewhere."""

    kind: Literal["arrow"] = "arrow"
    direction: Direction


class Picture(Document):
    """A picture of the target or of what a person does: one that comes along, or the coach's."""

    kind: Literal["picture"] = "picture"
    picture: PictureName = "head_target"
    asset: AssetId | None = None
    place: Literal["lead", "rear", "middle"] = "middle"


Stimulus = Annotated[
    Sound | Call | Recording | Light | Arrow | Picture, Field(discriminator="kind")
]


class Within(Document):
    """A limit after the step before (for the first step: after the cue), in seconds or beats."""

    value: Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)]
    unit: Literal["s", "beat"] = "s"

    def seconds(self, tempo_bpm: float) -> float:
        """The limit in seconds; a beat is 60 s / BPM."""
        return self.value if self.unit == "s" else self.value * 60.0 / tempo_bpm


class Step(Document):
    """One step of a chain.

    part: an answer to the cue, a counter, or an exit.
    footwork: a move done with it. within: its limit; None means the rung's answer window for the
        first step and `WITHIN_S` for later ones. hold_s: held this long before the next step.
    """

    technique: Key
    side: Side = "lead"
    part: Part = "answer"
    footwork: Key | None = None
    within: Within | None = None
    hold_s: Annotated[Seconds | None, Field(gt=0, le=300)] = None

    def name(self, labels: Labels = PLAIN) -> str:
        """The step as a coach says it, for example "lead high block, advance, held 30 s"."""
        words = labels.sided(self.technique, self.side)
        if self.footwork:
            words += f", {labels.name(self.footwork)}"
        return f"{words}, held {self.hold_s:g} s" if self.hold_s else words


class Chain(Document):
    """Answer, counter, exit: the steps one cue asks for, in order."""

    steps: Annotated[tuple[Step, ...], Field(min_length=1, max_length=6)]

    @model_validator(mode="after")
    def _begins_with_an_answer(self) -> Self:
        if self.steps[0].part != "answer":
            raise ValueError("the first step of a chain is its answer")
        return self

    def name(self, labels: Labels = PLAIN) -> str:
        """The chain in words, for example "slip, then rear straight"."""
        return ", then ".join(step.name(labels) for step in self.steps)


class Attack(Document):
    """The attack a cue stands for, so that answers can be judged against it."""

    technique: Key
    side: Side = "lead"


class Cue(Document):
    """One thing to react to.

    asks: the chains it accepts, any of them; none makes it a catch cue, which asks for no answer.
    attack: the attack it stands for, if any.
    weight: how often it comes, relative to the other cues of its kind.
    announce: what is said ahead of it on a rung that announces; the first answer when empty.
    """

    key: Key
    stimulus: Stimulus
    mark: Mark
    asks: Annotated[tuple[Chain, ...], Field(max_length=6)] = ()
    attack: Attack | None = None
    weight: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = 1.0
    announce: Words | None = None

    @property
    def channel(self) -> Channel:
        """How the cue arrives."""
        return "hear" if self.stimulus.kind in ("sound", "call", "recording") else "see"

    @property
    def is_catch(self) -> bool:
        """Whether it asks for no answer."""
        return not self.asks

    @property
    def answer(self) -> Step | None:
        """The first step of the first chain; None for a catch cue."""
        return self.asks[0].steps[0] if self.asks else None

    @property
    def name(self) -> str:
        """The cue as a coach says it, for example "hear low knock"."""
        stimulus = self.stimulus
        match stimulus:
            case Sound():
                return f"hear {stimulus.sound.replace('_', ' ')}"
            case Call() | Recording():
                return f"hear “{stimulus.words}”"
            case Light():
                return f"see {self.mark.shape}, {_PLACES[stimulus.place]}"
            case Arrow():
                return f"see arrow, {_DIRECTIONS[stimulus.direction]}"
            case Picture():
                return f"see {stimulus.picture.replace('_', ' ')}" + (
                    "" if stimulus.place == "middle" else f", {stimulus.place} side"
                )

    def asked(self, labels: Labels = PLAIN) -> str:
        """What the cue asks for, in words."""
        return " or ".join(chain.name(labels) for chain in self.asks) or "don't react"

    def announcement(self, labels: Labels = PLAIN) -> str:
        """What is said ahead of it on a rung that announces."""
        if self.announce:
            return self.announce
        step = self.answer
        return labels.sided(step.technique, step.side) if step else "nothing"


_PLACES: dict[Place, str] = {
    "lead": "lead side",
    "rear": "rear side",
    "middle": "middle",
    "high": "high",
    "low": "low",
    "lead_high": "lead side, high",
    "lead_low": "lead side, low",
    "rear_high": "rear side, high",
    "rear_low": "rear side, low",
}
_DIRECTIONS: dict[Direction, str] = {
    "up": "up",
    "down": "down",
    "lead": "to the lead side",
    "rear": "to the rear side",
}
