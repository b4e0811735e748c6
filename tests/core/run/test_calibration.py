"""Calibration: planted delays come back, and what says nothing is refused with a sentence."""

from __future__ import annotations

import numpy as np
import pytest

from hastatus.core.run import calibration
from hastatus.core.run.calibration import CannotCalibrate, Measured, against_microphone, loopback
from hastatus.core.sound.tones import RATE

LEAD_S = 0.2
PLAYED = [LEAD_S + each for each in calibration.starts_s()]


def recording(
    delay_ms: float, noise: float = 0.01, echo: float = 0.0, jitter_ms: float = 0.0
) -> np.ndarray:
    """The chirps as a microphone hears them, `delay_ms` late; echo: of a wall 4 ms further."""
    rng = np.random.default_rng(5)
    samples = rng.normal(0, noise, round((PLAYED[-1] + 1.2) * RATE))
    sent = 0.2 * calibration.chirp()
    for at_s in PLAYED:
        off_s = (delay_ms + rng.normal(0, jitter_ms)) / 1000
        for late_s, gain in ((0.0, 1.0), (0.004, echo), (0.011, 0.6 * echo)):
            first = round((at_s + off_s + late_s) * RATE)
            samples[first : first + sent.size] += gain * sent
    return samples.astype(np.float32)


@pytest.mark.parametrize("delay_ms", [3.0, 40.0, 180.0, 420.0])
@pytest.mark.parametrize("echo", [0.0, 1.2])
def test_a_planted_delay_comes_back(delay_ms: float, echo: float) -> None:
    found = loopback(recording(delay_ms, echo=echo), RATE, PLAYED)
    assert found.ms == pytest.approx(delay_ms, abs=0.3)
    assert 10 <= found.spread_ms < 10.2
    assert found.used >= 22
    assert found.wireless == (delay_ms > 120)


def test_noise_as_loud_as_the_chirps_does_not_spoil_it() -> None:
    assert loopback(recording(60.0, noise=0.1), RATE, PLAYED).ms == pytest.approx(60, abs=1)


@pytest.mark.parametrize(
    ("samples", "says"),
    [
        (np.zeros(8 * RATE, np.float32), "silence"),
        (np.zeros(10, np.float32), "no recording"),
        (np.full(8 * RATE, np.nan, np.float32), "no recording"),
        (np.random.default_rng(1).normal(0, 0.1, 9 * RATE).astype(np.float32), "were heard"),
        (recording(50.0, jitter_ms=15.0), "were heard|varies"),
    ],
)
def test_what_says_nothing_is_refused(samples: np.ndarray, says: str) -> None:
    with pytest.raises(CannotCalibrate, match=says):
        loopback(samples, RATE, PLAYED)


def test_another_rate_is_refused() -> None:
    with pytest.raises(CannotCalibrate, match="44100"):
        loopback(recording(40), 44_100, PLAYED)


def test_a_key_is_corrected_by_what_was_heard() -> None:
    rng = np.random.default_rng(2)
    struck = np.cumsum(rng.uniform(600, 900, 12))
    heard = struck - 23 + rng.normal(0, 2, 12)
    microphone = Measured(70, 10.1, 24, 24)
    # A strike that was not felt, and one that was not heard, are left out.
    found = against_microphone(struck, [*heard[1:], 99_999.0], microphone)
    assert found.ms == pytest.approx(23, abs=2)
    assert 1 <= found.spread_ms < 6
    assert (found.used, found.of) == (11, 12)


def test_too_few_and_too_uneven_strikes_are_refused() -> None:
    microphone = Measured(70, 1.5, 24, 24)
    struck = [1000.0 * place for place in range(12)]
    with pytest.raises(CannotCalibrate, match="7 strikes"):
        against_microphone(struck, struck[:7], microphone)
    with pytest.raises(CannotCalibrate, match="differ"):
        against_microphone(struck, [each + 60 * (-1) ** i for i, each in enumerate(struck)],
                           microphone)  # fmt: skip
