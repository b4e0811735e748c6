"""How far zones move between pictures, against pictures that were moved by a known amount."""

from __future__ import annotations

import json

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from numpy.typing import NDArray
from pydantic import ValidationError
from scipy.ndimage import gaussian_filter, shift

from hastatus.core.motion.meter import MotionMeter
from hastatus.core.motion.zone import CameraPlace, Zone
from tests.golden import motion

ROWS, COLUMNS = 180, 320
HEAD = Zone(part="head", left=0.4, top=0.2, width=0.2, height=0.3)
STEP = 4.5
"""Pixels that are reduced to one in that zone: it is 54 px tall."""


def room(seed: int) -> NDArray[np.float64]:
    noise = gaussian_filter(np.random.default_rng(seed).standard_normal((ROWS, COLUMNS)), 5)
    return 120 + 30 * noise / noise.std()


def with_head(seed: int, right: float, down: float) -> NDArray[np.float64]:
    """A room in front of which a head of another texture is moved by so many pixels."""
    rows, columns = np.mgrid[0:ROWS, 0:COLUMNS]
    inside = ((rows - 63) / 34) ** 2 + ((columns - 160) / 40) ** 2
    cover = shift(np.clip(2 - 2 * inside, 0, 1), (down, right), order=1)
    look = shift(room(seed + 1) + 30, (down, right), order=1, mode="nearest")
    return (1 - cover) * room(seed) + cover * look


def told(*pictures: NDArray[np.float64]) -> NDArray[np.float64]:
    """What the zone of the head moved in the last of these pictures, in pixels."""
    meter = MotionMeter([HEAD])
    for number, picture in enumerate(pictures):
        meter.add(number / 30, np.clip(picture, 0, 255).astype(np.uint8))
    return meter.motion.moved[-1, 0] * ROWS


@given(
    seed=st.integers(0, 10**6),
    right=st.floats(-0.7 * STEP, 0.7 * STEP),
    down=st.floats(-0.7 * STEP, 0.7 * STEP),
)
@settings(max_examples=30)
def test_what_moves_in_a_zone_is_told_in_its_direction(
    seed: int, right: float, down: float
) -> None:
    """Up to what the meter says that it can tell; the still wall in the zone takes some of it."""
    moved = told(with_head(seed, 0, 0), with_head(seed, right, down))
    true = np.array([right, down])
    far = float(np.linalg.norm(true))
    along, across = moved @ true, abs(moved[0] * true[1] - moved[1] * true[0])
    assert 0.35 * far**2 - 0.25 * far <= along <= 1.5 * far**2 + 0.25 * far
    assert across <= 0.3 * far**2 + 0.25 * far


@given(seed=st.integers(0, 10**6), gain=st.floats(0.85, 1.15), level=st.floats(-15, 15))
@settings(max_examples=20)
def test_another_brightness_is_no_movement(seed: int, gain: float, level: float) -> None:
    still = 50 + 0.45 * with_head(seed, 0, 0)  # none is burnt out, which moves edges
    assert np.linalg.norm(told(still, gain * still + level)) < 0.1


@given(seed=st.integers(0, 10**6), right=st.floats(-3, 3), down=st.floats(-3, 3))
@settings(max_examples=20)
def test_the_shake_of_the_camera_is_taken_off(seed: int, right: float, down: float) -> None:
    still = with_head(seed, 0, 0)
    shaken = shift(still, (down, right), order=1, mode="nearest")
    assert np.linalg.norm(told(still, shaken)) < 0.3 + 0.25 * np.hypot(right, down)


def test_a_picture_of_another_size_begins_anew() -> None:
    meter = MotionMeter([HEAD])
    meter.add(0.0, np.zeros((ROWS, COLUMNS), np.uint8))
    meter.add(0.1, np.full((90, 160), 200, np.uint8))
    meter.add(0.1, np.full((90, 160), 100, np.uint8))  # not after the one before
    assert meter.motion.times_s.tolist() == [0.0, 0.1]
    assert not meter.motion.moved.any()


@pytest.mark.parametrize(
    ("zones", "said"),
    [
        ([{**HEAD.model_dump(), "left": 0.9}], "the zone of the head reaches out of the picture"),
        ([{**HEAD.model_dump(), "top": 0.8}], "reaches out of the picture"),
        ([HEAD.model_dump(), HEAD.model_dump()], "there are two zones of the head"),
        ([{**HEAD.model_dump(), "width": 0.001}], "greater than or equal to 0.02"),
        ([], "at least 1 item"),
    ],
)
def test_a_place_says_what_is_wrong_with_its_zones(zones: list[object], said: str) -> None:
    with pytest.raises(ValidationError, match=said):
        CameraPlace.model_validate({"name": "by the door", "zones": zones})


def test_what_the_page_is_held_to_is_what_is_measured_here() -> None:
    kept = json.loads(motion.FIXTURE.read_text())["scenes"]
    for scene, now in zip(kept, motion.scenes()["scenes"], strict=True):
        off = np.abs(np.array(scene.pop("moved")) - np.array(now.pop("moved")))
        assert off.max() <= 2  # sums of single precision differ a little between machines
        assert scene == now
