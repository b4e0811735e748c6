"""Two simulated partners: what a coach at the mat would have tapped, and what was heard."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from hastatus.core.partner.drill import PartnerDrill
from hastatus.core.partner.feed import Feed, FeedSheet
from hastatus.core.partner.marks import (
    Grade,
    Graded,
    Mark,
    MarkBatch,
    RoundBegun,
    RoundOver,
    Strike,
    Tagged,
)
from hastatus.core.partner.walk import follow

KEPT_OUT: tuple[Grade, ...] = ("countered", "countered", "covered", "deflected")
UNEVEN_S = 0.045
LOST = 0.08
FAULTS = 0.12


def batches(
    drill: PartnerDrill, sheet: FeedSheet, skill: float, rng: np.random.Generator
) -> list[MarkBatch]:
    """The marks of a run, a batch a round. skill: share of exchanges that are clean."""
    found, clock_ms = [], 0.0
    for number, round_ in enumerate(sheet.rounds):
        marks: list[Mark] = [RoundBegun(at_ms=clock_ms, round=round_.number)]
        for turn in round_.turns:
            for feed in turn.feeds:
                marks += _strikes(drill, sheet, feed, clock_ms, rng)
                marks += _taps(drill, round_.number, feed, sheet, clock_ms, skill, rng)
        clock_ms += 1000 * round_.duration_s
        marks.append(RoundOver(at_ms=clock_ms, round=round_.number))
        clock_ms += 1000 * sheet.rest_s
        last = number == len(sheet.rounds) - 1
        found.append(MarkBatch(number=number, marks=tuple(marks), last=last))
    return found


def _strikes(
    drill: PartnerDrill, sheet: FeedSheet, feed: Feed, clock_ms: float, rng: np.random.Generator
) -> Iterator[Mark]:
    """Each attack and counter that is heard, a little beside its beat."""
    for step in follow(drill, [each.passage for each in feed.path]).steps:
        if step.strikes and rng.random() > LOST:
            off_s = float(rng.normal(0, UNEVEN_S))
            at_s = feed.at_s + (step.beat - 1) * sheet.beat_s + off_s
            yield Strike(at_ms=round(clock_ms + 1000 * max(0.0, at_s), 1), source="microphone")


def _taps(
    drill: PartnerDrill,
    round_: int,
    feed: Feed,
    sheet: FeedSheet,
    clock_ms: float,
    skill: float,
    rng: np.random.Generator,
) -> Iterator[Mark]:
    at_ms = round(clock_ms + 1000 * feed.ends_s(sheet.beat_s), 1)
    # What follows an exchange is harder to keep out than the exchange itself.
    clean = rng.random() < skill - 0.15 * (len(feed.path) > 1)
    kept_out = KEPT_OUT if feed.counter else KEPT_OUT[2:]
    grade = kept_out[int(rng.integers(len(kept_out)))] if clean else "struck"
    yield Graded(at_ms=at_ms, round=round_, number=feed.number, grade=grade)
    if drill.watch and rng.random() < FAULTS:
        fault = drill.watch[int(rng.integers(len(drill.watch)))]
        yield Tagged(at_ms=at_ms, round=round_, number=feed.number, fault=fault)
