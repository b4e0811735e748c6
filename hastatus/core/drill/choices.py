"""What a coach chooses among when a drill is built: each value, and what it is called.

A choice is the values of one field of a document, in the order in which they are offered. The
screens have them from here, by `scripts/api-types`.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Final, get_args

from hastatus.core.drill.cue import Direction, Part, PictureName, Place, SoundName
from hastatus.core.drill.guide import Against
from hastatus.core.drill.header import Language, Level
from hastatus.core.drill.partner import PartnerCall, Start
from hastatus.core.drill.partner_step import Perceived
from hastatus.core.drill.settings import RoundCall
from hastatus.core.trade.colours import Colour, Shape
from hastatus.core.trade.contact import Contact
from hastatus.core.trade.reach import Surface
from hastatus.core.trade.technique import Side, Target, Use
from hastatus.core.trade.tell import Tell

Choice = Mapping[str, str]
"""Value to name, in the order in which they are offered."""

SHAPES: Final[tuple[Shape, ...]] = get_args(Shape)
COLOURS: Final[tuple[Colour, ...]] = get_args(Colour)
NEW_CUE_SOUNDS: Final[tuple[SoundName, ...]] = (
    "low_knock", "bell", "high_knock", "tone", "bang", "high_bell",
)  # fmt: skip
"""Sounds of cues that are added one after another: neighbours are far from alike."""

SIDE: Final[dict[Side, str]] = {"lead": "lead", "rear": "rear"}
CONTACT: Final[dict[Contact, str]] = {
    "none": "none", "touch": "touch", "light": "light", "firm": "firm",
}  # fmt: skip
"""How hard a student may be hit."""
LEVEL: Final[dict[Level, str]] = {
    "new": "beginner", "settled": "intermediate", "advanced": "advanced",
}  # fmt: skip

# Solo drills
PURPOSE: Final[Choice] = {"practice": "practice", "baseline": "a repeated test"}
STIMULUS: Final[Choice] = {
    "sound": "a sound",
    "call": "a spoken call",
    "recording": "my own call",
    "light": "a flash",
    "arrow": "an arrow",
    "picture": "a picture",
}
SOUND: Final[dict[SoundName, str]] = {name: name.replace("_", " ") for name in get_args(SoundName)}
LIGHT_PLACE: Final[dict[Place, str]] = {
    "lead": "lead half",
    "rear": "rear half",
    "middle": "middle",
    "high": "high",
    "low": "low",
    "lead_high": "lead, high",
    "lead_low": "lead, low",
    "rear_high": "rear, high",
    "rear_low": "rear, low",
}
DIRECTION: Final[dict[Direction, str]] = {
    "lead": "to the lead side", "rear": "to the rear side", "up": "up", "down": "down",
}  # fmt: skip
PICTURE: Final[dict[PictureName, str]] = {
    "head_target": "target: head",
    "body_target": "target: body",
    "leg_target": "target: leg",
    "swing": "a swing",
    "fists": "fists",
    "raised_hands": "raised hands",
    "into_stance": "into stance",
    "open_hands": "open hands",
    "turned_away": "turned away",
}
LANGUAGE: Final[dict[Language, str]] = {
    "en-gb": "English, British",
    "en-us": "English, American",
    "en-gb-scotland": "English, Scottish",
    "de": "German",
    "fr": "French",
    "es": "Spanish",
    "it": "Italian",
    "nl": "Dutch",
}
DEPTH: Final[dict[Part, str]] = {
    "answer": "answers only", "counter": "answer and counter", "exit": "answer, counter, exit",
}  # fmt: skip
"""How much of a chain a solo rung asks for."""
LIMIT_UNIT: Final[Choice] = {"window": "by the answer window", "s": "seconds", "beat": "beats"}
ORDER: Final[Choice] = {
    "set": "set, always the same",
    "rotating": "rotating",
    "balanced": "random, by weight",
    "first_order": "random, each after each",
}
WAITING: Final[Choice] = {
    "fixed": "always the same",
    "jittered": "evenly from a range",
    "unguessable": "unpredictable",
}
PACE_RULE: Final[Choice] = {
    "measured": "adjusts to the measured times",
    "weighted": "steps after each answer",
    "n_down": "steps after a row of clean ones",
    "rounds": "steps between rounds",
    "hold": "stays as set",
}
EARLY: Final[Choice] = {"jumped": "counts as jumped", "asked": "is what is asked"}
LEAD_IN: Final[Choice] = {
    "none": "nothing",
    "warning": "a warning signal",
    "announce": "the answer, said",
}
ROUND_END: Final[Choice] = {
    "time": "by time",
    "count": "by count",
    "first": "by whichever is first",
}
ROUND_STANCES: Final[Choice] = {"own": "the student's own", "in_turn": "switch each round"}
ROUND_CALL: Final[dict[RoundCall, str]] = {
    "switch": "switch", "ten_seconds": "ten seconds", "time": "time",
}  # fmt: skip
GUIDE: Final[Choice] = {"count": "a count", "hold": "a hold"}
AGAINST: Final[dict[Against, str]] = {
    "air": "the air", "ball": "a swinging ball", "bag": "the bag", "rope": "a rope",
    "wall": "the wall",
}  # fmt: skip

# Partner drills
PARTNER_CALL: Final[dict[PartnerCall, str]] = {
    "switch": "switch", "ten_seconds": "ten seconds", "time": "time",
    "move_around": "move around", "count": "the count", "check_feet": "check your feet",
}  # fmt: skip
DEFENDER_PART: Final[dict[Part, str]] = {
    "answer": "the defense only", "counter": "up to the counter", "exit": "all of it",
}  # fmt: skip
FEED_ORDER: Final[Choice] = {
    "set": "known",
    "rotating": "in turn, starting one later each time",
    "balanced": "random",
    "free": "the feeder chooses",
    "both": "both hunt, both avoid",
}
FEED_END: Final[Choice] = {
    "time": "by time", "count": "by exchanges", "first": "whichever is first",
}  # fmt: skip
ROLE_SWITCH: Final[Choice] = {
    "rounds": "from round to round",
    "time": "on the call",
    "count": "after some exchanges",
    "score": "set by the drill",
    "never": "never",
}
STANCES: Final[Choice] = {"same": "same stance", "mirrored": "mirrored stances"}
START: Final[dict[Start, str]] = {
    "clinch": "clinch",
    "elbow": "elbow",
    "punch": "punch",
    "kick": "kick",
    "outside": "out of reach",
}
PERCEIVED: Final[dict[Perceived, str]] = {
    "seen": "seen", "called": "called", "felt": "felt", "lost_contact": "contact lost",
}  # fmt: skip
TARGET: Final[dict[Target, str]] = {"head": "head", "body": "body", "leg": "leg"}
SURFACE: Final[dict[Surface, str]] = {"fist": "fist", "palm": "palm", "fingers": "fingers"}
TELL: Final[dict[Tell, str]] = {
    "big": "big", "plain": "plain", "trimmed": "small", "mixed": "now big, now small",
}  # fmt: skip
STEP_CONTACT: Final[dict[Contact, str]] = {
    "none": "stops short", "touch": "touch", "light": "light", "firm": "firm",
}  # fmt: skip
RUNG_CONTACT: Final[dict[Contact, str]] = {**STEP_CONTACT, "firm": "as the steps say"}

# The catalogue
USE: Final[dict[Use, str]] = {
    "defense": "Defenses", "attack": "Strikes, kicks and grips", "move": "Moves",
}  # fmt: skip
