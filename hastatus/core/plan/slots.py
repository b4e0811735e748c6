"""Drawing the slots of a round from a seed: order, waits, bursts, overlaps, counters, leads."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil
from typing import Annotated

import numpy as np
from pydantic import ConfigDict, Field

from hastatus.core.drill import foreperiod
from hastatus.core.drill.settings import Announce, Bursts
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.fields import Key, Seconds, Share
from hastatus.core.plan.order import draw_order, overlapping


@dataclass(slots=True)  # no model, not frozen: a plan has thousands, and making them takes time
class Slot:
    """One drawn cue. Never changed once it is made.

    wait_s: waiting time from the end of everything asked before it to its onset, or to its lead.
    lead_s: from the warning signal or the announcement to the onset; 0 without one.
    overlap: None, or where in the allowed range of gaps (0 smallest, 1 largest) it follows the
        onset of the slot before, instead of waiting.
    burst: it follows the slot before at the inner tempo of a burst.
    counter: whether counter and exit are asked.
    stage: how many steps are stacked so far, from 1. count: the number that is said aloud.
    """

    __pydantic_config__ = ConfigDict(extra="forbid")

    cue: Key
    wait_s: Seconds
    lead_s: Seconds = 0.0
    overlap: Share | None = None
    burst: bool = False
    counter: bool = True
    stage: Annotated[int | None, Field(ge=1)] = None
    count: Annotated[int | None, Field(ge=1)] = None


def draw_slots(drill: Drill, rung: Rung, seed: tuple[int, int], turn: int = 0) -> tuple[Slot, ...]:
    """The slots of one round: enough for the shortest window. seed: of the run, and the round."""
    rng = np.random.default_rng(seed)
    count = _enough(drill, rung)
    waits = np.round(foreperiod.draw(rung.waiting, count, rng), 4)
    if rung.rounds.ends == "time":
        count = min(count, _used(drill, rung, waits))
    shares = drill.shares(rung, turn)
    catch = frozenset(cue.key for cue in drill.cues if cue.is_catch)
    keys = list(draw_order(rung.order, shares, catch, count, seed))
    count = len(keys)
    bursts = _draw_bursts(rung.bursts, count, rng) if rung.bursts else [False] * count
    overlaps = _draw_overlaps(drill, rung, keys, bursts, rng)
    leads = _draw_leads(rung, count, rng)
    asked = _draw_counters(rung, keys, catch, rng) if rung.counters else [True] * count
    stages = _stages(rung, keys, catch) if rung.stacking else [(None, None)] * count
    paused = zip(bursts, overlaps, strict=True)
    leads = [
        0.0 if burst or overlap is not None else lead
        for (burst, overlap), lead in zip(paused, leads, strict=True)
    ]
    drawn = zip(keys, waits[:count].tolist(), leads, overlaps, bursts, asked, stages, strict=True)
    return tuple(Slot(*draw[:-1], *draw[-1]) for draw in drawn)


def _enough(drill: Drill, rung: Rung) -> int:
    if rung.rounds.ends != "time":
        return rung.rounds.cues
    step = drill.pace.least_s + foreperiod.least(rung.waiting)
    if rung.bursts:
        step = min(step, rung.bursts.inner_s)
    return ceil(rung.rounds.duration_s / step) + 1


def _used(drill: Drill, rung: Rung, waits: np.ndarray) -> int:
    """How many slots a round can use; overlapping cues take less time, so they are added."""
    if rung.bursts:
        return len(waits)
    reach = np.cumsum(waits + drill.pace.least_s)
    enough = int(np.searchsorted(reach, rung.rounds.duration_s)) + 1
    share = rung.overlap.share if rung.overlap else 0.0
    return ceil(enough / (1.0 - share)) + 1


def _draw_bursts(bursts: Bursts, count: int, rng: np.random.Generator) -> list[bool]:
    """For each slot whether it follows the one before at the inner tempo."""
    follows: list[bool] = []
    while len(follows) < count:
        size = 1
        if rng.random() < bursts.share:
            size = int(rng.integers(bursts.least, bursts.most + 1))
            size += rng.random() < bursts.extra_share
        follows += [False] + [True] * (size - 1)
    return follows[:count]


def _draw_overlaps(
    drill: Drill, rung: Rung, keys: list[str], bursts: list[bool], rng: np.random.Generator
) -> list[float | None]:
    """For each slot its place in the range of gaps when it overlaps the slot before, else None."""
    overlaps: list[float | None] = [None] * len(keys)
    if rung.overlap is None:
        return overlaps
    asking = {cue.key: cue.channel for cue in drill.cues if not cue.is_catch}
    channels = [asking.get(key) for key in keys]
    alone = [not (here or after) for here, after in zip(bursts, [*bursts[1:], False], strict=True)]
    pairs = [
        number
        for number in range(1, len(keys))
        if channels[number]
        and channels[number - 1] not in (None, channels[number])
        and alone[number - 1]
        and alone[number]
    ]
    wanted = round(rung.overlap.share * len(keys))
    for number in overlapping(pairs, wanted, rng):
        overlaps[number] = round(float(rng.random()), 4)
    return overlaps


def _draw_leads(rung: Rung, count: int, rng: np.random.Generator) -> list[float]:
    if rung.lead_in is None:
        return [0.0] * count
    if isinstance(rung.lead_in, Announce):
        return [rung.lead_in.lead_s] * count
    drawn = rng.uniform(rung.lead_in.least_s, rung.lead_in.most_s, count)
    return [round(lead, 4) for lead in drawn.tolist()]


def _draw_counters(
    rung: Rung, keys: list[str], catch: frozenset[str], rng: np.random.Generator
) -> list[bool]:
    """Whether each slot's counter is asked: at the share, and at the latest after the cap."""
    assert rung.counters is not None
    asked: list[bool] = []
    row = 0
    for key, chance in zip(keys, rng.random(len(keys)).tolist(), strict=True):
        if key in catch:
            asked.append(True)
            continue
        counter = row >= rung.counters.cap or chance < rung.counters.share
        row = 0 if counter else row + 1
        asked.append(counter)
    return asked


def _stages(
    rung: Rung, keys: list[str], catch: frozenset[str]
) -> list[tuple[int | None, int | None]]:
    """For each slot how many steps are stacked, and the number said aloud, if any."""
    assert rung.stacking is not None
    stages: list[tuple[int | None, int | None]] = []
    done = 0
    for key in keys:
        if key in catch:
            stages.append((None, None))
            continue
        count = done % rung.stacking.each + 1 if rung.stacking.counted else None
        stages.append((done // rung.stacking.each + 1, count))
        done += 1
    return stages
