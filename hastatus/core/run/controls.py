"""Controls: the keys and touch zones of somebody in reach, and the answers they stand for."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from hastatus.core.drill.requirement import ask
from hastatus.core.drill.solo import Drill, Rung
from hastatus.core.trade.label_packs import PLAIN, Labels
from hastatus.core.trade.technique import Side, Stance, hand

_COLUMNS: tuple[tuple[Literal["left", "right"], str], ...] = (
    ("left", "RFVEDC"),
    ("right", "UJMIKN"),
)
HOME = "home"
"""The control that is held between answers: a key, a zone or a pad of its own."""
HOME_KEY = "KeyG"
TAP_KEY = "KeyT"
"""Keys beside those of the answers: held as home, and the coach's tap."""
MOST_ROWS = len(_COLUMNS[0][1])
"""Techniques that can be told apart on keys; further ones are not sensed."""

_HEIGHTS = ("head", "body", "leg")


@dataclass(frozen=True, slots=True)
class Control:
    """What an input means for this student: a key or a touch zone, and the answer it stands for.

    label: of the key, empty for a zone. name: the answer as a coach says it.
    side: of a technique without sides always "lead", on both keys. used: asked on this rung.
    """

    control: str
    label: str
    name: str
    technique: str
    side: Side
    row: int
    column: Literal["left", "right"]
    used: bool


def controls(drill: Drill, rung: Rung, stance: Stance, labels: Labels = PLAIN) -> list[Control]:
    """Keys and touch zones, a row for each technique that lands, mirrored by stance.

    Rows are those of the whole drill, so that a key means the same on every rung: defenses above
    attacks, high above low. Only the first `MOST_ROWS` techniques have one.
    """
    labels = drill.labels(labels)
    used = _asked(drill, rung)
    controls = []
    for row, technique in enumerate(_sensed(drill)):
        for column, letters in _COLUMNS:
            side: Side = "lead"
            known = drill.technique(technique)
            if known is None or known.sided:
                side = "lead" if hand("lead", stance) == column else "rear"
            name = labels.sided(technique, side)
            for control, label in (
                (f"Key{letters[row]}", letters[row]),
                (f"zone:{column}:{row}", ""),
            ):
                is_used = (technique, side) in used
                controls.append(
                    Control(control, label, name, technique, side, row, column, is_used)
                )
    return controls


def _sensed(drill: Drill) -> list[str]:
    """The techniques of the drill that land, in the order of their rows."""
    techniques: dict[str, tuple[bool, int, int]] = {}
    for cue in drill.cues:
        for step in (step for chain in cue.asks for step in chain.steps):
            technique = drill.technique(step.technique)
            if technique and technique.lands and step.technique not in techniques:
                height = _HEIGHTS.index(technique.line)
                techniques[step.technique] = (technique.use != "defense", height, len(techniques))
    return sorted(techniques, key=lambda key: techniques[key])[:MOST_ROWS]


def _asked(drill: Drill, rung: Rung) -> set[tuple[str, Side]]:
    """Every technique and side that the rung asks for."""
    return {
        (step.technique, step.side)
        for cue in drill.cues_on(rung)
        for chain in ask(drill, rung, cue).chains
        for step in chain.steps
    }
