"""Plans: which cue comes when.

A plan has two layers. The *slots* of a round are drawn once from the seed: the cue, how long to
wait before it, whether it overlaps the one before. Laying them out with an answer window gives the
*placed cues* with their times. When the window changes in the run, the rest of the slots is laid
out again; nothing is drawn anew, so a plan and its revisions stay reproducible.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from hastatus.core.drill.checks import solo
from hastatus.core.drill.checks.fault import Fault, Unplannable
from hastatus.core.drill.guide import Said, said
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.fields import Document, Key, Line, Seconds
from hastatus.core.plan.prior import Prior
from hastatus.core.plan.slots import Slot, draw_slots
from hastatus.core.plan.timeline import PlacedCue, lay_out
from hastatus.core.trade.technique import Stance, other

PLANNER_VERSION = 2
AFTER_LAST_S = 1.0
"""A round that ends by count goes on this long after its last cue is over."""


class Spoken(Document):
    """A call of the round. from_end: `at_s` is counted back from the end of the round."""

    words: Line
    at_s: Seconds
    from_end: bool = False


class RoundPlan(Document):
    """One round: more slots than it needs at the start window, so that a faster tail never ends.

    duration_s: its length; of a round that ends by count, as planned so far.
    turn: which of the rung's turns it is, from 0.
    """

    number: Annotated[int, Field(ge=1)]
    stance: Stance
    turn: int = 0
    duration_s: Seconds
    slots: tuple[Slot, ...]
    cues: tuple[PlacedCue, ...]
    calls: tuple[Spoken, ...] = ()


Factor = Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)]


class RunPlan(Document):
    """The whole plan of a run, kept with it.

    rung: number of the rung, from 1. window_s: the window it starts with. prior: what is believed
    of the right one, where something is known. sound_only: lights are left out (photosensitivity).
    weights: factors on the weights of cues, by key. rehearsal: cue keys shown before round one.
    """

    schema_version: Literal[2] = 2
    planner_version: int = PLANNER_VERSION
    seed: Annotated[int, Field(ge=0, lt=2**53)]
    rung: Annotated[int, Field(ge=1)]
    window_s: Seconds
    prior: Prior | None = None
    stance: Stance
    sound_only: bool = False
    weights: Annotated[dict[Key, Factor], Field(default_factory=dict)]
    rehearsal: tuple[Key, ...]
    rounds: tuple[RoundPlan, ...]
    rest_s: Seconds = 0.0

    @model_validator(mode="before")
    @classmethod
    def _from_older(cls, document: Any) -> Any:
        """Plans of version 1 knew one stance, and their rounds no length of their own."""
        if not isinstance(document, Mapping) or document.get("schema_version") != 1:
            return document
        rounds = [
            {
                "stance": document.get("stance"),
                "duration_s": _last_close(round_document),
                **round_document,
            }
            for round_document in document.get("rounds", ())
        ]
        return {**document, "schema_version": 2, "rounds": rounds}

    @property
    def believed(self) -> Prior:
        """The prior; where nothing is known, a wide one about the window of the start."""
        return self.prior or Prior(window_s=self.window_s)

    @property
    def total_s(self) -> float:
        """Rounds and rests together, in seconds."""
        rests = (len(self.rounds) - 1) * self.rest_s
        return sum(round_plan.duration_s for round_plan in self.rounds) + rests


class PlanDocument(Document):
    """A drill and a plan of it, as `hastatus plan` writes them."""

    kind: Literal["hastatus-plan"] = "hastatus-plan"
    schema_version: Literal[1, 2] = 2
    drill: Drill
    plan: RunPlan


def _last_close(round_plan: Mapping[str, Any]) -> float:
    return max((cue["at_s"] + cue["window_s"] for cue in round_plan.get("cues", ())), default=0.0)


def plan_run(
    drill: Drill,
    *,
    seed: int,
    rung: int = 1,
    window_s: float | None = None,
    prior: Prior | None = None,
    stance: Stance = "left_lead",
    sound_only: bool = False,
    weights: Mapping[str, float] | None = None,
    rounds: int | None = None,
) -> RunPlan:
    """Plan every round of a run. The same arguments give the same plan.

    rung counts from 1 (IndexError when the drill has no such rung); window_s defaults to the
    rung's own and is held within the pace's bounds; prior: what is believed of it; weights: factors
    on the cues' own (see `adapt.weak_cues`), which only a balanced order goes by; rounds: how many,
    as many as the rung has by default. Raises
    `Unplannable` for a drill that has no plan, also when `sound_only` leaves no cue, and
    `flash_limit.UnsafePlan` when a rule that no setting lifts would be broken.
    """
    if not 1 <= rung <= len(drill.rungs):
        raise IndexError(f"the drill has {len(drill.rungs)} rungs, there is no rung {rung}")
    if sound_only:
        drill = without_lights(drill)
    solo.check(drill)
    factors = dict(weights or {}) if drill.rungs[rung - 1].order.kind == "balanced" else {}
    drill = drill.leaning(rung, factors)
    step = drill.rungs[rung - 1]
    start = min(max(window_s or step.window_s, drill.pace.least_s), drill.pace.most_s)
    planned = tuple(
        _plan_round(drill, step, (seed, number), start, stance)
        for number in range(1, (rounds or step.rounds.count) + 1)
    )
    return RunPlan(
        seed=seed,
        rung=rung,
        window_s=start,
        prior=prior,
        stance=stance,
        sound_only=sound_only,
        weights=factors,
        rehearsal=rehearsed(drill, step) if step.rounds.rehearse else (),
        rounds=planned,
        rest_s=step.rounds.rest_s,
    )


def _plan_round(
    drill: Drill,
    rung: Rung,
    seed: tuple[int, int],
    window_s: float,
    stance: Stance,
) -> RoundPlan:
    number = seed[1]
    turn = (number - 1) % max(1, len(rung.rounds.turns))
    slots = () if rung.guide else draw_slots(drill, rung, seed, turn)
    cues = tuple(lay_out(drill, rung, slots, window_s))
    in_turn = rung.rounds.stances == "in_turn" and number % 2 == 0
    return RoundPlan(
        number=number,
        stance=other(stance) if in_turn else stance,
        turn=turn,
        duration_s=duration(rung, cues),
        slots=slots,
        cues=cues,
        calls=_calls(rung, number),
    )


def rehearsed(drill: Drill, rung: Rung) -> tuple[Key, ...]:
    """The cues of a rung, over all turns, in the drill's order."""
    turns = range(max(1, len(rung.rounds.turns)))
    shown = {key for turn in turns for key in drill.shares(rung, turn)}
    return tuple(cue.key for cue in drill.cues if cue.key in shown)


