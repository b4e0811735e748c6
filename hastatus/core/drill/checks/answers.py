"""Whether each answer fits its attack, and comes from the side that the attack comes to."""

from __future__ import annotations

from collections.abc import Iterator

from hastatus.core.drill.checks.finding import Finding, at, mend, path_of
from hastatus.core.drill.checks.solo import better_answer
from hastatus.core.drill.exchange_answers import answered, attacked, comes_to
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import Walk, Walked
from hastatus.core.trade.matchups import fit

_BY_SIDE = ("block", "cover", "check", "brace")


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
        yield from _also(drill, attack, answer)


def _also(drill: PartnerDrill, attack: Walked, answer: Walked) -> Iterator[Finding]:
    """Other answers that are said to be right as well, and do not fit."""
    for key in answer.step.also:
        technique = drill.technique(key)
        judged = fit(attacked(attack), technique) if technique else None
        if technique and judged and judged.verdict == "poor":
            others = [other for other in answer.step.also if other != key]
            yield at(
                drill,
                answer,
                "fit",
                f"{technique.name} against {attack.technique.name}: {judged.reason}",
                field="also",
                better=mend("take it out", (f"{path_of(drill, answer)}.also", others)),
            )


def _side(drill: PartnerDrill, attack: Walked, answer: Walked) -> Iterator[Finding]:
    swings = attack.technique.family in ("circular", "round_kick") and attack.technique.sided
    by_side = answer.technique.family in _BY_SIDE or answer.step.technique == "withdraw_leg"
    if not (swings and by_side and answer.technique.sided):
        return
    turned = attack.turned != answer.turned
    mirrored = (drill.stances == "mirrored") != turned
    wanted = comes_to(attack.technique, attack.side, mirrored=mirrored)
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
