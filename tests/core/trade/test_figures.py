"""The plain line figures: one body, mirrored for the other stance, true to the catalogue."""

from __future__ import annotations

import numpy as np
import pytest

from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.figure import Figure, figure, figures
from hastatus.core.trade.pose import Joints, joints
from hastatus.core.trade.poses import guard, poses
from hastatus.core.trade.technique import Side, Technique

SIDES: tuple[Side, Side] = ("lead", "rear")
# Drillis and Contini 1966, as tabulated by Winter (hundredths of height, from memory).
UPPER_ARM, FOREARM, HAND, THIGH, SHANK = 18.6, 14.6, 10.8, 24.5, 24.6
HEIGHTS = {"head": (78, 100), "body": (40, 80), "leg": (0, 42)}
"""Where a strike for a line ends, in hundredths of height (common practice, no source)."""


def every() -> list[tuple[Technique, Side]]:
    """Each technique of the app, for each side that it has."""
    return [
        (technique, side)
        for technique in TECHNIQUES.values()
        for side in (SIDES if technique.sided else SIDES[:1])
    ]


def placed(key: str, side: Side) -> list[Joints]:
    return [joints(pose, "right") for pose in poses(key, side)]


def test_every_technique_of_the_app_is_drawn_in_two_or_three_frames() -> None:
    for technique, side in every():
        found = figure(technique.key, side, "left_lead")
        assert found is not None, technique.key
        assert 2 <= len(found.frames) <= 3, technique.key
        assert found.acts or technique.key == "stay", technique.key
    assert len(figures("right_lead")) == len(every())
    assert figure("one_of_our_own", "lead", "left_lead") is None


@pytest.mark.parametrize("side", SIDES)
def test_limbs_have_the_published_lengths_in_every_frame(side: Side) -> None:
    for technique in TECHNIQUES.values():
        for found in placed(technique.key, side):
            for arm in found.arms.values():
                lengths = np.linalg.norm(np.diff(arm, axis=0), axis=1)
                assert lengths == pytest.approx([UPPER_ARM, FOREARM + HAND / 2], abs=0.05)
            for leg in found.legs.values():
                lengths = np.linalg.norm(np.diff(leg[:3], axis=0), axis=1)
                assert lengths == pytest.approx([THIGH, SHANK], abs=0.05), technique.key


def test_feet_are_on_or_above_the_floor_and_somebody_stands() -> None:
    for technique, side in every():
        for found in placed(technique.key, side):
            lowest = [float(leg[3:, 1].min()) for leg in found.legs.values()]
            assert min(lowest) >= -1.5, (technique.key, lowest)
            assert min(lowest) < 3.0, f"{technique.key}: nobody stands {lowest}"


def test_the_other_stance_is_the_mirror_image() -> None:
    for technique, side in every():
        for pose in poses(technique.key, side):
            one, other = joints(pose, "right"), joints(pose, "left")
            flip = np.array([1.0, 1.0, -1.0])
            assert np.allclose(one.arms["right"] * flip, other.arms["left"])
            assert np.allclose(one.legs["left"] * flip, other.legs["right"])
            assert np.allclose(one.head * flip, other.head)


def ends(technique: Technique, side: Side) -> np.ndarray:
    """Where what strikes is, in the last frame."""
    found = placed(technique.key, side)[-1]
    if technique.limb in ("hand", "forearm"):
        return found.arms["right"][2]
    if technique.limb == "elbow":
        return found.arms["right"][1]
    row = {"knee": 1, "foot": 4, "shin": 2}[technique.limb]
    return found.legs["right"][row]


STRIKES = [
    (technique, side)
    for technique, side in every()
    if technique.use == "attack" and technique.limb != "trunk" and technique.family != "grip"
]


@pytest.mark.parametrize(("technique", "side"), STRIKES, ids=lambda value: str(value)[:24])
def test_a_strike_ends_ahead_and_at_the_height_it_is_for(technique: Technique, side: Side) -> None:
    ahead, up, out = ends(technique, side)
    low, high = HEIGHTS[technique.line]
    assert low <= up <= high, f"{technique.key} ends at {up:.0f}"
    near = {"clinch": 14, "elbow": 18, "punch": 28, "kick": 30}[technique.reach]
    assert ahead >= near, f"{technique.key} ends {ahead:.0f} ahead"
    assert abs(out) <= 20, f"{technique.key} ends {out:.0f} aside"


def test_each_defense_of_the_head_by_moving_takes_the_head_off_its_place() -> None:
    for key in ("slip", "roll_under", "duck", "lean_back", "side_roll"):
        before = joints(guard("lead"), "right").head
        moved = max(float(np.linalg.norm(found.head - before)) for found in placed(key, "lead")[1:])
        assert moved > 10.0, f"{key}: the head moved {moved:.0f}"


def test_steps_have_soles_before_and_after_and_nothing_else_has() -> None:
    for technique, side in every():
        found = figure(technique.key, side, "left_lead")
        assert found is not None
        assert bool(found.soles) == (technique.limb == "feet")
        if technique.limb == "feet" and found.acts and "left_leg" in found.acts:
            assert found.soles[0] != found.soles[1], technique.key


def test_a_step_off_goes_to_its_own_side_in_either_stance() -> None:
    for stance, sign in (("left_lead", -1), ("right_lead", 1)):
        found = figure("step_off", "lead", stance)  # type: ignore[arg-type]
        assert found is not None
        before, after = found.soles
        for one, other in zip(before, after, strict=True):
            assert (other.heel[1] - one.heel[1]) * sign > 80


def test_every_frame_lies_in_its_box() -> None:
    def lines(found: Figure) -> list[list[int]]:
        return [line for one in found.frames for line in (one.left_arm, one.right_leg, one.head)]

    for found in figures("left_lead"):
        left, top, width, height = found.box
        for line in lines(found):
            assert all(left <= x <= left + width for x in line[::2])
            assert all(top <= y <= top + height for y in line[1::2])
