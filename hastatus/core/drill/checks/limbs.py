"""One limb does one thing at a time, is home before it is used again; a standing leg does not kick.

How long a limb is away is common practice of the trade put into numbers, no source.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil
from typing import Literal

from hastatus.core.drill.checks.fault import Mend
from hastatus.core.drill.checks.finding import Finding, at, mend, path_of
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import Walk, Walked

Used = Literal["lead hand", "rear hand", "lead leg", "rear leg"]

_ARMS = ("hand", "forearm", "elbow")
_LEGS = ("foot", "shin", "knee")
_HALF = 0.5


def used(walked: Walked) -> tuple[Used, ...]:
    """The limbs a step needs, named as they were before the exchange; a slip or a step needs none,
    a two-hand shove both."""
    technique = walked.technique
    if technique.limb in _ARMS:
        if not technique.sided:
            return ("lead hand", "rear hand")
        return ("lead hand",) if walked.first_side == "lead" else ("rear hand",)
    if technique.limb in _LEGS:
        return ("lead leg",) if walked.first_side == "lead" else ("rear leg",)
    return ()


def away_s(walked: Walked) -> float:
    """How long the limb is away from home, there and back, in seconds."""
    technique = walked.technique
    if technique.limb in _LEGS:
        return 0.6 if technique.use == "attack" else 0.4
    if technique.use == "attack":
        return 0.3
    return 0.15 if technique.family in ("cover", "frame", "brace") else 0.25


def limb_findings(drill: PartnerDrill, walk: Walk, beat_s: float) -> Iterator[Finding]:
    """Limbs used twice at once, too soon again, or to stand on while they kick."""
    for person in ("a", "b"):
        mine = [step for step in walk.steps if step.person == person]
        homes = [_home(step, beat_s) for step in mine]
        for number, later in enumerate(mine):
            away = [
                earlier
                for earlier, home in zip(mine[:number], homes, strict=False)
                if home > later.beat + 1e-9 or earlier.beat == later.beat
            ]
            for earlier in reversed(away):
                conflict = _between(drill, earlier, later, beat_s)
                if conflict:
                    yield conflict
                    break


def _between(drill: PartnerDrill, earlier: Walked, later: Walked, beat_s: float) -> Finding | None:
    shared = set(used(earlier)) & set(used(later))
    if earlier.beat == later.beat and shared:
        return at(
            drill,
            later,
            "limb",
            f"the {_names(shared, later)} does two things on beat {later.step.beat:g}: "
            f"{earlier.step.name()} and {later.step.name()}",
            field="beat",
            better=_later(drill, earlier, later, beat_s),
        )
    home = _home(earlier, beat_s)
    if shared and home > later.beat + 1e-9:
        held = earlier.step.until is not None
        why = "is still held" if held else "is not home yet"
        return at(
            drill,
            later,
            "limb",
            f"the {_names(shared, later)} {why} from {earlier.step.name()} when it is used again "
            f"on beat {later.step.beat:g}",
            field="beat",
            better=_later(drill, earlier, later, beat_s),
        )
    lifted = _lifted(earlier), _lifted(later)
    if all(lifted) and not shared and home > later.beat + 1e-9:
        return at(
            drill,
            later,
            "standing_leg",
            f"{later.step.name()} lifts the leg that {earlier.step.name()} stands on",
            field="beat",
            better=_later(drill, earlier, later, beat_s),
        )
    return None


def _lifted(walked: Walked) -> bool:
    return walked.technique.limb in _LEGS


def _home(walked: Walked, beat_s: float) -> float:
    """The beat on which the limb is home again."""
    away = away_s(walked) / beat_s
    until = walked.step.until
    if until is None:
        return walked.beat + away
    return walked.beat + (until - walked.step.beat) + (0.0 if away < _HALF else _HALF)


def _names(limbs: set[Used], step: Walked) -> str:
    """Limbs as they are named where the feet stand at this step."""
    if not step.turned:
        return " and the ".join(sorted(limbs))
    other = {"lead": "rear", "rear": "lead"}
    return " and the ".join(
        sorted(f"{other[side]} {limb}" for side, limb in (name.split() for name in limbs))
    )


def _later(drill: PartnerDrill, earlier: Walked, later: Walked, beat_s: float) -> Mend | None:
    """Move the later step to the first half beat on which the limb is home, if there is one."""
    wait = _home(earlier, beat_s) - later.beat
    beat = later.step.beat + max(_HALF, ceil(wait / _HALF) * _HALF)
    if beat >= later.passage.beats + 1:
        return None
    return mend(f"move it to beat {beat:g}", (f"{path_of(drill, later)}.beat", beat))
