"""How past evenings of the made-up club went: the clock, and what the coach saw of the pairs."""

from __future__ import annotations

import uuid
from collections.abc import Iterator, Mapping, Sequence
from datetime import timedelta

import numpy as np
from sqlalchemy.orm import Session

from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.solo import Drill
from hastatus.core.hall.class_clock import Act
from hastatus.core.hall.evening import Block, Evening
from hastatus.core.hall.pair_mark import PairMark, PairMarkKind
from hastatus.core.hall.timetable import DrillTimes, timetable
from hastatus.store import class_runs
from hastatus.store.models import Evening as Row

FAULTS = ("static guard", "elbow flares", "waits for the partner", "hand not home")
NOTES = ("distance is right now", "much quieter shoulders", "swap them with a taller pair")
WORDS = ("right", "right", "right", "too_easy", "too_much")
WATCHED = 0.7
"""Share of the pairs that the coach comes to in a block."""


def fill(
    db: Session,
    row: Row,
    coach_id: uuid.UUID,
    plan: Evening,
    drills: Mapping[uuid.UUID, Drill | PartnerDrill],
    groups: Mapping[str, Sequence[Sequence[uuid.UUID]]],
    rng: np.random.Generator,
) -> None:
    """Keep the acts and marks of an evening that is over. groups: by block."""
    times = {
        key: DrillTimes(tuple(drill.lengths_s), drill.place.floor_m)
        for key, drill in drills.items()
    }
    people = len({one for pairs in groups.values() for pair in pairs for one in pair})
    table = timetable(plan, times, people)
    acts, marks = list[Act](), list[PairMark]()
    for block, laid in zip(plan.blocks, table.blocks, strict=True):
        acts.append(
            Act(id=_id(rng), at=plan.at(laid.starts_s), kind="begin", block=block.key, version=1,
                waves=laid.waves)
        )  # fmt: skip
        for pair in groups.get(block.key, ()):
            lasts_s = laid.ends_s - laid.starts_s
            marks += _seen(plan, block, laid.starts_s, lasts_s, tuple(pair), rng)
    acts.append(Act(id=_id(rng), at=plan.at(table.ends_s), kind="end"))
    class_runs.keep_acts(db, row, coach_id, acts)
    class_runs.keep_marks(db, row, coach_id, marks)


def _seen(
    plan: Evening,
    block: Block,
    starts_s: float,
    lasts_s: float,
    pair: tuple[uuid.UUID, ...],
    rng: np.random.Generator,
) -> Iterator[PairMark]:
    """What the coach marked of a pair in a block, and one word of each of them."""

    def mark(kind: PairMarkKind, at_s: float, **rest: object) -> PairMark:
        at = plan.at(starts_s) + timedelta(seconds=at_s)
        return PairMark.model_validate(
            {"id": _id(rng), "at": at, "block": block.key, "members": pair, "kind": kind,
             "at_s": at_s, **rest}
        )  # fmt: skip

    if rng.random() < WATCHED:
        watched_s = float(rng.uniform(40, 100))
        until_s = float(rng.uniform(watched_s + 10, lasts_s))
        yield mark("watched", until_s, seconds=watched_s)
        for _ in range(int(rng.binomial(3, 0.4))):
            yield mark("through", until_s - float(rng.uniform(0, watched_s)))
        if rng.random() < 0.5:
            whose = pair[int(rng.integers(len(pair)))]
            yield mark("fault", until_s, student=whose, words=FAULTS[int(rng.integers(4))])
        if rng.random() < 0.2:
            yield mark("note", until_s, words=NOTES[int(rng.integers(3))])
    for one in pair:
        if rng.random() < 0.6:
            yield mark("word", lasts_s, student=one, words=WORDS[int(rng.integers(5))])


def _id(rng: np.random.Generator) -> uuid.UUID:
    return uuid.UUID(bytes=rng.bytes(16), version=4)
