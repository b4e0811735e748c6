"""Whether what a rung times fits into its rounds."""

from __future__ import annotations

from collections.abc import Iterator

from hastatus.core.drill.checks.finding import Finding, mend
from hastatus.core.drill.partner import PartnerDrill


def round_findings(drill: PartnerDrill) -> Iterator[Finding]:
    """A watch that is longer than the round, a call to switch that never comes in it."""
    for number, rung in enumerate(drill.rungs):
        shape, where = rung.rounds, f"rungs.{number}"
        if shape.ends == "count":
            continue
        if rung.watch_s > shape.duration_s:
            yield Finding(
                where=f"{where}.watch_s",
                what=f"the coach is to watch for {rung.watch_s:g} s, in a round of "
                f"{shape.duration_s:g} s",
                level="hint",
                mend=mend("watch the whole round", (f"{where}.watch_s", shape.duration_s)),
            )
        if rung.turns.switch == "time" and rung.turns.every_s >= shape.duration_s:
            half_s = max(10.0, shape.duration_s / 2)
            yield Finding(
                where=f"{where}.turns.every_s",
                what=f"roles switch after {rung.turns.every_s:g} s, in a round of "
                f"{shape.duration_s:g} s: nobody ever does",
                level="hint",
                mend=mend(f"after {half_s:g} s", (f"{where}.turns.every_s", half_s))
                if half_s < shape.duration_s
                else mend("from round to round", (f"{where}.turns.switch", "rounds")),
            )
