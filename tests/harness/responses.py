"""Responses made by hand."""

from __future__ import annotations

from typing import Any

from hastatus.core.score.response import Outcome, Response


def response(
    number: int,
    window_ms: float = 800.0,
    time_ms: float | None = 400.0,
    outcome: Outcome = "clean",
    asked: str | None = "high_block",
    **rest: Any,
) -> Response:
    """The answer to cue `number` of round 1; a missed one was listened to for its window."""
    kept: dict[str, Any] = {
        "round": 1,
        "slot": number,
        "cue": "low",
        "channel": "hear",
        "asked_technique": asked,
        "asked_side": None if asked is None else "lead",
        "at_s": 2.0 * number,
        "onset_ms": 2000.0 * number,
        "window_ms": window_ms,
        "outcome": outcome,
        "time_ms": time_ms,
        "censored_ms": window_ms if outcome == "missed" else None,
        "given_technique": None if time_ms is None else asked,
        "given_side": None if time_ms is None else "lead",
        "gap_ms": None,
        "left_out": None,
        "revision": 0,
        "source": "audio",
        "spread_ms": 1.0,
        **rest,
    }
    return Response(**kept)
