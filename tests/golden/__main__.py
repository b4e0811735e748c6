"""Takes the hashes anew, after a change of behaviour that was meant: `python -m tests.golden`."""

from __future__ import annotations

import json
from collections.abc import Callable, Iterator

from hastatus.core.starter import STARTERS
from hastatus.core.starter.partner import PARTNER_STARTERS
from tests.golden import motion
from tests.golden.numbers import rhythms, windows
from tests.golden.test_hashes import GOLDEN, NUMBERS
from tests.golden.things import documents, messy, partner, readouts, solo, tables
from tests.harness.database import temporary_database


def main() -> None:
    found = {
        "solo": _each(solo, STARTERS),
        "messy": _each(messy, STARTERS),
        "partner": _each(partner, PARTNER_STARTERS),
        "documents": dict(documents()),
    }
    with temporary_database() as engine:
        found["tables"] = dict(tables(engine))
        found["readouts"] = dict(readouts(engine))
    numbers = {"windows": dict(windows()), "rhythms": dict(rhythms())}
    NUMBERS.write_text(json.dumps(numbers, indent=1) + "\n")
    motion.FIXTURE.write_text(motion.text())
    GOLDEN.write_text(json.dumps(found, indent=1, ensure_ascii=False) + "\n")


def _each(
    things: Callable[[str], Iterator[tuple[str, str]]], patterns: object
) -> dict[str, dict[str, str]]:
    return {pattern: dict(things(pattern)) for pattern in patterns}  # type: ignore[attr-defined]


if __name__ == "__main__":
    main()
