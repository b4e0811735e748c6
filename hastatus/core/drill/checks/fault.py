"""A fault of a drill: where it is, what is wrong, and a mend to take.

A fault *stops* when there is no plan, and is a *hint* when there is one that a coach would think
twice about. A mend is a list of changes to the document, which the bench applies as one edit.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, Literal

from hastatus.core.fields import Document, Line


class Change(Document):
    """One change of a drill document: the value at `path` (keys and places, joined by dots)."""

    path: str
    value: Any


class Mend(Document):
    """What would put a fault right. label: what the button says."""

    label: Line
    changes: tuple[Change, ...]


class Fault(Document):
    """One thing that is wrong. where: the place in the document, like `rungs.0.overlap`."""

    where: str
    what: str
    level: Literal["stop", "hint"] = "stop"
    mend: Mend | None = None


class Unplannable(ValueError):
    """A drill that has no plan. faults: why."""

    def __init__(self, faults: Sequence[Fault]) -> None:
        super().__init__(f"{faults[0].where}: {faults[0].what}")
        self.faults = tuple(faults)
