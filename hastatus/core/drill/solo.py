"""The drill language: what is shown or heard, what is asked, how the rounds and rungs are set.

A `Drill` is a document. It says nothing about a student; the plan brings the two together. A
document that can be read may still be one that cannot be planned: see `faults`.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from hastatus.core.drill.cue import Chain, Cue, Part
from hastatus.core.drill.foreperiod import mean
from hastatus.core.drill.guide import Guide
from hastatus.core.drill.header import Sheet
from hastatus.core.drill.settings import (
    Balanced,
    Bursts,
    Counters,
    LeadIn,
    Order,
    Overlap,
    Rounds,
    Stacking,
    Unguessable,
    Waiting,
)
from hastatus.core.fields import Document, Key, Line, Seconds, Share, Tempo
from hastatus.core.trade.technique import Side

Weight = Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)]
_PARTS: tuple[Part, ...] = ("answer", "counter", "exit")


class Rung(Document):
    """One step of the ladder. A rung may change any setting of the rung before.

    window_s: the answer window a student starts with.
    goal_window_s: the window at which this rung has done its work.
    cues: keys of the cues that come; empty: all. weights: weights that differ on this rung.
    chain: how far chains go: the answer only, up to the counter, or all with the exit.
    catch_share: share of cues that ask for no answer.
    tempo_bpm: the beat that limits in beats are counted in.
    guide: the round is guided: no cue comes, it is counted or held; None: cues come.
    """

    name: Line
    window_s: Annotated[Seconds, Field(ge=0.2, le=10)]
    goal_window_s: Annotated[Seconds, Field(ge=0.2, le=10)]
    cues: Annotated[tuple[Key, ...], Field(max_length=24)] = ()
    weights: dict[str, Weight] = Field(default_factory=dict, max_length=24)
    chain: Part = "exit"
    order: Order = Balanced()
    waiting: Waiting = Unguessable()
    overlap: Overlap | None = None
    bursts: Bursts | None = None
    catch_share: Annotated[float, Field(ge=0, le=0.5, allow_inf_nan=False)] = 0.0
    counters: Counters | None = None
    stacking: Stacking | None = None
    lead_in: LeadIn | None = None
    flash_s: Annotated[Seconds, Field(ge=0.1, le=2)] = 0.3
    tempo_bpm: Tempo = 60.0
    rounds: Rounds = Rounds()
    guide: Guide | None = None

    @model_validator(mode="after")
    def _goal(self) -> Self:
        if self.goal_window_s > self.window_s:
            raise ValueError("the goal window is longer than the window the rung starts with")
        return self

    def about_s(self, held_s: float = 0.0) -> float:
        """About how long the rung takes, rests included, in seconds.

        A round by count is taken as a window, a mean wait, and what is held after it (`held_s`, on
        average), for each cue.
        """
        rounds = self.rounds
        counted = rounds.cues * (self.window_s + mean(self.waiting) + held_s)
        minutes = {
            "time": rounds.duration_s,
            "count": counted,
            "first": min(counted, rounds.duration_s),
        }[rounds.ends]
        return rounds.count * minutes + (rounds.count - 1) * rounds.rest_s

    def steps_of(self, chain: Chain, stage: int | None = None) -> int:
        """How many steps of `chain` are asked here; `stage` counts from 1 when stacking."""
        deepest = _PARTS.index(self.chain)
        asked = 0
        for step in chain.steps:
            if _PARTS.index(step.part) > deepest:
                break
            asked += 1
        return asked if stage is None else min(asked, stage)


class Pace(Document):
    """How the answer window follows the student.

    target: share of cues to be clean. 0.84 is Wilson et al. 2019 (Nature Communications 10:4646),
        derived for other learners than people on a mat: a default, not a law.
    rule: "measured" (from the measured times), "weighted" (Kaernbach 1991), "n_down" (Levitt
        1971), "rounds" (steps between rounds), or "hold": by hand, it stays as set.
    n: clean answers in a row before the window shortens, for "n_down" (1 to 6).
    step: the smallest step as a share of the window (the harder step).
    least_s, most_s: bounds of the window.
    weak_cues: a cue that a student is weak on comes up to this many times as often as its share,
        and one that is easy down to one in so many; 1 leaves the shares alone.
    open_cues: cues whose speed is still open come more often (see `openness`).
    """

    rule: Literal["measured", "weighted", "n_down", "rounds", "hold"] = "measured"
    target: Annotated[float, Field(ge=0.5, le=0.95, allow_inf_nan=False)] = 0.84
    n: Annotated[int, Field(ge=1, le=6)] = 4
    step: Annotated[float, Field(gt=0, le=0.2, allow_inf_nan=False)] = 0.02
    least_s: Annotated[Seconds, Field(ge=0.2)] = 0.25
    most_s: Annotated[Seconds, Field(le=10)] = 2.5
    weak_cues: Annotated[float, Field(ge=1, le=2, allow_inf_nan=False)] = 1.0
    open_cues: bool = True

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.most_s <= self.least_s:
            raise ValueError("the longest window must be longer than the shortest")
        return self


class Progress(Document):
    """When the next rung is suggested, or a step back; the coach decides.

    runs: runs in a row on the rung that have to agree. agree: how far the measured times may be
    over the rung's goal, as a factor. back: a settled window this many times the rung's start
    window is too long. The defaults are common practice put into numbers; no source.
    """

    runs: Annotated[int, Field(ge=1, le=5)] = 2
    agree: Annotated[float, Field(ge=1, le=1.5, allow_inf_nan=False)] = 1.1
    back: Annotated[float, Field(ge=1.05, le=2, allow_inf_nan=False)] = 1.25


class Judging(Document):
    """What counts.

    jump_cut_s: a *landed* answer sooner than this is jumped. A first movement under 0.100 s is a
        false start (World Athletics Technical Rules); landing needs more, so the cut is higher.
    grace_s: how long after the window an answer still counts as late rather than as missed.
    early: whether an answer that reads the intent counts as jumped, or is what the drill asks for.
    """

    jump_cut_s: Annotated[Seconds, Field(ge=0.1, le=0.5)] = 0.15
    grace_s: Annotated[Seconds, Field(ge=0.0, le=2)] = 0.4
    early: Literal["jumped", "asked"] = "jumped"


class Place(Document):
    """What a drill needs. floor_m: side of the free floor, m. eyes_closed: done without looking."""

    people: Annotated[int, Field(ge=1, le=1)] = 1
    floor_m: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 1.5
    gear: Annotated[tuple[Line, ...], Field(max_length=10)] = ()
    eyes_closed: bool = False


class Drill(Sheet):
    """A solo drill, whole.

    purpose: practice, or a baseline: a test that is repeated and read as one (see `baseline`).
    """

    form: Literal["solo"] = "solo"
    purpose: Literal["practice", "baseline"] = "practice"
    place: Place = Place()
    cues: Annotated[tuple[Cue, ...], Field(max_length=24)] = ()
    rungs: Annotated[tuple[Rung, ...], Field(min_length=1, max_length=20)]
    pace: Pace = Pace()
    progress: Progress = Progress()
    judging: Judging = Judging()

    def cue(self, key: str) -> Cue:
        """The cue with this key; KeyError when there is none."""
        for cue in self.cues:
            if cue.key == key:
                return cue
        raise KeyError(key)

    def cues_on(self, rung: Rung, turn: int = 0) -> tuple[Cue, ...]:
        """The cues that come on a rung; `turn` is the round's place in the turns, from 0."""
        if rung.guide:
            return ()
        wanted = set(rung.cues) or {cue.key for cue in self.cues}
        if rung.rounds.turns:
            wanted &= set(rung.rounds.turns[turn % len(rung.rounds.turns)])
        return tuple(cue for cue in self.cues if cue.key in wanted)

    def shares(self, rung: Rung, turn: int = 0) -> dict[str, Share]:
        """Share of each cue by key; catch cues divide `catch_share` among them.

        Only a balanced order goes by the weights. In an order with a sequence of its own every
        cue, also a catch cue, comes as often as the sequence has it.
        """
        here = self.cues_on(rung, turn)
        if here and rung.order.kind == "set" and rung.order.sequence:
            counts = {cue.key: rung.order.sequence.count(cue.key) for cue in here}
            total = sum(counts.values())
            return {key: count / total for key, count in counts.items() if count}
        weighted = rung.order.kind == "balanced"
        weights = {
            cue.key: rung.weights.get(cue.key, cue.weight) if weighted else 1.0 for cue in here
        }
        asking = sum(weights[cue.key] for cue in here if not cue.is_catch)
        holding = sum(weights[cue.key] for cue in here if cue.is_catch)
        catch = rung.catch_share if holding else 0.0
        shares = {}
        for cue in here:
            if not cue.is_catch:
                shares[cue.key] = (1 - catch) * weights[cue.key] / asking
            elif catch:
                shares[cue.key] = catch * weights[cue.key] / holding
        return shares

    @property
    def lengths_s(self) -> list[float]:
        """About how long each rung takes, holds and rests included, in seconds."""
        return [rung.about_s(self._held_s(rung)) for rung in self.rungs]

    def _held_s(self, rung: Rung) -> float:
        """What is held after a cue of a rung, on average, in seconds."""
        held_s = 0.0
        for key, share in self.shares(rung).items():
            chains = [chain.steps[: rung.steps_of(chain)] for chain in self.cue(key).asks]
            holds = [sum(step.hold_s or 0.0 for step in steps) for steps in chains]
            held_s += share * max(holds, default=0.0)
        return held_s

    def mean_shares(self, rung: Rung) -> dict[str, float]:
        """Mean share of each cue over the turns of a rung that ask for an answer."""
        turns = range(max(1, len(rung.rounds.turns)))
        total: dict[str, float] = {}
        for turn in turns:
            if all(cue.is_catch for cue in self.cues_on(rung, turn)):
                continue
            for key, share in self.shares(rung, turn).items():
                total[key] = total.get(key, 0.0) + share / len(turns)
        return total

    @property
    def is_test(self) -> bool:
        """Whether it is a test that is repeated, the same each time."""
        return self.purpose == "baseline"

    @property
    def first_answers(self) -> set[tuple[str, Side]]:
        """The techniques and sides that the cues ask for first."""
        return {
            (step.technique, step.side)
            for cue in self.cues
            for chain in cue.asks
            for step in chain.steps[:1]
        }

    def leaning(self, rung: int, factors: Mapping[str, float]) -> Drill:
        """The drill with the weights of a rung's cues multiplied; `rung` counts from 1."""
        if not factors:
            return self
        here = self.rungs[rung - 1]
        changed = {
            cue.key: here.weights.get(cue.key, cue.weight) * factors[cue.key]
            for cue in self.cues_on(here)
            if cue.key in factors
        }
        rungs = list(self.rungs)
        rungs[rung - 1] = here.model_copy(update={"weights": {**here.weights, **changed}})
        return self.model_copy(update={"rungs": tuple(rungs)})

    def lasting(self, rung: int, length_s: float) -> Drill:
        """The drill with rounds of a rung, which counts from 1, that fill `length_s`."""
        if rung > len(self.rungs):
            return self
        here = self.rungs[rung - 1]
        longer = here.model_copy(update={"rounds": here.rounds.lasting(length_s)})
        return self.model_copy(
            update={"rungs": (*self.rungs[: rung - 1], longer, *self.rungs[rung:])}
        )

    def in_rounds(self, rounds: Rounds) -> Drill:
        """The drill with the same rounds on every rung."""
        rungs = tuple(rung.model_copy(update={"rounds": rounds}) for rung in self.rungs)
        return self.model_copy(update={"rungs": rungs})
