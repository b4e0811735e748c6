"""Who works with whom: everybody in pairs, and in rings of three where that leaves nobody alone.

Of all ways to pair as many as may be paired, one whose costs add up to the least: minimum-weight
matching (Edmonds 1965, Canadian Journal of Mathematics 17:449, memory; networkx's algorithm).
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations

import networkx as nx

from hastatus.core.hall.attendee import Attendee
from hastatus.core.hall.fit import Wishes, fit, may

Members = tuple[str, ...]
_EXACT = 9
"""Up to so many people each choice of a ring is tried; with more a good one is improved."""


@dataclass(frozen=True, slots=True)
class Group:
    """Who works together: two, or a ring of three. but: what speaks against it, in words."""

    members: Members
    but: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Grouping:
    """Everybody's place. alone: who has nobody, and why, in words."""

    groups: tuple[Group, ...]
    alone: tuple[tuple[str, str], ...]


def grouping(people: Sequence[Attendee], wishes: Wishes, kept: Iterable[Members] = ()) -> Grouping:
    """Put everybody together who may be.

    kept: groups that stay as they are, as far as all of them are here and may be together; only
    the others are put together anew, an odd number of three and more with a ring of their own. Who
    is left over then joins a kept pair, or takes one of a kept ring, whichever costs less.
    """
    table = _Table(people, wishes)
    staying = [members for members in kept if table.holds(members)]
    settled = {key for members in staying for key in members}
    free = [person.key for person in people if not person.off and person.key not in settled]
    groups, left = _with_rings(free, table)
    groups = staying + groups
    for key in list(left):
        if (joined := _join(key, groups, table)) is not None:
            groups = joined
            left.remove(key)
    return Grouping(
        tuple(Group(tuple(members), table.but(members)) for members in groups),
        tuple(_alone(people, left)),
    )


def _alone(people: Sequence[Attendee], left: Sequence[str]) -> Iterable[tuple[str, str]]:
    for person in people:
        if person.off:
            yield person.key, person.off
        elif person.key in left:
            yield person.key, "there is nobody left to work with"


class _Table:
    """What each two would cost; None where they may not be together."""

    def __init__(self, people: Sequence[Attendee], wishes: Wishes) -> None:
        self._cost: dict[frozenset[str], float] = {}
        self._but: dict[frozenset[str], tuple[str, ...]] = {}
        self.here = {person.key for person in people}
        for one, other in combinations(people, 2):
            if may(one, other, wishes):
                pair = frozenset((one.key, other.key))
                match = fit(one, other, wishes)
                self._cost[pair], self._but[pair] = match.cost, match.but

    def cost(self, members: Iterable[str]) -> float:
        """Of all twos in a group; infinite where two may not be together."""
        pairs = map(frozenset, combinations(members, 2))
        return sum(self._cost.get(pair, float("inf")) for pair in pairs)

    def holds(self, members: Members) -> bool:
        """Whether these may still work together."""
        return len(members) > 1 and self.cost(members) < float("inf")

    def but(self, members: Iterable[str]) -> tuple[str, ...]:
        """What speaks against a group, each once."""
        pairs = map(frozenset, combinations(members, 2))
        return tuple(dict.fromkeys(words for pair in pairs for words in self._but.get(pair, ())))

    def among(self, keys: Iterable[str]) -> Iterable[tuple[str, str, float]]:
        """Each two of these that may be together, with the cost."""
        for one, other in combinations(keys, 2):
            cost = self._cost.get(frozenset((one, other)))
            if cost is not None:
                yield one, other, cost


def _pairs(keys: Sequence[str], table: _Table) -> tuple[list[Members], list[str]]:
    """The cheapest pairs of as many as can be paired, and who is left over."""
    graph: nx.Graph[str] = nx.Graph()
    graph.add_nodes_from(keys)
    graph.add_weighted_edges_from((one, other, -cost) for one, other, cost in table.among(keys))
    matching = nx.max_weight_matching(graph, maxcardinality=True)
    place = {key: index for index, key in enumerate(keys)}
    pairs = [tuple(sorted(pair, key=place.__getitem__)) for pair in matching]
    paired = {key for pair in pairs for key in pair}
    return sorted(pairs, key=lambda pair: place[pair[0]]), [k for k in keys if k not in paired]


def _with_rings(keys: Sequence[str], table: _Table) -> tuple[list[Members], list[str]]:
    """Pairs and one ring of three, where an odd number is to be put together."""
    if len(keys) % 2 == 0 or len(keys) < 3:
        return _pairs(keys, table)
    if len(keys) <= _EXACT:
        return _best_ring(keys, table)
    pairs, left = _pairs(keys, table)
    groups = _join(left[0], pairs, table)
    return (_improved(groups, table), left[1:]) if groups else (pairs, left)


def _best_ring(keys: Sequence[str], table: _Table) -> tuple[list[Members], list[str]]:
    """Every ring is tried; the one with which nobody is alone, and all of it costs least."""

    def tried(ring: Members) -> tuple[list[Members], list[str]]:
        pairs, left = _pairs([key for key in keys if key not in ring], table)
        return [*pairs, ring], left

    rings = [ring for ring in combinations(keys, 3) if table.holds(ring)]
    if not rings:
        return _pairs(keys, table)
    return min(map(tried, rings), key=lambda found: (len(found[1]), _total(found[0], table)))


def _total(groups: Iterable[Members], table: _Table) -> float:
    return sum(table.cost(members) for members in groups)


def _join(key: str, groups: list[Members], table: _Table) -> list[Members] | None:
    """The groups with one more in them, at the least cost more; None where none can take them in.

    They become the third of a pair, or work with one of a ring, whose other two stay together.
    """
    ways: list[tuple[float, int, list[Members]]] = []
    for index, members in enumerate(groups):
        if len(members) == 2:
            ring = (*members, key)
            ways.append((table.cost(ring) - table.cost(members), index, [ring]))
            continue
        for taken in members:
            stay = tuple(one for one in members if one != taken)
            cost = table.cost(stay) + table.cost((taken, key)) - table.cost(members)
            ways.append((cost, index, [stay, (taken, key)]))
    cost, index, changed = min(ways, key=lambda way: way[0], default=(float("inf"), 0, []))
    return None if cost == float("inf") else [*groups[:index], *changed, *groups[index + 1 :]]


def _improved(groups: list[Members], table: _Table) -> list[Members]:
    """Exchange one of a ring for one of a pair as long as that makes it cheaper."""
    while (found := next(_exchanges(groups, table), None)) is not None:
        groups = found
    return groups


def _exchanges(groups: list[Members], table: _Table) -> Iterator[list[Members]]:
    """The groups after each exchange that is worth it."""
    for ring in (members for members in groups if len(members) == 3):
        for pair in (members for members in groups if len(members) == 2):
            before = table.cost(ring) + table.cost(pair)
            for out in ring:
                for into in pair:
                    swapped = (
                        tuple(into if one == out else one for one in ring),
                        tuple(out if one == into else one for one in pair),
                    )
                    if sum(map(table.cost, swapped)) < before - 1e-9:
                        rest = [one for one in groups if one not in (ring, pair)]
                        yield [*rest, swapped[1], swapped[0]]
