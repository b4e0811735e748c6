"""Laying slots out in time, with an answer window."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil
from typing import Annotated

from pydantic import ConfigDict, Field

from hastatus.core.drill.requirement import Asked, ask
from hastatus.core.drill.settings import Overlap
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.fields import Key, Seconds
from hastatus.core.plan import flash_limit
from hastatus.core.plan.slots import Slot

LEAST_WINDOW_S = 0.2
"""The shortest answer window that quick succession may leave, in seconds."""


@dataclass(slots=True)  # as `Slot`
class PlacedCue:
    """A cue with its time in the round and the answer window that holds for it.

    after_s: time from the end of the window to the end of the chain.
    """

    __pydantic_config__ = ConfigDict(extra="forbid")

    slot: Annotated[int, Field(ge=0)]
    cue: Key
    at_s: Seconds
    window_s: Seconds
    after_s: Seconds = 0.0

    @property
    def closes_s(self) -> float:
        """The end of all that it asks for, seconds into the round."""
        return self.at_s + self.window_s + self.after_s


class Asking:
    """What each slot of a rung asks for, worked out once for each kind of slot."""

    def __init__(self, drill: Drill, rung: Rung) -> None:
        self._drill, self._rung = drill, rung
        self._cues = {cue.key: cue for cue in drill.cues}
        self._kept: dict[tuple[str, int | None, bool], Asked] = {}

    def of(self, slot: Slot, cue: str | None = None) -> Asked:
        """What `slot` asks for, or what it would with another cue."""
        key = (cue or slot.cue, slot.stage, slot.counter)
        asked = self._kept.get(key)
        if asked is None:
            asked = ask(
                self._drill, self._rung, self._cues[key[0]], stage=slot.stage, counter=slot.counter
            )
            self._kept[key] = asked
        return asked


def lay_out(
    drill: Drill,
    rung: Rung,
    slots: Sequence[Slot],
    window_s: float,
    placed: Sequence[PlacedCue] = (),
) -> list[PlacedCue]:
    """Time the slots after those already `placed` (committed, ascending, the last four suffice).

    Only cues that are over inside the round are placed. Raises `UnsafePlan` if the result
    would break the flash rule; it is built not to.
    """
    asking = Asking(drill, rung)
    see = {cue.key for cue in drill.cues if cue.channel == "see"}
    rounds, overlap, bursts = rung.rounds, rung.overlap, rung.bursts
    most = len(slots) if rounds.ends == "time" else min(len(slots), rounds.cues)
    most_s = rounds.most_s
    flashes = [cue.at_s for cue in placed if cue.cue in see]
    free_s = max((cue.closes_s for cue in placed), default=0.0)
    before = placed[-1] if placed else None
    result: list[PlacedCue] = []
    for number in range(before.slot + 1 if before else 0, most):
        slot = slots[number]
        asked = asking.of(slot)
        own_s = asked.window_s or window_s
        if slot.overlap is not None and before is not None and overlap:
            at_s = before.at_s + _gap(slot.overlap, overlap, before.window_s)
        elif slot.burst and before is not None and bursts:
            at_s = before.at_s + bursts.inner_s
        else:
            at_s = free_s + slot.wait_s + slot.lead_s
        if slot.cue in see:
            at_s = max(at_s, flash_limit.earliest_flash(flashes))
        if bursts and number + 1 < most and slots[number + 1].burst:
            own_s = max(LEAST_WINDOW_S, min(own_s, bursts.inner_s))
        if at_s + own_s + asked.after_s > most_s:
            break
        # A tenth of a millisecond is finer than anything here and keeps the documents short.
        at_s = ceil(at_s * 1e4) / 1e4
        before = PlacedCue(number, slot.cue, at_s, round(own_s, 4), asked.after_s)
        if slot.cue in see:
            flashes.append(at_s)
        free_s = max(free_s, before.closes_s)
        result.append(before)
    flash_limit.check_flashes(flashes)
    return result


def _gap(draw: float, overlap: Overlap, window_s: float) -> float:
    """Gap in seconds from the first onset of an overlapping pair to the second."""
    least = overlap.least_gap_s
    most = max(least, min(overlap.most_gap_s, 0.8 * window_s))
    return least + draw * (most - least)
