"""A drill that has just been begun can be run as it is; nothing in it is wrong yet."""

from __future__ import annotations

from hastatus.core.drill.blank import fresh_drill, fresh_partner_drill
from hastatus.core.drill.checks.partner import find
from hastatus.core.plan.feed_plan import feed_sheet
from hastatus.core.plan.run_plan import plan_run


def test_a_fresh_drill_can_be_planned() -> None:
    plan = plan_run(fresh_drill(), seed=1)
    assert len(plan.rounds) == 3
    assert all(each.slots for each in plan.rounds)


def test_a_fresh_score_can_be_fed() -> None:
    drill = fresh_partner_drill()
    feeds = [feed for each in feed_sheet(drill, seed=1).rounds for turn in each.turns
             for feed in turn.feeds]  # fmt: skip
    assert len(feeds) > 20
    assert find(drill) == []
