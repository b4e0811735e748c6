"""Whether a choice in the middle of a passage can be met by one who does not wait for it."""

from __future__ import annotations

from collections.abc import Iterator

from hastatus.core.drill.checks.finding import Finding, mend
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.partner_step import PartnerStep
from hastatus.core.drill.passage import Choice, Passage

LATEST = 1.0
"""Beats after which what comes has landed: an answer that is later meets nothing."""


def choice_findings(drill: PartnerDrill) -> Iterator[Finding]:
    """Attacks that come by choice and are met too early, too late or not at all.

    Before its beat nobody knows that it comes, so an answer that is asked sooner is a wait for it.
    """
    for number, passage in enumerate(drill.passages):
        for choice in passage.choices:
            for index, step in enumerate(passage.steps):
                if step.when == choice.key and _attacks(drill, step):
                    yield from _met(passage, choice, step, f"passages.{number}.steps", index)


def _attacks(drill: PartnerDrill, step: PartnerStep) -> bool:
    technique = drill.technique(step.technique)
    return step.lane == "feeder" and technique is not None and technique.use == "attack"


def _met(
    passage: Passage, choice: Choice, attack: PartnerStep, where: str, index: int
) -> Iterator[Finding]:
    answers = [
        (place, step)
        for place, step in enumerate(passage.steps)
        if step.lane == "defender" and step.when == choice.key
    ]
    in_time = [one for one in answers if 0 <= one[1].beat - attack.beat <= LATEST]
    if in_time:
        return
    if not answers:
        place, what = index, "nothing of the defender's comes with it: it is never met"
        better = mend("it always comes", (f"{where}.{index}.when", None))
    else:
        place, answer = answers[0]
        early = answer.beat < attack.beat
        what = (
            f"the defender is to meet “{choice.name}” on beat {answer.beat:g}, "
            f"{'before' if early else 'long after'} it comes on beat {attack.beat:g}: "
            f"{'nobody can know it by then' if early else 'it has landed by then'}"
        )
        better = mend(f"on beat {attack.beat:g}", (f"{where}.{place}.beat", attack.beat))
    step = passage.steps[place]
    yield Finding(
        where=f"{where}.{place}.beat",
        what=what,
        level="hint",
        mend=better,
        check="choice",
        passage=passage.key,
        step=place,
        beat=step.beat,
        kept=step.reason("choice"),
    )
