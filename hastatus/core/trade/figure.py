"""The plain line figure of a technique as it is drawn: its frames, and its soles on the floor.

The figure looks to the right and is seen from its right, a little from the front and from above.
"""

from __future__ import annotations

from functools import cache
from typing import Literal, get_args

import numpy as np
from pydantic import BaseModel

from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.pose import HEAD_RADIUS, Joints, Limb, Pose, Vector, joints
from hastatus.core.trade.poses import poses
from hastatus.core.trade.technique import Limb as LimbName
from hastatus.core.trade.technique import Side, Stance, hand

_FROM_FRONT, _FROM_ABOVE = np.radians(32.0), np.radians(10.0)

Part = Literal["left_arm", "right_arm", "left_leg", "right_leg", "trunk"]
_STANDING = ((-330, 430), (-980, 50))
"""What every box holds at least, so that figures have about the same size side by side."""
_MARGIN = 40
Line = list[int]
"""x and y by turns, in tenths of a hundredth of the body's height; y is down."""


class FigureFrame(BaseModel):
    """One frame: lines to draw through their points. head: its middle. nose: where it looks."""

    left_arm: Line
    right_arm: Line
    left_leg: Line
    right_leg: Line
    trunk: Line
    shoulders: Line
    head: Line
    nose: Line


class Sole(BaseModel):
    """A foot on the floor, from above: ahead is to the right, the figure's right is down."""

    foot: Literal["left", "right"]
    heel: Line
    toes: Line


class Figure(BaseModel):
    """A technique of one side in one stance. acts: the parts that do it. head_radius: as lines.
    box: left, top, width and height of what holds every frame, and at least a standing figure.

    soles: both feet before and after, for what is done with the feet; empty for anything else.
    """

    technique: str
    side: Side
    acts: list[Part]
    head_radius: int
    box: Line
    frames: list[FigureFrame]
    soles: list[list[Sole]]


def figure(key: str, side: Side, stance: Stance) -> Figure | None:
    """How a technique is drawn; None for one of a club's own, which nobody has drawn."""
    frames = poses(key, side)
    if not frames:
        return None
    active = hand(side, stance)
    placed = [joints(frame, active) for frame in frames]
    limb = TECHNIQUES[key].limb
    drawn = [_frame(found) for found in placed]
    return Figure(
        technique=key,
        side=side,
        acts=_acts(frames, limb, active),
        head_radius=round(10 * HEAD_RADIUS),
        box=_box(drawn),
        frames=drawn,
        soles=[_soles(found) for found in (placed[0], placed[-1])] if limb == "feet" else [],
    )


def _acts(frames: tuple[Pose, ...], limb: LimbName, active: Literal["left", "right"]) -> list[Part]:
    """The parts that do it: of the limbs that it is done with, those that move."""
    if limb in ("trunk", "head"):
        return ["trunk"]
    other = "right" if active == "left" else "left"
    places = [
        (_from_hips(one, one.hand), _from_hips(one, one.other_hand), one.foot, one.other_foot)
        for one in frames
    ]
    names = (f"{active}_arm", f"{other}_arm", f"{active}_leg", f"{other}_leg")
    moved = {
        name
        for name, places in zip(names, zip(*places, strict=True), strict=True)
        if len(set(places)) > 1
    }
    kind = "_arm" if limb in ("hand", "forearm", "elbow") else "_leg"
    own = {part for part in moved if part.endswith(kind)} or moved
    return [part for part in get_args(Part) if part in own]


def _from_hips(pose: Pose, hand: Limb) -> tuple[float, float]:
    """How far ahead of the hips and above them: a hand that only goes along does nothing."""
    return round(hand.end[0] - pose.hips[0], 3), round(hand.end[1] - pose.hips[1], 3)


def _box(frames: list[FigureFrame]) -> Line:
    """Left, top, width and height of what holds every frame, with a margin for the lines."""
    x, y = [*_STANDING[0]], [*_STANDING[1]]
    for frame in frames:
        for line in (frame.left_arm, frame.right_arm, frame.left_leg, frame.right_leg, frame.nose):
            x += line[::2]
            y += line[1::2]
    left, top = min(x) - _MARGIN, min(y) - _MARGIN
    return [left, top, max(x) + _MARGIN - left, max(y) + _MARGIN - top]


def _frame(found: Joints) -> FigureFrame:
    return FigureFrame(
        left_arm=_seen(found.arms["left"]),
        right_arm=_seen(found.arms["right"]),
        left_leg=_seen(found.legs["left"]),
        right_leg=_seen(found.legs["right"]),
        trunk=_seen(found.trunk),
        shoulders=_seen(np.stack([found.arms["left"][0], found.arms["right"][0]])),
        head=_seen(found.head[None, :]),
        nose=_seen(found.nose[None, :]),
    )


def _seen(points: Vector) -> Line:
    """Points in space as they are seen."""
    x, y, z = points.T
    across = x * np.cos(_FROM_FRONT) - z * np.sin(_FROM_FRONT)
    nearer = x * np.sin(_FROM_FRONT) + z * np.cos(_FROM_FRONT)
    down = nearer * np.sin(_FROM_ABOVE) - y * np.cos(_FROM_ABOVE)
    return [round(10 * float(value)) for value in np.stack([across, down], axis=1).ravel()]


def _soles(found: Joints) -> list[Sole]:
    sides: tuple[Literal["left", "right"], ...] = ("left", "right")
    return [
        Sole(foot=side, heel=_above(found.legs[side][3]), toes=_above(found.legs[side][4]))
        for side in sides
    ]


def _above(point: Vector) -> Line:
    return [round(10 * float(point[0])), round(10 * float(point[2]))]


@cache
def figures(stance: Stance) -> tuple[Figure, ...]:
    """Every technique that comes with the app, for both sides where it has two.

    They are drawn once in a process: all of them take a quarter of a second.
    """
    lines = (
        figure(technique.key, side, stance)
        for technique in TECHNIQUES.values()
        for side in (("lead", "rear") if technique.sided else ("lead",))
    )
    return tuple(one for one in lines if one)
