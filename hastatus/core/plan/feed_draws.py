"""Everything that chance decides in one round of feeds, each from a stream of its own."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from math import ceil
from typing import Literal
from zlib import crc32

import numpy as np

from hastatus.core.drill.foreperiod import draw
from hastatus.core.drill.pair_facts import PairFacts, depends_on_pair, resolved
from hastatus.core.drill.partner import RANDOM_FEEDS, Both, Free, PartnerDrill, PartnerRung
from hastatus.core.drill.passage import Choice, Passage
from hastatus.core.drill.settings import Balanced
from hastatus.core.plan.order import BalancedOrder, cycle

_BRANCHES = RANDOM_FEEDS
_LOOSER = 1.5
"""A share that needs a run as long as the cap at every turn would be no draw: caps are longer."""


FactsOf = Callable[[int, int], PairFacts]
"""What is known of a feeder and a defender, by their numbers."""


@dataclass(slots=True)
class Draws:
    """The draws of one round.

    seed: of the run, and the round's number. endless: passages whose exchange never ends. facts:
    of whoever feeds and defends; None: nothing is known.
    """

    drill: PartnerDrill
    rung: PartnerRung
    seed: tuple[int, ...]
    endless: frozenset[str]
    facts: FactsOf | None = None
    _started: int = 0
    _shares: dict[str, float] = field(init=False)
    _orders: dict[str, BalancedOrder] = field(default_factory=dict)
    _rng: np.random.Generator = field(init=False)
    _written: PartnerDrill = field(init=False)
    _pair: str = ""

    def __post_init__(self) -> None:
        self._rng = self._stream("pause")
        self._written = self.drill
        self._shares = self.drill.shares(self.rung)

    def turn(self, feeder: int, defender: int) -> None:
        """A turn begins: what is a fact of these two is not drawn."""
        if self.facts and depends_on_pair(self._written):
            self.drill = resolved(self._written, self.facts(feeder, defender))
            self._pair = f"{feeder} {defender} "

    def start(self) -> Passage:
        """The passage that the next exchange starts with."""
        order = self.rung.order
        assert not isinstance(order, Free | Both)
        self._started += 1
        if len(self._shares) == 1:
            key = next(iter(self._shares))
        elif isinstance(order, Balanced):
            key = self._next("start", self._shares, order)
        else:
            key = cycle(order, list(self._shares), self._started)[-1]
        return self.drill.written(key)

    def chosen(self, passage: Passage) -> str:
        """The passage's key with the choices that come in it this time, if the rung has any."""
        if not self.rung.branches:
            return passage.key
        came = [choice.key for choice in passage.choices if self._comes(passage, choice)]
        return "+".join([passage.key, *came])

    def _comes(self, passage: Passage, choice: Choice) -> bool:
        if choice.share in (0, 1):
            return choice.share == 1
        shares = {"yes": choice.share, "no": 1 - choice.share}
        return self._next(f"{choice.key} in {passage.key}", shares) == "yes"

    def branch(self, passage: Passage) -> int:
        """Which of its branches the partner gives, by its place."""
        given = {index: branch.share for index, branch in enumerate(passage.then) if branch.share}
        if len(given) == 1:
            return next(iter(given))
        total = sum(given.values())
        shares = {str(index): share / total for index, share in given.items()}
        return int(self._next(f"{self._pair}after {passage.key}", shares))

    def tell(self) -> Literal["big", "plain", "trimmed"]:
        """How big the draw-back is."""
        if self.rung.tell != "mixed":
            return self.rung.tell
        return "big" if self._next("tell", {"big": 0.5, "trimmed": 0.5}) == "big" else "trimmed"

    def counter(self, without: int) -> bool:
        """Whether the counter is asked; never more exchanges in a row without than blocks."""
        share = self.rung.counter_share
        if self.rung.answers == "answer" or share == 0:
            return False
        if share == 1 or without >= self.drill.blocks:
            return True
        return self._next("counter", {"with": share, "without": 1 - share}) == "with"

    def pause_s(self) -> float:
        """The pause after an exchange in seconds, on a kept beat whole beats; 0 in a stream."""
        pause = self.rung.pause
        if pause.kind == "stream":
            return 0.0
        wait = float(draw(pause, 1, self._rng)[0])
        beat = self.rung.beat_s
        return ceil(wait / beat - 1e-9) * beat if self.rung.tempo_bpm else wait

    def _next(self, name: str, shares: Mapping[str, float], order: Balanced | None = None) -> str:
        """The next of a choice of its own. order: as the rung has it; None: by the shares alone."""
        if name not in self._orders:
            rng = self._stream(name)
            bag, cap = (order.bag, order.repeat_cap) if order else (_BRANCHES.bag, _cap(shares))
            self._orders[name] = BalancedOrder(shares, bag, cap, rng)
        return self._orders[name].take(1)[0]

    def _stream(self, name: str) -> np.random.Generator:
        return np.random.default_rng([*self.seed, crc32(name.encode())])


def _cap(shares: Mapping[str, float]) -> int:
    """How often one of a choice may come in a row, so that each has the share it is promised."""
    largest = max(shares.values())
    if largest >= 1:
        return _BRANCHES.repeat_cap
    return max(_BRANCHES.repeat_cap, ceil(_LOOSER * largest / (1 - largest)))
