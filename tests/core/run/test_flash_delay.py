"""A camera that sees the screen flash: its delay comes back, and what tells nothing says so."""

from __future__ import annotations

import pytest

from hastatus.core.plan.flash_limit import check_flashes
from hastatus.core.run.calibration import CannotCalibrate, Measured
from hastatus.core.run.flash_delay import camera_delay, flash_starts_s
from tests.harness.flashes import SHOWN_S, seen


def measured(delay_ms: float, rate_hz: float = 30.0, **how: float) -> Measured:
    times, cells = seen(delay_ms, rate_hz, **how)
    return camera_delay(times, cells, list(1000 * SHOWN_S))


def test_the_flashes_keep_the_flash_rule() -> None:
    """At most three flashes in any second (WCAG 2.2, success criterion 2.3.1)."""
    check_flashes(flash_starts_s())


@pytest.mark.parametrize("rate_hz", [15.0, 24.0, 30.0, 60.0])
@pytest.mark.parametrize("delay_ms", [12.0, 85.0, 240.0])
def test_the_delay_comes_back_and_its_interval_holds_it(delay_ms: float, rate_hz: float) -> None:
    found = measured(delay_ms, rate_hz)
    true_ms = delay_ms + 5  # light gathered for 10 ms is dated by its middle
    assert abs(found.ms - true_ms) < found.spread_ms
    assert found.spread_ms < 1000 / rate_hz
    assert found.used == found.of


def test_a_small_bright_part_of_the_picture_is_enough() -> None:
    assert abs(measured(100.0, lit=15.0).ms - 105) < 8


def test_what_tells_nothing_says_what_to_do() -> None:
    with pytest.raises(CannotCalibrate, match="mirror"):
        measured(85.0, lit=0.0)
    with pytest.raises(CannotCalibrate, match="pictures a second"):
        measured(85.0, 8.0)
    with pytest.raises(CannotCalibrate, match=r"varies|seen"):
        measured(120.0, jitter_ms=110)
    with pytest.raises(CannotCalibrate, match="pictures a second"):
        camera_delay([], [], [1.0, 2.0])
