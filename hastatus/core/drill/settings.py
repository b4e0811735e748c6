"""Settings of a rung: order, waiting, overlap, bursts, counters, and the shape of the rounds."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from hastatus.core.drill.cue import SoundName
from hastatus.core.fields import Document, Key, Seconds

_Part = Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)]


class SetOrder(Document):
    """A known order.

    sequence: cue keys, catch cues among them, repeated to the end; empty: the cues as listed.
    """

    kind: Literal["set"] = "set"
    sequence: Annotated[tuple[Key, ...], Field(max_length=200)] = ()


class Rotating(Document):
    """The cues as listed, each pass beginning one further on."""

    kind: Literal["rotating"] = "rotating"


class Balanced(Document):
    """Balanced random order: bags of cues, the same cue at most `repeat_cap` times running."""

    kind: Literal["balanced"] = "balanced"
    repeat_cap: Annotated[int, Field(ge=1, le=10)] = 2
    bag: Annotated[int, Field(ge=4, le=60)] = 20


class FirstOrder(Document):
    """First-order balanced random order: each cue follows each, itself too, equally often."""

    kind: Literal["first_order"] = "first_order"


Order = Annotated[SetOrder | Rotating | Balanced | FirstOrder, Field(discriminator="kind")]


class Fixed(Document):
    """Always the same waiting time (the foreperiod), which can be learned."""

    kind: Literal["fixed"] = "fixed"
    wait_s: Annotated[Seconds, Field(ge=0.3, le=60)] = 1.0


class Jittered(Document):
    """A waiting time drawn evenly from a range."""

    kind: Literal["jittered"] = "jittered"
    least_s: Annotated[Seconds, Field(ge=0.3, le=60)] = 0.6
    most_s: Annotated[Seconds, Field(le=60)] = 1.6

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.most_s <= self.least_s:
            raise ValueError("the longest wait must be longer than the shortest")
        return self


class Unguessable(Document):
    """A waiting time from a closed answer window to the next cue that tells nothing.

    It is `least_s` plus an exponential time of mean `mean_s`, so that having waited long tells
    nothing (constant hazard; Luce 1986), truncated at `most_s` in all.
    """

    kind: Literal["unguessable"] = "unguessable"
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


Waiting = Annotated[Fixed | Jittered | Unguessable, Field(discriminator="kind")]


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


class Bursts(Document):
    """Cues that come in quick succession.

    share: share of bursts among bursts and single cues.
    least, most: cues in a burst. inner_s: from onset to onset inside it.
    extra_share: how often one cue more comes as a surprise.
    """

    share: _Part = 1.0
    least: Annotated[int, Field(ge=2, le=8)] = 2
    most: Annotated[int, Field(ge=2, le=8)] = 3
    inner_s: Annotated[Seconds, Field(ge=0.3, le=5)] = 0.8
    extra_share: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.most < self.least:
            raise ValueError("the longest burst is shorter than the shortest")
        return self


class Counters(Document):
    """Some attacks pass without a counter.

    share: how often the counter is asked. cap: cues in a row that may pass without one; four is
    the ceiling of the trade. signal: the sound that asks for it, `after_s` after the cue.
    """

    share: _Part = 0.5
    cap: Annotated[int, Field(ge=1, le=4)] = 4
    signal: SoundName = "high_tone"
    after_s: Annotated[Seconds, Field(ge=0.1, le=3)] = 0.3


class ReadySignal(Document):
    """A warning signal ahead of each cue, its lead drawn evenly from a range."""

    kind: Literal["warning"] = "warning"
    sound: SoundName = "low_tone"
    least_s: Annotated[Seconds, Field(ge=0.3, le=5)] = 0.6
    most_s: Annotated[Seconds, Field(le=5)] = 1.4

    @model_validator(mode="after")
    def _ordered(self) -> Self:
        if self.most_s < self.least_s:
            raise ValueError("the longest lead is shorter than the shortest")
        return self


class Announce(Document):
    """What is asked for is said ahead of each cue."""

    kind: Literal["announce"] = "announce"
    lead_s: Annotated[Seconds, Field(ge=0.6, le=5)] = 1.2


LeadIn = Annotated[ReadySignal | Announce, Field(discriminator="kind")]


class Stacking(Document):
    """One thing more: chains start with their first step and grow by one after `each` cues.

    counted: the number of each is said aloud.
    """

    each: Annotated[int, Field(ge=1, le=50)] = 5
    counted: bool = True


RoundCall = Literal["switch", "ten_seconds", "time"]


LONGEST_RUN_S = 4 * 3600.0
"""Of the rounds of one run, without its rests: nobody trains longer on one drill, and a plan of a
whole day is too much to begin in a moment and to keep."""


def rounds_that_fit(count: int, ends: str, duration_s: float) -> int | None:
    """How many rounds a run has at most, where `count` are too many; None where they are not."""
    fit = int(LONGEST_RUN_S // duration_s)
    return fit if ends != "count" and count > fit else None


def too_long(count: int, duration_s: float) -> str:
    """What is wrong with so many rounds."""
    return (
        f"{count} rounds of {duration_s / 60:g} min are {count * duration_s / 3600:.1f} h; a run "
        f"has at most {LONGEST_RUN_S / 3600:g} h"
    )


MOST_ROUNDS = 40
LONGEST_ROUND_S = 1800


def rounds_within(length_s: float, most_s: float, rest_s: float) -> tuple[int, float]:
    """How many rounds, and how long each, in seconds, fill `length_s` with a rest of `rest_s`
    between them: of `most_s` each, longer where there would be too many."""
    each_s = min(most_s, length_s)
    count = max(1, round((length_s + rest_s) / (each_s + rest_s)))
    if count > MOST_ROUNDS:
        count = MOST_ROUNDS
        each_s = min(LONGEST_ROUND_S, (length_s + rest_s) / count - rest_s)
    return count, each_s


class Rounds(Document):
    """The shape of a run.

    ends: a round ends by time, by count, or by whichever is first.
    duration_s: of a round that ends by time. cues: of one that ends by count.
    rehearse: show each cue with its answer before round one.
    stances: the student's own, or both in turn from round to round.
    turns: sets of cue keys that take turns from round to round; empty: all cues always.
    calls: what is called out: "switch" when stance or cues change, "ten seconds", "time".
    """

    count: Annotated[int, Field(ge=1, le=MOST_ROUNDS)] = 3
    ends: Literal["time", "count", "first"] = "time"
    duration_s: Annotated[Seconds, Field(ge=5, le=LONGEST_ROUND_S)] = 60.0
    cues: Annotated[int, Field(ge=1, le=500)] = 20
    rest_s: Annotated[Seconds, Field(le=600)] = 30.0
    rehearse: bool = True
    stances: Literal["own", "in_turn"] = "own"
    turns: Annotated[tuple[tuple[Key, ...], ...], Field(max_length=6)] = ()
    calls: Annotated[tuple[RoundCall, ...], Field(max_length=3)] = ()

    @property
    def most_s(self) -> float:
        """The longest a round can last, in seconds."""
        return LONGEST_ROUND_S if self.ends == "count" else self.duration_s

    def lasting(self, length_s: float) -> Rounds:
        """Rounds by time that fill `length_s`, rests included; longer ones, not too many."""
        count, each_s = rounds_within(length_s, self.most_s, self.rest_s)
        return self.model_copy(update={"ends": "time", "duration_s": each_s, "count": count})
