"""A student's faults over the weeks: how often each was tagged from run to run."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal


@dataclass(frozen=True, slots=True)
class TaggedRun:
    """The faults that were tagged to a student in one run, with how often."""

    at: datetime
    form: Literal["solo", "partner"]
    faults: Mapping[str, int]


@dataclass(frozen=True, slots=True)
class FaultCourse:
    """A fault from run to run, oldest first: 0 where others were tagged and it was not."""

    fault: str
    total: int
    counts: tuple[int, ...]


def fault_courses(runs: Sequence[TaggedRun]) -> list[FaultCourse]:
    """Every fault that was tagged, the most frequent first. Runs in which none was tagged are not
    among them: nobody knows whether anybody looked."""
    tagged = sorted((run for run in runs if run.faults), key=lambda run: run.at)
    names = dict.fromkeys(fault for run in tagged for fault in run.faults)
    courses = []
    for name in names:
        counts = tuple(run.faults.get(name, 0) for run in tagged)
        courses.append(FaultCourse(name, sum(counts), counts))
    return sorted(courses, key=lambda course: -course.total)
