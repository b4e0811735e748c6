"""Times and their uncertainty against what is published of timing (see each test)."""

from __future__ import annotations

import numpy as np
import pytest

from hastatus.core.run.device import ASSUMED_SPREAD_MS, Correction, device_of
from hastatus.core.run.events import CueShown, Input
from hastatus.core.run.pad_clock import PadClock
from hastatus.core.score.response import Response
from tests.core.score.test_discrimination import judged

LAB_MS = 4.0
"""Bridges, Pitiot, MacAskill and Peirce 2020, PeerJ 8:e9414 (from memory): the best browsers keep
visual and key timing to a few ms, 4 at the most; sound varies by more."""


def measured(source: str, ms: float, spread_ms: float) -> Correction:
    return Correction.model_validate(
        {"source": source, "ms": ms, "spread_ms": spread_ms, "measured_on": "2026-11-02"}
    )


def answer(lag_ms: float, corrections: tuple[Correction, ...]) -> tuple[Response, float]:
    """A true answer of 400 ms through a device that adds `lag_ms`; also what is said of it."""
    device = device_of(None, corrections, ("key",))
    shown = CueShown(t_ms=1000, round=1, slot=0, cue="bell", at_s=1, window_ms=800,
                     source="audio", spread_ms=2.0)  # fmt: skip
    found, _ = judged(device, shown, Input(t_ms=1400 + lag_ms, device="key", control="KeyU"))
    return found[0], device.widest_ms + found[0].spread_ms


@pytest.mark.parametrize("lag_ms", [0.0, 8.0, 20.0, 30.0])
def test_the_stated_uncertainty_holds_the_true_time(lag_ms: float) -> None:
    """C24: good web timing varies by a few ms for light and keys, more for sound; said, not hidden.

    Uncalibrated, the usual lag of keyboards (up to some 30 ms) is inside what is stated.
    """
    response, stated_ms = answer(lag_ms, ())
    assert response.time_ms is not None
    assert abs(response.time_ms - 400) <= stated_ms
    assert stated_ms >= ASSUMED_SPREAD_MS > LAB_MS


def test_a_measured_device_states_less_and_still_holds_it() -> None:
    """C24: with the lag measured, what is stated is narrower, and never nothing."""
    for off_ms in (-LAB_MS, 0.0, LAB_MS):
        response, stated_ms = answer(22.0 + off_ms, (measured("key", 22.0, 5.0),))
        assert response.time_ms is not None
        assert abs(response.time_ms - 400) <= stated_ms < ASSUMED_SPREAD_MS
    assert device_of(None, (measured("key", 22.0, 5.0),), ("key",)).calibrated


def test_a_quick_answer_says_a_clocks_offset_to_half_its_way() -> None:
    """RFC 5905, section 8: the offset of a clock is off by half the round trip at the most."""
    rng = np.random.default_rng(12)
    for _ in range(200):
        there, back = rng.uniform(0.5, 40, 2)
        clock = PadClock()
        clock.add(5000.0, 5000.0 + there + 333.0, 5000.0 + there + back)
        off_ms = abs(clock.to_page(9000.0) - (9000.0 - 333.0))
        assert off_ms <= (there + back) / 2
