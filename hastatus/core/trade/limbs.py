"""Limb lengths: estimated from height, or scaled to what was measured."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from hastatus.core.fields import Document

USUAL_HEIGHT_M = 1.70
"""Height that is taken where nobody is chosen, in metres."""

Height = Annotated[float, Field(ge=0.8, le=2.4, allow_inf_nan=False)]
Arm = Annotated[float, Field(ge=0.25, le=1.2, allow_inf_nan=False)]
Leg = Annotated[float, Field(ge=0.35, le=1.5, allow_inf_nan=False)]

_UPPER_ARM, _FOREARM, _HAND = 0.186, 0.146, 0.108
_THIGH, _SHANK, _FOOT_HEIGHT, _FOOT_LENGTH = 0.245, 0.246, 0.039, 0.152
_HALF_SHOULDERS, _HALF_HIPS = 0.129, 0.0955


class Limbs(Document):
    """Segment lengths in metres. height: None where only limbs were measured.

    hand: wrist to fingertips. foot_height: ankle to sole. half_shoulders, half_hips: from the
    midline to the joint.
    """

    upper_arm: float
    forearm: float
    hand: float
    thigh: float
    shank: float
    foot_height: float
    foot_length: float
    half_shoulders: float
    half_hips: float

    @property
    def arm(self) -> float:
        """Shoulder to fingertips, m."""
        return self.upper_arm + self.forearm + self.hand

    @property
    def leg(self) -> float:
        """Hip to sole, m."""
        return self.thigh + self.shank + self.foot_height


class Body(Document):
    """What was measured of somebody, in metres; None: not measured.

    arm_m: shoulder to the knuckles of a closed fist. leg_m: hip bone to the sole.
    """

    height_m: Height | None = None
    arm_m: Arm | None = None
    leg_m: Leg | None = None

    @property
    def known(self) -> bool:
        """Whether reach can be told at all."""
        return self.height_m is not None or (self.arm_m is not None and self.leg_m is not None)


def estimated(height_m: float) -> Limbs:
    """Limbs of an adult of this height.

    Drillis and Contini 1966, as tabulated by Winter (shares from memory; half the hip breadth of
    0.191 H, too).
    """
    return Limbs(
        upper_arm=_UPPER_ARM * height_m,
        forearm=_FOREARM * height_m,
        hand=_HAND * height_m,
        thigh=_THIGH * height_m,
        shank=_SHANK * height_m,
        foot_height=_FOOT_HEIGHT * height_m,
        foot_length=_FOOT_LENGTH * height_m,
        half_shoulders=_HALF_SHOULDERS * height_m,
        half_hips=_HALF_HIPS * height_m,
    )


def limbs(body: Body) -> Limbs:
    """Limbs from what is known: estimated, then scaled so that measured lengths hold.

    Without a height, it is the one that the measured limbs would belong to; with nothing at all,
    `USUAL_HEIGHT_M`.
    """
    limbs = estimated(body.height_m or _height_of(body))
    arm = body.arm_m / (limbs.arm - limbs.hand / 2) if body.arm_m else 1.0
    leg = body.leg_m / limbs.leg if body.leg_m else 1.0
    return limbs.model_copy(
        update={
            **{name: getattr(limbs, name) * arm for name in ("upper_arm", "forearm", "hand")},
            **{name: getattr(limbs, name) * leg for name in ("thigh", "shank", "foot_height")},
        }
    )


def _height_of(body: Body) -> float:
    usual = estimated(1.0)
    guesses = []
    if body.arm_m:
        guesses.append(body.arm_m / (usual.arm - usual.hand / 2))
    if body.leg_m:
        guesses.append(body.leg_m / usual.leg)
    return sum(guesses) / len(guesses) if guesses else USUAL_HEIGHT_M
