"""Print every figure; fail if one falls short.

`--loose` is for the test suite: wider bounds and shorter rounds, since other work runs beside it.
Names as arguments choose parts: rules, drills, scores, track, bundle, build, rescoring, hearing,
pads, rhythm, load, player, device, student.
"""

from __future__ import annotations

import sys

from bench import (
    build,
    bundle,
    device,
    drills,
    hearing,
    load,
    pads,
    player,
    rescoring,
    rhythm,
    rules,
    scores,
    student,
    track,
)

PARTS = {
    "rules": rules,
    "drills": drills,
    "scores": scores,
    "track": track,
    "bundle": bundle,
    "build": build,
    "rescoring": rescoring,
    "hearing": hearing,
    "pads": pads,
    "rhythm": rhythm,
    "load": load,
    "player": player,
    "device": device,
    "student": student,
}


def main(arguments: list[str]) -> int:
    """Measure; the exit code is 1 when a figure falls short."""
    loose = "--loose" in arguments
    chosen = [name for name in arguments if not name.startswith("-")] or list(PARTS)
    short = 0
    for name in chosen:
        for figure in PARTS[name].figures(loose):
            print(figure.line(loose), flush=True)
            short += not figure.holds(loose)
    print(f"{short} of the figures fall short" if short else "every figure holds")
    return 1 if short else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
