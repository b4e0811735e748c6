"""Cue tracks: how long a half hour takes to render, in how much memory, and how exactly."""

from __future__ import annotations

import json
import subprocess
import sys
from collections.abc import Iterator

from benchmarks.figure import Figure


def figures(loose: bool) -> Iterator[Figure]:
    """Measure in a process of its own, so that its memory is the rendering's."""
    done = subprocess.run(
        [sys.executable, "-m", "benchmarks.track_render"], capture_output=True, check=True
    )
    told = json.loads(done.stdout)
    yield Figure("30-minute cue track rendered to WAV", told["seconds"], "s", 3, 3)
    yield Figure("its peak memory", told["peak"], "MB", 250)
    yield Figure(
        f"onset in the WAV against the plan, worst of {told['cues']} cues",
        told["worst"],
        "samples",
        1,
    )
