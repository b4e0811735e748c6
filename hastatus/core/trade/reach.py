"""How far a technique reaches, the bands of distance of a pair, and their safe gap.

A *gap* is the distance between the midlines of two people. A strike lands on the front of the
body, so it reaches a gap that is `DEPTH_M` longer than the strike itself. Which segments a strike
is made of is common practice of the trade put into numbers, no source; the segments are `body`'s.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import cos, pi, sqrt
from typing import Literal

from hastatus.core.trade.limbs import Limbs
from hastatus.core.trade.technique import Reach, Technique

DEPTH_M = 0.12
"""From the midline to the front of head or body, m (rule of thumb)."""
GLOVE_M = 0.025
"""What a glove's foam adds to a fist, m (common practice, no source)."""
BENT = 100 * pi / 180
"""Angle at the elbow in a hook: a little more than a right angle."""
SHIN_AT = 0.75
"""A round kick lands with the shin: this far down it."""

Surface = Literal["fist", "palm", "fingers"]
SHORTER: dict[Surface, float] = {"fingers": 0.0, "fist": 0.5, "palm": 0.75}
"""How much shorter than the fingertips a hand strikes, in hands (C16: a fist about half a hand)."""


@dataclass(frozen=True, slots=True)
class Band:
    """A band of distance: from the end of the nearer one to `to_m`, a gap in metres."""

    reach: Reach
    to_m: float


def surface_of(technique: Technique) -> Surface | None:
    """What of the hand strikes; None for what is not struck with the hand."""
    if technique.limb != "hand":
        return None
    if technique.key in ("palm_strike", "open_slap", "shove"):
        return "palm"
    grips = technique.family == "grip"
    return "fingers" if grips or technique.key in ("finger_jab", "tag") else "fist"


def strike_m(
    technique: Technique,
    body: Limbs,
    surface: Surface | None = None,
    *,
    glove: bool = False,
    added_m: float = 0.0,
) -> float:
    """From the striker's midline to where the technique ends, in metres.

    surface: what of the hand strikes, where it is not the technique's own. added_m: a paddle.
    """
    return _plain(technique, body, surface, glove) + added_m


def _plain(technique: Technique, body: Limbs, surface: Surface | None, glove: bool) -> float:
    hip = body.half_hips + body.foot_length / 2  # the standing foot turns on its ball
    match technique.limb:
        case "hand":
            used = surface or surface_of(technique) or "fist"
            end = body.hand * (1 - SHORTER[used])
            arm = _bent(body.upper_arm, body.forearm + end) if _is_bent(technique) else None
            length = arm if arm is not None else body.upper_arm + body.forearm + end
            foam = GLOVE_M if glove and used == "fist" else 0.0
            return body.half_shoulders + length + foam
        case "forearm":
            return body.half_shoulders + body.upper_arm + body.forearm
        case "elbow":
            return body.half_shoulders + body.upper_arm
        case "knee":
            return hip + body.thigh
        case "shin":
            return hip + body.thigh + SHIN_AT * body.shank
        case "foot":
            return hip + body.leg
        case _:
            return body.half_shoulders + body.upper_arm


def _is_bent(technique: Technique) -> bool:
    return technique.family in ("circular", "rising") and technique.key not in (
        "wide_swing",
        "back_fist",
        "spinning_back_fist",
        "open_slap",
    )


def _bent(upper: float, fore: float) -> float:
    """Shoulder to fist with the elbow at `BENT` (law of cosines), m."""
    return sqrt(upper**2 + fore**2 - 2 * upper * fore * cos(BENT))


def gap_reached(strike: float, target_ahead_m: float = 0.0) -> float:
    """The largest gap a strike of this length reaches, m. target_ahead_m: a pad held ahead."""
    return strike + max(DEPTH_M, target_ahead_m)


def bands(one: Limbs, other: Limbs) -> tuple[Band, ...]:
    """The bands of a pair, nearest first: each ends where the longer of the two no longer reaches.

    Clinch: a forearm between the two. Elbow, punch and kick: by elbow, fist and leg.
    """

    def ends(body: Limbs) -> Iterator[float]:
        yield body.forearm + body.hand / 2 + DEPTH_M
        yield body.half_shoulders + body.upper_arm + DEPTH_M
        yield body.half_shoulders + body.arm - body.hand / 2 + DEPTH_M
        yield body.half_hips + body.foot_length / 2 + body.leg + DEPTH_M

    names: tuple[Reach, ...] = ("clinch", "elbow", "punch", "kick")
    both = zip(names, ends(one), ends(other), strict=True)
    return tuple(Band(name, max(mine, theirs)) for name, mine, theirs in both)


def safe_gap(one: Limbs, other: Limbs) -> float:
    """Where the taller one's rear leg can no longer reach, m (common practice, no source)."""
    return bands(one, other)[-1].to_m
