"""A partner drill: passages of a two-sided drill, and the rungs that make it harder.

The document says nothing about who does it; heights, gear and holds belong to the pair. One that
can be read may still be one that cannot be done: see `find`.
"""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from hastatus.core.drill.cue import Part
from hastatus.core.drill.foreperiod import mean
from hastatus.core.drill.header import Sheet
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.settings import (
    Balanced,
    Fixed,
    Jittered,
    Rotating,
    RoundCall,
    SetOrder,
    Unguessable,
    rounds_within,
)
from hastatus.core.drill.target import TARGET
from hastatus.core.fields import Document, Key, Line, Note, Seconds, Tempo
from hastatus.core.trade.contact import CONTACTS, Contact
from hastatus.core.trade.gear import Gear
from hastatus.core.trade.tell import Tell

Start = Literal["clinch", "elbow", "punch", "kick", "outside"]


class Free(Document):
    """The feeder chooses; the sheet only says what there is to choose from."""

    kind: Literal["free"] = "free"


class Both(Document):
    """Nobody feeds: both hunt and both avoid. Who touches is counted, and whoever was touched owes
    the drill's forfeit."""

    kind: Literal["both"] = "both"


RANDOM_FEEDS = Balanced(repeat_cap=5, bag=40)
"""A random order of feeds of which the last two tell next to nothing: of two attacks, who names the
likelier one after them is right in 52 of 100. A low cap on repeats would tell much."""
FeedOrder = Annotated[SetOrder | Rotating | Balanced | Free | Both, Field(discriminator="kind")]


PartnerCall = RoundCall | Literal["move_around", "count", "check_feet"]


class Stream(Document):
    """No pause: an exchange follows the last at once, as the defender's guard is tried."""

    kind: Literal["stream"] = "stream"


FeedPause = Annotated[Fixed | Jittered | Unguessable | Stream, Field(discriminator="kind")]


class Turns(Document):
    """When feeder and defender change roles.

    switch: on the call after `every_s` seconds, after `every` exchanges (each one: they attack in
    turn, and nothing is called), from round to round, by the drill itself (a passage that swaps),
    or never.
    """

    switch: Literal["time", "count", "rounds", "score", "never"] = "rounds"
    every_s: Annotated[Seconds, Field(ge=10, le=600)] = 20.0
    every: Annotated[int, Field(ge=1, le=100)] = 10


class PartnerRounds(Document):
    """The shape of a partner run.

    ends: a round ends by time, by exchanges, or by whichever is first.
    stances: as written, or both in turn from round to round. calls: what is called out; count: the
    number of each exchange, from one to `count_to` and again; check_feet: after each of these.
    """

    count: Annotated[int, Field(ge=1, le=40)] = 4
    ends: Literal["time", "count", "first"] = "time"
    duration_s: Annotated[Seconds, Field(ge=10, le=1800)] = 120.0
    exchanges: Annotated[int, Field(ge=1, le=500)] = 20
    rest_s: Annotated[Seconds, Field(le=600)] = 30.0
    stances: Literal["own", "in_turn"] = "own"
    count_to: Annotated[int, Field(ge=2, le=10)] = 10
    calls: Annotated[tuple[PartnerCall, ...], Field(max_length=6)] = ("time",)

    def lasting(self, length_s: float) -> PartnerRounds:
        """Rounds by time that fill `length_s`, rests included; longer ones, not too many."""
        count, each_s = rounds_within(length_s, self.duration_s, self.rest_s)
        return self.model_copy(update={"ends": "time", "duration_s": each_s, "count": count})


class TempoRule(Document):
    """How the tempo follows the pair, in the run.

    rule: by the coach's key, or up after `clean` clean exchanges in a row and down after `failed`
    that came through. step_bpm: one step.
    """

    rule: Literal["by_hand", "by_rule"] = "by_hand"
    clean: Annotated[int, Field(ge=2, le=40)] = 8
    failed: Annotated[int, Field(ge=1, le=10)] = 2
    step_bpm: Annotated[float, Field(ge=1, le=20, allow_inf_nan=False)] = 4.0


