"""A partner drill done alone: the feeder's side becomes the cues, the defender's the answers."""

from __future__ import annotations

from collections.abc import Iterator
from typing import get_args

import networkx as nx

from hastatus.core.drill.chain_parts import parts
from hastatus.core.drill.cue import Attack, Call, Chain, Cue, Step, Within
from hastatus.core.drill.partner import Both, Free, PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Passage
from hastatus.core.drill.paths import graph
from hastatus.core.drill.repeats import MOST_ALIKE, cap_needed
from hastatus.core.drill.settings import Balanced, Order, RoundCall, Rounds, Unguessable
from hastatus.core.drill.solo import Drill, Place, Rung
from hastatus.core.trade.footwork import FOOTWORK_NAMES
from hastatus.core.trade.technique import OTHER_SIDE

_MOST_STEPS = 6
_MOST_CUES = 24
_GOAL = 0.7
"""The goal window as a share of the one it starts with."""


class NothingToAnswer(ValueError):
    """The defender does nothing that could be asked of somebody alone."""


def shadow(drill: PartnerDrill) -> Drill:
    """The solo drill in which every feed is called and answered in the air.

    A passage in which the defender does nothing is a catch cue. Raises `NothingToAnswer`.
    """
    cues = tuple(_cue(drill, passage, share) for passage, share in _reached(drill))[:_MOST_CUES]
    if not any(cue.asks for cue in cues):
        raise NothingToAnswer("the defender does nothing in this drill that could be done alone")
    catch = sum(cue.weight for cue in cues if cue.is_catch) / sum(cue.weight for cue in cues)
    known = tuple(cue.key for cue in cues)
    net = graph(drill)
    made = Drill(
        title=f"{drill.title}, alone"[:120],
        notes=drill.notes,
        look=drill.look,
        guard=drill.guard,
        warm_up=drill.warm_up,
        watch=drill.watch,
        level=drill.level,
        focus=drill.focus,
        voice=drill.voice,
        techniques=drill.techniques,
        place=Place(floor_m=drill.place.floor_m),
        cues=cues,
        rungs=tuple(_rung(rung, _here(net, rung, known), catch) for rung in drill.rungs),
    )
    return made.model_copy(update={"rungs": tuple(_repeating(made, rung) for rung in made.rungs)})


def _repeating(drill: Drill, rung: Rung) -> Rung:
    """The rung with a cap on repeats that leaves each cue its share."""
    order = rung.order
    largest = max(drill.shares(rung).values())
    if not isinstance(order, Balanced) or largest == 1.0:
        return rung
    cap = max(order.repeat_cap, cap_needed(largest) or MOST_ALIKE)
    return rung.model_copy(update={"order": order.model_copy(update={"repeat_cap": cap})})


def _reached(drill: PartnerDrill) -> Iterator[tuple[Passage, float]]:
    """The passages with something to see, with how often each comes, relative to the others."""
    often = {passage.key: passage.weight for passage in drill.passages}
    net = graph(drill)
    for passage in drill.passages:
        total = sum(branch.share for branch in passage.then)
        for branch in passage.then:
            if branch.to is not None and branch.to in net and branch.to != passage.key and total:
                often[branch.to] += often[passage.key] * branch.share / total
    for passage in drill.passages:
        fed = any(step.lane == "feeder" for step in passage.steps)
        if fed and often[passage.key] > 0:
            yield drill.passage(passage.key), round(min(100.0, often[passage.key]), 3) or 0.001


def _cue(drill: PartnerDrill, passage: Passage, weight: float) -> Cue:
    attacks = [
        step
        for step in passage.steps
        if step.lane == "feeder"
        and (technique := drill.technique(step.technique))
        and technique.use == "attack"
    ]
    attack = min(attacks, key=lambda step: step.beat) if attacks else None
    steps = tuple(_steps(drill, passage))[:_MOST_STEPS]
    return Cue(
        key=passage.key,
        stimulus=Call(words=passage.called[:60]),
        mark=passage.mark,
        asks=(Chain(steps=steps),) if steps else (),
        attack=Attack(technique=attack.technique, side=attack.side) if attack else None,
        weight=weight,
    )


def _steps(drill: PartnerDrill, passage: Passage) -> Iterator[Step]:
    """The defender's steps as a chain, in order of their beats."""
    own = [
        (step, part)
        for step, part in zip(passage.steps, parts(drill, passage), strict=True)
        if part is not None
    ]
    own.sort(key=lambda answer: answer[0].beat)
    turned = False  # alone, sides are those of the stance that one starts in
    for number, (step, part) in enumerate(own):
        turned = step.front == "rear" if step.front else turned
        after = step.beat - own[number - 1][0].beat if number else 0.0
        yield Step(
            technique=step.technique,
            side=OTHER_SIDE[step.side] if turned else step.side,
            part=part,
            footwork=_footwork(step),
            within=Within(value=after + 1, unit="beat") if number else None,
        )


def _footwork(step: PartnerStep) -> str | None:
    """The move that a step's footwork is in the catalogue of techniques."""
    if step.footwork == "hold":
        return None
    names = {"step_off_lead": "step_off", "step_off_rear": "step_off", "pivot": "turn_out",
             "cross_back": "step_back", "step_round": "step_back"}  # fmt: skip
    assert step.footwork in FOOTWORK_NAMES
    return names.get(step.footwork, step.footwork)


def _here(net: nx.DiGraph[str], rung: PartnerRung, known: tuple[str, ...]) -> tuple[str, ...]:
    """The cues that come on a rung: what it starts with, and what may follow; empty: all."""
    if not rung.passages:
        return ()
    reached = set(rung.passages)
    if rung.branches:
        reached = reached.union(*(nx.descendants(net, key) for key in rung.passages))
    return tuple(key for key in known if key in reached)


def _rung(rung: PartnerRung, cues: tuple[str, ...], catch: float) -> Rung:
    window_s = round(min(2.4, max(0.6, 1.5 * rung.beat_s)), 2)
    shape = rung.rounds
    order: Order = Balanced()
    if not isinstance(rung.order, Free | Both):
        order = rung.order
    return Rung(
        name=rung.name,
        window_s=window_s,
        goal_window_s=round(window_s * _GOAL, 2),
        cues=cues,
        chain=rung.answers,
        order=order,
        waiting=Unguessable() if rung.pause.kind == "stream" else rung.pause,
        catch_share=min(0.5, round(catch, 3)) if not rung.passages else 0.0,
        tempo_bpm=rung.tempo_bpm or 60.0,
        rounds=Rounds(
            count=shape.count,
            ends=shape.ends,
            duration_s=shape.duration_s,
            cues=shape.exchanges,
            rest_s=shape.rest_s,
            stances=shape.stances,
            calls=tuple(call for call in get_args(RoundCall) if call in shape.calls),
        ),
    )
