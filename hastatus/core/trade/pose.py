"""A pose of a plain line figure, and the joints that follow from it.

A pose says where hands and feet are and how the body is turned; the angles of elbows and knees
follow from the lengths of the limbs, those of an adult (`limbs.estimated`), so that every figure
has the same body. Lengths are in hundredths of the body's height. Axes: x towards the partner, y
up, z to the figure's right. In a pose *out* is away from the midline, to the limb's own side, and
the *active* side is the one that does the technique, so that a pose holds for both sides and both
stances. Where limbs are in each technique is common practice of the trade, no source.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from hastatus.core.trade.limbs import estimated

Vector = NDArray[np.float64]
Spot = tuple[float, float, float]
"""Ahead, up and out, in hundredths of the body's height."""
Bend = Literal["down", "out", "up", "ahead", "across"]
Toes = Literal["flat", "pointed", "drawn"]

_BODY = estimated(100.0)
UPPER_ARM, FOREARM = _BODY.upper_arm, _BODY.forearm + _BODY.hand / 2
"""Shoulder to elbow, and elbow to the middle of the fist."""
THIGH, SHANK = _BODY.thigh, _BODY.shank
TRUNK = 28.8
"""Hips to the base of the neck: shoulders at 0.818, hips at 0.530 of height (Winter, memory)."""
HEAD_UP, HEAD_RADIUS = 11.5, 6.5
"""Base of the neck to the middle of the head, and its radius."""
_HEEL, _TOE = 4.0, _BODY.foot_length - 4.0
_BENDS: dict[Bend, Spot] = {
    "down": (0.1, -1.0, 0.35),
    "out": (0.1, 0.1, 1.0),
    "up": (0.4, 1.0, 0.5),
    "ahead": (1.0, 0.1, 0.2),
    "across": (1.0, 0.3, -0.7),
}


@dataclass(frozen=True, slots=True)
class Limb:
    """Where a hand's or a foot's end is, and which way its elbow or knee goes."""

    end: Spot
    bend: Bend
    toes: Toes = "flat"


@dataclass(frozen=True, slots=True)
class Pose:
    """A whole body.

    hand, other_hand: of the active side and the other one. foot, other_foot: their ankles, less
    their height above the sole. hips: their middle; out is to the active side. turn: of the
    shoulders, degrees; 0 is square to the partner, more brings the active shoulder forward. lean:
    of the trunk, degrees ahead. tilt: degrees to the active side. foot_turn, other_foot_turn: of
    the toes, degrees outward.
    """

    hand: Limb
    other_hand: Limb
    foot: Limb
    other_foot: Limb
    hips: Spot
    turn: float
    lean: float
    tilt: float
    foot_turn: float
    other_foot_turn: float


@dataclass(frozen=True, slots=True)
class Joints:
    """Points in space, each a row of x, y and z. side: "left" or "right" of the body.

    arms: shoulder, elbow and fist. legs: hip, knee, ankle, heel and toes. trunk: hips and base of
    the neck. head: its middle. nose: the way it looks.
    """

    arms: dict[str, Vector]
    legs: dict[str, Vector]
    trunk: Vector
    head: Vector
    nose: Vector


def joints(pose: Pose, active: Literal["left", "right"]) -> Joints:
    """Every joint of a pose whose active side is this one."""
    sign = 1.0 if active == "right" else -1.0
    out = np.array([1.0, 1.0, sign])
    hips = np.array(pose.hips) * out
    up = _up(pose, sign)
    neck = hips + TRUNK * up
    head = neck + HEAD_UP * (0.5 * up + 0.5 * np.array([0.0, 1.0, 0.0]))
    other = "left" if active == "right" else "right"
    arms, legs = {}, {}
    for side, hand, foot, toes in (
        (active, pose.hand, pose.foot, pose.foot_turn),
        (other, pose.other_hand, pose.other_foot, pose.other_foot_turn),
    ):
        own = sign if side == active else -sign
        forward = 1.0 if side == active else -1.0
        shoulder = neck + _across(pose.turn, forward, own) * _BODY.half_shoulders
        hip = hips + _across(pose.turn / 2, forward, own) * _BODY.half_hips
        arms[side] = np.stack(_bent(shoulder, hand, own, UPPER_ARM, FOREARM))
        ankle = Limb((foot.end[0], foot.end[1] + _BODY.foot_height, foot.end[2]), foot.bend)
        leg = _bent(hip, ankle, own, THIGH, SHANK)
        legs[side] = np.stack([*leg, *_foot(leg, foot.toes, toes, own)])
    nose = head + np.array([HEAD_RADIUS * 1.35, -0.5, 0.0])
    return Joints(arms, legs, np.stack([hips, neck]), head, nose)


def _up(pose: Pose, sign: float) -> Vector:
    lean, tilt = np.radians(pose.lean), np.radians(pose.tilt)
    way = np.array([np.sin(lean), np.cos(lean) * np.cos(tilt), sign * np.sin(tilt)])
    return np.asarray(way / np.linalg.norm(way))


def _across(turn: float, forward: float, own: float) -> Vector:
    """From the midline to a joint of one side, of length one."""
    angle = np.radians(turn)
    return np.array([forward * np.sin(angle), 0.0, own * np.cos(angle)])


def _bent(root: Vector, limb: Limb, own: float, upper: float, lower: float) -> list[Vector]:
    """Root, middle joint and end of a limb of two parts; an end out of reach is drawn in."""
    wanted = np.array(limb.end) * np.array([1.0, 1.0, own]) - root
    distance = float(np.clip(np.linalg.norm(wanted), abs(upper - lower) + 0.5, upper + lower - 0.2))
    along = wanted / max(float(np.linalg.norm(wanted)), 1e-6)
    pole = np.array(_BENDS[limb.bend]) * np.array([1.0, 1.0, own])
    aside = pole - along * float(pole @ along)
    aside /= max(float(np.linalg.norm(aside)), 1e-6)
    cosine = (upper**2 + distance**2 - lower**2) / (2 * upper * distance)
    middle = root + upper * (cosine * along + np.sqrt(max(0.0, 1 - cosine**2)) * aside)
    return [root, middle, root + distance * along]


def _foot(leg: list[Vector], toes: Toes, turn: float, own: float) -> list[Vector]:
    """Heel and toes: flat on the floor, pointed along the shank, or drawn up square to it."""
    knee, ankle = leg[1], leg[2]
    shank = (ankle - knee) / float(np.linalg.norm(ankle - knee))
    angle = np.radians(turn)
    flat = np.array([np.cos(angle), 0.0, own * np.sin(angle)])
    if toes == "pointed":
        return [ankle - 1.5 * flat, ankle + _TOE * shank]
    if toes == "drawn":
        up = np.array([0.0, 1.0, 0.0])
        way = up - shank * float(up @ shank)
        way /= max(float(np.linalg.norm(way)), 1e-6)
        sole = ankle + _BODY.foot_height * shank
        return [sole - _HEEL * way, sole + _TOE * way]
    sole = ankle - np.array([0.0, _BODY.foot_height, 0.0])
    return [sole - _HEEL * flat, sole + _TOE * flat]
