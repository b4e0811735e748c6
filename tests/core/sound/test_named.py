"""Sounds by name: what is told of one without making it is so."""

from __future__ import annotations

import pytest

from hastatus.core.sound import named, tones
from hastatus.core.sound.signal_code import drawn


@pytest.mark.parametrize("name", [*tones.SOUNDS, *(f"signal_{word}" for word in drawn(7, 5))])
def test_a_sound_is_as_long_as_its_samples(name: str) -> None:
    assert named.length_s(name) == pytest.approx(named.samples(name).size / tones.RATE, abs=1e-6)


def test_no_sound_has_no_length() -> None:
    with pytest.raises(KeyError):
        named.length_s("signal_00000000")