class PartnerRung(Document):
    """One step of the ladder. A rung may change any setting of the rung before.

    passages: keys of the passages an exchange may start with; empty: all that have a weight.
    tempo_bpm: beats a minute; None: the feeder's own time. metronome: the beat is heard.
    goal_bpm: the tempo at which this rung has done its work.
    pause: from the end of an exchange to the next one, if any; on a beat up to whole beats.
    answers: how far the defender goes. counter_share: how often the counter is asked.
    tell: the draw-back before an attack; mixed: now big, now trimmed.
    announced: the feeder says what comes. contact: no step lands harder than this.
    branches: whether the partner's choices are in it; without, an exchange is its first passage.
    eyes_closed: done by touch. gear: what both wear here; None: what the drill asks for.
    watch_s: how long the coach watches at a time; what is not tapped meanwhile is clean.
    """

    name: Line
    passages: Annotated[tuple[Key, ...], Field(max_length=40)] = ()
    tempo_bpm: Tempo | None = 60.0
    goal_bpm: Tempo | None = None
    metronome: bool = True
    climb: TempoRule = TempoRule()
    order: FeedOrder = RANDOM_FEEDS
    pause: FeedPause = Unguessable(least_s=1.5, mean_s=1.5, most_s=8)
    answers: Part = "exit"
    counter_share: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 1.0
    tell: Tell = "plain"
    announced: bool = False
    contact: Contact = "firm"
    branches: bool = True
    eyes_closed: bool = False
    gear: Annotated[tuple[Gear, ...] | None, Field(max_length=10)] = None
    turns: Turns = Turns()
    rounds: PartnerRounds = PartnerRounds()
    watch_s: Annotated[Seconds, Field(ge=5, le=300)] = 30.0

    @model_validator(mode="after")
    def _goal(self) -> Self:
        if self.tempo_bpm and self.goal_bpm and self.goal_bpm < self.tempo_bpm:
            raise ValueError("the goal tempo is slower than the tempo the rung starts with")
        return self

    @property
    def beat_s(self) -> float:
        """Seconds a beat: 60 s / BPM. The feeder's own time is counted as 60 beats a minute."""
        return 60.0 / (self.tempo_bpm or OWN_TIME_BPM)

    @property
    def fastest_bpm(self) -> float:
        """The fastest beat that this rung may come to."""
        return max(self.tempo_bpm or OWN_TIME_BPM, self.goal_bpm or 0.0)

    @property
    def alternates(self) -> bool:
        """Whether the two attack in turn, attack by attack."""
        return self.turns.switch == "count" and self.turns.every == 1

    def no_faster(self, bpm: float | None) -> PartnerRung:
        """This rung with no tempo above `bpm`; None: as it is."""
        if bpm is None or self.fastest_bpm <= bpm:
            return self
        tempo = self.tempo_bpm and min(self.tempo_bpm, bpm)
        return self.model_copy(update={"tempo_bpm": tempo, "goal_bpm": bpm})

    def capped(self, contact: Contact) -> Contact:
        """The gentler of `contact` and what this rung allows."""
        return min(contact, self.contact, key=CONTACTS.index)


OWN_TIME_BPM = 60.0
"""Beats a minute that the feeder's own time is counted in."""


class PartnerPlace(Document):
    """What a partner drill needs. gear: what both wear, and what is held."""

    people: Annotated[int, Field(ge=2, le=3)] = 2
    floor_m: Annotated[float, Field(ge=1, le=30, allow_inf_nan=False)] = 3.0
    gear: Annotated[tuple[Gear, ...], Field(max_length=10)] = ()


