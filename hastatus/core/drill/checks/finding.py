"""What a check found: at which step, why, and the mend to take."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

from hastatus.core.drill.checks.fault import Change, Fault, Mend
from hastatus.core.drill.partner import PartnerDrill
from hastatus.core.drill.partner_step import Check
from hastatus.core.drill.paths import Walked
from hastatus.core.fields import Key, Line


class Finding(Fault):
    """One thing that is wrong with a drill.

    level: "stop" cannot be run and is never waved through, "hint" can. passage, step: where, the
    step by its place in the passage; beat: its beat there. kept: why the coach waved it through.
    """

    check: Check | Literal["structure", "contact", "pace"] = "structure"
    passage: Key | None = None
    step: int | None = None
    beat: float | None = None
    kept: Line | None = None


class Infeasible(ValueError):
    """A drill that cannot be done. findings: why."""

    def __init__(self, findings: Sequence[Finding]) -> None:
        super().__init__(f"{findings[0].where}: {findings[0].what}")
        self.findings = tuple(findings)


def mend(label: str, *changes: tuple[str, Any]) -> Mend:
    """A mend from pairs of a path in the document and the value to put there."""
    return Mend(
        label=label, changes=tuple(Change(path=path, value=value) for path, value in changes)
    )


def path_of(drill: PartnerDrill, walked: Walked) -> str:
    """Where in the document a step stands."""
    index = drill.passages.index(drill.written(walked.written))
    return f"passages.{index}.steps.{walked.index}"


def at(
    drill: PartnerDrill,
    walked: Walked,
    check: Check,
    what: str,
    *,
    field: str = "technique",
    better: Mend | None = None,
) -> Finding:
    """A finding at a step, kept where the coach has said why."""
    return Finding(
        where=f"{path_of(drill, walked)}.{field}",
        what=what,
        level="hint",
        mend=better,
        check=check,
        passage=walked.written,
        step=walked.index,
        beat=walked.step.beat,
        kept=walked.step.reason(check),
    )
