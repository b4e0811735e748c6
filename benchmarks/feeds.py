"""Feeds of the starters: how dense their streams are, and whether an order comes twice."""

from __future__ import annotations

from collections.abc import Iterator

from benchmarks.figure import Figure
from hastatus.core.drill.partner import PartnerDrill, Stream
from hastatus.core.drill.settings import Balanced
from hastatus.core.plan.feed_density import DENSEST, THINNEST, feed_density
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.starter.partner import PARTNER_STARTERS, STREAMS

SEEDS = range(700, 710)
RUNS = range(700, 750)
FEWEST = 10
"""Exchanges from which two sheets that are alike are no chance."""


def figures(loose: bool) -> Iterator[Figure]:
    """Attacks a minute for each defender in every stream, and sheets of a drill that are alike."""
    found = [pace for pattern in STREAMS for pace in _paces(PARTNER_STARTERS[pattern]())]
    yield Figure("densest stream, for each defender", max(found), "attacks a minute", DENSEST)
    yield Figure("thinnest stream, below 25 by", max(0.0, THINNEST - min(found)), "a minute", 0)
    alike = sum(_alike(make(), len(RUNS) // 5 if loose else len(RUNS))
                for make in PARTNER_STARTERS.values())  # fmt: skip
    yield Figure("sheets of a drill with a drawn order that come twice", alike, "sheets", 0)


def _paces(drill: PartnerDrill) -> Iterator[float]:
    for number, rung in enumerate(drill.rungs, start=1):
        if not isinstance(rung.pause, Stream) and rung.turns.switch != "score":
            continue
        for seed in SEEDS:
            density = feed_density(drill, feed_sheet(drill, seed=seed, rung=number))
            assert density is not None
            yield density.attacks_a_minute


def _alike(drill: PartnerDrill, runs: int) -> int:
    """How many of the sheets of its last rung are there already; 0 where the order is set."""
    rung = drill.rungs[-1]
    if not isinstance(rung.order, Balanced):
        return 0
    seen: set[tuple[str, ...]] = set()
    for seed in RUNS[:runs]:
        sheet = feed_sheet(drill, seed=seed, rung=len(drill.rungs))
        order = tuple(
            f"{step.passage} {feed.at_s:.2f}"
            for round_ in sheet.rounds for turn in round_.turns
            for feed in turn.feeds for step in feed.path
        )  # fmt: skip
        if len(order) >= FEWEST:
            seen.add(order)
        else:
            return 0
    return runs - len(seen)
