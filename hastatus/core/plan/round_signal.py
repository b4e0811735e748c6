"""The signals that begin and end a round, by which a film of it is lined up with the run.

Where cues sound, a film is lined up by them. Where a round has only lights, and at the mat, nothing
else has a moment that is known: eight short notes then begin each round and eight others end it.
Each round of a run has signals of its own, drawn from the run's seed, so that a film of one round
finds it and one of another run does not.
"""

from __future__ import annotations

from dataclasses import dataclass

from hastatus.core.drill.solo import Drill
from hastatus.core.plan import sounds
from hastatus.core.plan.run_plan import RunPlan
from hastatus.core.plan.sounds import Clip
from hastatus.core.sound import named, signal_code
from hastatus.core.trade.label_packs import PLAIN, Labels

MAT_AFTER_S = 0.5
"""How long after a round began or was over at the mat its signal comes: time for a tablet's sound
to wake up."""


@dataclass(frozen=True, slots=True)
class RoundSignals:
    """What begins a round, and what ends it."""

    begins: Clip
    ends: Clip


def round_signals(seed: int, rounds: int) -> list[RoundSignals]:
    """The signals of each round of a run. seed: of its plan or sheet."""
    clips = [Clip("tone", named.SIGNAL + word) for word in signal_code.drawn(seed, 2 * rounds)]
    return [RoundSignals(*pair) for pair in zip(clips[::2], clips[1::2], strict=True)]


def solo_signals(drill: Drill, plan: RunPlan) -> list[RoundSignals]:
    """The signals of a solo run; none where a cue of it sounds."""
    used = {slot.cue for round_plan in plan.rounds for slot in round_plan.slots}
    if not used or any(sounds.of_cue(drill.cue(key)) for key in used):
        return []
    return round_signals(plan.seed, len(plan.rounds))


def sounds_of_solo(drill: Drill, plan: RunPlan, labels: Labels = PLAIN) -> list[Clip]:
    """Every sound that a run can use, its signals included."""
    signals = solo_signals(drill, plan)
    return [
        *sounds.needed(drill, plan, labels),
        *(clip for one in signals for clip in (one.begins, one.ends)),
    ]
