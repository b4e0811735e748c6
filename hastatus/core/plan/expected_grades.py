"""The grade that each exchange of a round is expected to get: what the coach's big button says."""

from __future__ import annotations

from hastatus.core.drill.grades import expected_grade
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.plan.feed_sheet import FeedRound
from hastatus.core.run.partner_events import Grade


def expected_grades(drill: PartnerDrill, rung: int, round_: FeedRound) -> list[Grade]:
    """By exchange, in the order of their numbers; where the feeder chooses, one for all: that of
    the passage that comes most often on the rung (from 1)."""
    feeds = [feed for turn in round_.turns for feed in turn.every_feed]
    if not feeds:
        shares = drill.shares(drill.rungs[rung - 1])
        likeliest = max(shares, key=lambda key: shares[key])
        counters = drill.rungs[rung - 1].answers != "answer"
        return [expected_grade(drill, [likeliest], counter=counters)]
    known: dict[tuple[tuple[str, ...], bool], Grade] = {}
    grades = []
    for feed in feeds:
        path = tuple(fed.passage for fed in feed.path)
        key = path, feed.counter
        if key not in known:
            known[key] = expected_grade(drill, path, counter=feed.counter)
        grades.append(known[key])
    return grades
