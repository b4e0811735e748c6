"""The poses of each technique: how it begins, passes and ends, for the plain line figure.

A frame a line, for both sides unless the rear one has its own. The guard comes before the first,
unless that begins with "=". A frame names what differs from the guard: `hand`, `other` (the other
hand), `both` (hands), `foot`, `stand` (the other foot), `front` (the lead foot) as ahead,up,out in
hundredths of the body's height, with an elbow's or knee's way and the toes behind; `hips`; `turn`,
`lean`, `tilt` in degrees; `toes`, `stand_toes`: how far a foot points outward. Hands that are not
named keep their guard and go with the hips. See `pose` for the axes.

Common practice of the trade put into numbers, no source.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from functools import cache
from types import MappingProxyType
from typing import Any

from pydantic import TypeAdapter

from hastatus.core.trade.pose import Limb, Pose, Spot
from hastatus.core.trade.technique import Side

_ATTACKS = """
straight: hand 56,83,-2,down turn 55 hips 3,47,0
body_straight: hips 8,38,0 lean 12 hand 57,62,0,down turn 55
finger_jab: hand 56,88,-2,down turn 55 hips 3,47,0
palm_strike: hand 53,86,-2,down turn 55 hips 3,47,0
tag: hand 46,76,2,down turn 45 hips 4,46,0
hook: hand 16,78,16,out turn 5
    | hand 32,86,-10,out turn 75 hips 2,47,0
body_hook: hips 2,40,3 turn 5 hand 14,62,16,down
    | hips 4,41,0 turn 70 hand 33,60,-8,out lean 10
wide_swing: hand -16,74,36,out turn -25
    | hand 36,88,-12,out turn 75 hips 7,46,0 lean 10
back_fist: hand 12,82,-14,across turn 60
    | hand 46,88,14,out turn 50
spinning_back_fist: turn 165 hand 6,72,-4,down hips 2,48,0
    | turn 120 hand 46,86,4,out hips 4,48,0
open_slap: hand 0,84,34,out turn -10
    | hand 40,88,-8,out turn 65 hips 3,47,0
uppercut: hips 2,42,2 hand 14,56,10,down turn 5
    | hips 4,48,0 hand 29,86,-2,down turn 65
body_uppercut: hips 2,41,2 hand 10,52,10,down turn 5
    | hips 4,44,0 hand 32,64,-2,down turn 65
overhand: hand 16,100,14,up turn 20
    | hand 42,86,-8,up turn 75 tilt -10 lean 16 hips 5,45,-3
hammer_fist: hand 16,106,8,ahead turn 20
    | hand 38,82,0,down turn 50 hips 3,46,0
round_elbow: hand 12,78,12,out turn 10
    | hand 16,82,-12,ahead turn 80 hips 5,47,0
rising_elbow: hand 14,70,8,down turn 10
    | hand 8,96,6,ahead turn 65 hips 5,48,0
falling_elbow: hand 6,106,6,ahead turn 30
    | hand 17,80,-4,ahead turn 65 lean 16 hips 5,46,0
straight_knee: foot 2,22,4,ahead,pointed both 24,80,6,down
    | foot 12,30,2,ahead,pointed hips 8,50,0 lean -14 turn 20 both 12,66,10,down
round_knee: foot -8,28,22,out,pointed both 24,80,6,down
    | foot 10,40,10,ahead,pointed hips 6,50,-3 lean -10 tilt -12 turn 60 both 16,74,6,down
front_kick: foot 14,30,4,ahead,drawn hips 0,50,0 lean -4
    | foot 50,50,0,ahead,drawn hips 6,51,0 lean -18 turn 30
low_front_kick: foot 12,22,5,ahead,drawn hips 0,49,0
    | foot 42,18,0,ahead,drawn hips 2,50,0 lean -6
side_kick: foot 10,36,-4,across,drawn turn 80 hips 0,50,0 stand_toes 80
    | foot 50,50,0,out,drawn turn 95 lean -30 hips 4,51,0 stand_toes 120
back_kick: turn 150 foot 2,30,6,down,drawn hips 2,50,0 stand_toes 120
    | turn 150 foot 50,50,2,down,drawn lean -38 hips 5,50,0 stand_toes 160
