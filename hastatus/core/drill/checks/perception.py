"""Whether what the defender is to see can be seen: not with closed eyes."""

from __future__ import annotations

from collections.abc import Iterator

from hastatus.core.drill.checks.finding import Finding, at, mend, path_of
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.paths import walks


def sight_findings(drill: PartnerDrill) -> Iterator[Finding]:
    """Attacks that are only seen, on rungs that are done with closed eyes and not called either."""
    for number, rung in enumerate(drill.rungs, start=1):
        if not rung.eyes_closed or rung.announced:
            continue
        for walk in walks(drill, rung):
            for step in walk.steps:
                unseen = step.lane == "feeder" and step.technique.use == "attack"
                if unseen and step.step.perceived == "seen":
                    yield at(
                        drill,
                        step,
                        "sight",
                        f"{step.step.name()} is to be seen, but on rung {number}, “{rung.name}”, "
                        "the eyes are closed",
                        field="perceived",
                        better=mend("make it felt", (f"{path_of(drill, step)}.perceived", "felt")),
                    )
