"""Label packs: the same technique in several arts' words.

A pack need not name everything; what it leaves out keeps its plain name. Where an art has a word
for each side, the pack gives both. Common words of the arts, from memory; a club may rename them.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from types import MappingProxyType
from typing import Literal

from hastatus.core.trade.catalogue import TECHNIQUES
from hastatus.core.trade.technique import Side, Technique

Pack = Literal["plain", "boxing", "kickboxing", "karate", "taekwondo", "close_range"]
Label = str | tuple[str, str]
"""A name without its side, or the two whole names for lead and rear."""

PACKS: Mapping[Pack, Mapping[str, Label]] = MappingProxyType(
    {
        "plain": {},
        "boxing": {
            "straight": ("jab", "cross"),
            "body_straight": ("body jab", "body cross"),
            "roll_under": "bob and weave",
            "lean_back": "pull back",
            "glove_catch": "catch",
            "ear_cover": "high guard",
            "turn_out": "pivot",
            "double_cover": "shell",
            "leave": "move out",
        },
        "kickboxing": {
            "straight": ("jab", "cross"),
            "low_kick": "low kick",
            "body_kick": "middle kick",
            "head_kick": "high kick",
            "front_kick": "push kick",
            "shin_check": "check",
            "straight_knee": "knee",
        },
        "karate": {
            "straight": ("kizami zuki", "gyaku zuki"),
            "hook": "mawashi zuki",
            "uppercut": "ura zuki",
            "back_fist": "uraken",
            "hammer_fist": "tettsui",
            "palm_strike": "teisho",
            "front_kick": "mae geri",
            "side_kick": "yoko geri",
            "back_kick": "ushiro geri",
            "body_kick": "mawashi geri",
            "hook_kick": "ura mawashi geri",
            "high_block": "age uke",
            "outward_block": "soto uke",
            "inward_block": "uchi uke",
            "low_block": "gedan barai",
            "parry": "nagashi uke",
            "step_off": "tai sabaki",
        },
        "taekwondo": {
            "straight": ("baro jireugi", "bandae jireugi"),
            "front_kick": "ap chagi",
            "side_kick": "yeop chagi",
            "back_kick": "dwi chagi",
            "body_kick": "dollyeo chagi",
            "head_kick": "high dollyeo chagi",
            "falling_kick": "naeryeo chagi",
            "spinning_kick": "dwi huryeo chagi",
            "high_block": "eolgul makgi",
            "outward_block": "bakkat makgi",
            "inward_block": "an makgi",
            "low_block": "arae makgi",
        },
        "close_range": {
            "straight": "chain punch",
            "parry": "pak",
            "outward_parry": "tan",
            "redirect": "bong",
            "slap_down": "gum",
            "low_block": "gan",
            "high_block": "biu",
            "finger_jab": "fingers",
        },
    }
)


@dataclass(frozen=True, slots=True)
class Labels:
    """How a club names techniques: a pack, and renames over it.

    own: the club's own techniques by key. renames: names without side, by key.
    """

    pack: Pack = "plain"
    renames: Mapping[str, str] = field(default_factory=dict)
    own: Mapping[str, Technique] = field(default_factory=dict)

    def technique(self, key: str) -> Technique | None:
        """The technique with this key, the club's own ones included."""
        return TECHNIQUES.get(key) or self.own.get(key)

    def name(self, key: str) -> str:
        """The name without a side, or the lead and the rear name with a slash between."""
        label = self._label(key)
        return label if isinstance(label, str) else f"{label[0]} / {label[1]}"

    def sided(self, key: str, side: Side) -> str:
        """The whole name for one side, for example "lead high block" or "jab"."""
        label = self._label(key)
        if not isinstance(label, str):
            return label[0 if side == "lead" else 1]
        technique = self.technique(key)
        return f"{side} {label}" if technique is None or technique.sided else label

    def _label(self, key: str) -> Label:
        if key in self.renames:
            return self.renames[key]
        if key in PACKS[self.pack]:
            return PACKS[self.pack][key]
        technique = self.technique(key)
        return technique.name if technique else key.replace("_", " ")


PLAIN = Labels()
"""The plain names."""
