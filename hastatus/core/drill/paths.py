"""Following a drill from passage to passage.

A *walk* is one way through: passages one after the other with the steps of both people on absolute
beats. Checks and the gap line are made on a few walks that together use every branch.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import networkx as nx

from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.partner_step import Lane, PartnerStep
from hastatus.core.drill.passage import Branch, Passage
from hastatus.core.trade.pair import Person
from hastatus.core.trade.technique import OTHER_SIDE, Side, Technique


@dataclass(frozen=True, slots=True)
class Walked:
    """One step on a walk.

    index: its place in the passage as it is written. beat: absolute, from 1. person: who does it.
    turned: the other foot is in front than before the exchange once this step is made;
    turned_before: as it begins.
    """

    passage: Passage
    index: int
    step: PartnerStep
    technique: Technique
    beat: float
    person: Person
    turned: bool = False
    turned_before: bool = False

    @property
    def written(self) -> str:
        """The key of its passage as it stands in the document."""
        return self.passage.key.split("+")[0]

    @property
    def lane(self) -> Lane:
        """The role it belongs to."""
        return self.step.lane

    @property
    def side(self) -> Side:
        """Which side does it, as it is named where the feet stand by then."""
        return self.step.side

    @property
    def first_side(self) -> Side:
        """Which side of the body does it: lead or rear as it was before the exchange."""
        return OTHER_SIDE[self.side] if self.turned else self.side

    @property
    def first_foot(self) -> Side | None:
        """The foot that moves, as it was named before the exchange; None: none is named."""
        foot = self.step.foot
        return OTHER_SIDE[foot] if foot and self.turned_before else foot

    @property
    def strikes(self) -> bool:
        """Whether it is an attack or a counter."""
        return self.technique.strikes


@dataclass(frozen=True, slots=True)
class Walk:
    """One way through a drill. steps: in order of beats, the feeder first. beats: its length."""

    passages: tuple[Passage, ...]
    given: tuple[Branch | None, ...]
    steps: tuple[Walked, ...]
    beats: float


def graph(drill: PartnerDrill) -> nx.DiGraph[str]:
    """Passages and the branches between them that have a share and a passage to go to."""
    edges: nx.DiGraph[str] = nx.DiGraph()
    edges.add_nodes_from(passage.key for passage in drill.passages)
    for passage in drill.passages:
        for branch in passage.then:
            if branch.share > 0 and branch.to is not None and branch.to in edges:
                edges.add_edge(passage.key, branch.to)
    return edges


def ends(passage: Passage) -> bool:
    """Whether an exchange may be over with it."""
    return not passage.then or any(
        branch.to is None and branch.share > 0 for branch in passage.then
    )


def endless(drill: PartnerDrill) -> frozenset[str]:
    """Keys of the passages from which an exchange never comes to its end."""
    net = graph(drill)
    leaving = {passage.key for passage in drill.passages if ends(passage)}
    out = leaving.union(*(nx.ancestors(net, key) for key in leaving))
    return frozenset(set(net) - out)


def walks(drill: PartnerDrill, rung: PartnerRung | None = None) -> list[Walk]:
    """Walks that start where an exchange may and together use every branch that can be come to, and
    every choice in a passage, alone and together.

    On a rung without branches: its first passages alone, and nothing is chosen in them.
    """
    starts = (
        drill.starts_on(rung) if rung else [passage for passage in drill.passages if passage.starts]
    )
    if rung and not rung.branches:
        return [follow(drill, [start.key]) for start in starts]
    paths = _paths(drill, starts)
    # A walk that another one goes on from adds nothing, but for where it may also end.
    begun = {tuple(path[:count]) for path in paths for count in range(1, len(path))}
    ways = [path for path in paths if path not in begun]
    return [follow(drill, way) for path in ways for way in _with_choices(drill, path)]


def _with_choices(drill: PartnerDrill, path: Sequence[str]) -> list[tuple[str, ...]]:
    """A path without any choice, with each one alone, and with all of them."""
    variants = [tuple(path)]
    every = list(path)
    for place, key in enumerate(path):
        choices = [choice.key for choice in drill.passage(key).choices if choice.share > 0]
        for choice in choices:
            variants.append((*path[:place], f"{key}+{choice}", *path[place + 1 :]))
        every[place] = "+".join([key, *choices])
    return list(dict.fromkeys([*variants, tuple(every)]))


def _paths(
    drill: PartnerDrill, starts: tuple[Passage, ...] | list[Passage]
) -> list[tuple[str, ...]]:
    """For each branch the shortest way from a start through it, and each start by itself."""
    net = graph(drill)
    shortest: dict[str, tuple[str, ...]] = {start.key: (start.key,) for start in starts}
    waiting = list(shortest)
    while waiting:
        key = waiting.pop(0)
        for following in net.successors(key):
            if following not in shortest:
                shortest[following] = (*shortest[key], following)
                waiting.append(following)
    through = [(*shortest[key], following) for key in shortest for following in net.successors(key)]
    return [*dict.fromkeys([(start.key,) for start in starts]), *dict.fromkeys(through)]


def follow(drill: PartnerDrill, keys: Sequence[str]) -> Walk:
    """The walk along these passages."""
    return _walk(drill, [drill.passage(key) for key in keys])


def _walk(drill: PartnerDrill, passages: list[Passage]) -> Walk:
    steps: list[Walked] = []
    given: list[Branch | None] = []
    offset, swapped = 0.0, False
    for number, passage in enumerate(passages):
        steps += _placed(drill, passage, offset, swapped)
        after = passages[number + 1].key if number + 1 < len(passages) else None
        following = after and after.split("+")[0]
        given.append(next((branch for branch in passage.then if branch.to == following), None))
        offset += passage.beats
        swapped = swapped != passage.swap
    steps.sort(key=lambda step: (step.beat, step.lane == "defender"))
    return Walk(tuple(passages), tuple(given), tuple(_turned(steps)), offset)


def _turned(steps: list[Walked]) -> Iterator[Walked]:
    """The steps, each with whether its person stands in the other stance by then."""
    turned: dict[Person, bool] = {"a": False, "b": False}
    for step in steps:
        before = turned[step.person]
        if step.step.front:
            turned[step.person] = step.step.front == "rear"
        yield replace(step, turned=turned[step.person], turned_before=before)


def _placed(
    drill: PartnerDrill, passage: Passage, offset: float, swapped: bool
) -> Iterator[Walked]:
    came = passage.key.split("+")[1:]
    for index, step in enumerate(drill.written(passage.key).steps):
        if step.when is not None and step.when not in came:
            continue
        technique = drill.technique(step.technique)
        if technique is None:
            continue  # `find` has said so
        person: Person = "a" if (step.lane == "feeder") != swapped else "b"
        yield Walked(passage, index, step, technique, step.beat + offset, person)
