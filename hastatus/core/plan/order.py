"""The order of cues: set, rotating, balanced with a cap on repeats, first-order balanced."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from functools import lru_cache
from itertools import islice

import numpy as np

from hastatus.core.drill.settings import Balanced, FirstOrder, Order, Rotating, SetOrder


@dataclass(slots=True)
class BalancedOrder:
    """Draws cues in bags: in each whole bag every cue has its share, to within one.

    shares: share of each cue by key, summing to one.
    bag: cues in a bag.
    repeat_cap: the same cue comes at most this many times running, across bags too.
    odds: for each cue taken, the chance of each by key as somebody knows it who counted all, if a
    list.

    A share that does not divide the bag evenly is carried over, so that over many bags it holds
    exactly. Within a bag a cue is drawn in proportion to what is left of it.
    """

    shares: Mapping[str, float]
    bag: int
    repeat_cap: int
    rng: np.random.Generator
    odds: list[dict[str, float]] | None = None
    _stream: Iterator[str] = field(init=False)

    def __post_init__(self) -> None:
        self._stream = self._draws()

    def take(self, count: int) -> list[str]:
        """The next `count` cue keys."""
        return list(islice(self._stream, count))

    def _draws(self) -> Iterator[str]:
        # Cues are places in `keys` here: an edit on the bench draws thousands of them.
        keys, cap, odds = list(self.shares), self.repeat_cap, self.odds
        carry = [0.0] * len(keys)
        last, run = -1, 0
        while True:
            left, carry = self._filled(carry)
            urn = [index for index, count in enumerate(left) for _ in range(count)]
            uniforms = self.rng.random(len(urn)).tolist()
            while urn:
                open_ = urn
                most = max(left)
                if most > cap * (len(urn) - 1 - most):
                    # Not every choice leaves a bag that the cap allows, so each is tried.
                    open_ = self._choices(urn, left, last, run)
                    if not open_:
                        break  # only the cue at its cap is left: start the next bag
                elif run >= cap and left[last]:
                    open_ = [index for index in urn if index != last]
                if odds is not None:
                    counted = Counter(open_).items()
                    odds.append({keys[index]: count / len(open_) for index, count in counted})
                place = open_[int(uniforms.pop() * len(open_))]
                urn.remove(place)
                left[place] -= 1
                run = run + 1 if place == last else 1
                last = place
                yield keys[place]

    def _choices(self, urn: list[int], left: list[int], last: int, run: int) -> list[int]:
        """The part of the urn that may be drawn from now; what leaves a way, if anything does."""
        capped = last if run >= self.repeat_cap else -1
        ways = {
            index
            for index in set(urn)
            if index != capped and self._leaves_a_way(left, index, run + 1 if index == last else 1)
        }
        return [index for index in urn if index in ways] or [
            index for index in urn if index != capped
        ]

    def _leaves_a_way(self, left: list[int], choice: int, run: int) -> bool:
        """Whether the rest of the bag can be laid out under the cap after `choice`, the `run`th."""
        total = sum(left) - 1
        for index, count in enumerate(left):
            after = count - (index == choice)
            head = self.repeat_cap - run if index == choice else self.repeat_cap
            if after > self.repeat_cap * (total - after) + head:
                return False
        return True

    def _filled(self, carry: list[float]) -> tuple[list[int], list[float]]:
        """How many of each cue the next bag holds, and what of their shares is carried over."""
        owed = [
            before + share * self.bag
            for before, share in zip(carry, self.shares.values(), strict=True)
        ]
        left = [max(0, int(value)) for value in owed]
        # Ties are broken at random, or the first cue of the drill would always come more often.
        ties = self.rng.random(len(owed)).tolist()
        remainders = [
            (round(value - whole, 9), tie)
            for value, whole, tie in zip(owed, left, ties, strict=True)
        ]
        by_remainder = sorted(range(len(owed)), key=remainders.__getitem__, reverse=True)
        for index in by_remainder[: max(0, self.bag - sum(left))]:
            left[index] += 1
        return left, [value - whole for value, whole in zip(owed, left, strict=True)]


@dataclass(slots=True)
class PairOrder:
    """First-order balanced: a random walk that uses each ordered pair once, over and over.

    The walk is an Eulerian circuit of the complete graph with loops (Hierholzer 1873, from
    memory), so after every cue each cue follows equally often.
    """

    keys: Sequence[str]
    rng: np.random.Generator
    best: list[float] = field(default_factory=list)
    _ahead: list[str] = field(default_factory=list)
    _left: dict[str, list[str]] = field(default_factory=dict)
    _last: str | None = None

    def take(self, count: int) -> list[str]:
        """The next `count` cue keys."""
        taken: list[str] = []
        while len(taken) < count:
            if not self._ahead:
                self._walk()
            taken.append(self._ahead.pop())
            self._note(taken[-1])
        return taken

    def _walk(self) -> None:
        """One more circuit, from where the last one ended."""
        start = self._last or self.keys[int(self.rng.integers(len(self.keys)))]
        edges = {
            key: [self.keys[index] for index in self.rng.permutation(len(self.keys))]
            for key in self.keys
        }
        self._left = {key: list(following) for key, following in edges.items()}
        path, circuit = [start], list[str]()
        while path:
            following = edges[path[-1]]
            if following:
                path.append(following.pop())
            else:
                circuit.append(path.pop())
        # The circuit is found backward; a later one begins with the cue the one before ended on.
        self._ahead = circuit if self._last is None else circuit[:-1]

    def _note(self, key: str) -> None:
        if self._last is None:
            self.best.append(1 / len(self.keys))
        else:
            left = self._left[self._last]
            self.best.append(1 / len(left))
            left.remove(key)
        self._last = key


def cycle(order: SetOrder | Rotating, keys: Sequence[str], count: int) -> list[str]:
    """The next `count` cues of an order without chance, over the cues `keys`."""
    if isinstance(order, SetOrder):
        pattern = [key for key in order.sequence if key in keys] or list(keys)
    else:
        size = len(keys)
        pattern = [keys[(turn + index) % size] for turn in range(size) for index in range(size)]
    return [pattern[index % len(pattern)] for index in range(count)]


_ORDER = 1
"""Keeps the stream of the order apart from all else that is drawn with the same seed."""
_AHEAD = 256
"""Orders are drawn in multiples of this."""


def draw_order(
    order: Order,
    shares: Mapping[str, float],
    catch: frozenset[str],
    count: int,
    seed: Sequence[int],
) -> Sequence[str]:
    """`count` cue keys, drawn from `seed` in a stream of their own.

    shares: share of each cue by key. catch: which of them ask for nothing; where the order is not
    balanced by shares they are strewn in at random, never two running.

    A longer draw begins with the shorter ones: a round keeps its order while its waits, its
    windows or its length are edited.
    """
    drawn = -(-count // _AHEAD) * _AHEAD
    return _drawn(order, tuple(shares.items()), catch, drawn, tuple(seed))[:count]


@lru_cache(maxsize=128)  # an edit on the bench that leaves the order alone finds it here
def _drawn(
    order: Order,
    shares: tuple[tuple[str, float], ...],
    catch: frozenset[str],
    count: int,
    seed: tuple[int, ...],
) -> tuple[str, ...]:
    rng = np.random.default_rng([*seed, _ORDER])
    if isinstance(order, Balanced) and len(shares) > 1:
        return tuple(BalancedOrder(dict(shares), order.bag, order.repeat_cap, rng).take(count))
    return tuple(counted_order(order, dict(shares), catch, count, rng)[0])


def counted_order(
    order: Order,
    shares: Mapping[str, float],
    catch: frozenset[str],
    count: int,
    rng: np.random.Generator,
) -> tuple[list[str], list[float]]:
    """`draw_order`, and for each cue how often somebody who counted all would have guessed it."""
    if len(shares) == 1:
        return list(shares) * count, [1.0] * count
    if isinstance(order, Balanced):
        odds: list[dict[str, float]] = []
        taken = BalancedOrder(shares, order.bag, order.repeat_cap, rng, odds).take(count)
        return taken, [max(odd.values()) for odd in odds[:count]]
    if isinstance(order, SetOrder) and order.sequence:
        return cycle(order, list(shares), count), [1.0] * count
    asking = [key for key in shares if key not in catch]
    held = {key: share for key, share in shares.items() if key in catch}
    if isinstance(order, FirstOrder):
        pairs = PairOrder(asking, rng.spawn(1)[0])
        keys, best = pairs.take(count), pairs.best
    else:
        keys, best = cycle(order, asking, count), [1.0] * count
    return _strewn(keys, best, held, rng) if held else (keys, best)


def _strewn(
    keys: list[str], best: list[float], held: Mapping[str, float], rng: np.random.Generator
) -> tuple[list[str], list[float]]:
    """`keys` with catch cues put in between at their shares, never two running; same length."""
    share = sum(held.values())
    # Never two running, so after an asking cue the chance is higher by what is skipped.
    chance = share / (1 - share)
    names = list(held)
    portions = np.array([held[name] for name in names]) / share
    mixed: list[str] = []
    guesses: list[float] = []
    after_catch = True
    for key, guess in zip(keys, best, strict=True):
        if not after_catch and rng.random() < chance:
            mixed.append(names[int(rng.choice(len(names), p=portions))])
            guesses.append(max(chance * float(portions.max()), (1 - chance) * guess))
            after_catch = True
        odds = 1.0 if after_catch else 1 - chance
        mixed.append(key)
        guesses.append(max(odds * guess, (1 - odds) * float(portions.max())))
        after_catch = False
        if len(mixed) >= len(keys):
            break
    return mixed[: len(keys)], guesses[: len(keys)]


def overlapping(pairs: Sequence[int], wanted: int, rng: np.random.Generator) -> list[int]:
    """Which of the places in `pairs` overlap the one before, as drawn; no cue is in two pairs."""
    taken: dict[int, None] = {}
    for number in rng.permutation(pairs).tolist() if pairs else []:
        if len(taken) == wanted:
            break
        if number - 1 not in taken and number + 1 not in taken:
            taken[number] = None
    return list(taken)
