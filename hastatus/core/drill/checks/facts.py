"""Whether what is only done with some pairs can be come to with any."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations

from hastatus.core.drill.checks.finding import Finding, mend
from hastatus.core.drill.pair_facts import PAIR_FACT_NAMES, contradict, turned_fact
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.passage import PairFact
from hastatus.core.drill.paths import Walk


def fact_findings(drill: PartnerDrill, walk: Walk) -> Iterator[Finding]:
    """Ways that ask for two facts which never hold together."""
    asked: list[tuple[PairFact, int, int]] = []
    turned = False
    for passage, branch in zip(walk.passages, walk.given, strict=True):
        written = drill.written(passage.key)
        turned = turned != written.swap
        if branch is not None and branch.fact is not None:
            fact = turned_fact(branch.fact) if turned else branch.fact
            asked.append((fact, drill.passages.index(written), written.then.index(branch)))
    for (one, *_), (other, passage_at, branch_at) in combinations(asked, 2):
        if contradict(one, other):
            where = f"passages.{passage_at}.then.{branch_at}.fact"
            yield Finding(
                where=where,
                what=f"it is never come to: {PAIR_FACT_NAMES[one]} before, "
                f"and here {PAIR_FACT_NAMES[other]}",
                level="hint",
                passage=drill.passages[passage_at].key,
                mend=mend("for any pair", (where, None)),
            )
