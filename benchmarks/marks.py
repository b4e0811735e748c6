"""A long partner run: what a batch of marks costs early and late, and how long it takes to read."""

from __future__ import annotations

import time
from collections.abc import Iterator
from statistics import median
from typing import Any

from benchmarks.figure import Figure
from hastatus.api.app import create_app
from tests.harness.api_pair import Pair, pair
from tests.harness.coach import new_coach
from tests.harness.database import temporary_database

BATCHES = 1_200
"""Two hours with a batch each time the coach taps."""
ABOUT = 30
"""Batches on either side that a median is taken over."""
READS = 15


def figures(loose: bool) -> Iterator[Figure]:
    """Post the batches of one run, then read it."""
    with temporary_database() as engine:
        coach = new_coach(create_app(engine), engine)
        made = pair(coach)
        assert made.begin().status_code == 201
        took = [_post(made, number) for number in range(BATCHES)]
        reads = [_read(made) for _ in range(READS)]
    early, late = median(took[10 : 10 + ABOUT]), median(took[-ABOUT - 1 : -1])
    yield Figure(f"a batch of marks, of {BATCHES}, early", early, "ms", 10, 3)
    yield Figure("the same, at the end of them, against early", late / early, "times", 1.5, 1.3)
    yield Figure("the readout of that run, closed", median(reads), "ms", 30, 3)


def _post(made: Pair, number: int) -> float:
    at_ms = 6000.0 * number
    marks: list[dict[str, Any]] = [
        {"kind": "strike", "at_ms": at_ms + 500 * place, "source": "microphone"}
        for place in range(4)
    ]
    grade = "struck" if number % 5 == 0 else "deflected"
    marks.append({"kind": "graded", "at_ms": at_ms + 2500, "round": 1 + number // 300,
                  "number": 1 + number % 300, "grade": grade})  # fmt: skip
    if number % 300 == 0:
        marks.insert(0, {"kind": "round_begun", "at_ms": at_ms, "round": 1 + number // 300})
    started = time.perf_counter()
    answer = made.post(*marks, last=number == BATCHES - 1)
    took_ms = (time.perf_counter() - started) * 1000
    assert answer.status_code == 200
    return took_ms


def _read(made: Pair) -> float:
    started = time.perf_counter()
    answer = made.coach.get(f"/api/partner-runs/{made.id}/readout")
    took_ms = (time.perf_counter() - started) * 1000
    assert len(answer.get_json()["exchanges"]) == BATCHES
    return took_ms
