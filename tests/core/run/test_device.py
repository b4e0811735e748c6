"""What a device of a run is read from, and what is taken off its times."""

from datetime import date

import pytest
from pydantic import ValidationError

from hastatus.core.run.device import ASSUMED_SPREAD_MS, Correction, Device


def test_a_device_that_was_kept_with_latencies_that_nothing_set_is_read() -> None:
    kept = {**Device(inputs=("key",)).model_dump(mode="json"), "key_ms": 0.0, "touch_ms": 0.0}
    read = Device.model_validate(kept)
    assert read == Device(inputs=("key",))
    assert "key_ms" not in read.model_dump()
    with pytest.raises(ValidationError, match="key_ms"):
        Device.model_validate({**kept, "key_ms": 25.0})


def test_what_was_measured_is_taken_off_and_what_was_not_has_the_usual_spread() -> None:
    measured = Correction(source="key", ms=25, spread_ms=4, measured_on=date(2026, 10, 1))
    device = Device(inputs=("key", "touch", "coach"), corrections=(measured,))
    assert (device.latency_ms("key"), device.latency_ms("touch")) == (25, 0)
    assert (device.spread_of("key"), device.spread_of("touch")) == (4, ASSUMED_SPREAD_MS)
    assert device.widest_ms == device.spread_of("coach") == 120