low_kick: foot -12,18,20,out,pointed turn 10 hips 1,49,0
    | foot 34,22,-8,out,pointed turn 65 lean -4 tilt -8 hips 5,49,0 stand_toes 70 hand 4,66,20,down
body_kick: foot -2,32,30,out,pointed turn 30 hips 1,50,0 stand_toes 60
    | foot 40,56,-10,out,pointed turn 75 lean -20 tilt -12
      hips 5,51,0 stand_toes 95 hand 0,62,18,down
head_kick: foot 0,40,30,out,pointed turn 35 hips 1,50,0 stand_toes 70
    | foot 36,86,-8,out,pointed turn 80 lean -30 tilt -14
      hips 5,51,0 stand_toes 110 hand -4,62,18,down
hook_kick: foot 40,76,-16,across,drawn turn 80 lean -26 hips 4,51,0 stand_toes 100
    | foot 30,82,16,out,pointed turn 95 lean -32 hips 4,51,0 stand_toes 120
spinning_kick: turn 165 foot -4,22,10,down,pointed hips 2,49,0 stand_toes 130
    | turn 130 foot 38,80,10,out,pointed lean -34 hips 4,51,0 stand_toes 150
falling_kick: foot 26,94,2,ahead,drawn lean -16 hips 3,51,0
    | foot 44,78,0,ahead,pointed lean -14 hips 5,50,0
shove: both 16,70,10,down turn 0
    | both 46,76,9,down turn 0 lean 14 hips 6,45,0 foot 26,0,7,ahead
collar_grab: hand 46,76,0,down turn 45 hips 4,47,0
wrist_grab: hand 42,58,0,down turn 40 hips 4,46,0 lean 6
tackle: hips 6,36,0 lean 30 both 20,60,10,down
    | hips 22,32,0 lean 55 both 52,42,14,out foot 42,0,8,ahead turn 10
arm_press: hand 32,78,-12,out turn 55 hips 5,46,0 lean 6
"""

_DEFENSES = """
high_block: hand 22,108,-4,out turn 35
outward_block: hand 24,84,-8,down turn 45
    | hand 28,90,16,down turn 25
inward_block: hand 24,90,20,down turn 10
    | hand 30,88,-8,down turn 45
low_block: hand 18,78,0,down turn 40
    | hand 24,46,16,down turn 30 hips 2,44,0
forearm_block: hand 24,98,14,out turn 40
calf_meet: hand 22,48,20,out turn 30 hips 2,40,4
parry: hand 31,86,-10,down turn 45
outward_parry: hand 30,88,18,down turn 25
low_parry: hand 24,54,20,out turn 25 hips 2,44,0
redirect: hand 30,90,10,down
    | hand 26,84,-14,down turn 55 other 28,76,4,down
slap_down: hand 26,86,2,down
    | hand 32,68,-2,down turn 40
glove_catch: hand 21,89,0,down
compact_guard: both 13,93,5,down turn 10 lean 12 hips 0,44,0
ear_cover: hand 3,97,10,ahead turn 40
head_cover: both 8,105,2,out turn 5 lean 10 hips 0,45,0
double_cover: both 4,99,9,ahead turn 0 lean 8 hips 0,45,0
sweeping_guard: hand 20,96,20,down turn 10
    | hand 24,92,-12,down turn 50
double_forearm: both 22,98,5,ahead turn 0 lean 8 hips 0,45,0
elbow_cover: hand 15,80,8,down tilt 14 turn 35 lean 6 hips 0,42,0
forearm_brace: hand 22,98,10,out other 22,88,-8,down turn 35
arm_frame: hand 26,88,-8,out other 28,82,-6,out turn 10 hips 4,46,0
slip: tilt 24 lean 10 turn 50 hips 3,44,5
roll_under: tilt -24 lean 22 hips 2,37,-6
    | tilt 20 lean 14 turn 50 hips 5,41,8
