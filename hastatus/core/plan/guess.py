"""What could be guessed of an order by somebody who knows the last cue, or counts all of them."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise

import numpy as np

from hastatus.core.drill.partner import Both, Free, PartnerDrill, PartnerRung
from hastatus.core.drill.settings import Balanced, Order
from hastatus.core.plan.order import BalancedOrder, counted_order, overlapping

GUESSED_OVER = 2000
"""Cues that the figures are taken from."""


@dataclass(frozen=True, slots=True)
class Guesses:
    """How often the next cue would be guessed, as shares from 0 to 1.

    last: by somebody who knew the last cue. history: by somebody who had counted all of them.
    """

    last: float
    history: float


@dataclass(frozen=True, slots=True)
class Overlapping:
    """Cues that may follow the one before at once, which by itself tells something of the next.

    share: of all cues. channels: the channel of each cue that asks for something, by key; only a
    cue of another channel follows at once.
    """

    share: float
    channels: tuple[tuple[str, str], ...]


def guesses(
    order: Order,
    shares: Mapping[str, float],
    catch: frozenset[str],
    overlap: Overlapping | None = None,
) -> Guesses:
    """What could be guessed of an order, from a long draw of it with a seed of its own."""
    return _guesses(order, tuple(shares.items()), catch, overlap)


def predictable(drill: PartnerDrill, rung: PartnerRung) -> float | None:
    """How often a defender who counts all exchanges would know the next one, as a share from 0 to
    1; None where the feeder chooses."""
    if isinstance(rung.order, Free | Both):
        return None
    shares = drill.shares(rung)
    return guesses(rung.order, shares, frozenset()).history if shares else None


@lru_cache(maxsize=512)
def _guesses(
    order: Order,
    shares: tuple[tuple[str, float], ...],
    catch: frozenset[str],
    overlap: Overlapping | None,
) -> Guesses:
    rng = np.random.default_rng(28)
    if overlap is not None and isinstance(order, Balanced) and len(shares) > 1:
        return _guesses_overlapping(order, dict(shares), overlap, rng)
    keys, best = counted_order(order, dict(shares), catch, GUESSED_OVER, rng)
    return Guesses(_by_the_last(keys, frozenset()), sum(best) / len(best))


def _by_the_last(keys: Sequence[str], at_once: Collection[int]) -> float:
    """How often the likeliest cue after the last one comes. at_once: places that overlap it."""
    after: dict[tuple[str, bool], Counter[str]] = defaultdict(Counter)
    for index, (last, following) in enumerate(pairwise(keys), start=1):
        after[last, index in at_once][following] += 1
    return sum(max(counts.values()) for counts in after.values()) / (len(keys) - 1)


def _guesses_overlapping(
    order: Balanced, shares: dict[str, float], overlap: Overlapping, rng: np.random.Generator
) -> Guesses:
    """Whether the next cue follows at once is seen before it comes, and is used.

    Of a cue that may follow at once a part does, so its chance is split in two: what is likeliest
    at once, and what is likeliest once nothing came at once.
    """
    odds: list[dict[str, float]] = []
    keys = BalancedOrder(shares, order.bag, order.repeat_cap, rng, odds).take(GUESSED_OVER)
    channels = dict(overlap.channels)

    def may(last: str, key: str) -> bool:
        return last in channels and key in channels and channels[last] != channels[key]

    pairs = [index for index in range(1, len(keys)) if may(keys[index - 1], keys[index])]
    taken = set(overlapping(pairs, round(overlap.share * len(keys)), rng))
    free = sum(index - 1 not in taken for index in pairs)
    soon = len(taken) / free if free else 0.0
    best = []
    for index in range(1, len(keys)):
        part = 0.0 if index - 1 in taken else soon
        weighted = [
            (chance, part if may(keys[index - 1], key) else 0.0)
            for key, chance in odds[index].items()
        ]
        at_once = max(chance * share for chance, share in weighted)
        best.append(at_once + max(chance * (1 - share) for chance, share in weighted))
    return Guesses(_by_the_last(keys, taken), sum(best) / len(best))
