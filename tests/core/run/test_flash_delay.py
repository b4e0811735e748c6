"""A camera that sees the screen flash: its delay comes back, and what tells nothing says so."""

from __future__ import annotations

import numpy as np
import pytest

from hastatus.core.plan.flash_limit import check_flashes
from hastatus.core.run.calibration import CannotCalibrate, Measured
from hastatus.core.run.flash_delay import FLASH_S, camera_delay, flash_starts_s

SHOWN_S = 1.5 + np.array(flash_starts_s())


def seen(
    delay_ms: float,
    rate_hz: float = 30.0,
    *,
    lit: float = 60.0,
    seed: int = 1,
    jitter_ms: float = 0,
) -> tuple[list[float], list[list[int]]]:
    """Pictures of twelve parts, three of them lit by the screen; each picture gathers light for
    10 ms before its time. A lamp flickers, and the exposure drifts."""
    rng = np.random.default_rng(seed)
    times = np.arange(0.013, SHOWN_S[-1] + 1.5, 1 / rate_hz)
    late = delay_ms / 1000 + rng.uniform(-1, 1, len(times)) * jitter_ms / 1000
    fine = (np.arange(20) / 20) * 0.01
    when = (times - late)[:, None] - fine[None, :]
    on = ((when[..., None] >= SHOWN_S) & (when[..., None] < SHOWN_S + FLASH_S)).any(axis=-1)
    cells = np.full((len(times), 12), 70.0) + rng.normal(0, 1.5, (len(times), 12))
    cells[:, 3:6] += lit * on.mean(axis=1)[:, None]
    cells += (
        6 * np.sin(2 * np.pi * 0.2 * times)[:, None] + 2 * np.sin(2 * np.pi * 9.7 * times)[:, None]
    )
    return list(1000 * times), np.clip(cells, 0, 255).astype(int).tolist()


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