shoulder_roll: turn 72 lean -10 tilt -4 hand 10,58,4,down other 14,88,-2,down hips -3,46,0
side_roll: tilt 26 lean 16 turn 45 hips 4,42,8 both 18,82,7,down
duck: hips 1,30,0 lean 14
lean_back: lean -24 hips -5,48,0 hand 12,80,6,down other 2,81,6,down
step_back: stand -34,0,9,ahead
    | foot -4,0,7,ahead stand -36,0,9,ahead hips -20,49,0
step_off: foot 20,0,24,ahead hips 4,46,8
    | foot 20,0,24,ahead stand -12,0,-7,ahead hips 4,48,17 turn 30 toes -10
step_off/rear: foot -14,0,32,ahead hips 1,46,10
    | foot -14,0,32,ahead stand 19,0,-16,ahead hips 2,48,22 turn -10 stand_toes 5
withdraw_leg/rear: foot -36,0,9,ahead hips -5,46,0
withdraw_leg: foot -32,0,8,ahead hips -14,48,0 turn -30 stand -3,0,9,ahead stand_toes 5 toes 40
shin_check: foot 13,24,12,ahead,pointed hips -1,51,0
knee_shield: foot 12,36,-2,across,pointed hips -1,51,0 lean 4
stop_hit: hand 57,84,-2,down turn 55 hips 5,47,0 front 24,0,6,ahead
stop_kick: foot 12,24,5,ahead,drawn hips 0,50,0
    | foot 44,26,0,ahead,drawn hips 3,50,0 lean -8
drive_in: front 34,0,7,ahead hips 14,45,0 both 38,92,4,down turn 10 lean 12
zone_trace: hand 26,94,14,down turn 25
    | hand 24,70,-10,down turn 50
grip_strip: hand 28,66,-6,down other 30,64,4,down turn 45
    | hand 8,66,18,out turn 0 other 30,66,6,down
hips_back: foot -20,0,9,ahead stand -36,0,10,ahead hips -24,38,0 lean 56 both 22,46,9,down turn 0
meet: hand 26,90,8,down turn 40
carry_over: hand 28,92,12,down
    | hand 22,76,-16,down turn 55
pin: hand 30,68,-8,down turn 50 hips 4,46,0
send_back: hand 18,72,4,down
    | hand 46,74,0,down turn 50 hips 6,46,0 lean 8
pull_past: hand 36,76,6,down turn 45
    | hand 2,62,22,out turn -5 hips -3,45,0
tie_up: both 32,90,4,down turn 10 hips 6,46,0 lean 6
"""

_MOVES = """
stay: hips 0,46,0
advance: foot 37,0,7,ahead hips 10,47,0
    | foot 37,0,7,ahead stand 3,0,9,ahead hips 20,48,0
retreat: stand -37,0,9,ahead hips -10,47,0
    | foot -3,0,7,ahead stand -37,0,9,ahead hips -20,48,0
slide_step: stand 9,0,9,ahead hips 10,48,0
    | foot 41,0,7,ahead stand 9,0,9,ahead hips 25,47,0
cross_step: stand 36,0,2,ahead hips 18,46,0
    | foot 54,0,7,ahead stand 36,0,9,ahead hips 40,48,0
turn_out: stand 2,0,30,ahead hips 9,47,-10 turn 60 toes 35 stand_toes 20
turn_out/rear: foot 6,0,-34,ahead hips 10,47,-18 turn -60 toes 60 stand_toes -45
step_to_mark: foot 36,0,12,ahead hips 10,46,2
    | foot 36,0,12,ahead stand 2,0,6,ahead hips 20,48,3
angle_off: foot 34,0,26,ahead hips 12,46,9
    | foot 34,0,26,ahead stand 6,0,-9,ahead hips 19,48,18 toes -25
angle_off/rear: foot 4,0,34,ahead hips 9,46,12
    | foot 4,0,34,ahead stand 34,0,-14,ahead hips 19,48,24 turn -20 stand_toes -5
leave: stand -40,0,9,ahead hips -14,47,0
    | foot -26,0,7,ahead stand -60,0,9,ahead hips -43,48,0
shove_off: both 16,72,10,down turn 0
    | both 44,76,9,down turn 0 lean 8 hips 2,46,0
