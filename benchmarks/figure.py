"""One promised figure: what was measured, and the bound it has to keep."""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np


@dataclass(frozen=True)
class Figure:
    """A measured value in `unit` with the most it may be.

    looseness: factor on the bound in the test suite, where other work runs beside it; 1 for what
    does not depend on the machine.
    """

    name: str
    value: float
    unit: str
    most: float
    looseness: float = 1.0

    @property
    def of_the_machine(self) -> bool:
        """Whether the value depends on the machine and on what else it does."""
        return self.looseness > 1

    def holds(self, loose: bool) -> bool:
        return self.value <= self.most * (self.looseness if loose else 1.0)

    def line(self, loose: bool) -> str:
        bound = self.most * (self.looseness if loose else 1.0)
        verdict = "holds" if self.holds(loose) else "falls short"
        return f"{self.name}: {self.value:.4g} {self.unit}, at most {bound:g}, {verdict}"


def percentile(values: Sequence[float], share: float) -> float:
    """The smallest value that `share` of `values` do not exceed."""
    return float(np.quantile(np.asarray(values), share, method="inverted_cdf"))


def median_ms(work: Callable[[], object], repeats: int) -> float:
    """Median wall time of `work` in ms, after one go that is not counted."""
    work()
    times = []
    for _ in range(repeats):
        started = time.perf_counter()
        work()
        times.append((time.perf_counter() - started) * 1000)
    return float(np.median(times))
