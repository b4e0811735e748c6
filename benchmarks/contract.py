"""The API document as a promise, for ten minutes: cases drawn anew over every address."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path
from tempfile import TemporaryDirectory

from benchmarks.figure import Figure
from hastatus.api.app import create_app
from hastatus.store.films import Folder
from tests.harness.coach import new_coach
from tests.harness.contract import hold, operations, ours, token
from tests.harness.database import temporary_database

FOR_S = 600.0
LOOSE_FOR_S = 20.0
"""The suite has held every address to the document already."""
CASES = 30


def figures(loose: bool) -> Iterator[Figure]:
    """Answers that the document does not foresee, of thousands; and the slowest answer."""
    broken: dict[str, str] = {}
    sent, slowest_s = 0, 0.0
    with temporary_database() as engine, TemporaryDirectory() as films:
        app = create_app(engine, Folder(Path(films)))
        until = time.monotonic() + (LOOSE_FOR_S if loose else FOR_S)
        while time.monotonic() < until:
            coach = new_coach(app, engine)
            own = ours(engine, coach)
            for operation in operations(app):
                if time.monotonic() > until:
                    break
                sign_in = token(engine, coach)
                tally = hold(operation, sign_in, own, cases=CASES, repeatable=False)
                sent, slowest_s = sent + tally.sent, max(slowest_s, tally.slowest_s)
                broken |= {f"{operation.label} {what}": why for what, why in tally.broken.items()}
    for why in broken.values():
        print(why)
    yield Figure(f"of {sent:,} requests, kinds of answer not documented", len(broken), "", 0)
    yield Figure("slowest answer to any of them", slowest_s, "s", 2, 2)