wall_pressure: both 36,78,12,down turn 15 lean 20 hips 6,44,0 foot 24,0,7,ahead
hands_up: both 14,104,14,out turn 10
show_target: other 32,82,10,down
tap_sound: both 24,72,0,down turn 10
make_fists: both 16,84,8,down turn 15
into_stance: = foot 0,0,9,ahead stand 0,0,9,ahead hips 0,51,0 turn 0 lean 0 both 4,52,14,down
    toes 8 stand_toes 8
    | hips 0,49,0
"""

_GUARD = {
    "lead_hand": Limb((27, 83, 6), "down"),
    "rear_hand": Limb((17, 84, 6), "down"),
    "lead_foot": Limb((17, 0, 7), "ahead"),
    "rear_foot": Limb((-17, 0, 9), "ahead"),
}
_GUARD_TURN = 28.0
_LIMB = TypeAdapter(Limb)
_LIMBS = {"hand": "hand", "other": "other_hand", "foot": "foot", "stand": "other_foot"}
_ANGLES = {"toes": "foot_turn", "stand_toes": "other_foot_turn"}


def guard(side: Side) -> Pose:
    """The stance before a technique of this side."""
    other: Side = "rear" if side == "lead" else "lead"
    return Pose(
        hand=_GUARD[f"{side}_hand"],
        other_hand=_GUARD[f"{other}_hand"],
        foot=_GUARD[f"{side}_foot"],
        other_foot=_GUARD[f"{other}_foot"],
        hips=(0, 48, 0),
        turn=_GUARD_TURN if side == "lead" else -_GUARD_TURN,
        lean=4.0,
        tilt=0.0,
        foot_turn=-10.0 if side == "lead" else 45.0,
        other_foot_turn=45.0 if side == "lead" else -10.0,
    )


def poses(key: str, side: Side) -> tuple[Pose, ...]:
    """The frames of a technique, the first one first; none for one that is not drawn."""
    line = _lines().get(f"{key}/{side}") or _lines().get(key)
    if line is None:
        return ()
    alone = line.startswith("=")
    first = guard(side)
    frames = tuple(_frame(first, side, words) for words in line.removeprefix("=").split("|"))
    return frames if alone else (first, *frames)


@cache
def _lines() -> Mapping[str, str]:
    """What is said of each technique, its frames divided by a bar."""
    whole = (_ATTACKS + _DEFENSES + _MOVES).strip().replace("\n    ", " ")
    cut = (row.split(":", 1) for row in whole.splitlines() if row)
    return MappingProxyType({key: words.strip() for key, words in cut})


def _frame(first: Pose, side: Side, words: str) -> Pose:
    """The guard with what a frame says of it."""
    changes: dict[str, Any] = {}
    for name, value in zip(words.split()[::2], words.split()[1::2], strict=True):
        if name == "both":
            changes |= {"hand": _limb(value), "other_hand": _limb(value)}
        elif name == "front":
            changes["foot" if side == "lead" else "other_foot"] = _limb(value)
        elif name in _LIMBS:
            changes[_LIMBS[name]] = _limb(value)
        elif name == "hips":
            changes[name] = _spot(value.split(","))
        else:
            changes[_ANGLES.get(name, name)] = float(value)
    return replace(first, **{**_with_the_hips(first, changes.get("hips", first.hips)), **changes})


def _with_the_hips(first: Pose, hips: Spot) -> dict[str, Any]:
    """Both hands in their guard, where the hips have gone."""
    return {
        "hand": _gone(first.hand, first.hips, hips, 1),
        "other_hand": _gone(first.other_hand, first.hips, hips, -1),
    }


def _gone(hand: Limb, before: Spot, after: Spot, sign: int) -> Limb:
    (x, y, z), (dx, dy, dz) = hand.end, (b - a for a, b in zip(before, after, strict=True))
    return replace(hand, end=(x + dx, y + dy, z + sign * dz))


def _limb(value: str) -> Limb:
    ahead, up, out, bend, *toes = value.split(",")
    return _LIMB.validate_python(
        {"end": (ahead, up, out), "bend": bend, "toes": toes[0] if toes else "flat"}
    )


def _spot(parts: list[str]) -> Spot:
    ahead, up, out = (float(part) for part in parts)
    return ahead, up, out
