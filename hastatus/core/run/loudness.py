"""Where a run starts gently: how loud it plays at first, and how fast it is rehearsed."""

from __future__ import annotations

FASTEST_REHEARSAL_S = 2.0
"""Shortest step from one rehearsed cue to the next, in seconds."""

LOUDNESS_AT_START = 0.25
"""Share of full amplitude that playback starts with."""
