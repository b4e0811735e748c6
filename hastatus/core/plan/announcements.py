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
class CueSound:
    """A sound that goes with a cue, whenever that comes.

    after_s: seconds after the cue, or after it has closed; below 0: ahead of it.
    """

    slot: int
    kind: Literal["ahead", "signal", "count", "rest"]
    clip: Clip
    counted_from: Literal["cue", "closing"]
    after_s: float


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
    beside: dict[int, list[CueSound]] = {}
    for sound in cue_sounds(drill, plan, round_plan, labels):
        beside.setdefault(sound.slot, []).append(sound)
    if not beside:
        return  # most rounds, some of them of a thousand cues
    for placed in round_plan.cues:
        for sound in beside.get(placed.slot, ()):
            from_s = placed.at_s if sound.counted_from == "cue" else placed.closes_s
            yield SideSound(from_s + sound.after_s, sound.kind, sound.clip, placed)


def cue_sounds(
    drill: Drill, plan: RunPlan, round_plan: RoundPlan, labels: Labels = PLAIN
) -> Iterator[CueSound]:
    """What sounds around each cue of a round, slot by slot."""
    counters = drill.rungs[plan.rung - 1].counters
    ahead = {cue.key: sounds.ahead_of(drill, plan, cue, labels) for cue in drill.cues}
    held = {cue.key for cue in drill.cues if _is_held(cue)}
    catch = {cue.key for cue in drill.cues if cue.is_catch}
    signal = Clip("tone", counters.signal) if counters else None
    for number, slot in enumerate(round_plan.slots):
        lead = ahead[slot.cue]
        if lead and slot.lead_s:
            yield CueSound(number, "ahead", lead, "cue", -slot.lead_s)
        if counters and signal and slot.counter and slot.cue not in catch:
            yield CueSound(number, "signal", signal, "cue", counters.after_s)
        if slot.count is not None:
            yield CueSound(number, "count", sounds.spoken(str(slot.count)), "closing", 0.0)
        elif slot.cue in held:
            yield CueSound(number, "rest", sounds.spoken("rest"), "closing", 0.0)


def _is_held(cue: Cue) -> bool:
    return any(step.hold_s for chain in cue.asks for step in chain.steps)
