"""The drill language: what is shown or heard, what is asked, how the rounds and rungs are set.

A `Drill` is a document. It says nothing about a student; the plan brings the two together.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, field_validator, model_validator

from hastatus.core.catalogue import TECHNIQUES, Side
from hastatus.core.colour import Colour, Shape
from hastatus.core.text import Document, Key, Line, Note, Seconds, Share

Channel = Literal["hear", "see"]
SoundName = Literal["low_knock", "high_knock", "bell", "tone"]
Place = Literal["lead", "rear", "middle"]


class Mark(Document):
    """The one sign a cue has everywhere: list, strip, floor, card."""

    shape: Shape
    colour: Colour


class Sound(Document):
    """A cue that is heard."""

    kind: Literal["sound"] = "sound"
    sound: SoundName


class Light(Document):
    """A cue that is seen: the mark, filling the lead half, the rear half or the middle."""

    kind: Literal["light"] = "light"
    place: Place


class Answer(Document):
    """What a cue asks for: a technique on the lead or the rear side."""

    technique: Key
    side: Side

    @field_validator("technique")
    @classmethod
    def _known(cls, key: str) -> str:
        if key not in TECHNIQUES:
            raise ValueError(f"unknown technique '{key}'; known are {', '.join(TECHNIQUES)}")
        return key

    @property
    def name(self) -> str:
        """The answer as a coach says it, for example "lead high block"."""
        return f"{self.side} {TECHNIQUES[self.technique].name}"


class Cue(Document):
    """One thing to react to.

    weight: how often it comes, relative to the other cues of its kind.
    answer: what it asks for; None makes it a catch cue, which asks for no answer.
    """

    key: Key
    stimulus: Annotated[Sound | Light, Field(discriminator="kind")]
    mark: Mark
    answer: Answer | None = None
    weight: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = 1.0

    @property
    def channel(self) -> Channel:
        """How the cue arrives."""
        return "hear" if self.stimulus.kind == "sound" else "see"

    @property
    def name(self) -> str:
        """The cue as a coach says it, for example "hear low knock"."""
        if isinstance(self.stimulus, Sound):
            return f"hear {self.stimulus.sound.replace('_', ' ')}"
        place = "middle" if self.stimulus.place == "middle" else f"{self.stimulus.place} side"
        return f"see {self.mark.shape}, {place}"

    @property
    def asks(self) -> str:
        """What the cue asks for, in words."""
        return self.answer.name if self.answer else "do nothing"


class Waiting(Document):
    """The waiting time from a closed answer window to the next cue (the foreperiod).

    It is `least_s` plus an exponential time of mean `mean_s`, so that having waited long tells
    nothing (constant hazard; Luce 1986), truncated at `most_s` in all.
    """

    least_s: Annotated[Seconds, Field(ge=0.3)] = 0.5
    mean_s: Annotated[Seconds, Field(ge=0.05, le=30)] = 0.6
    most_s: Annotated[Seconds, Field(le=60)] = 4.0

    @model_validator(mode="after")
    def _room(self) -> Self:
        if self.most_s < self.least_s + self.mean_s:
            raise ValueError(
                f"the longest wait ({self.most_s} s) must be at least the least plus the mean "
                f"({self.least_s + self.mean_s:g} s), or it can be guessed"
            )
        return self


class Overlap(Document):
    """A sound and a light that come so close that both wait for an answer at once.

    share: share of cues that come as such a pair's second half.
    least_gap_s, most_gap_s: from the first onset to the second.
    """

    share: Annotated[float, Field(gt=0, le=0.4, allow_inf_nan=False)] = 0.25
    least_gap_s: Annotated[Seconds, Field(ge=0.1)] = 0.15
    most_gap_s: Annotated[Seconds, Field(le=2)] = 0.45

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.most_gap_s < self.least_gap_s:
            raise ValueError("the largest gap is smaller than the smallest gap")
        return self


class Rung(Document):
    """One step of the ladder.

    window_s: the answer window a student starts with.
    goal_window_s: the window at which this rung has done its work.
    catch_share: share of cues that ask for no answer.
    """

    name: Line
    window_s: Annotated[Seconds, Field(ge=0.2, le=10)]
    goal_window_s: Annotated[Seconds, Field(ge=0.2, le=10)]
    waiting: Waiting = Waiting()
    overlap: Overlap | None = None
    catch_share: Annotated[float, Field(ge=0, le=0.5, allow_inf_nan=False)] = 0.0

    @model_validator(mode="after")
    def _goal(self) -> Self:
        if self.goal_window_s > self.window_s:
            raise ValueError("the goal window is longer than the window the rung starts with")
        return self


class Rounds(Document):
    """Rounds by time. rehearse: show each cue with its answer before round one."""

    count: Annotated[int, Field(ge=1, le=40)] = 3
    duration_s: Annotated[Seconds, Field(ge=5, le=1800)] = 60.0
    rest_s: Annotated[Seconds, Field(le=600)] = 30.0
    rehearse: bool = True

    @property
    def total_s(self) -> float:
        """Rounds and rests together, in seconds."""
        return self.count * self.duration_s + (self.count - 1) * self.rest_s


class Order(Document):
    """Balanced random order: bags of cues, the same cue at most `repeat_cap` times running."""

    repeat_cap: Annotated[int, Field(ge=1, le=10)] = 2
    bag: Annotated[int, Field(ge=4, le=60)] = 20


class Pace(Document):
    """How the answer window follows the student.

    target: share of cues to be clean. 0.84 is Wilson et al. 2019 (Nature Communications 10:4646),
        derived for other learners than people on a mat: a default, not a law.
    rule: "weighted" (Kaernbach 1991) or "n_down" (Levitt 1971).
    n: clean answers in a row before the window shortens, for "n_down" (1 to 6).
    step: the smallest step as a share of the window (the harder step).
    least_s, most_s: bounds of the window.
    """

    rule: Literal["weighted", "n_down"] = "weighted"
    target: Annotated[float, Field(ge=0.5, le=0.95, allow_inf_nan=False)] = 0.84
    n: Annotated[int, Field(ge=1, le=6)] = 4
    step: Annotated[float, Field(gt=0, le=0.2, allow_inf_nan=False)] = 0.02
    least_s: Annotated[Seconds, Field(ge=0.2)] = 0.25
    most_s: Annotated[Seconds, Field(le=10)] = 2.5

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.most_s <= self.least_s:
            raise ValueError("the longest window must be longer than the shortest")
        return self


class Judging(Document):
    """What counts.

    jump_cut_s: a *landed* answer sooner than this is jumped. A first movement under 0.100 s is a
        false start (World Athletics Technical Rules); landing needs more, so the cut is higher.
    grace_s: how long after the window an answer still counts as late rather than as missed.
    """

    jump_cut_s: Annotated[Seconds, Field(ge=0.1, le=0.5)] = 0.15
    grace_s: Annotated[Seconds, Field(ge=0.0, le=2)] = 0.4


class Drill(Document):
    """A solo drill, whole. Raises `pydantic.ValidationError` for a drill that cannot be planned."""

    schema_version: Literal[1] = 1
    title: Line
    notes: Note = ""
    cues: Annotated[tuple[Cue, ...], Field(min_length=1, max_length=24)]
    rungs: Annotated[tuple[Rung, ...], Field(min_length=1, max_length=20)]
    rounds: Rounds = Rounds()
    order: Order = Order()
    pace: Pace = Pace()
    judging: Judging = Judging()
    flash_s: Annotated[Seconds, Field(ge=0.1, le=2)] = 0.3

    @model_validator(mode="after")
    def _plannable(self) -> Self:
        keys = [cue.key for cue in self.cues]
        if len(set(keys)) != len(keys):
            raise ValueError("two cues have the same key; every cue needs its own")
        for number, rung in enumerate(self.rungs, start=1):
            self._check_rung(number, rung)
        return self

    def _check_rung(self, number: int, rung: Rung) -> None:
        where = f"rung {number} ({rung.name})"
        asking = [cue for cue in self.cues if cue.answer]
        if not asking:
            raise ValueError("no cue asks for an answer; add one that does")
        if rung.catch_share and len(asking) == len(self.cues):
            raise ValueError(f"{where} holds back, but no cue asks for nothing; add a catch cue")
        if not self.pace.least_s <= rung.window_s <= self.pace.most_s:
            raise ValueError(f"{where}: the window is outside the pace's bounds")
        if rung.window_s + rung.waiting.most_s > self.rounds.duration_s:
            raise ValueError(f"{where}: one wait and window are longer than the round")
        if rung.overlap and {cue.channel for cue in asking} != {"hear", "see"}:
            raise ValueError(f"{where} overlaps, but only a sound and a light can; add the other")
        largest = max(self.shares(rung).values())
        allowed = self.order.repeat_cap / (self.order.repeat_cap + 1)
        if largest > allowed + 1e-9:
            raise ValueError(
                f"{where}: one cue has a share of {largest:.0%}, but with at most "
                f"{self.order.repeat_cap} alike in a row it can have {allowed:.0%}; "
                "raise the cap or even out the weights"
            )

    def cue(self, key: str) -> Cue:
        """The cue with this key; KeyError when there is none."""
        for cue in self.cues:
            if cue.key == key:
                return cue
        raise KeyError(key)

    def shares(self, rung: Rung) -> dict[str, Share]:
        """Share of each cue on this rung, by key; catch cues divide `catch_share` among them."""
        asking = sum(cue.weight for cue in self.cues if cue.answer)
        holding = sum(cue.weight for cue in self.cues if not cue.answer)
        shares = {}
        for cue in self.cues:
            if cue.answer:
                shares[cue.key] = (1 - rung.catch_share) * cue.weight / asking
            elif rung.catch_share:
                shares[cue.key] = rung.catch_share * cue.weight / holding
        return shares