def duration(rung: Rung, cues: tuple[PlacedCue, ...]) -> float:
    """Length of a round in seconds, laid out as `cues`."""
    rounds = rung.rounds
    if rounds.ends == "time":
        return rounds.duration_s
    done = max((cue.closes_s for cue in cues), default=0.0) + AFTER_LAST_S
    if rounds.ends == "first" and len(cues) < rounds.cues:
        return rounds.duration_s
    return round(min(rounds.most_s, done), 3)


def _calls(rung: Rung, number: int) -> tuple[Spoken, ...]:
    rounds = rung.rounds
    calls = [Spoken(words=line.words, at_s=line.at_s) for line in _guided(rung)]
    changes = len(rounds.turns) > 1 or rounds.stances == "in_turn"
    if "switch" in rounds.calls and changes and number > 1:
        calls.append(Spoken(words="switch", at_s=0.0))
    if "ten_seconds" in rounds.calls and rounds.ends == "time" and rounds.duration_s >= 20:
        calls.append(Spoken(words="ten seconds", at_s=10.0, from_end=True))
    if rung.guide and rung.guide.kind == "hold":
        calls.append(Spoken(words=rung.guide.end, at_s=0.0, from_end=True))
    elif "time" in rounds.calls:
        calls.append(Spoken(words="time", at_s=0.0, from_end=True))
    return tuple(calls)


def _guided(rung: Rung) -> Iterator[Said]:
    if rung.guide:
        yield from said(rung.guide, rung.rounds.duration_s)


def without_lights(drill: Drill) -> Drill:
    """The drill with its sounds only; `Unplannable` when nothing that asks is left."""
    cues = tuple(cue for cue in drill.cues if cue.channel == "hear")
    if all(cue.is_catch for cue in cues):
        raise Unplannable(
            [
                Fault(
                    where="cues",
                    what="this drill has no sound that asks for an answer, so it needs its lights",
                )
            ]
        )
    kept = {cue.key for cue in cues}
    catch = any(cue.is_catch for cue in cues)
    rungs = tuple(_heard(rung, kept, catch) for rung in drill.rungs)
    return drill.model_copy(update={"cues": cues, "rungs": rungs})


def _heard(rung: Rung, kept: set[str], catch: bool) -> Rung:
    def only(keys: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(key for key in keys if key in kept)

    turns = tuple(turn for turn in map(only, rung.rounds.turns) if turn)
    order = rung.order
    if order.kind == "set":
        order = order.model_copy(update={"sequence": only(order.sequence)})
    return rung.model_copy(
        update={
            "overlap": None,
            "catch_share": rung.catch_share if catch else 0.0,
            "cues": only(rung.cues),
            "weights": {key: weight for key, weight in rung.weights.items() if key in kept},
            "order": order,
            "rounds": rung.rounds.model_copy(update={"turns": turns}),
        }
    )
