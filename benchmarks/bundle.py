"""How much JavaScript the first paint takes: what the page itself loads, and the first view."""

from __future__ import annotations

import gzip
import re
from collections.abc import Iterator
from pathlib import Path

from benchmarks.figure import Figure

DIST = Path(__file__).resolve().parents[1] / "ui" / "dist"


def figures(loose: bool) -> Iterator[Figure]:
    """Measure the built screens."""
    entry = re.findall(r"/(assets/[\w.-]+\.js)", (DIST / "index.html").read_text())
    files = {DIST / name for name in entry}
    # The first view after signing in, with all that it imports.
    queue = list(files) + sorted(DIST.glob("assets/Build-*.js"))
    seen: set[Path] = set()
    while queue:
        file = queue.pop()
        if file in seen:
            continue
        seen.add(file)
        imports = re.findall(r'(?:from|import)\s*"\./([\w.-]+\.js)"', file.read_text())
        queue.extend(file.parent / name for name in imports)
    size = sum(len(gzip.compress(file.read_bytes(), 9)) for file in seen)
    yield Figure("JavaScript for first paint, gzipped", size / 1000, "kB", 180)
