"""Which defense usually answers which attack, and why. Common practice of the trade, no source.

The rules are by family and line, so that a technique a club adds is judged like its kin.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from hastatus.core.trade.technique import Technique

Verdict = Literal["usual", "possible", "poor"]


@dataclass(frozen=True, slots=True)
class Fit:
    """How well a defense answers an attack, and the reason in a few words."""

    verdict: Verdict
    reason: str


_USUAL: dict[tuple[str, str], dict[str, str]] = {
    ("straight", "head"): {
        "slip": "the head leaves the line by a glove's width",
        "parry": "a small push is enough to pass a straight",
        "block": "the forearm or palm stops it on its line",
        "cover": "the guard is already there",
        "lean": "a straight ends where the arm ends",
        "step": "off the line, a straight finds nothing",
        "jam": "a straight hit on the same line arrives first",
    },
    ("straight", "body"): {
        "block": "the forearm drops onto it",
        "parry": "a low parry passes it",
        "cover": "the elbow closes on the ribs",
        "step": "off the line, a straight finds nothing",
        "brace": "a brace keeps the weight off",
    },
    ("circular", "head"): {
        "roll": "the head goes under the swing",
        "duck": "the head goes under the swing",
        "cover": "the forearm shields the side it comes to",
        "block": "the forearm stops it inside its arc",
        "jam": "a straight line is shorter than a swing",
        "frame": "the frame meets the arm above the elbow",
        "step": "outside the arc it finds nothing",
    },
    ("circular", "body"): {
        "cover": "the elbow closes on the ribs",
        "block": "the forearm drops onto it",
        "step": "outside the arc it finds nothing",
        "jam": "a straight line is shorter than a swing",
    },
    ("rising", "head"): {
        "lean": "it rises past a head that leans away",
        "cover": "forearms close in the middle",
        "block": "the forearm drops onto it",
        "slip": "beside its line it rises past",
    },
    ("rising", "body"): {
        "cover": "the elbow closes on the ribs",
        "block": "the forearm drops onto it",
    },
    ("falling", "head"): {
        "block": "a raised forearm lets it slide off",
        "cover": "it must come over the guard",
        "step": "off the line it falls past",
        "jam": "going in stops it before it falls",
    },
    ("linear_kick", "body"): {
        "parry": "a low parry turns it past",
        "step": "back or off the line, it ends where the leg ends",
        "jam": "a stop kick meets it before it opens",
        "check": "the knee shield closes the line",
        "block": "the forearm meets the calf",
    },
    ("linear_kick", "leg"): {
        "step": "a leg that has gone cannot be hit",
        "check": "the raised shin meets it",
    },
    ("round_kick", "leg"): {
        "check": "the raised shin meets it",
        "step": "a leg that has gone cannot be hit",
        "jam": "going in meets it before it has speed",
    },
    ("round_kick", "body"): {
        "block": "the forearm meets the calf",
        "check": "the knee shield closes the side",
        "step": "back, it passes in front",
        "cover": "the elbow closes on the ribs",
        "jam": "going in meets it before it has speed",
    },
    ("round_kick", "head"): {
        "cover": "both forearms take it",
        "duck": "it passes over",
        "lean": "it passes in front",
        "step": "back, it passes in front",
        "jam": "going in meets it before it has speed",
    },
    ("grip", "body"): {
        "parry": "the grip is stripped before it settles",
        "frame": "the frame keeps the room",
        "jam": "hitting or shoving first ends it",
        "step": "a step back takes the target away",
    },
    ("grip", "leg"): {
        "step": "hips back, the legs are gone",
        "frame": "the frame on the shoulder keeps it away",
        "jam": "a shove or knee meets it",
    },
}

_POOR: dict[tuple[str, str], tuple[str, str]] = {
    ("circular", "slip"): ("slip", "a slip moves into a hook: roll or cover"),
    ("circular", "lean"): ("lean", "a swing follows a head that leans: roll or cover"),
    ("circular", "parry"): ("parry", "a swing goes round a parry: cover, block or roll"),
    ("straight", "roll"): ("roll", "rolling under a straight is late: slip or parry"),
    ("rising", "duck"): ("duck", "a duck meets a rising blow: lean away or cover"),
    ("rising", "roll"): ("roll", "a roll meets a rising blow: lean away or cover"),
    ("round_kick", "slip"): ("slip", "a slip does not leave a kick's arc: step, cover or check"),
    ("linear_kick", "cover"): ("cover", "a covered kick still drives through: parry or step"),
}

_HEIGHT = {
    "leg": "a guard for the head leaves the leg where it is: check or withdraw it",
    "body": "a guard for the head leaves the body open",
}


def fit(attack: Technique, defense: Technique) -> Fit:
    """How `defense` answers `attack`."""
    kind = (attack.family, attack.line)
    reason = _POOR.get((attack.family, defense.family))
    if reason is not None:
        return Fit("poor", reason[1])
    if attack.line == "leg" and defense.limb in ("forearm", "hand") and defense.family != "frame":
        return Fit("poor", _HEIGHT["leg"])
    if attack.line == "body" and defense.family in ("slip", "duck", "roll", "lean"):
        return Fit("poor", "moving the head does not move the body: block, cover or step")
    low = defense.line != "head" and defense.family in ("block", "parry", "cover", "check")
    if attack.line == "head" and low:
        return Fit("poor", "a guard for the body leaves the head open")
    if attack.line == "body" and defense.line == "head" and defense.family in ("block", "cover"):
        return Fit("poor", _HEIGHT["body"])
    if attack.line != "leg" and defense.family == "step" and defense.line == "leg":
        return Fit("poor", "a leg that moves leaves the head and body where they are")
    usual = _USUAL.get(kind, {}).get(defense.family)
    if usual is not None:
        return Fit("usual", usual)
    return Fit("possible", "not the usual answer; say in the notes why it is asked")
