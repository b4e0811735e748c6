"""The arithmetic of an evening: what each block takes, when it begins, and what is over.

A block takes its rungs, each as long as it is worked on, again in the other stance where both are
trained, as often as it is repeated, and once more for each wave where not all pairs have room at
once; between these, time to change over. All times in seconds from the evening's start.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from math import ceil
from typing import Literal
from uuid import UUID

from hastatus.core.hall.evening import Block, Evening

SWITCH_S = 20.0
"""From one rung, stance, repeat or wave to the next (common practice, no source)."""
_LEAST_MIN = 3.0
"""A block is not shortened below this."""
_FEWER_MIN = 5.0
"""By so much at a time its minutes are shortened, at the most."""


@dataclass(frozen=True, slots=True)
class DrillTimes:
    """What a drill takes. rungs_s: each rung with its rests, seconds. floor_m: side of the square
    that one or a pair needs."""

    rungs_s: tuple[float, ...]
    floor_m: float


@dataclass(frozen=True, slots=True)
class BlockPart:
    """A part of what a block takes."""

    name: Literal["work", "the other stance", "repeats", "waves", "changing over"]
    seconds: float


@dataclass(frozen=True, slots=True)
class BlockTimes:
    """When a block is. waves: how many times it is done because not all have room at once."""

    key: str
    starts_s: float
    ends_s: float
    waves: int
    parts: tuple[BlockPart, ...]


@dataclass(frozen=True, slots=True)
class Shortening:
    """One thing that makes the evening shorter. key: of the block. what: in words. saves_s."""

    key: str
    what: str
    block: Block | None
    saves_s: float


@dataclass(frozen=True, slots=True)
class Timetable:
    """An evening in times. ends_s: when all is cleared up. over_s: how much later than planned that
    is; negative: so much is left. offers: what would shorten it, the least that is enough first."""

    blocks: tuple[BlockTimes, ...]
    ends_s: float
    over_s: float
    offers: tuple[Shortening, ...]
    findings: tuple[str, ...]


def timetable(evening: Evening, drills: Mapping[UUID, DrillTimes], people: int) -> Timetable:
    """The times of an evening for so many people. A block of an unknown drill takes its minutes."""
    blocks = tuple(_laid_out(evening, drills, people))
    ends_s = (blocks[-1].ends_s if blocks else 0.0) + 60 * evening.clear_up_min
    over_s = ends_s - evening.length_s
    offers = tuple(_offers(evening, drills, people, over_s)) if over_s > 0 else ()
    return Timetable(blocks, ends_s, over_s, offers, tuple(_findings(evening, drills)))


def _laid_out(
    evening: Evening, drills: Mapping[UUID, DrillTimes], people: int
) -> Iterator[BlockTimes]:
    at_s = 0.0
    for index, block in enumerate(evening.blocks):
        at_s += evening.changeover_s if index else 0.0
        waves = waves_of(block, evening.floor_m2, drills, people)
        parts = tuple(part for part in _parts(block, drills, waves) if part.seconds)
        ends_s = at_s + sum(part.seconds for part in parts)
        yield BlockTimes(block.key, at_s, ends_s, waves, parts)
        at_s = ends_s


def waves_of(
    block: Block, floor_m2: float | None, drills: Mapping[UUID, DrillTimes], people: int
) -> int:
    """How many waves a block needs, so that everybody in it has room; at least one is done."""
    times = drills.get(block.drill_id) if block.drill_id else None
    if times is None or not floor_m2 or block.kind == "base":
        return 1
    units = ceil(people / 2) if block.in_pairs else people
    at_once = max(1, int(floor_m2 / times.floor_m**2 + 1e-9))
    return max(1, ceil(units / at_once))


def _parts(block: Block, drills: Mapping[UUID, DrillTimes], waves: int) -> Iterator[BlockPart]:
    rungs = block.rungs or (1,)
    work_s = sum(_rung_s(block, rung, drills) for rung in rungs)
    times = {"stance": 2 if block.stances == "both" else 1, "repeats": block.repeats}
    yield BlockPart("work", work_s)
    once_s = work_s
    yield BlockPart("the other stance", (times["stance"] - 1) * once_s)
    once_s *= times["stance"]
    yield BlockPart("repeats", (times["repeats"] - 1) * once_s)
    once_s *= times["repeats"]
    yield BlockPart("waves", (waves - 1) * once_s)
    pieces = len(rungs) * times["stance"] * times["repeats"] * waves
    yield BlockPart("changing over", (pieces - 1) * SWITCH_S)


def _rung_s(block: Block, rung: int, drills: Mapping[UUID, DrillTimes]) -> float:
    if block.minutes is not None:
        return 60 * block.minutes
    times = drills.get(block.drill_id) if block.drill_id else None
    if times is None or rung > len(times.rungs_s):
        return 0.0
    return times.rungs_s[rung - 1]


def _findings(evening: Evening, drills: Mapping[UUID, DrillTimes]) -> Iterator[str]:
    """What cannot be as it is planned."""
    for block in evening.blocks:
        times = drills.get(block.drill_id) if block.drill_id else None
        if block.drill_id and times is None:
            yield f"{block.name}: its drill is no longer in the library; choose another."
        elif times and any(rung > len(times.rungs_s) for rung in block.rungs):
            yield f"{block.name}: the drill has {len(times.rungs_s)} rungs; choose among these."
    if evening.floor_m2 == 0:
        yield "A floor of 0 m² has room for nobody: measure it, or leave it open."
    if not evening.blocks:
        yield "Nothing is planned yet: add a block."


def _offers(
    evening: Evening, drills: Mapping[UUID, DrillTimes], people: int, over_s: float
) -> list[Shortening]:
    """Each single change that shortens the evening: first the smallest that is enough alone."""

    def saved(blocks: Sequence[Block]) -> float:
        changed = evening.model_copy(update={"blocks": tuple(blocks)})
        last = list(_laid_out(changed, drills, people))
        ends_s = (last[-1].ends_s if last else 0.0) + 60 * evening.clear_up_min
        return evening.length_s + over_s - ends_s

    shortenings = []
    for index, block in enumerate(evening.blocks):
        before, after = evening.blocks[:index], evening.blocks[index + 1 :]
        for what, changed in _shorter(block):
            saves_s = saved([*before, *([changed] if changed else []), *after])
            if saves_s >= 30:
                shortenings.append(Shortening(block.key, what, changed, saves_s))
    enough = sorted(
        (one for one in shortenings if one.saves_s >= over_s), key=lambda one: one.saves_s
    )
    return enough + sorted(
        (one for one in shortenings if one.saves_s < over_s), key=lambda one: -one.saves_s
    )


def _shorter(block: Block) -> Iterator[tuple[str, Block | None]]:
    """Ways to make a block shorter, in words; None: it is left out."""
    if block.repeats > 1:
        yield f"{block.name}: once less", block.model_copy(update={"repeats": block.repeats - 1})
    if block.stances == "both":
        yield f"{block.name}: in one stance", block.model_copy(update={"stances": "own"})
    if len(block.rungs) > 1:
        yield (
            f"{block.name}: without rung {block.rungs[-1]}",
            block.model_copy(update={"rungs": block.rungs[:-1]}),
        )
    if block.minutes is not None and block.minutes > _LEAST_MIN:
        less = max(_LEAST_MIN, block.minutes - _FEWER_MIN, block.minutes / 2)
        yield (
            f"{block.name}: {less:g} minutes instead of {block.minutes:g}",
            block.model_copy(update={"minutes": less}),
        )
    yield f"without {block.name}", None
