"""Print every figure; fail if one falls short.

`--loose` is for the test suite: fewer runs, wider bounds, and only the parts whose figures do not
depend on the machine (`EXACT`). Named as well, the others are looked at loosely, too: a part is
then measured again, twice at most, when a time in it falls short, since a machine that was busy
elsewhere for some seconds is no news, and a program that has become slow stays slow.
Names as arguments choose parts: core, rules, club, openness, referee, contract, coverage, claims,
drills, partner, track, bundle, build, rescoring, hearing, pads, feeds, need, rhythm, load, lists,
marks, hostile, kills, evening, backup, crash, player, trouble, home, frames, device, film,
camera, camera_page, student.
"""

from __future__ import annotations

import sys
import time
import traceback
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor

from benchmarks import (
    backup,
    build,
    bundle,
    camera,
    camera_page,
    claims,
    club,
    contract,
    core_time,
    coverage,
    crash,
    device,
    drills,
    evening,
    feeds,
    film,
    frames,
    hearing,
    home,
    hostile,
    kills,
    lists,
    load,
    marks,
    need,
    openness,
    pads,
    partner_drills,
    player,
    referee,
    rescoring,
    rhythm,
    rules,
    student,
    track,
    trouble,
)

PARTS = {
    "core": core_time,
    "rules": rules,
    "club": club,
    "openness": openness,
    "referee": referee,
    "contract": contract,
    "coverage": coverage,
    "claims": claims,
    "drills": drills,
    "partner": partner_drills,
    "track": track,
    "bundle": bundle,
    "build": build,
    "rescoring": rescoring,
    "hearing": hearing,
    "pads": pads,
    "feeds": feeds,
    "need": need,
    "rhythm": rhythm,
    "load": load,
    "lists": lists,
    "marks": marks,
    "hostile": hostile,
    "kills": kills,
    "evening": evening,
    "backup": backup,
    "crash": crash,
    "player": player,
    "trouble": trouble,
    "home": home,
    "frames": frames,
    "device": device,
    "film": film,
    "camera": camera,
    "camera_page": camera_page,
    "student": student,
}

EXACT = (
    "rules", "hearing", "rhythm", "openness", "referee", "need", "claims", "club", "coverage",
    "pads", "feeds", "bundle", "camera",
)  # fmt: skip
"""Parts whose figures come out the same on every machine, the longest first."""

TRIES = 3


def main(arguments: list[str]) -> int:
    """Measure; the exit code is 1 when a figure falls short."""
    loose = "--loose" in arguments
    named = [name for name in arguments if not name.startswith("-")]
    if loose and not named:
        # What does not depend on the machine may share it.
        short = 0
        with ProcessPoolExecutor(2) as pool:
            for of_part, lines in pool.map(_measured_beside, EXACT):
                print("\n".join(lines), flush=True)
                short += of_part
    else:
        short = sum(_measure(name, loose) for name in named or PARTS)
    print(f"{short} of the figures fall short" if short else "every figure holds")
    return 1 if short else 0


def _measured_beside(name: str) -> tuple[int, list[str]]:
    """What `_measure` finds loosely beside other parts, with the lines that it says."""
    lines: list[str] = []
    return _measure(name, True, lines.append), lines


def _say(line: str) -> None:
    print(line, flush=True)


def _measure(name: str, loose: bool, say: Callable[[str], None] = _say) -> int:
    """Say a part's figures; how many fall short, at the last try where they were tried again."""
    began = time.monotonic()
    again = loose and name not in EXACT  # what comes out the same is not looked at twice
    for left in reversed(range(TRIES if again else 1)):
        short = []
        try:
            for figure in PARTS[name].figures(loose):
                say(figure.line(loose))
                if not figure.holds(loose):
                    short.append(figure)
        except Exception:
            # The other parts are measured all the same.
            say(f"{traceback.format_exc()}{name}: ended by an error, falls short")
            return len(short) + 1
        if left == 0 or not short or not all(figure.of_the_machine for figure in short):
            break
        say(f"{name}: measured again")
    say(f"  {name} took {time.monotonic() - began:.0f} s")
    return len(short)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
