"""Plans: which cue comes when.

A plan has two layers. The *slots* of a round are drawn once from the seed: the cue, how long to
wait before it, whether it overlaps the one before. Laying them out with an answer window gives the
*placed cues* with their times. When the window changes in the run, the rest of the slots is laid
out again; nothing is drawn anew, so a plan and its revisions stay reproducible.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from hastatus.core import safety, waiting
from hastatus.core.catalogue import Side, Stance, hand
from hastatus.core.drill import Answer, Drill, Rung
from hastatus.core.order import BalancedOrder
from hastatus.core.text import Document, Key, Seconds, Share

PLANNER_VERSION = 1


class Slot(Document):
    """One drawn cue.

    wait_s: waiting time from the end of every answer window before it to its onset.
    overlap: None, or where in the allowed range of gaps (0 smallest, 1 largest) it follows the
        onset of the slot before, instead of waiting.
    """

    cue: Key
    wait_s: Seconds
    overlap: Share | None = None


class PlacedCue(Document):
    """A cue with its time in the round and the answer window that holds for it."""

    slot: Annotated[int, Field(ge=0)]
    cue: Key
    at_s: Seconds
    window_s: Seconds

    @property
    def closes_s(self) -> float:
        """End of the answer window, seconds into the round."""
        return self.at_s + self.window_s


class RoundPlan(Document):
    """One round: more slots than it needs at the start window, so that a faster tail never ends."""

    number: Annotated[int, Field(ge=1)]
    slots: tuple[Slot, ...]
    cues: tuple[PlacedCue, ...]


class RunPlan(Document):
    """The whole plan of a run, kept with it.

    rung: number of the rung, from 1. window_s: the window it starts with.
    sound_only: lights are left out (photosensitivity).
    """

    schema_version: Literal[1] = 1
    planner_version: int = PLANNER_VERSION
    seed: Annotated[int, Field(ge=0, lt=2**53)]
    rung: Annotated[int, Field(ge=1)]
    window_s: Seconds
    stance: Stance
    sound_only: bool = False
    rehearsal: tuple[Key, ...]
    rounds: tuple[RoundPlan, ...]


class PlanDocument(Document):
    """A drill and a plan of it, as `hastatus plan` writes them."""

    kind: Literal["hastatus-plan"] = "hastatus-plan"
    schema_version: Literal[1] = 1
    drill: Drill
    plan: RunPlan


@dataclass(frozen=True, slots=True)
class Control:
    """What an input means for this student: a key or a touch zone, and the answer it stands for.

    label: of the key, empty for a zone. name: the answer as a coach says it.
    """

    control: str
    label: str
    name: str
    technique: str
    side: str
    row: int
    column: Literal["left", "right"]


_KEYS = {("left", 0): "KeyR", ("right", 0): "KeyU", ("left", 1): "KeyF", ("right", 1): "KeyJ"}
_ROWS = ("high_block", "straight")


def controls(stance: Stance) -> list[Control]:
    """Keys and the two-by-two touch zones: blocks above, straights below, mirrored by stance."""
    found = []
    for (column, row), code in _KEYS.items():
        side: Side = "lead" if hand("lead", stance) == column else "rear"
        for name in (code, f"zone:{column}:{row}"):
            label = code.removeprefix("Key") if name == code else ""
            technique = _ROWS[row]
            answer = Answer(technique=technique, side=side)
            found.append(Control(name, label, answer.name, technique, side, row, column))  # type: ignore[arg-type]
    return found


def plan_run(
    drill: Drill,
    *,
    seed: int,
    rung: int = 1,
    window_s: float | None = None,
    stance: Stance = "left_lead",
    sound_only: bool = False,
) -> RunPlan:
    """Plan every round of a run. The same arguments give the same plan.

    rung counts from 1 (IndexError when the drill has no such rung); window_s defaults to the
    rung's own and is held within the pace's bounds. Raises ValueError when `sound_only` leaves no
    cue, and `safety.UnsafePlan` when a rule that no setting lifts would be broken.
    """
    if not 1 <= rung <= len(drill.rungs):
        raise IndexError(f"the drill has {len(drill.rungs)} rungs, there is no rung {rung}")
    if sound_only:
        drill = without_lights(drill)
    step = drill.rungs[rung - 1]
    start = min(max(window_s or step.window_s, drill.pace.least_s), drill.pace.most_s)
    shares = drill.shares(step)
    rounds = []
    for number in range(1, drill.rounds.count + 1):
        slots = _draw_slots(drill, step, np.random.default_rng([seed, number]))
        cues = tuple(lay_out(drill, step, slots, start))
        rounds.append(RoundPlan(number=number, slots=slots, cues=cues))
    return RunPlan(
        seed=seed,
        rung=rung,
        window_s=start,
        stance=stance,
        sound_only=sound_only,
        rehearsal=tuple(cue.key for cue in drill.cues if cue.key in shares)
        if drill.rounds.rehearse
        else (),
        rounds=tuple(rounds),
    )


def without_lights(drill: Drill) -> Drill:
    """The drill with its sounds only; ValueError when nothing that can be asked is left."""
    cues = tuple(cue for cue in drill.cues if cue.channel == "hear")
    if not any(cue.answer for cue in cues):
        raise ValueError("this drill has no sound that asks for an answer, so it needs its lights")
    catch = any(cue.answer is None for cue in cues)
    rungs = tuple(
        rung.model_copy(update={"overlap": None, "catch_share": rung.catch_share if catch else 0.0})
        for rung in drill.rungs
    )
    return Drill.model_validate(
        drill.model_copy(update={"cues": cues, "rungs": rungs}).model_dump()
    )


def lay_out(
    drill: Drill,
    rung: Rung,
    slots: Sequence[Slot],
    window_s: float,
    placed: Sequence[PlacedCue] = (),
) -> list[PlacedCue]:
    """Time the slots after those already `placed` (committed, ascending, the last four suffice).

    Only cues whose window closes inside the round are placed. Raises `safety.UnsafePlan` if the
    result would break the flash rule; it is built not to.
    """
    see = {cue.key for cue in drill.cues if cue.channel == "see"}
    flashes = [cue.at_s for cue in placed if cue.cue in see]
    free_s = max((cue.closes_s for cue in placed), default=0.0)
    before = placed[-1] if placed else None
    result: list[PlacedCue] = []
    for number in range(before.slot + 1 if before else 0, len(slots)):
        slot = slots[number]
        if slot.overlap is not None and before is not None and rung.overlap:
            at_s = before.at_s + _gap(slot.overlap, rung, before.window_s)
        else:
            at_s = free_s + slot.wait_s
        if slot.cue in see:
            at_s = max(at_s, safety.earliest_flash(flashes))
        if at_s + window_s > drill.rounds.duration_s:
            break
        # A tenth of a millisecond is finer than anything here and keeps the documents short.
        before = PlacedCue(
            slot=number, cue=slot.cue, at_s=ceil(at_s * 1e4) / 1e4, window_s=round(window_s, 4)
        )
        if slot.cue in see:
            flashes.append(before.at_s)
        free_s = max(free_s, before.closes_s)
        result.append(before)
    safety.check_flashes(flashes)
    return result


def _gap(place: float, rung: Rung, window_s: float) -> float:
    """Gap in seconds from the first onset of an overlapping pair to the second."""
    assert rung.overlap is not None
    least = rung.overlap.least_gap_s
    most = max(least, min(rung.overlap.most_gap_s, 0.8 * window_s))
    return least + place * (most - least)


def _draw_slots(drill: Drill, rung: Rung, rng: np.random.Generator) -> tuple[Slot, ...]:
    least = drill.pace.least_s
    count = ceil(drill.rounds.duration_s / (least + rung.waiting.least_s)) + 1
    waits = waiting.draw(rung.waiting, count, rng)
    # Enough for the shortest window; overlapping cues take less time, so their share is added.
    share = rung.overlap.share if rung.overlap else 0.0
    enough = int(np.searchsorted(np.cumsum(waits + least), drill.rounds.duration_s)) + 1
    count = min(count, ceil(enough / (1.0 - share)) + 1)
    order = BalancedOrder(drill.shares(rung), drill.order.bag, drill.order.repeat_cap, rng)
    keys = order.take(count)
    overlaps = _draw_overlaps(drill, rung, keys, rng)
    return tuple(
        Slot(cue=key, wait_s=round(wait, 4), overlap=overlap)
        for key, wait, overlap in zip(keys, waits[:count].tolist(), overlaps, strict=True)
    )


def _draw_overlaps(
    drill: Drill, rung: Rung, keys: list[str], rng: np.random.Generator
) -> list[float | None]:
    """For each slot its place in the range of gaps when it overlaps the slot before, else None."""
    overlaps: list[float | None] = [None] * len(keys)
    if rung.overlap is None:
        return overlaps
    asking = {cue.key: cue.channel for cue in drill.cues if cue.answer}
    pairs = [
        number
        for number in range(1, len(keys))
        if {asking.get(keys[number - 1]), asking.get(keys[number])} == {"hear", "see"}
    ]
    wanted = round(rung.overlap.share * len(keys))
    taken: set[int] = set()
    for number in rng.permutation(pairs).tolist() if pairs else []:
        if len(taken) == wanted:
            break
        if number - 1 not in taken and number + 1 not in taken:
            taken.add(number)
            overlaps[number] = round(float(rng.random()), 4)
    return overlaps