class PartnerDrill(Sheet):
    """A partner drill, whole.

    stances: the stances the drill is written for; in the others the defender's sides are mirrored.
    start: the band in which they stand before an exchange. start_m: the gap itself, m.
    counter_beat: the beat on which a counter lands at the latest, the attack being beat one.
    blocks: most blocks in a row without a counter. punches: most unanswered before a tie-up.
    early: an early counter is asked here; elsewhere it is one that jumped.
    target: share of attacks to be kept out: feed pace and what comes next follow it.
    grading: what the coach grades: the outcome of an attack, or the answer, where a choice or a pad
    is asked. third: what the third of three does meanwhile; empty: rests. forfeit: what a touch
    costs whom it hits, where both hunt.
    """

    form: Literal["partner"] = "partner"
    place: PartnerPlace = PartnerPlace()
    passages: Annotated[tuple[Passage, ...], Field(min_length=1, max_length=40)]
    rungs: Annotated[tuple[PartnerRung, ...], Field(min_length=1, max_length=20)]
    stances: Literal["same", "mirrored"] = "same"
    start: Start = "punch"
    start_m: Annotated[float | None, Field(ge=0.2, le=5, allow_inf_nan=False)] = None
    counter_beat: Annotated[float, Field(ge=1, le=4, multiple_of=0.5)] = 2.5
    blocks: Annotated[int, Field(ge=1, le=4)] = 4
    punches: Annotated[int, Field(ge=1, le=5)] = 5
    early: bool = False
    target: Annotated[float, Field(ge=0.5, le=0.95, allow_inf_nan=False)] = TARGET
    grading: Literal["outcome", "answer"] = "outcome"
    third: Annotated[Note, Field(max_length=80)] = ""
    forfeit: Annotated[Note, Field(max_length=80)] = ""

    def lasting(self, rung: int, length_s: float) -> PartnerDrill:
        """The drill with rounds of a rung, which counts from 1, that fill `length_s`."""
        if rung > len(self.rungs):
            return self
        here = self.rungs[rung - 1]
        longer = here.model_copy(update={"rounds": here.rounds.lasting(length_s)})
        return self.model_copy(
            update={"rungs": (*self.rungs[: rung - 1], longer, *self.rungs[rung:])}
        )

    def passage(self, key: str) -> Passage:
        """The passage with this key, as it is done when the choices behind it come: "pair" without
        any, "pair+overhand" with one. KeyError when there is none."""
        base, *came = key.split("+")
        return self.written(base).given(came)

    def written(self, key: str) -> Passage:
        """The passage as it stands in the document, with all of its choices; `key` with or without
        those that came. KeyError when there is none."""
        base = key.split("+")[0]
        for passage in self.passages:
            if passage.key == base:
                return passage
        raise KeyError(key)

    @property
    def lengths_s(self) -> list[float]:
        """About how long each rung takes, holds, pauses and rests included, in seconds."""
        return [self._about_s(rung) for rung in self.rungs]

    def _about_s(self, rung: PartnerRung) -> float:
        shape = rung.rounds
        counted_s = shape.exchanges * self._exchange_s(rung)
        round_s = {
            "time": shape.duration_s,
            "count": counted_s,
            "first": min(counted_s, shape.duration_s),
        }[shape.ends]
        return shape.count * round_s + (shape.count - 1) * shape.rest_s

    def _exchange_s(self, rung: PartnerRung) -> float:
        """About how long an exchange and the pause after it take: the partner's first choice is in
        it, a pause on a beat is half a beat longer."""
        beats = sum(
            share * self._beats(self.passage(key), rung) for key, share in self.shares(rung).items()
        )
        pause_s = 0.0
        if rung.pause.kind != "stream":
            pause_s = mean(rung.pause) + (rung.beat_s / 2 if rung.tempo_bpm else 0.0)
        return beats * rung.beat_s + pause_s

    def _beats(self, passage: Passage, rung: PartnerRung) -> float:
        total = sum(branch.share for branch in passage.then)
        if not rung.branches or not total:
            return passage.beats
        following = {other.key: other.beats for other in self.passages if other is not passage}
        return passage.beats + sum(
            branch.share / total * following.get(branch.to or "", 0.0) for branch in passage.then
        )

    def gear_on(self, rung: PartnerRung) -> tuple[Gear, ...]:
        """What is worn and held on a rung: its own gear, none included, else the drill's."""
        return self.place.gear if rung.gear is None else rung.gear

    @property
    def gear_throughout(self) -> tuple[Gear, ...]:
        """What is worn and held on every rung."""
        on_rungs = [self.gear_on(rung) for rung in self.rungs]
        return tuple(item for item in on_rungs[0] if all(item in gear for gear in on_rungs))

    def starts_on(self, rung: PartnerRung) -> tuple[Passage, ...]:
        """The passages that an exchange may start with on a rung."""
        wanted = set(rung.passages)
        return tuple(
            passage
            for passage in self.passages
            if passage.starts and (not wanted or passage.key in wanted)
        )

    def shares(self, rung: PartnerRung) -> dict[str, float]:
        """Share of exchanges that start with each passage, by key."""
        here = self.starts_on(rung)
        weighted = rung.order.kind in ("balanced", "free", "both")
        weights = {passage.key: passage.weight if weighted else 1.0 for passage in here}
        if rung.order.kind == "set" and rung.order.sequence:
            weights = {key: float(rung.order.sequence.count(key)) for key in weights}
        total = sum(weights.values())
        return {key: weight / total for key, weight in weights.items() if weight} if total else {}
