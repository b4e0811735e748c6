"""Which step answers which attack, and to which side of the defender an attack comes."""

from __future__ import annotations

from collections.abc import Iterator

from hastatus.core.drill.paths import Walk, Walked
from hastatus.core.trade.matchups import fit
from hastatus.core.trade.technique import Side, Technique

_FROM_INSIDE = ("back_fist", "spinning_back_fist", "hook_kick", "spinning_kick")
"""What swings outward, or turns first, and so comes to the other side."""

_WITHIN = 1.0
"""An answer belongs to an attack at most this many beats before it."""


def attacked(walked: Walked) -> Technique:
    """The technique with the height this step aims it at."""
    target = walked.step.target
    return walked.technique.model_copy(update={"line": target}) if target else walked.technique


def answered(walk: Walk) -> Iterator[tuple[Walked, Walked]]:
    """Each defense on the walk with the attack of the other's that it answers.

    Only the first to an attack, and what comes on the same beat; what follows is no answer to it.
    """
    first: dict[tuple[str, int, float], float] = {}
    for number, step in enumerate(walk.steps):
        if step.technique.use != "defense":
            continue
        attack = _attack_before(walk.steps[:number], step)
        if attack is None:
            continue
        which = (attack.passage.key, attack.index, attack.beat)
        if first.setdefault(which, step.beat) == step.beat:
            yield attack, step


def _attack_before(steps: tuple[Walked, ...], answer: Walked) -> Walked | None:
    near = [
        step
        for step in steps
        if step.person != answer.person
        and step.technique.use == "attack"
        and answer.beat - step.beat <= _WITHIN
    ]
    if not near:
        return None
    newest = [step for step in near if step.beat == near[-1].beat]
    order = {"usual": 0, "possible": 1, "poor": 2}
    return min(newest, key=lambda step: order[fit(attacked(step), answer.technique).verdict])


def answers_on(walk: Walk) -> dict[tuple[str, int], Walked]:
    """The answer to each attack: a defense, or else the first strike within a beat of it."""
    answers = {(attack.passage.key, attack.index): answer for attack, answer in answered(walk)}
    for index, step in enumerate(walk.steps):
        if step.technique.use != "attack":
            continue
        met = (
            later
            for later in walk.steps[index + 1 :]
            if later.person != step.person and later.strikes and later.beat - step.beat <= 1
        )
        answer = next(met, None)
        if answer is not None:
            answers.setdefault((step.passage.key, step.index), answer)
    return answers


def comes_to(attack: Technique, side: Side, *, mirrored: bool) -> Side:
    """The defender's side that a swinging attack comes to.

    Facing each other in the same stance, the lead side of one is opposite the rear side of the
    other; in mirrored stances lead is opposite lead. What swings from the inside out, or turns
    first, comes to the other side (common practice, no source).
    """
    crosses = mirrored == (attack.key in _FROM_INSIDE)
    if not crosses:
        return side
    return "rear" if side == "lead" else "lead"
