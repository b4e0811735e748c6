"""Which grades fit a drill, and which one an exchange is expected to get."""

from __future__ import annotations

from collections.abc import Sequence

from hastatus.core.drill.partner import PartnerDrill, PartnerRung
from hastatus.core.drill.paths import Walk, follow
from hastatus.core.plan.feed_sheet import FeedRound
from hastatus.core.run.partner_events import Grade
from hastatus.core.trade.technique import Family

_KEPT_OUT: dict[Family, Grade] = {
    "block": "covered", "cover": "covered", "check": "covered", "brace": "covered",
    "frame": "covered", "parry": "deflected", "slip": "evaded", "roll": "evaded",
    "duck": "evaded", "lean": "evaded", "step": "off_line", "jam": "countered",
}  # fmt: skip


def fitting_grades(drill: PartnerDrill, rung: PartnerRung) -> list[Grade]:
    """The grades that a rung asks for, what is not clean first.

    Where a choice or a pad is asked: wrong, late, right. Else struck, what its answers keep an
    attack out with, and covered, which anybody may fall back on.
    """
    if drill.grading == "answer":
        return ["wrong", "late", "right"]
    counters = {True, False} if rung.counter_share < 1 else {True}
    asked = {
        expected_grade(drill, [passage.key], counter=counter)
        for passage in drill.passages
        for counter in (counters if rung.answers != "answer" else {False})
    }
    order: tuple[Grade, ...] = ("struck", "countered", "covered", "deflected", "evaded", "off_line")
    return [grade for grade in order if grade in asked or grade in ("struck", "covered")]


def expected_grade(drill: PartnerDrill, path: Sequence[str], *, counter: bool) -> Grade:
    """The grade of an exchange that goes as it should. path: its passages; counter: it is asked."""
    if drill.grading == "answer":
        return "right"
    walk = follow(drill, path)
    if counter and _counters(walk):
        return "countered"
    families = [
        step.technique.family
        for step in walk.steps
        if step.lane == "defender" and step.technique.use != "attack"
    ]
    kept_out = [_KEPT_OUT[family] for family in families if family in _KEPT_OUT]
    return kept_out[0] if kept_out else "countered"


def _counters(walk: Walk) -> bool:
    return any(step.lane == "defender" and step.technique.use == "attack" for step in walk.steps)


def expected_grades(
    drill: PartnerDrill, rung: int, rounds: Sequence[FeedRound]
) -> list[list[Grade]]:
    """By round and exchange, in the order of their numbers; where the feeder chooses, one for all:
    that of the passage that comes most often on the rung (from 1)."""
    known: dict[tuple[tuple[str, ...], bool], Grade] = {}

    def expected(path: tuple[str, ...], counter: bool) -> Grade:
        if (path, counter) not in known:
            known[path, counter] = expected_grade(drill, path, counter=counter)
        return known[path, counter]

    grades = []
    for round_ in rounds:
        feeds = [feed for turn in round_.turns for feed in turn.every_feed]
        if feeds:
            grades.append(
                [expected(tuple(fed.passage for fed in feed.path), feed.counter) for feed in feeds]
            )
        else:
            shares = drill.shares(drill.rungs[rung - 1])
            likeliest = max(shares, key=lambda key: shares[key])
            grades.append([expected((likeliest,), drill.rungs[rung - 1].answers != "answer")])
    return grades
