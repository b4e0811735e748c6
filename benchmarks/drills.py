"""Random drills over the whole drill language: planned without breaking a rule of their own."""

from __future__ import annotations

from collections.abc import Iterator

from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st

from benchmarks.figure import Figure
from hastatus.core.drill.checks.fault import Unplannable
from hastatus.core.drill.solo import Drill
from hastatus.core.plan.run_plan import plan_run
from tests.harness.drills import broken_rules, drills, mended

WANTED = 1000


def figures(loose: bool) -> Iterator[Figure]:
    """Plan random drills until `WANTED` of them have had a plan."""
    wanted = WANTED // 5 if loose else WANTED
    planned: list[int] = []

    @seed(20_261_125)
    @settings(
        max_examples=4 * wanted,
        deadline=None,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
    )
    @given(drills(), st.integers(0, 2**40))
    def try_one(drill: Drill, number: int) -> None:
        if len(planned) >= wanted:
            return
        planned.extend(_broken(drill, number))

    try_one()
    yield Figure(f"{len(planned)} random drills: rules broken", sum(planned), "", 0)
    yield Figure("random drills short of those promised", wanted - len(planned), "", 0)


def _broken(drill: Drill, number: int) -> list[int]:
    """How many rules the plan breaks; nothing for a drill that has no plan, even mended."""
    try:
        return [len(broken_rules(drill, plan_run(drill, seed=number)))]
    except Unplannable:
        mend = mended(drill)
        return [len(broken_rules(mend, plan_run(mend, seed=number)))] if mend else []
