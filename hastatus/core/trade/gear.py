"""Gear, and how hard and how fast it allows to be.

No gear, no hard contact: a hand is pulled at the moment of impact and needs none. Kicks land only
with shin guards on, knees on a pad or a guard; elbows stop short of a person; bare hands are slow
(common practice, no source). These caps are never waved through.
"""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass
from typing import Literal

from hastatus.core.trade.contact import Contact
from hastatus.core.trade.technique import Target, Technique

Gear = Literal[
    "gloves", "mouthguard", "head_guard", "chest_guard", "belly_pad", "groin_guard",
    "shin_guards", "focus_pads", "kick_shield", "paddles",
]  # fmt: skip
GEAR_NAMES: dict[Gear, str] = {
    "gloves": "gloves",
    "mouthguard": "mouthguard",
    "head_guard": "head guard",
    "chest_guard": "chest guard",
    "belly_pad": "belly pad",
    "groin_guard": "groin guard",
    "shin_guards": "shin guards",
    "focus_pads": "focus pads",
    "kick_shield": "kick shield",
    "paddles": "paddles",
}
BARE_BPM = 60.0
"""The fastest beat with bare hands, a fist or palm going to a person."""
PADDLE_M = 0.30
"""What a paddle adds to the reach of a hand, m."""

HELD: tuple[Gear, ...] = ("focus_pads", "kick_shield", "paddles")
"""Gear that the club has and somebody holds, not what each brings."""
PADS: tuple[Gear, ...] = ("focus_pads", "kick_shield")
"""What is held to be hit."""
NO_STRIKE = ("tag", "wrist_grab", "collar_grab", "shove", "arm_press")


@dataclass(frozen=True, slots=True)
class Cap:
    """The hardest contact that gear allows. missing: what would allow more."""

    contact: Contact
    why: str
    missing: tuple[Gear, ...] = ()


def cap(
    technique: Technique, target: Target, worn: Collection[Gear], *, on_pad: bool = False
) -> Cap:
    """How hard `technique` may land on `target`, both wearing `worn`."""
    if on_pad:
        bare = technique.limb == "hand" and "gloves" not in worn
        return Cap("light", "bare hands on a pad", ("gloves",)) if bare else Cap("firm", "on a pad")
    if technique.key in NO_STRIKE:
        return Cap("light", "no strike") if technique.key != "tag" else Cap("touch", "a tag")
    if technique.limb in ("elbow", "head"):
        return Cap("none", f"{technique.name}s stop short of a person")
    if technique.limb == "knee":
        return _knee(target, worn)
    if technique.limb != "hand" and "shin_guards" not in worn:
        return Cap("none", "kicks without shin guards stop short", ("shin_guards",))
    needed: tuple[Gear, ...] = ("gloves",) if technique.limb == "hand" else ()
    if target == "head":
        needed += ("mouthguard",)
    missing = tuple(item for item in needed if item not in worn)
    if missing:
        return Cap("touch", "no gear, no hard contact: pulled", missing)
    if target == "head":
        if technique.limb != "hand":
            return Cap("touch", "kicks to the head are pulled before impact")
        return (
            Cap("light", "to the head")
            if "head_guard" in worn
            else Cap("touch", "to the head without a head guard", ("head_guard",))
        )
    if target == "body" and not {"chest_guard", "belly_pad"} & set(worn):
        return Cap("light", "to the body without a chest guard", ("chest_guard",))
    return Cap("firm" if target == "body" else "light", f"to the {target}")


def _knee(target: Target, worn: Collection[Gear]) -> Cap:
    if target != "body":
        return Cap("none", "knees only go to a pad or a guard")
    if {"belly_pad", "chest_guard"} & set(worn):
        return Cap("light", "a knee on the guard")
    return Cap("none", "knees only go to a pad or a guard", ("belly_pad",))


def bare(technique: Technique, worn: Collection[Gear]) -> bool:
    """Whether it is a bare fist or palm, which is slow."""
    return technique.limb == "hand" and technique.key not in NO_STRIKE and "gloves" not in worn
