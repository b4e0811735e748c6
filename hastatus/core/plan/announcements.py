"""What sounds around the cues of a round and is not timed: leads, signals, counts, rests, calls."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from hastatus.core.drill.cue import Cue
from hastatus.core.drill.solo import Drill
from hastatus.core.plan import sounds
from hastatus.core.plan.run_plan import RoundPlan, RunPlan
from hastatus.core.plan.sounds import Clip
from hastatus.core.plan.timeline import PlacedCue
from hastatus.core.trade.label_packs import PLAIN, Labels

Kind = Literal["ahead", "signal", "count", "rest", "call", "beat"]
"""What such a sound is; "beat": of a metronome, which partner drills have."""


@dataclass(frozen=True, slots=True)
class SideSound:
    """One such sound. at_s: seconds into the round.

    placed: the cue it belongs to; None for a call of the round.
    """

    at_s: float
    kind: Kind
    clip: Clip
    placed: PlacedCue | None = None


def side_sounds(
    drill: Drill, plan: RunPlan, round_plan: RoundPlan, labels: Labels = PLAIN
) -> Iterator[SideSound]:
    """All that sounds in a round of `plan`, which was made from `drill`, besides its cues."""
    for call in round_plan.calls:
        at_s = round_plan.duration_s - call.at_s if call.from_end else call.at_s
        yield SideSound(at_s, "call", sounds.spoken(call.words))
    counters = drill.rungs[plan.rung - 1].counters
    ahead = {cue.key: sounds.ahead_of(drill, plan, cue, labels) for cue in drill.cues}
    held = {cue.key for cue in drill.cues if _is_held(cue)}
    catch = {cue.key for cue in drill.cues if cue.is_catch}
    signal = Clip("tone", counters.signal) if counters else None
    if not (any(ahead.values()) or held or signal or any(slot.count for slot in round_plan.slots)):
        return  # most rounds, some of them of a thousand cues
    for placed in round_plan.cues:
        slot, lead = round_plan.slots[placed.slot], ahead[placed.cue]
        if lead and slot.lead_s:
            yield SideSound(placed.at_s - slot.lead_s, "ahead", lead, placed)
        if counters and signal and slot.counter and placed.cue not in catch:
            yield SideSound(placed.at_s + counters.after_s, "signal", signal, placed)
        if slot.count is not None:
            yield SideSound(placed.closes_s, "count", sounds.spoken(str(slot.count)), placed)
        elif placed.cue in held:
            yield SideSound(placed.closes_s, "rest", sounds.spoken("rest"), placed)


def _is_held(cue: Cue) -> bool:
    return any(step.hold_s for chain in cue.asks for step in chain.steps)
