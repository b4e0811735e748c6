"""Whether each answer fits its attack, and comes from the side that the attack comes to."""

from __future__ import annotations

from collections.abc import Iterator

from hastatus.core.drill.checks.finding import Finding, at, mend, path_of
from hastatus.core.drill.checks.solo import better_answer
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import Walk, Walked
from hastatus.core.trade.matchups import fit
from hastatus.core.trade.technique import Side, Technique

_FROM_INSIDE = ("back_fist", "spinning_back_fist", "hook_kick", "spinning_kick")
"""What swings outward, or turns first, and so comes to the other side."""
_BY_SIDE = ("block", "cover", "check", "brace")
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
    found = {(attack.passage.key, attack.index): answer for attack, answer in answered(walk)}
    for place, step in enumerate(walk.steps):
        if step.technique.use != "attack":
            continue
        met = (
            each
            for each in walk.steps[place + 1 :]
            if each.person != step.person and each.strikes and each.beat - step.beat <= 1
        )
        answer = next(met, None)
        if answer is not None:
            found.setdefault((step.passage.key, step.index), answer)
    return found


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


def answer_findings(drill: PartnerDrill, walk: Walk) -> Iterator[Finding]:
    """Answers that do not fit, and those from the wrong side."""
    for attack, answer in answered(walk):
        judged = fit(attacked(attack), answer.technique)
        if judged.verdict == "poor":
            better = better_answer(attacked(attack), answer.technique)
            yield at(
                drill,
                answer,
                "fit",
                f"{answer.technique.name} against {attack.technique.name}: {judged.reason}",
                better=mend(
                    f"answer with {better.name}",
                    (f"{path_of(drill, answer)}.technique", better.key),
                )
                if better
                else None,
            )
        else:
            yield from _side(drill, attack, answer)


def _side(drill: PartnerDrill, attack: Walked, answer: Walked) -> Iterator[Finding]:
    swings = attack.technique.family in ("circular", "round_kick") and attack.technique.sided
    by_side = answer.technique.family in _BY_SIDE or answer.step.technique == "withdraw_leg"
    if not (swings and by_side and answer.technique.sided):
        return
    wanted = comes_to(attack.technique, attack.side, mirrored=drill.stances == "mirrored")
    if answer.side != wanted:
        yield at(
            drill,
            answer,
            "side",
            f"{attack.step.name()} comes to the {wanted} side; {answer.step.name()} is on the "
            "other",
            field="side",
            better=mend(f"take the {wanted} side", (f"{path_of(drill, answer)}.side", wanted)),
        )
