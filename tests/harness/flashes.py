"""A camera that sees the screen flash, as a device would send it."""

from __future__ import annotations

from typing import Any

import numpy as np

from hastatus.core.run.flash_delay import FLASH_S, flash_starts_s

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


def flashes(delay_ms: float, **how: Any) -> dict[str, Any]:
    """What the page sends."""
    times, cells = seen(delay_ms, **how)
    return {"times_ms": times, "cells": cells, "shown_ms": list(1000 * SHOWN_S)}
