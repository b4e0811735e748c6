"""Which sounds a run needs: tones, spoken calls, and recordings, each under one name."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from hastatus.core.drill.cue import Call, Cue, Recording, Sound
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.trade.label_packs import PLAIN, Labels


@dataclass(frozen=True, slots=True)
class Clip:
    """One sound. what: the name of a tone, the words of a call, or the id of a recording."""

    source: Literal["tone", "spoken", "recorded"]
    what: str

    @property
    def name(self) -> str:
        """What the sound goes by in a run, for example "tone:bell" or "spoken:time"."""
        return f"{self.source}:{self.what}"


def spoken(words: str) -> Clip:
    """A call in the drill's voice."""
    return Clip("spoken", words)


def of_cue(cue: Cue) -> Clip | None:
    """The sound that is the cue itself; None for one that is seen."""
    stimulus = cue.stimulus
    if isinstance(stimulus, Sound):
        return Clip("tone", stimulus.sound)
    if isinstance(stimulus, Call):
        return spoken(stimulus.words)
    if isinstance(stimulus, Recording):
        return Clip("recorded", stimulus.asset)
    return None


def ahead_of(drill: Drill, plan: RunPlan, cue: Cue, labels: Labels = PLAIN) -> Clip | None:
    """What sounds ahead of a cue: a warning, or what it will ask for."""
    lead_in = drill.rungs[plan.rung - 1].lead_in
    if lead_in is None:
        return None
    if lead_in.kind == "warning":
        return Clip("tone", lead_in.sound)
    return spoken(cue.announcement(labels))


def needed(drill: Drill, plan: RunPlan, labels: Labels = PLAIN) -> list[Clip]:
    """Every sound that a run of `plan` can use, each once, by name."""
    clips = {clip.name: clip for clip in _all(drill, plan, labels)}
    return [clips[name] for name in sorted(clips)]


def _all(drill: Drill, plan: RunPlan, labels: Labels) -> Iterator[Clip]:
    rung = drill.rungs[plan.rung - 1]
    used = {slot.cue for round_plan in plan.rounds for slot in round_plan.slots} | set(
        plan.rehearsal
    )
    for cue in drill.cues:
        if cue.key in used:
            yield from filter(None, (of_cue(cue), ahead_of(drill, plan, cue, labels)))
    if rung.counters:
        yield Clip("tone", rung.counters.signal)
    if rung.stacking and rung.stacking.counted:
        yield from (spoken(str(number)) for number in range(1, rung.stacking.each + 1))
    for round_plan in plan.rounds:
        yield from (spoken(call.words) for call in round_plan.calls)
    if any(step.hold_s for cue in drill.cues for chain in cue.asks for step in chain.steps):
        yield spoken("rest")
